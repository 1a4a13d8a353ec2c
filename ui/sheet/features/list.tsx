import { later } from '../../parts/later';
import { correct } from './correct';
import { documentBeside } from './documentBeside';
import { attach, expectation, finding, note, pin, question, review, sample, tests, ticks } from './evidence';
import type { FeatureKey, SheetFeature } from './feature';
import { find } from './find';
import { linesBeside } from './linesBeside';
import { narrowing } from './narrow';
import { history, otherSide, overTime, usualAccounts, whatMoved } from './panels';
import { split } from './split';
import { standsOut } from './standsOut';
import { takeOut } from './takeOut';
import { clause, walking } from './walking';

const KeysDialog = later(() => import('../../shell/KeysDialog').then((m) => m.KeysDialog));

/** Keys that the grid and the tools of a screen have for themselves, in the words of the list of keys. */
const OF_GRID: [string, string][] = [
  ['Arrows, Home, End, Page up, Page down', 'move over the sheet'],
  ['Enter', 'trace the focused figure; with Ctrl in a new tab'],
  ['Space', 'fold and unfold'],
  ['Ctrl K', 'find anything, from everywhere'],
  ['Shift with arrows, Shift Space', 'choose several rows'],
  ['Ctrl C', 'copy the focused figure, to be pasted into a text or elsewhere'],
];
const OF_SCREENS: [string, string][] = [
  [',  .', 'the unit before and the next one, where the sheet is of one unit'],
  ['d', 'draw a split: its rows as bars, as parts of the whole, over time'],
  ['c', 'columns to compare with: other windows, budgets, changes'],
  ['l  L', 'a ledger by lines, by entries, by days, by weeks, by months, and back'],
  ['r', 'refresh in place, when a newer load has come'],
];

const keysList: SheetFeature = {
  name: 'keys',
  keys: [{ key: '?', says: 'this list', run: (s) => s.open('keys') }],
  dialog: (s) => <KeysDialog keys={keyWords(s.ownKeys)} onClose={() => s.close('keys')} />,
};

/** All that every sheet can do. A feature that is added here has its key, its words, its tool and its panel. */
export const FEATURES: readonly SheetFeature[] = [
  walking,
  find,
  split,
  narrowing,
  linesBeside,
  documentBeside,
  otherSide,
  overTime,
  whatMoved,
  usualAccounts,
  history,
  standsOut,
  note,
  ticks,
  pin,
  attach,
  question,
  finding,
  correct,
  expectation,
  sample,
  tests,
  review,
  clause,
  takeOut,
  keysList,
];

/**
 * The list of keys, as it is shown: those that belong together on one line.
 * @param own of the sheet alone; keys that every sheet has for something else mean that there
 */
export function keyWords(own: readonly FeatureKey[] = []): [keys: string, says: string][] {
  const taken = new Set(own.map((k) => k.key));
  const words = [{ keys: own }, ...FEATURES].flatMap(({ keys }) =>
    keys.flatMap(({ key, says }): [string, string][] => {
      if (typeof says !== 'string' || (keys !== own && taken.has(key))) return [];
      const others = keys.filter((k) => typeof k.says !== 'string' && k.says.with === key).map((k) => k.key);
      return [[[key, ...others].join('  '), says]];
    }),
  );
  return [...OF_GRID, ...words, ...OF_SCREENS];
}
