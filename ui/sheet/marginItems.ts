import { useMemo } from 'react';
import type { EvidenceFile, Finding, Note, Pin, Point, Question, Tick } from '@/contracts/answers/evidence';
import type { Expectation } from '@/contracts/answers/expectations';
import type { Proposed } from '@/contracts/answers/proposals';
import { subjectKey, writtenSubject } from '@/contracts/subject';
import type { About, Drafted } from '../evidence/Draft';
import { type Hidden, useHidden } from '../evidence/shownKinds';
import type { Evidence } from '../evidence/useEvidence';
import type { GridRow, RowMark } from './gridModel';
import type { SheetModel, SheetRow } from './model';

/** Something in the margin, level with the row that it is about. */
export type MarginItem = { row: number } & (
  | { is: 'note'; note: Note; replies: Note[]; files: EvidenceFile[] }
  | { is: 'pin'; pin: Pin }
  | { is: 'ticks'; ticks: Tick[] }
  | { is: 'file'; file: EvidenceFile }
  | { is: 'point'; point: Point }
  | { is: 'question'; question: Question }
  | { is: 'finding'; finding: Finding }
  | { is: 'expectation'; expectation: Expectation }
  | { is: 'proposed'; proposed: Proposed }
  /** What is being written. */
  | { is: 'draft'; kind: Drafted; about: About }
);

/** Evidence on rows of the sheet, each level with its row; a pin under a column to compare with as well. */
export function useMarginItems(model: SheetModel, evidence: Evidence, draft: MarginItem | null): MarginItem[] {
  const hidden = useHidden();
  return useMemo(() => {
    const rows = rowsBySubject(model);
    const items = itemsOn((subject) => rows.get(subjectKey(subject)), shownOf(evidence, hidden));
    return draft ? [...items, draft] : items;
  }, [model, evidence, draft, hidden]);
}

/** The rows of a sheet by what they are about, and by the figures of their cells. */
export function rowsBySubject(model: SheetModel): Map<string, number> {
  const rows = new Map<string, number>();
  for (const i of model.loaded ?? Array(model.count).keys()) {
    const row = model.rowAt(i);
    for (const { key } of row?.figureAt ? model.columns : []) {
      const subject = row?.figureAt?.(key)?.subject;
      if (subject) rows.set(subjectKey(subject), i);
    }
    if (row?.subject) rows.set(subjectKey(row.subject), i);
  }
  return rows;
}

/** What is left after those kinds and people that are not to be shown. */
export function shownOf(evidence: Evidence, { kinds, people }: Hidden): Evidence {
  const by = <Row extends { by: string }>(kind: keyof Evidence, rows: Row[]): Row[] =>
    kinds.includes(kind) ? [] : people.length === 0 ? rows : rows.filter((row) => !people.includes(row.by));
  return {
    notes: by('notes', evidence.notes),
    pins: by('pins', evidence.pins),
    ticks: by('ticks', evidence.ticks),
    files: by('files', evidence.files),
    points: by('points', evidence.points),
    questions: by('questions', evidence.questions),
    findings: by('findings', evidence.findings),
    expectations: by('expectations', evidence.expectations),
    proposed: by('proposed', evidence.proposed),
  };
}

/** Evidence as items of the margin; answers stand under what they answer. */
export function itemsOn(rowOf: (subject: string) => number | undefined, evidence: Evidence): MarginItem[] {
  const items: MarginItem[] = [];
  const add = <Kept extends { subject: string }>(
    rows: readonly Kept[],
    item: (kept: Kept) => Omit<MarginItem, 'row'>,
  ) => {
    for (const kept of rows) {
      const row = rowOf(kept.subject);
      if (row !== undefined) items.push({ row, ...item(kept) } as MarginItem);
    }
  };
  add(evidence.points, (point) => ({ is: 'point', point }));
  add(
    evidence.notes.filter((n) => n.replyTo === null),
    (note) => {
      const replies = evidence.notes.filter((n) => n.replyTo === note.id);
      const subjects = [note, ...replies].map((n) => writtenSubject('note', n.id));
      return { is: 'note', note, replies, files: evidence.files.filter((f) => subjects.includes(f.subject)) };
    },
  );
  add(evidence.questions, (question) => ({ is: 'question', question }));
  add(evidence.pins, (pin) => ({ is: 'pin', pin }));
  add(evidence.files, (file) => ({ is: 'file', file }));
  add(evidence.expectations, (expectation) => ({ is: 'expectation', expectation }));
  for (const proposed of evidence.proposed) {
    // Beside what it was made of, and beside each of the lines that it puts right.
    const rows = new Set([proposed.subject, ...proposed.links].flatMap((subject) => rowOf(subject) ?? []));
    if (proposed.state !== 'retired') for (const row of rows) items.push({ row, is: 'proposed', proposed });
  }
  for (const finding of evidence.findings) {
    // A finding on several things stands beside each of them that is on the sheet.
    const rows = new Set(finding.subjects.flatMap((subject) => rowOf(subject) ?? []));
    for (const row of rows) items.push({ row, is: 'finding', finding });
  }
  const ticked = new Map<number, Tick[]>();
  for (const tick of evidence.ticks) {
    const row = rowOf(tick.subject);
    if (row !== undefined) ticked.set(row, [...(ticked.get(row) ?? []), tick]);
  }
  for (const [row, ticks] of ticked) items.push({ row, is: 'ticks', ticks });
  return items;
}

