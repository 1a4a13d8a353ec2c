import { wrong } from '@/contracts/problem';
import { addBalance, type Balance, emptyBalance } from '@/core/balances';
import { refine, type Split, splitsWindow } from '@/core/figure';
import { add } from '@/core/money';
import {
  isOfAccounts,
  type Leaf,
  memberOrder,
  pathKey,
  type SplitParts,
  type SplitQuestion,
  splitOfBalances,
} from '@/core/split';
import { splitSums } from '@/store/balances';
import type { Context } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { figureBalance, mergedChart } from './accountBalances';
import { type TranslatedPart, translatedByEntity, translatedParts, withNetSides } from './translation';

/** So many members of time are translated at once, each over a window of its own. */
const TIMES_MAX = 60;

/** What the company and the account of a line tell. */
const isOfBooks = (split: Split): boolean => split.by === 'entity' || isOfAccounts(split);

/**
 * A figure of books in another currency, broken down: every part translated by itself as its accounts are (IAS 21.39),
 * members of time each over its own window, so that what moves a balance by its rate moves it in the period in which the
 * rate moved. The whole is asked apart, as the statements show it; what rounding leaves between it and its parts, a unit or
 * two of the smallest kind, is the largest part's.
 * @throws ProblemError where time is split within something else
 */
export async function translatedSplit(
  ctx: Context,
  asked: ResolvedFigure,
  question: SplitQuestion,
): Promise<[SplitParts, Balance]> {
  const { splits, across, trees } = question;
  const isTime = (split: Split): boolean => splitsWindow(asked.figure.window, split);
  const [first] = splits;
  if (across && isTime(across) && !splits.some(isTime)) return timeAcross(ctx, asked, question, across);
  if (first && isTime(first) && splits.length === 1 && !across) return timeAlone(ctx, asked, question, first);
  if ([...splits, ...(across ? [across] : [])].some(isTime))
    throw wrong(
      'by',
      'in another currency time is split alone, or stands across; ask in the currency of the books for more',
    );
  const [leaves, whole] = await leavesOf(ctx, asked, across ? [...splits, across] : splits);
  return [splitOfBalances(leaves, { splits, across, trees }), whole];
}

/** The translated balances of each combination of members, and what they come to, asked apart from them. */
async function leavesOf(
  ctx: Context,
  asked: ResolvedFigure,
  splits: readonly Split[],
): Promise<[leaves: Leaf[], whole: Balance]> {
  const types = new Map(mergedChart(asked).map((a) => [a.code, a.type]));
  const ofLines = splits.filter((s) => !isOfBooks(s));
  const leaf = (entity: string, account: string, keys: readonly (string | null)[], balance: Balance): Leaf => ({
    balance,
    keys: splits.map((split) => {
      if (split.by === 'entity') return entity;
      if (split.by === 'type') return types.get(account) ?? null;
      return isOfAccounts(split) ? account : (keys[ofLines.indexOf(split)] ?? null);
    }),
  });
  const books = await translatedByEntity(ctx, asked);
  const parts = ofLines.length === 0 ? [] : await translatedParts(ctx, asked, ofLines);
  const leaves: Leaf[] = [];
  const whole = emptyBalance();
  for (const [entity, balances] of books) {
    const own = partsByAccount(parts.filter((p) => p.entity === entity));
    for (const [account, balance] of balances) {
      addBalance(whole, balance);
      const held = own.get(account) ?? [];
      // What whole books have and no line, such as the difference of the translation, is of no member.
      if (held.length === 0) leaves.push(leaf(entity, account, [], balance));
      settleRounding(
        balance,
        held.map((h) => h.balance),
        held.reduce((units, h) => units + h.rounded, 0),
      );
      for (const { keys, balance: part } of held) leaves.push(leaf(entity, account, keys, part));
    }
  }
  return [
    leaves,
    withSidesOf(
      whole,
      leaves.map((l) => l.balance),
    ),
  ];
}

interface PartOfAccount {
  keys: (string | null)[];
  balance: Balance;
  rounded: number;
}

