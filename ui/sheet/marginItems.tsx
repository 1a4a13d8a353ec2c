import { type ReactNode, useMemo } from 'react';
import { subjectKey } from '@/contracts/subject';
import type { GridRow } from './gridModel';
import { INK } from './ink';
import type { MarginItem } from './Margin';
import type { SheetModel, SheetRow } from './model';

/** Notes and pins on rows of the sheet, each level with its row; a pin under a column to compare with as well. */
export function useMarginItems(
  model: SheetModel,
  notes: MarginItem['note'][] | undefined,
  pins: MarginItem['pin'][] | undefined,
  draft: MarginItem | null,
): MarginItem[] {
  return useMemo(() => {
    const rows = new Map<string, number>();
    for (const i of model.loaded ?? Array(model.count).keys()) {
      const row = model.rowAt(i);
      for (const { key } of row?.figureAt ? model.columns : []) {
        const subject = row?.figureAt?.(key)?.subject;
        if (subject) rows.set(subjectKey(subject), i);
      }
      if (row?.subject) rows.set(subjectKey(row.subject), i);
    }
    const items: MarginItem[] = [];
    const rowOf = (kept: { subject: string } | undefined): number | undefined =>
      kept && rows.get(subjectKey(kept.subject));
    for (const note of notes ?? []) {
      const row = rowOf(note);
      if (row !== undefined) items.push({ row, note });
    }
    for (const pin of pins ?? []) {
      const row = rowOf(pin);
      if (row !== undefined) items.push({ row, pin });
    }
    return draft ? [...items, draft] : items;
  }, [model, notes, pins, draft]);
}

/** A mark beside each row that has a note or a pin, in the ink of whoever wrote it. */
export function marksOf(items: MarginItem[]): Map<number, ReactNode> {
  const marks = new Map<number, ReactNode>();
  for (const { row, note, pin } of items) {
    const kept = note ?? pin;
    if (!kept) continue;
    const words = note ? 'has a note' : pin?.state === 'drifted' ? 'pinned, drifted' : 'pinned';
    const ink = pin?.state === 'drifted' ? 'text-warn' : INK[kept.ink];
    marks.set(
      row,
      <span className={`-ml-[11px] w-[11px] shrink-0 text-[12px] font-semibold ${ink}`} title={words}>
        <span aria-hidden>{note ? '^' : pin?.state === 'drifted' ? '≠' : '▪'}</span>
        <span className="sr-only">{words}</span>
      </span>,
    );
  }
  return marks;
}

/** A row with the sign of what was kept about it, else with that of standing out. */
export const decorated = (row: SheetRow | undefined, kept: ReactNode): GridRow | undefined => {
  const mark = kept ?? (row?.standsOut && <StandsOut says={row.standsOut} />);
  return row && { ...row, ...(mark ? { mark } : {}) };
};

const StandsOut = ({ says }: { says: string[] }) => (
  <span className="-ml-[11px] w-[11px] shrink-0 text-[12px] font-semibold text-warn" title={says.join('; ')}>
    <span aria-hidden>!</span>
    <span className="sr-only">stands out</span>
  </span>
);
