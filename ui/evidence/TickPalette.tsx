'use client';

import { useEffect, useRef, useState } from 'react';
import type { Measure } from '@/contracts/traced';
import type { TickMark } from '@/contracts/work';
import { countText } from '../amounts';
import { Modal } from '../parts/Modal';
import { Failure } from '../parts/Place';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { TickShape } from './TickShape';
import { useTickMarks } from './useEvidence';

const LAST = 'last-tick-mark';
/** Subjects are sent so many at once. */
const AT_ONCE = 500;

/** The legend, of which one mark is given: by its digit, or the last one again by Enter. */
export function TickPalette({
  subjects,
  measure,
  address,
  thread,
  onDone,
}: {
  subjects: readonly { subject: string; label: string }[];
  measure: Measure | null;
  address: string;
  thread: number | null;
  onDone(said: string | null): void;
}) {
  const { data } = useTickMarks();
  const marks = (data?.marks ?? []).filter((m) => !m.retired);
  const [at, setAt] = useState(0);
  const put = useChange(
    async (mark: TickMark) => {
      for (let from = 0; from < subjects.length; from += AT_ONCE) {
        const some = subjects.slice(from, from + AT_ONCE);
        const labels = some.map((s) => s.label.slice(0, 300));
        await ask('POST /ticks', {
          body: { subjects: some.map((s) => s.subject), mark: mark.code, measure, address, labels, thread },
        });
      }
    },
    ['/ticks', '/ticks/share', '/threads'],
  );
  const give = async (mark: TickMark | undefined): Promise<void> => {
    if (!mark || put.isPending) return;
    await put.mutateAsync(mark).then(
      () => {
        window.localStorage.setItem(LAST, mark.code);
        onDone(subjects.length === 1 ? null : `${countText(subjects.length)} rows ticked: ${mark.meaning}`);
      },
      () => {}, // it is said below the legend
    );
  };
  // Whoever knows the legend presses the digit before it has come.
  const early = useRef<number | null>(null);
  const byDigit = (digit: number): void => {
    if (data) void give(marks[(digit + 9) % 10]);
    else early.current = digit;
  };
  const latest = useRef(byDigit);
  latest.current = byDigit;
  useEffect(() => {
    const digit = early.current;
    if (!data || digit === null) return;
    early.current = null;
    latest.current(digit);
  }, [data]);
  useEffect(() => {
    const last = window.localStorage.getItem(LAST);
    const found = (data?.marks ?? []).filter((m) => !m.retired).findIndex((m) => m.code === last);
    if (found >= 0) setAt(found);
  }, [data]);
  const title = subjects.length === 1 ? `Tick ${subjects[0]?.label ?? ''}` : `Tick ${countText(subjects.length)} rows`;
  return (
    <Modal title={title} className="top-[16vh] w-[420px]" onClose={() => onDone(null)}>
      <div
        role="listbox"
        aria-label="Legend of ticks"
        tabIndex={0}
        ref={(box) => box?.focus()}
        aria-activedescendant={marks[at] ? `mark-${marks[at]?.code}` : undefined}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt((at + 1) % marks.length);
          else if (event.key === 'ArrowUp') setAt((at + marks.length - 1) % marks.length);
          else if (event.key === 'Enter' || event.key === 't') void give(marks[at]);
          else if (/^\d$/.test(event.key)) byDigit(Number(event.key));
          else return;
          event.preventDefault();
        }}
        className="outline-none"
      >
        {marks.map((mark, i) => (
          // biome-ignore lint/a11y/useKeyWithClickEvents: the list takes the keys
          <div
            key={mark.code}
            id={`mark-${mark.code}`}
            role="option"
            tabIndex={-1}
            aria-selected={i === at}
            onClick={() => void give(mark)}
            className={`flex cursor-pointer items-center gap-3 px-2 py-[5px] ${i === at ? 'bg-chosen shadow-[inset_3px_0_0_var(--ink)]' : ''}`}
          >
            <span className="w-4 text-right text-soft">{i < 10 ? (i + 1) % 10 : ''}</span>
            <span className="text-preparer">
              <TickShape shape={mark.shape} size={16} />
            </span>
            <span>{mark.meaning}</span>
          </div>
        ))}
      </div>
      <Failure error={put.error} />
      <p className="mt-3 text-[12.5px] text-soft">
        A digit gives its mark; Enter the one that is shown, which is the last that was given.
      </p>
    </Modal>
  );
}
