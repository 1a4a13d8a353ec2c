import type { Focus } from './gridModel';

/** What of a key on a grid counts. */
export interface Pressed {
  key: string;
  shiftKey: boolean;
  ctrlKey: boolean;
  metaKey: boolean;
  altKey: boolean;
}

/** The grid in which it is pressed. */
export interface KeyedGrid {
  focus: Focus;
  rows: number;
  columns: number;
  /** Of the focused row: whether it is folded; null or undefined where there is nothing to fold. */
  folded: boolean | null | undefined;
  /** Cells, not only rows, are chosen together. */
  ofCells: boolean;
}

export type GridAct =
  | { is: 'move'; to: Focus; stretch: boolean }
  | { is: 'fold' }
  | { is: 'trace'; newTab: boolean }
  | { is: 'choose' };

/** As many rows as Page up and Page down go. */
const PAGE_ROWS = 20;

/** What a key does on a grid (WAI-ARIA grid pattern); null: nothing of the grid's. */
export function gridAct(pressed: Pressed, { focus, rows, columns, folded, ofCells }: KeyedGrid): GridAct | null {
  if (pressed.altKey) return null;
  const { row, column } = focus;
  const jump = pressed.ctrlKey || pressed.metaKey;
  // Sideways only cells are chosen together; a row is chosen whole.
  const sideways = pressed.shiftKey && ofCells;
  const go = (toRow: number, toColumn: number, stretch: boolean): GridAct => ({
    is: 'move',
    to: { row: within(toRow, rows), column: within(toColumn, columns) },
    stretch,
  });
  switch (pressed.key) {
    case 'ArrowDown':
      return go(row + 1, column, pressed.shiftKey);
    case 'ArrowUp':
      return go(row - 1, column, pressed.shiftKey);
    case 'ArrowRight':
      return column === 0 && folded === true ? { is: 'fold' } : go(row, column + 1, sideways);
    case 'ArrowLeft':
      return column === 0 && folded === false ? { is: 'fold' } : go(row, column - 1, sideways);
    case 'PageDown':
      return go(row + PAGE_ROWS, column, sideways);
    case 'PageUp':
      return go(row - PAGE_ROWS, column, sideways);
    case 'Home':
      return go(jump ? 0 : row, 0, sideways);
    case 'End':
      return go(jump ? rows - 1 : row, columns - 1, sideways);
    case 'Enter':
      return { is: 'trace', newTab: jump };
    case ' ':
      return pressed.shiftKey ? { is: 'choose' } : folded === null || folded === undefined ? null : { is: 'fold' };
    default:
      return null;
  }
}

const within = (at: number, size: number): number => Math.max(0, Math.min(size - 1, at));

export type EditAct =
  | { is: 'undo' }
  | { is: 'redo' }
  | { is: 'clear' }
  | { is: 'begin' }
  | { is: 'type'; text: string };

/** What a key does where cells are written in; null: what it does on any grid. @param takes whether the focused cell does */
export function editAct(pressed: Pressed, takes: boolean): EditAct | null {
  if (pressed.altKey) return null;
  const key = pressed.key.toLowerCase();
  if (pressed.ctrlKey || pressed.metaKey) {
    if (key === 'y' || (key === 'z' && pressed.shiftKey)) return { is: 'redo' };
    return key === 'z' ? { is: 'undo' } : null;
  }
  if (pressed.key === 'Delete' || pressed.key === 'Backspace') return { is: 'clear' };
  if (!takes) return null;
  if (pressed.key === 'Enter' || pressed.key === 'F2') return { is: 'begin' };
  return /^[\d(.,−-]$/.test(pressed.key) ? { is: 'type', text: pressed.key } : null;
}