function partsByAccount(parts: readonly TranslatedPart[]): Map<string, PartOfAccount[]> {
  const found = new Map<string, PartOfAccount[]>();
  for (const { keys, balances, rounded } of parts)
    for (const [account, balance] of balances) {
      const held = found.get(account) ?? [];
      held.push({ keys, balance, rounded: rounded.get(account) ?? 0 });
      found.set(account, held);
    }
  return found;
}

/** Gives the units that rounding left between a balance and its parts to the largest of them. @param most how many those can be */
function settleRounding(whole: Balance, parts: readonly Balance[], most: number): void {
  for (const measure of ['opening', 'movement', 'roll'] as const) {
    const rest = parts.reduce((left, part) => add(left, -part[measure]), whole[measure]);
    if (rest === 0 || Math.abs(rest) > most) continue;
    const largest = parts.reduce((a, b) => (Math.abs(b[measure]) > Math.abs(a[measure]) ? b : a));
    largest[measure] = add(largest[measure], rest);
  }
  for (const part of parts) withNetSides(part);
}

/** Sides are net where a balance is translated: those of a whole are what its parts moved each way. */
function withSidesOf(whole: Balance, parts: readonly Balance[]): Balance {
  const sum = emptyBalance();
  for (const part of parts) addBalance(sum, part);
  return { ...whole, debit: sum.debit, credit: sum.credit };
}

/** The members of a split of time that hold lines or are shown although they do not, in order. */
async function timesOf(
  ctx: Context,
  asked: ResolvedFigure,
  { frame }: SplitQuestion,
  split: Split,
): Promise<{ key: string; asked: ResolvedFigure }[]> {
  const { db, question } = await asked.ask(ctx, [split]);
  const keys = new Set(frame(split));
  for (const sum of await splitSums(db, question, [split]))
    if (sum.part >= 2 && sum.count > 0) keys.add(sum.keys[0] as string);
  if (keys.size > TIMES_MAX)
    throw wrong(
      'by',
      `in another currency at most ${TIMES_MAX} members of time are shown at once, and this has ${keys.size}; take months or periods, or a shorter window`,
    );
  const names = { chart: mergedChart(asked), trees: asked.known.catalogue.trees };
  return [...keys]
    .sort((a, b) => memberOrder(split, a, b))
    .map((key) => ({ key, asked: asked.narrowed(refine(asked.figure, split, key, names)) }));
}

async function timeAlone(
  ctx: Context,
  asked: ResolvedFigure,
  question: SplitQuestion,
  split: Split,
): Promise<[SplitParts, Balance]> {
  const whole = await figureBalance(ctx, asked);
  const rows: SplitParts['rows'] = [];
  for (const { key, asked: own } of await timesOf(ctx, asked, question, split))
    rows.push({
      ...{ member: key, path: [key], depth: 0, parts: null, cells: [] },
      balance: await figureBalance(ctx, own),
    });
  const balances = rows.map((r) => r.balance);
  const sum = emptyBalance();
  for (const balance of balances) addBalance(sum, balance);
  // Openings of consecutive windows are no parts of a whole; only what moved in them is.
  const { opening, roll, closing } = whole;
  return [{ rows, columns: [], sum: { ...sum, opening, roll, closing } }, withSidesOf(whole, balances)];
}

async function timeAcross(
  ctx: Context,
  asked: ResolvedFigure,
  question: SplitQuestion,
  across: Split,
): Promise<[SplitParts, Balance]> {
  const { splits, trees } = question;
  const [leaves, whole] = await leavesOf(ctx, asked, splits);
  const sheet = splitOfBalances(leaves, { splits, across: null, trees });
  const times = await timesOf(ctx, asked, question, across);
  const columns: Map<string, Balance>[] = [];
  for (const { asked: own } of times) {
    const [held] = await leavesOf(ctx, own, splits);
    const { rows } = splitOfBalances(held, { splits, across: null, trees });
    columns.push(new Map(rows.map((row) => [pathKey(row.path), row.balance])));
  }
  return [
    {
      ...sheet,
      columns: times.map(({ key }) => key),
      rows: sheet.rows.map((row) => ({
        ...row,
        cells: columns.map((column) => column.get(pathKey(row.path)) ?? emptyBalance()),
      })),
    },
    whole,
  ];
}