export const keyOfItem = (item: MarginItem): string => {
  switch (item.is) {
    case 'note':
      return `note-${item.note.id}`;
    case 'pin':
      return `pin-${item.pin.id}`;
    case 'ticks':
      return `ticks-${item.row}`;
    case 'file':
      return `file-${item.file.id}`;
    case 'point':
      return `point-${item.point.id}`;
    case 'question':
      return `question-${item.question.id}`;
    case 'finding':
      return `finding-${item.finding.id}-${item.row}`;
    case 'expectation':
      return `expectation-${item.expectation.id}`;
    case 'proposed':
      return `proposed-${item.proposed.id}-${item.row}`;
    case 'draft':
      return 'draft';
  }
};

/** Signs beside each row that something was kept about, in the ink of whoever made it; one of each kind. */
export function marksOf(items: MarginItem[]): Map<number, RowMark[]> {
  const marks = new Map<number, RowMark[]>();
  for (const item of items) {
    const held = marks.get(item.row) ?? [];
    const fresh = signsOf(item).filter((mark) => !held.some((h) => h.sign === mark.sign && h.drawn === mark.drawn));
    if (fresh.length > 0) marks.set(item.row, [...held, ...fresh]);
  }
  return marks;
}

export function signsOf(item: MarginItem): RowMark[] {
  switch (item.is) {
    case 'note':
      return [{ sign: '^', says: 'has a note', ink: item.note.ink }];
    case 'pin':
      return item.pin.state === 'drifted'
        ? [{ sign: '≠', says: 'pinned, drifted' }]
        : [{ sign: '▪', says: 'pinned', ink: item.pin.ink }];
    case 'ticks':
      return item.ticks.map((t) => ({
        sign: 'tick',
        drawn: t.shape,
        says: t.state === 'drifted' ? `ticked: ${t.meaning}, and moved since` : `ticked: ${t.meaning}`,
        why: `${t.meaning}: ${t.by}, ${t.at.slice(0, 10)}${t.state === 'drifted' ? '. What it stands on has moved since' : ''}`,
        // What no longer stands on what it stood on is in the colour of what should be looked at.
        ink: t.state === 'drifted' ? undefined : t.ink,
      }));
    case 'file':
      return [{ sign: '§', says: 'has a file', ink: item.file.ink }];
    case 'point':
      return item.point.state === 'cleared' ? [] : [{ sign: '○', says: 'has a review point', ink: 'reviewer' }];
    case 'question':
      return [{ sign: '?', says: 'has a question', ink: item.question.ink }];
    case 'finding':
      return [{ sign: '‡', says: 'has a finding' }];
    case 'proposed':
      return [{ sign: '↷', says: `is ${item.proposed.state} to be put right`, ink: item.proposed.ink }];
    case 'expectation':
      return item.expectation.state === 'needs explaining'
        ? [{ sign: '±', says: 'is not as expected', why: `${item.expectation.reckoned}: ${item.expectation.state}` }]
        : [{ sign: '±', says: `is ${item.expectation.state}`, ink: item.expectation.ink }];
    case 'draft':
      return [];
  }
}

/** A row with the signs of what was kept about it, and with that of standing out: neither hides the other. */
export const decorated = (row: SheetRow | undefined, kept: readonly RowMark[] = []): GridRow | undefined => {
  const out: RowMark[] = row?.standsOut ? [{ sign: '!', says: 'stands out', why: row.standsOut.join('; ') }] : [];
  const marks = [...out, ...kept];
  return row && { ...row, ...(marks.length > 0 ? { marks } : {}) };
};
