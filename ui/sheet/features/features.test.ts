import { expect, test, vi } from 'vitest';
import { readScreen, scopeAt } from '../../address/address';
import type { SheetModel, SheetRow } from '../model';
import type { SheetAt } from './feature';
import { FEATURES, keyWords } from './list';

const press = (sheet: SheetAt, key: string): void =>
  FEATURES.flatMap((f) => f.keys)
    .find((k) => k.key === key)
    ?.run(sheet);

/** A sheet as features see it, of which everything that is done is noted. */
function sheetOf(more: Partial<SheetAt> = {}): SheetAt & { opened: Set<string> } {
  const opened = new Set<string>();
  const screen = readScreen('trial-balance', new URLSearchParams('entity=KSF&dim.vessel=MAREN'));
  const row = {
    key: '6310',
    label: 'Repairs',
    subject: 'figure:x',
    put: { accounts: ['6310'] },
  } as unknown as SheetRow;
  return {
    me: { id: 1, name: 'Tomas', role: 'preparer' },
    screen,
    memoryKey: 'x',
    depth: 0,
    model: {
      columns: [{ key: 'closing', label: 'Closing' }],
      standingOut: [2, 5],
      rowAt: () => row,
    } as unknown as SheetModel,
    focused: row,
    focus: { row: 2, column: 0 },
    column: 'closing',
    several: null as unknown as SheetAt['several'],
    row,
    cell: undefined,
    measure: 'closing',
    scopeOfRow: new URLSearchParams(),
    siblings: { go: vi.fn() },
    ownKeys: [],
    go: vi.fn(),
    step: vi.fn(),
    follow: vi.fn(),
    linesOf: vi.fn(),
    focusRow: vi.fn(),
    focusCell: vi.fn(),
    isOpen: (name) => opened.has(name),
    open: (name) => void opened.add(name),
    close: (name) => void opened.delete(name),
    toggle: (name) => void (opened.delete(name) || opened.add(name)),
    write: vi.fn(),
    nextUnticked: vi.fn(),
    address: '/lines',
    thread: null,
    pin: vi.fn(async () => ({ value: '12.00', lines: 1 })),
    say: vi.fn(),
    ...more,
    opened,
  };
}

test('every key belongs to one feature and is told of in the list of keys', () => {
  const keys = FEATURES.flatMap((f) => f.keys.map((k) => k.key));
  expect(new Set(keys).size).toBe(keys.length);
  expect(new Set(FEATURES.map((f) => f.name)).size).toBe(FEATURES.length);
  const listed = keyWords().flatMap(([words]) => words.split('  '));
  for (const key of keys) expect(listed).toContain(key);
});

test('rows that stand out are walked round and round', () => {
  const sheet = sheetOf();
  press(sheet, 'm');
  expect(sheet.focusRow).toHaveBeenLastCalledWith(5);
  press({ ...sheet, focus: { row: 5, column: 0 } }, 'm');
  expect(sheet.focusRow).toHaveBeenLastCalledWith(2);
  press(sheet, 'M');
  expect(sheet.focusRow).toHaveBeenLastCalledWith(5);
  const none = sheetOf({ model: { ...sheet.model, standingOut: [] } });
  press(none, 'm');
  expect(none.say).toHaveBeenCalledWith(expect.stringMatching(/No row/));
});

test('the scope is narrowed to what the cell is about, or to all but that', () => {
  const sheet = sheetOf();
  press(sheet, 'e');
  const [to] = vi.mocked(sheet.go).mock.calls[0] as Parameters<SheetAt['go']>;
  expect(scopeAt(to, 0).toString()).toBe('entity=KSF&dim.vessel=MAREN&accounts=6310');
  press(sheet, 'x');
  const [but] = vi.mocked(sheet.go).mock.calls[1] as Parameters<SheetAt['go']>;
  expect(scopeAt(but, 0).get('accounts')).toMatch(/except 6310/);
  const apart = sheetOf({ several: { rows: [], together: undefined } as unknown as SheetAt['several'] });
  press(apart, 'e');
  expect([vi.mocked(apart.go).mock.calls.length, vi.mocked(apart.say).mock.calls[0]?.[0]]).toEqual([
    0,
    expect.stringMatching(/differ in more than one thing/),
  ]);
});

test('a figure is pinned with its measure and its name; a reader, and a column that is calculated, are told why not', async () => {
  const sheet = sheetOf();
  press(sheet, 'p');
  expect(sheet.pin).toHaveBeenCalledWith('figure:x', 'closing', 'Repairs, closing balance');
  await vi.waitFor(() => expect(sheet.say).toHaveBeenCalledWith(expect.stringMatching(/^Pinned 12.00 with 1 line$/)));
  for (const [more, says] of [
    [{ me: { id: 2, name: 'Col', role: 'reader' as const } }, /reader cannot pin/],
    [{ cell: null }, /calculated from other figures/],
  ] as const) {
    const other = sheetOf(more);
    press(other, 'p');
    expect(other.pin).not.toHaveBeenCalled();
    expect(other.say).toHaveBeenCalledWith(expect.stringMatching(says));
  }
});

test('a panel is opened and closed by its key; one that has nothing to tell says so', () => {
  const sheet = sheetOf();
  for (const [key, name] of [
    ['o', 'other side'],
    ['g', 'over time'],
    ['w', 'what moved'],
  ] as const) {
    press(sheet, key);
    expect([...sheet.opened]).toEqual([name]);
    press(sheet, key);
    expect([...sheet.opened]).toEqual([]);
  }
  press(sheet, 'u');
  expect(sheet.say).toHaveBeenCalledWith(expect.stringMatching(/names no party/));
  press(sheet, 'Backspace');
  expect(sheet.go).not.toHaveBeenCalled();
});
