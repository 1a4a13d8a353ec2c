import { useMemo } from 'react';
import { subjectKey } from '@/contracts/subject';
import type { GridRow, RowMark } from './gridModel';
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

/** Signs beside each row that has a note or a pin, in the ink of whoever wrote it; one of each kind. */
export function marksOf(items: MarginItem[]): Map<number, RowMark[]> {
  const marks = new Map<number, RowMark[]>();
  for (const { row, note, pin } of items) {
    const mark = note ? noteMark(note) : pin ? pinMark(pin) : null;
    const held = marks.get(row) ?? [];
    if (mark && !held.some(({ sign }) => sign === mark.sign)) marks.set(row, [...held, mark]);
  }
  return marks;
}

const noteMark = ({ ink }: NonNullable<MarginItem['note']>): RowMark => ({ sign: '^', says: 'has a note', ink });

const pinMark = ({ state, ink }: NonNullable<MarginItem['pin']>): RowMark =>
  state === 'drifted' ? { sign: '≠', says: 'pinned, drifted' } : { sign: '▪', says: 'pinned', ink };

/** A row with the signs of what was kept about it, and with that of standing out: neither hides the other. */
export const decorated = (row: SheetRow | undefined, kept: readonly RowMark[] = []): GridRow | undefined => {
  const out: RowMark[] = row?.standsOut ? [{ sign: '!', says: 'stands out', why: row.standsOut.join('; ') }] : [];
  const marks = [...out, ...kept];
  return row && { ...row, ...(marks.length > 0 ? { marks } : {}) };
};
