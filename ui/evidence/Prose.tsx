'use client';

import type { RichText } from '@/contracts/richText';
import { later } from '../parts/later';

const Editor = later(() => import('./Editor').then((m) => m.Editor), <div className="h-[104px] border border-rule" />);

/** One of the words of a thread or a finding, as a field of its form: figures that were copied may be pasted into it. */
export function Prose({
  label,
  begin,
  onChange,
  onDone,
  onCancel,
}: {
  label: string;
  begin?: RichText | string;
  onChange(text: RichText | string): void;
  /** Control Enter. */
  onDone(): void;
  onCancel(): void;
}) {
  return (
    <div>
      <span aria-hidden="true" className="mb-1 block text-[12.5px] text-soft">
        {label}
      </span>
      <Editor
        label={label}
        begin={begin}
        people={false}
        focused={false}
        onChange={onChange}
        onDone={onDone}
        onCancel={onCancel}
      />
    </div>
  );
}
