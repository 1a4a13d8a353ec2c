import { ACCOUNT_TYPES, type Account, type AccountType } from './ledger';
import { collapsed, PATTERN_MAX, patternOf } from './pattern';

/**
 * Account selections as a person says them (method.md §5):
 * `4000 to 4999, 52*, type expense, group Vessel running, classification Current, cash flow operating, except 5210`.
 * Everything after `except` is taken away. Naming a heading names all beneath it.
 */
export type Pick =
  | { is: 'code'; code: string }
  | { is: 'range'; from: string; to: string }
  | { is: 'pattern'; pattern: string }
  | { is: 'type'; type: AccountType }
  | { is: 'group'; group: string }
  | { is: 'classification'; classification: string }
  /** Cash-flow activity of the account; `cash` for cash itself. */
  | { is: 'flow'; flow: string };

export interface Selection {
  take: Pick[];
  except: Pick[];
}

/** Raised with the word that was not understood and words near to it. */
export class SelectionError extends Error {
  constructor(
    readonly word: string,
    message: string,
    readonly near: string[] = [],
  ) {
    super(message + didYouMean(near));
    this.name = 'SelectionError';
  }
}

const ALL = /^all(\s+accounts)?$/i;

/** @throws SelectionError when a part cannot be read at all; whether codes exist is asked by `accountsIn`. */
export function parseSelection(text: string): Selection {
  const selection: Selection = { take: [], except: [] };
  let side = selection.take;
  let all = false;
  for (const raw of text.split(/[,;]/)) {
    let part = raw.trim().replace(/^and\s+/i, '');
    if (part === '') continue;
    const [before, after] = part.split(/(?:^|\s+)except\s+/i);
    if (after !== undefined) {
      if (ALL.test(before ?? '')) all = true;
      else if (before?.trim()) side.push(parsePick(before.trim()));
      side = selection.except;
      part = after.trim();
    }
    if (ALL.test(part)) {
      all = true;
      continue;
    }
    if (/^except$/i.test(part)) throw new SelectionError(part, 'say what to leave out after “except”');
    side.push(parsePick(part));
  }
  if (all) return { take: [], except: selection.except };
  if (selection.take.length + selection.except.length === 0) {
    throw new SelectionError(text, 'the account selection is empty');
  }
  return selection;
}

/**
 * The posting accounts that a selection takes from a chart.
 * @throws SelectionError naming the first code, type or group that the chart does not know
 */
export function accountsIn(selection: Selection, chart: readonly Account[]): Set<string> {
  const index = chartIndex(chart);
  const taken = new Set<string>();
  if (selection.take.length === 0) for (const a of chart) if (a.posting) taken.add(a.code);
  for (const pick of selection.take) for (const code of codesOf(pick, index)) taken.add(code);
  for (const pick of selection.except) for (const code of codesOf(pick, index)) taken.delete(code);
  return taken;
}

/** Says a selection back in words. */
export function selectionText(selection: Selection): string {
  const take = selection.take.map(pickText).join(', ');
  const except = selection.except.map(pickText).join(', ');
  if (!except) return take;
  return `${take || 'all accounts'}, except ${except}`;
}

function parsePick(part: string): Pick {
  const range = /^(\S+)\s+to\s+(\S+)$/i.exec(part);
  if (range) return rangePick(range[1] as string, range[2] as string);
  const type = /^type\s+(.+)$/i.exec(part);
  if (type) {
    const word = (type[1] as string).trim().toLowerCase();
    const known = ACCOUNT_TYPES.find((t) => t === word || `${t}s` === word);
    if (!known) throw new SelectionError(word, `“${word}” is no account type`, nearest(word, ACCOUNT_TYPES));
    return { is: 'type', type: known };
  }
  const classification = /^classification\s+(.+)$/i.exec(part);
  if (classification) return { is: 'classification', classification: (classification[1] as string).trim() };
  const flow = /^(?:cash flow|flow)\s+(.+)$/i.exec(part);
  if (flow) return { is: 'flow', flow: (flow[1] as string).trim().toLowerCase() };
  const group = /^group\s+(.+)$/i.exec(part);
  if (group) return { is: 'group', group: (group[1] as string).trim() };
  if (/[*?]/.test(part)) {
    if (part.length > PATTERN_MAX)
      throw new SelectionError(part.slice(0, 20), `a pattern has at most ${PATTERN_MAX} characters`);
    return { is: 'pattern', pattern: collapsed(part) };
  }
  return { is: 'code', code: part.replace(/^accounts?\s+/i, '') };
}

function rangePick(from: string, to: string): Pick {
  if (from.length !== to.length)
    throw new SelectionError(
      `${from} to ${to}`,
      `“${from} to ${to}” needs ends of equal length; codes are compared by as many leading characters`,
    );
  if (from > to) {
    throw new SelectionError(`${from} to ${to}`, `“${from} to ${to}” runs backwards`, [`${to} to ${from}`]);
  }
  return { is: 'range', from, to };
}

function pickText(pick: Pick): string {
  switch (pick.is) {
    case 'code':
      return pick.code;
    case 'range':
      return `${pick.from} to ${pick.to}`;
    case 'pattern':
      return pick.pattern;
    case 'type':
      return `type ${pick.type}`;
    case 'group':
      return `group ${pick.group}`;
    case 'classification':
      return `classification ${pick.classification}`;
    case 'flow':
      return `cash flow ${pick.flow}`;
  }
}

interface ChartIndex {
  chart: readonly Account[];
  byCode: Map<string, Account>;
  children: Map<string, Account[]>;
}

