'use client';

import { type RefObject, useCallback, useEffect, useRef, useState } from 'react';
import { recall } from '../address/memory';
import { cellText } from './cell';
import type { Focus, GridHandle } from './gridModel';
import type { SheetModel, SheetRow } from './model';

/** By then the rows of a sheet are drawn. */
const DRAWN_AFTER_MS = 150;
/** So often it is looked whether the sheet has the keyboard; then it is left to whoever scrolls. */
const LOOKS_MAX = 20;

/** Columns that are the sheet's own amount: the focus begins on the last of them. */
const OWN_AMOUNT = ['closing', 'balance', 'debit', 'window'];

/**
 * Where the focus of a sheet is. Until somebody goes elsewhere it is on the figure that was traced, else on the sheet's
 * own amount, wherever that comes to be; coming back to a sheet, the row that was left has it again.
 * @param memoryKey under what the place is remembered
 */
export function useFocus(model: SheetModel, memoryKey: string, grid: RefObject<GridHandle | null>) {
  const memory = useRef(recall(memoryKey));
  const traced = model.columns.findIndex((c) => c.key === model.traced);
  const own = Math.max(0, traced >= 0 ? traced : model.columns.findLastIndex((c) => OWN_AMOUNT.includes(c.key)));
  const [asked, setAsked] = useState<Focus | null>(null);
  // Who has scrolled elsewhere by hand stays there, until they move on by a key or point at a cell.
  const away = useRef(false);
  const setFocus = useCallback((focus: Focus): void => {
    away.current = false;
    setAsked(focus);
  }, []);
  const returned = useRef(false);
  useEffect(() => {
    if (returned.current || model.count === 0 || model.loading) return;
    returned.current = true;
    const { row: key, at = -1 } = memory.current;
    const found = key ? model.indexOf(key) : -1;
    // Deep in a ledger the row itself may not be there yet; where it was is known.
    const row = found >= 0 ? found : at < rowsToFocus(model) ? at : -1;
    const column = model.columns.findIndex((c) => c.key === memory.current.column);
    if (row >= 0) setFocus({ row, column: column >= 0 ? column : own });
    if (row >= 0 && memory.current.scroll === undefined) grid.current?.scrollTo(row);
    focusCell();
  });
  const at = within(asked?.row ?? firstRow(model, own), model);
  // The cell that had the keyboard may have gone with its row: another takes it, else no key would do anything. A row
  // that is not drawn cannot have it: where the sheet was left scrolled elsewhere it is scrolled to.
  useEffect(() => {
    if (model.loading || model.count === 0) return;
    if (nothingHasIt()) focusCell();
    let looks = 0;
    // Rows are drawn when they come into sight, of which nothing tells: it is looked again until something has it.
    const timer = setInterval(() => {
      looks += 1;
      if (!nothingHasIt() || looks > LOOKS_MAX) return clearInterval(timer);
      if (!away.current && !document.querySelector('[role=gridcell][tabindex="0"]'))
        grid.current?.scrollTo(Math.min(at, model.count - 1));
      focusCell();
    }, DRAWN_AFTER_MS);
    return () => clearInterval(timer);
  }, [model, at, grid]);
  return {
    // A row or a column that had the focus may have gone since.
    focus: {
      row: at,
      column: Math.min(asked?.column ?? own, model.columns.length - 1),
    },
    setFocus,
    /** To be called where somebody scrolls by hand. */
    scrolledAway: useCallback(() => {
      away.current = true;
    }, []),
    /** How far down the sheet was when it was left. */
    scrolled: memory.current.scroll,
  };
}

/** Nothing has the keyboard, or only the sheet as a whole, which had it while it was read. */
const nothingHasIt = (): boolean =>
  document.activeElement === document.body || document.activeElement?.getAttribute('role') === 'grid';

/** A row that has the focus still; the last one where it went, and the total only where that was meant. */
const within = (row: number, model: SheetModel): number =>
  Math.max(0, row > model.count ? model.count - 1 : Math.min(row, rowsToFocus(model) - 1));

/** The total below the rows takes the focus too, where it can be traced. */
const rowsToFocus = ({ count, whole }: SheetModel): number => count + (whole && count > 0 ? 1 : 0);

/** The first row with anything in a column: a caption that has only its words is no place to begin. */
export function firstRow(model: Pick<SheetModel, 'rowAt' | 'count' | 'columns'>, column: number): number {
  const key = model.columns[column]?.key ?? '';
  let row = 0;
  while (row < model.count && isMereCaption(model.rowAt(row), key)) row += 1;
  return row < model.count ? row : 0;
}

const isMereCaption = (row: SheetRow | undefined, key: string): boolean =>
  row?.look === 'heading' && cellText(row.cells[key]) === '';

/** The keyboard to the sheet's focused cell, unless somebody is writing or something is open over the sheet. */
export const focusCell = (): void =>
  void requestAnimationFrame(() => {
    if (document.activeElement?.closest('input, textarea, select')) return;
    // A button that is pressed and works on has no focus, and what is open would close if the sheet took it.
    if (document.querySelector('[role=dialog], [role=menu], [role=listbox]')) return;
    const cell = document.querySelector<HTMLElement>('[role=gridcell][tabindex="0"]');
    // Where there is no sheet, what stands in its place has the keyboard.
    (cell ?? document.querySelector<HTMLElement>('[data-stands-in]'))?.focus({ preventScroll: true });
  });
