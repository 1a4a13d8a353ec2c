import type { TickShape as Shape } from '@/contracts/work';

/** Each mark as strokes of a pen in a field of 16 by 16; told apart by their form alone. */
const STROKES: Record<Shape, string> = {
  hook: 'M2.5 9.5 L6 13 L13.5 3',
  'double hook': 'M1 9.5 L4 12.5 L10 4 M6 11 L7.5 12.5 L14.5 3',
  'barred hook': 'M2.5 9.5 L6 13 L13.5 3 M7 5.5 L12 10.5',
  crossed: 'M3 3 L13 13 M13 3 L3 13',
  ring: 'M8 2.5 A5.5 5.5 0 1 1 7.9 2.5 Z',
  'ring with dot': 'M8 2.5 A5.5 5.5 0 1 1 7.9 2.5 Z M8 7 A1 1 0 1 1 7.9 7 Z',
  triangle: 'M8 2.5 L14 13 L2 13 Z',
  square: 'M3 3 L13 3 L13 13 L3 13 Z',
  diamond: 'M8 1.5 L14 8 L8 14.5 L2 8 Z',
  arch: 'M2.5 13 C2.5 1, 13.5 1, 13.5 13',
  'two strokes': 'M5 2.5 L5 13.5 M11 2.5 L11 13.5',
  fork: 'M8 14 L8 8 M8 8 L3 2.5 M8 8 L13 2.5',
  star: 'M8 2 L8 14 M2.8 5 L13.2 11 M13.2 5 L2.8 11',
  wave: 'M1.5 10 C4 3, 6.5 3, 8 8 C9.5 13, 12 13, 14.5 6',
};

/** A tick mark, drawn in the ink of whoever put it there. */
export const TickShape = ({ shape, size = 12 }: { shape: Shape; size?: number }) => (
  <svg
    viewBox="0 0 16 16"
    width={size}
    height={size}
    aria-hidden
    className="inline-block shrink-0 fill-none stroke-current"
    strokeWidth={1.9}
    strokeLinecap="round"
    strokeLinejoin="round"
  >
    <path d={STROKES[shape]} />
  </svg>
);