/** Many selections are read against the same chart; one that has grown is another. */
const indexed = new WeakMap<readonly Account[], { accounts: number; index: ChartIndex }>();

function chartIndex(chart: readonly Account[]): ChartIndex {
  const held = indexed.get(chart);
  if (held?.accounts === chart.length) return held.index;
  const index = indexOf(chart);
  indexed.set(chart, { accounts: chart.length, index });
  return index;
}

function indexOf(chart: readonly Account[]): ChartIndex {
  const children = new Map<string, Account[]>();
  for (const a of chart) {
    if (a.parent === null) continue;
    const list = children.get(a.parent);
    if (list) list.push(a);
    else children.set(a.parent, [a]);
  }
  return { chart, byCode: new Map(chart.map((a) => [a.code, a])), children };
}

function* codesOf(pick: Pick, index: ChartIndex): Iterable<string> {
  switch (pick.is) {
    case 'code': {
      const account = index.byCode.get(pick.code);
      if (!account) throw unknownCode(pick.code, index.chart);
      yield* postingBeneath(account, index);
      return;
    }
    case 'range': {
      for (const a of index.chart) if (a.posting && inRange(a.code, pick)) yield a.code;
      // A heading is named for what is beneath it where it ends a range; at its start or inside it adds nothing.
      const last = index.byCode.get(pick.to);
      if (last) yield* postingBeneath(last, index);
      return;
    }
    case 'pattern': {
      const pattern = patternOf(pick.pattern);
      for (const a of index.chart) if (pattern.test(a.code)) yield* postingBeneath(a, index);
      return;
    }
    case 'type':
      for (const a of index.chart) if (a.posting && a.type === pick.type) yield a.code;
      return;
    case 'group':
      yield* withWord(pick.group, 'no account is in a group', index, (a) => a.groups);
      return;
    case 'classification':
      yield* withWord(pick.classification, 'no account has the classification', index, (a) =>
        a.classification ? [a.classification] : [],
      );
      return;
    case 'flow':
      yield* withWord(pick.flow, 'no account is of the cash-flow activity', index, (a) => (a.flow ? [a.flow] : []));
  }
}

/** The same; none where the chart does not have what the selection names. */
export function accountsAmong(selection: Selection, chart: readonly Account[]): Set<string> {
  try {
    return accountsIn(selection, chart);
  } catch (error) {
    if (error instanceof SelectionError) return new Set();
    throw error;
  }
}

/** Posting accounts that have a word among theirs, in any case. @throws SelectionError where none has */
function* withWord(
  word: string,
  none: string,
  { chart }: ChartIndex,
  of: (account: Account) => readonly string[],
): Iterable<string> {
  const wanted = word.toLowerCase();
  const known = new Set(chart.flatMap((a) => of(a)));
  if (![...known].some((w) => w.toLowerCase() === wanted))
    throw new SelectionError(word, `${none} “${word}”`, nearest(word, [...known]));
  for (const a of chart) if (a.posting && of(a).some((w) => w.toLowerCase() === wanted)) yield a.code;
}

function* postingBeneath(account: Account, index: ChartIndex, seen = new Set<string>()): Iterable<string> {
  if (seen.has(account.code)) return;
  seen.add(account.code);
  if (account.posting) yield account.code;
  for (const child of index.children.get(account.code) ?? []) yield* postingBeneath(child, index, seen);
}

/** By as many leading characters as the ends have, which are equally long: of digits the order is that of numbers. */
function inRange(code: string, { from, to }: { from: string; to: string }): boolean {
  const leading = code.slice(0, from.length);
  return leading.length === from.length && from <= leading && leading <= to;
}

function unknownCode(code: string, chart: readonly Account[]): SelectionError {
  const dashed = /^(\S+?)\s*[-–]\s*(\S+)$/.exec(code);
  if (dashed) return new SelectionError(code, `there is no account “${code}”`, [`“${dashed[1]} to ${dashed[2]}”`]);
  const word = code.toLowerCase();
  const named = chart.filter((a) => word.length > 2 && a.name.toLowerCase().includes(word)).slice(0, 3);
  const near =
    named.length > 0
      ? named.map((a) => `${a.code} ${a.name}`)
      : nearest(
          code,
          chart.map((a) => a.code),
        );
  return new SelectionError(code, `there is no account “${code}”`, near);
}

/** How what was written may have been meant, at the end of a sentence that says it is not there. */
export const didYouMean = (near: readonly string[]): string =>
  near.length > 0 ? `; did you mean ${near.join(' or ')}?` : '';

/** Up to three words at the least edit distance, none when all are far off. Words of very unlike lengths are not even compared. */
export function nearest(word: string, words: readonly string[]): string[] {
  const ranked: { w: string; far: number }[] = [];
  for (const w of words) {
    const most = Math.max(1, Math.floor(Math.max(w.length, word.length) / 3));
    if (word.length > NEAR_MAX || Math.abs(w.length - word.length) > most) continue;
    const far = distance(word.toLowerCase(), w.toLowerCase());
    if (far <= most) ranked.push({ w, far });
  }
  return ranked
    .sort((a, b) => a.far - b.far)
    .slice(0, 3)
    .map(({ w }) => w);
}

/** Nobody mistypes a word as long as this. */
const NEAR_MAX = 100;

function distance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      next.push(
        Math.min(
          (row[j] as number) + 1,
          (next[j - 1] as number) + 1,
          (row[j - 1] as number) + (a[i - 1] === b[j - 1] ? 0 : 1),
        ),
      );
    }
    row = next;
  }
  return row[b.length] as number;
}
