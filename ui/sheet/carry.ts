'use client';

import type { ClipboardEvent, DragEvent } from 'react';
import { MEASURE } from '../address/measures';
import { carry } from '../evidence/quoting';
import { toast } from '../parts/toast';
import { cellAmount, cellText } from './cell';
import type { SheetAt } from './features/feature';
import type { SheetModel, SheetRow } from './model';

/** What leaves a sheet by the clipboard, and which files come to its rows by it or are dropped on them. */

const within = (target: EventTarget): HTMLElement | null => (target as HTMLElement).closest('[role="gridcell"]');

/** A figure is copied as its amount, and for texts here with its whole question; several rows as a table. */
export function copyFigure(event: ClipboardEvent, at: SheetAt): void {
  const selected = window.getSelection();
  if ((selected && !selected.isCollapsed) || !within(event.target)) return;
  const { row, model, column, several } = at;
  if (several) {
    const table = several.rows.map((r) => model.columns.map((c) => plain(r, c.key)).join('\t'));
    event.clipboardData.setData('text/plain', [model.columns.map((c) => c.label).join('\t'), ...table].join('\n'));
    event.preventDefault();
    return;
  }
  if (!row) return;
  const words = plain(row, column);
  if (row.subject) {
    const head = model.columns.find((c) => c.key === column);
    carry(event.clipboardData, words, {
      subject: row.subject,
      measure: at.cell?.measure ?? MEASURE[column] ?? null,
      label: head?.amount ? `${row.label}, ${head.label}` : row.label,
      address: at.address,
      value: cellAmount(row.cells[column]) ?? null,
    });
  } else event.clipboardData.setData('text/plain', words);
  event.preventDefault();
}

/** Amounts leave as numbers, with a point and nothing else in them. */
const plain = (row: SheetRow, column: string): string =>
  cellAmount(row.cells[column]) ?? cellText(row.cells[column]).replace(/[\t\n]/g, ' ');

interface Attached {
  mutateAsync(sent: {
    file: File;
    subject: string;
    label: string;
    address: string;
    thread: number | null;
  }): Promise<unknown>;
}

/** Files that are pasted on the focused row, a picture from the clipboard among them. */
export function pasteFiles(event: ClipboardEvent, at: SheetAt, attach: Attached): void {
  const files = [...event.clipboardData.files];
  if (files.length === 0 || !within(event.target)) return;
  event.preventDefault();
  void attachAll(files, at.row, at, attach);
}

/** Files that are dropped on a row. */
export function dropFiles(event: DragEvent, model: SheetModel, at: SheetAt, attach: Attached): void {
  const files = [...event.dataTransfer.files];
  if (files.length === 0) return;
  event.preventDefault();
  const index = /^(\d+):/.exec(within(event.target)?.dataset.cell ?? '')?.[1];
  void attachAll(files, index === undefined ? undefined : model.rowAt(Number(index)), at, attach);
}

async function attachAll(files: File[], row: SheetRow | undefined, at: SheetAt, attach: Attached): Promise<void> {
  if (!row?.subject) return void toast('Drop a file on a row to attach it there.');
  for (const file of files) {
    try {
      const { subject, label } = row;
      await attach.mutateAsync({ file, subject, label, address: at.address, thread: at.thread });
      toast(`${file.name || 'The picture'} is attached to ${label}`);
    } catch (problem) {
      toast(`${file.name || 'The picture'}: ${(problem as Error).message}`);
    }
  }
}
