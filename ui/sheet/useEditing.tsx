'use client';

import { type ClipboardEvent, type KeyboardEvent, type ReactNode, useState } from 'react';
import { CellEditor } from './CellEditor';
import { editAct } from './gridKeys';
import { between, type Focus } from './gridModel';

/** Cells from one corner to another, both inclusive. */
export interface CellRange {
  from: Focus;
  to: Focus;
}

/** What makes a sheet one that is written in. Cells are named by their row and column in the grid. */
export interface Editing {
  /** Whether anything of a row is written in: the keys pass over the others. */
  takesRow(row: number): boolean;
  takes(at: Focus): boolean;
  /** What a cell is begun to be written with, plain and exact. */
  textOf(at: Focus): string;
  /** What the cell is called while it is written in. */
  labelOf(at: Focus): string;
  /** @returns false where it is refused; whoever refuses says why */
  take(at: Focus, text: string): boolean;
  clear(range: CellRange): void;
  /** Text of the clipboard, tabs between its cells. */
  paste(text: string, range: CellRange): void;
  undo(): void;
  redo(): void;
  /** The cells that are chosen together have changed. */
  onRange(range: CellRange): void;
}

export interface EditingState {
  isChosen(at: Focus): boolean;
  /** The editor of a cell that is being written; null elsewhere. */
  editorAt(at: Focus): ReactNode;
  /** @returns whether the key was taken */
  onKey(event: KeyboardEvent): boolean;
  onCopy(event: ClipboardEvent): void;
  onPaste(event: ClipboardEvent): void;
  begin(at: Focus): void;
  /** Where the keys go that would go to a row: on to the next that is written in, or nowhere. @param count of all rows */
  rowFrom(to: number, count: number): number;
  /** The focus has gone elsewhere. @param stretch the range stretches to it */
  focused(at: Focus, stretch: boolean): void;
}

/**
 * Writing in the cells of a grid: typed over or opened with Enter, cleared, copied and pasted in rectangles, undone.
 * @param move takes the focus and the keyboard to a cell
 */
export function useEditing(
  editing: Editing | undefined,
  focus: Focus,
  move: (to: Focus) => void,
): EditingState | undefined {
  const [anchor, setAnchor] = useState<Focus>(focus);
  // What the focused cell is begun to be written with; null: it is not.
  const [typing, setTyping] = useState<string | null>(null);
  if (!editing) return undefined;
  const range = rangeOf(anchor, focus);
  const begin = (at: Focus): void => {
    if (editing.takes(at)) setTyping(editing.textOf(at));
  };
  const leave = (to: Focus): void => {
    setTyping(null);
    move(to);
  };
  return {
    isChosen: ({ row, column }) =>
      row >= range.from.row && row <= range.to.row && column >= range.from.column && column <= range.to.column,
    editorAt: (at) =>
      typing !== null &&
      at.row === focus.row &&
      at.column === focus.column && (
        <CellEditor
          label={editing.labelOf(focus)}
          start={typing}
          onTake={(text, to) => {
            if (!editing.take(focus, text)) return;
            if (to) leave({ row: focus.row + to[0], column: focus.column + to[1] });
            else setTyping(null);
          }}
          onLeave={() => leave(focus)}
        />
      ),
    onKey: (event) => {
      if (typing !== null) return true;
      const act = editAct(event, editing.takes(focus));
      if (!act) return false;
      event.preventDefault();
      if (act.is === 'undo') editing.undo();
      else if (act.is === 'redo') editing.redo();
      else if (act.is === 'clear') editing.clear(range);
      else if (act.is === 'begin') begin(focus);
      else setTyping(act.text);
      return true;
    },
    onCopy: (event) => {
      if (typing !== null) return;
      event.preventDefault();
      const cells = between(range.from.row, range.to.row).map((row) =>
        between(range.from.column, range.to.column).map((column) => editing.textOf({ row, column })),
      );
      event.clipboardData.setData('text/plain', cells.map((row) => row.join('\t')).join('\n'));
    },
    onPaste: (event) => {
      if (typing !== null) return;
      event.preventDefault();
      // The clipboard can only be read while the event lasts.
      const text = event.clipboardData.getData('text/plain');
      if (text.trim() !== '') editing.paste(text, range);
    },
    begin,
    rowFrom: (to, count) => {
      const way = to < focus.row ? -1 : 1;
      let row = to;
      while (row >= 0 && row < count && !editing.takesRow(row)) row += way;
      return row >= 0 && row < count ? row : focus.row;
    },
    focused: (at, stretch) => {
      if (!stretch) setAnchor(at);
      editing.onRange(rangeOf(stretch ? anchor : at, at));
    },
  };
}

const rangeOf = (a: Focus, b: Focus): CellRange => ({
  from: { row: Math.min(a.row, b.row), column: Math.min(a.column, b.column) },
  to: { row: Math.max(a.row, b.row), column: Math.max(a.column, b.column) },
});
