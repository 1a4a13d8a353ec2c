import { scaleLinear } from 'd3-scale';
import type { KeyboardEvent } from 'react';
import { amountText } from '../../amounts';

// What the kinds of pictures share: the rows as they are drawn, their controls, sides, scales, and words.

/** A row of the sheet, as it is drawn. */
export interface Drawn {
  /** Where it is in the sheet. */
  index: number;
  name: string;
  value: string;
  /** What it is held against. */
  beside: string | null;
  /** Its cells, where the sheet has columns of members. */
  cells: string[];
}

/** What every kind of picture is given. */
export interface Drawing {
  wide: number;
  rows: Drawn[];
  /** What each row is held against, in words. */
  besides: string | null;
  /** @param column which column of members; undefined for the row’s own figure */
  onTrace(index: number, column?: number): void;
}

export const HIGH = 226;

/** What makes a part of a drawing a control. */
export function control(words: string, act: () => void) {
  return {
    role: 'button',
    tabIndex: 0,
    'aria-label': words,
    className: 'cursor-pointer outline-offset-2',
    onClick: act,
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key !== 'Enter') return;
      event.preventDefault();
      event.stopPropagation();
      act();
    },
  };
}

export const worded = (row: Drawn, besides: string | null): string =>
  `${row.name}: ${amountText(row.value)}${row.beside === null || besides === null ? '' : `, ${besides} ${amountText(row.beside)}`}`;

/** On which side most of it is: that side is drawn upwards, or to the right, whether it is debit or credit. */
export const sideOf = (rows: readonly Drawn[]): 1 | -1 =>
  rows.reduce((sum, r) => sum + Number(r.value), 0) < 0 ? -1 : 1;

/** What is on the other side is hollow. */
export const filled = (value: number, side: 1 | -1): { fill: string; stroke: string } => ({
  fill: value * side < 0 ? 'var(--sheet)' : 'var(--ink)',
  stroke: 'var(--ink)',
});

/** A scale of amounts over the screen, from nothing towards the side of the whole. */
export const scaleOf = (ends: readonly number[], side: 1 | -1, [near, far]: [number, number]) =>
  scaleLinear([Math.min(0, ...ends), Math.max(0, ...ends)], side === 1 ? [near, far] : [far, near]);

export const LEFT = 96;
export const FOOT = 24;

/** Axis of amounts with its lines. */
export function Levels({ y, wide }: { y: ReturnType<typeof scaleLinear<number, number>>; wide: number }) {
  return y.ticks(4).map((t) => (
    <g key={t}>
      <line x1={LEFT} x2={wide - 8} y1={y(t)} y2={y(t)} stroke="var(--rule)" strokeWidth={t === 0 ? 1.2 : 0.5} />
      <text x={LEFT - 8} y={y(t) + 4} textAnchor="end" fontSize={11.5} fill="var(--soft)">
        {amountText(String(Math.round(t)))}
      </text>
    </g>
  ));
}

/** Every so many names are below, so that none covers another. */
export const spaced = (count: number, wide: number): number =>
  Math.max(1, Math.ceil((count * 96) / Math.max(1, wide - LEFT)));

/** A mark across a bar, for what it is held against. */
export const Beside = ({ x, top, high }: { x: number; top: number; high: number }) => (
  <>
    <line x1={x} x2={x} y1={top} y2={top + high} stroke="var(--sheet)" strokeWidth={5} />
    <line x1={x} x2={x} y1={top} y2={top + high} stroke="var(--ink)" strokeWidth={1.6} />
  </>
);

export function Legend({ rest = 0, besides, hollow }: { rest?: number; besides: string | null; hollow: boolean }) {
  const sentences = [
    rest > 0 && `${rest} smaller ${rest === 1 ? 'row is' : 'rows are'} not drawn`,
    hollow && 'hollow: on the other side than the whole',
    besides !== null && `the line across a bar: ${besides}`,
  ].filter(Boolean);
  return sentences.length > 0 && <p className="py-1 text-[12px] text-soft">{sentences.join(' · ')}</p>;
}
