import { expect, test } from 'vitest';
import { editAct, gridAct, type KeyedGrid, type Pressed } from './gridKeys';

const NONE = { shiftKey: false, ctrlKey: false, metaKey: false, altKey: false };
const pressed = (words: string): Pressed => {
  const parts = words.split('+');
  const key = parts.pop() as string;
  return {
    ...NONE,
    key: key === 'Space' ? ' ' : key,
    shiftKey: parts.includes('Shift'),
    ctrlKey: parts.includes('Ctrl'),
    metaKey: parts.includes('Cmd'),
    altKey: parts.includes('Alt'),
  };
};
const grid = (more: Partial<KeyedGrid> = {}): KeyedGrid => ({
  focus: { row: 5, column: 2 },
  rows: 100,
  columns: 6,
  folded: null,
  ofCells: false,
  ...more,
});
/** "row:column", with + where the choice stretches to it. */
const goes = (words: string, more: Partial<KeyedGrid> = {}): string => {
  const act = gridAct(pressed(words), grid(more));
  return act?.is === 'move' ? `${act.to.row}:${act.to.column}${act.stretch ? '+' : ''}` : (act?.is ?? 'nothing');
};

test('the arrows, pages and ends move over the grid and stop at its edges', () => {
  const moves = ['ArrowDown', 'ArrowUp', 'ArrowRight', 'ArrowLeft', 'PageDown', 'PageUp', 'Home', 'End'];
  expect(moves.map((m) => goes(m))).toEqual(['6:2', '4:2', '5:3', '5:1', '25:2', '0:2', '5:0', '5:5']);
  expect(['Ctrl+Home', 'Ctrl+End', 'Cmd+End'].map((m) => goes(m))).toEqual(['0:0', '99:5', '99:5']);
  const corner = { focus: { row: 99, column: 5 } };
  expect(['ArrowDown', 'PageDown', 'ArrowRight'].map((m) => goes(m, corner))).toEqual(['99:5', '99:5', '99:5']);
  expect(goes('ArrowDown', { rows: 0 })).toBe('0:2');
});

test('rows are chosen together downwards; where cells are, sideways too', () => {
  expect(['Shift+ArrowDown', 'Shift+ArrowRight', 'Shift+End'].map((m) => goes(m))).toEqual(['6:2+', '5:3', '5:5']);
  const ofCells = { ofCells: true };
  const stretched = ['Shift+ArrowRight', 'Shift+End', 'Shift+PageDown'].map((m) => goes(m, ofCells));
  expect(stretched).toEqual(['5:3+', '5:5+', '25:2+']);
  expect(goes('Shift+Space')).toBe('choose');
});

test('a row is folded in its first column by the arrows, anywhere by Space, and only where there is anything to fold', () => {
  const first = { focus: { row: 5, column: 0 } };
  expect(goes('ArrowRight', { ...first, folded: true })).toBe('fold');
  expect(goes('ArrowRight', { ...first, folded: false })).toBe('5:1');
  expect(goes('ArrowLeft', { ...first, folded: false })).toBe('fold');
  expect(goes('ArrowLeft', { ...first, folded: true })).toBe('5:0');
  expect(goes('ArrowRight', { folded: true })).toBe('5:3');
  expect([goes('Space', { folded: false }), goes('Space')]).toEqual(['fold', 'nothing']);
});

test('Enter traces, with Ctrl elsewhere; keys with Alt, letters and signs are not the grid’s', () => {
  expect(gridAct(pressed('Enter'), grid())).toEqual({ is: 'trace', newTab: false });
  expect(gridAct(pressed('Cmd+Enter'), grid())).toEqual({ is: 'trace', newTab: true });
  expect(['Alt+ArrowLeft', 'm', '?', 'Escape', 'Tab'].map((m) => goes(m))).toEqual(Array(5).fill('nothing'));
});

test('a cell that is written in is begun by what is typed, or opened; what is no part of an amount is left to others', () => {
  const does = (words: string, takes = true) => {
    const act = editAct(pressed(words), takes);
    return act?.is === 'type' ? `type ${act.text}` : (act?.is ?? 'nothing');
  };
  expect(['7', '-', '(', ',', '−'].map((k) => does(k))).toEqual(['type 7', 'type -', 'type (', 'type ,', 'type −']);
  expect(['Enter', 'F2', 'Delete', 'Backspace'].map((k) => does(k))).toEqual(['begin', 'begin', 'clear', 'clear']);
  expect(['Ctrl+z', 'Ctrl+Shift+Z', 'Cmd+y'].map((k) => does(k))).toEqual(['undo', 'redo', 'redo']);
  expect(['a', 'Ctrl+c', 'Ctrl+v', 'Alt+7', 'ArrowDown'].map((k) => does(k))).toEqual(Array(5).fill('nothing'));
  // A caption is not written in, but a range over it is cleared.
  expect(['7', 'Enter', 'Delete'].map((k) => does(k, false))).toEqual(['nothing', 'nothing', 'clear']);
});
