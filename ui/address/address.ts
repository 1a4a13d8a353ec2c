import type { Entities } from '@/contracts/answers/charts';
import { STEP_VIEWS, TRACED, type Traced } from '@/contracts/traced';
import { ATTRIBUTES, LINE_NUMBERS } from '@/core/figure';
import { splitName } from './splitNames';

/**
 * The address of a screen: the first figure's scope, and the steps taken from it. All of it is in the URL, so that a
 * copied link, browser history and a reload lead to the same screen.
 */
export type Origin = 'trial-balance' | 'statements' | 'lines' | 'hits';
/** Places whose first sheet is of a scope that can be chosen. */
export const ORIGINS: readonly Origin[] = ['trial-balance', 'statements', 'lines'];

export interface Step {
  view: (typeof STEP_VIEWS)[number];
  /** What a split is by, the outermost first, with | between; when open orders fall due. */
  by?: string;
  /** What is on the columns of a split. */
  across?: string;
  /** A column of it that is split further, as member|split. */
  open?: string;
  /** Columns to compare with, with commas between; absent: those of the sheet above. */
  columns?: string;
  /** What they compare; the movement if absent. */
  compare?: string;
  /** How it is drawn below; absent: not at all. */
  picture?: string;
  /** What a row of its ledger stands for, where that is not a line. */
  runs?: string;
  /** Id of the entry shown, or number of the document. */
  entry?: string;
  /** How a statement is shown: which one, with which columns, opened how far. */
  options?: Record<string, string>;
  /** What was traced, in words. */
  label: string;
  /** Row and column of the sheet above from which the step was taken. */
  row: string;
  column: string;
  /** Which measure of the figure was traced, where the column does not tell (measureAt). */
  measure?: Traced;
  /** Scope parameters put in place of those of the same name. */
  put: Record<string, string[]>;
  /** Clauses that were added on this sheet: from here on only what they let through. */
  only?: Record<string, string[]>;
}

export interface Screen {
  origin: Origin;
  /** Scope parameters of the first figure. */
  scope: URLSearchParams;
  /** How the first sheet is shown: zero, tree, retained; of a statement which one, with which columns, opened how far. */
  options: Record<string, string>;
  steps: Step[];
}

/** A screen whose sentence can be kept by name; what tests found is a run's own. */
export type KeptScreen = Screen & { origin: Exclude<Origin, 'hits'> };
export const canBeKept = (screen: Screen): screen is KeptScreen => screen.origin !== 'hits';

const OPTIONS = [
  'zero',
  'level',
  'tree',
  'retained',
  'sort',
  'statement',
  'columns',
  'open',
  'across',
  'scheme',
  'compare',
  'eliminated',
  'by',
  'amounts',
  'labels',
  'lang',
  'thread',
  'order',
  'sides',
  'runs',
  'openings',
  'run',
  'test',
  'state',
  'key',
  'ask',
];

export function readScreen(origin: Origin, params: URLSearchParams): Screen {
  const scope = new URLSearchParams();
  const options: Record<string, string> = {};
  for (const [name, value] of params) {
    if (name === 'step') continue;
    if (OPTIONS.includes(name)) options[name] = value;
    else scope.append(name, value);
  }
  return { origin, scope, options, steps: params.getAll('step').map(readStep) };
}

export function screenPath({ origin, scope, options, steps }: Screen): string {
  const params = new URLSearchParams(scope);
  for (const [name, value] of Object.entries(options)) params.set(name, value);
  for (const step of steps) params.append('step', writeStep(step));
  const text = params.toString();
  return `/${origin}${text ? `?${text}` : ''}`;
}

/** Parameters as the server writes them, each as the list of its values. */
export const asPut = (refine: Record<string, string | string[]>): Record<string, string[]> =>
  Object.fromEntries(Object.entries(refine).map(([name, value]) => [name, [value].flat()]));

/** What a split is by, in words. @param dimensions by their names, where they are known */
export function splitWords(by: string, across?: string, dimensions?: Entities['dimensions']): string {
  const word = (text: string): string => {
    const [, of, within] = /^(dim:[^/]+)\/(.+)$/.exec(text) ?? [text, text];
    const name = splitName(of ?? text, dimensions)
      .replace(/^dim:/, '')
      .toLowerCase();
    return within ? `${name}, ${within}` : name;
  };
  return `by ${by.split('|').map(word).join(', then ')}${across ? `, across ${word(across)}` : ''}`;
}

/** The scope after so many steps. */
export function scopeAt({ scope, steps }: Screen, depth: number): URLSearchParams {
  const found = new URLSearchParams(scope);
  for (const step of steps.slice(0, depth)) {
    changedScope(found, step.put);
    if (step.only) changedScope(found, step.only);
  }
  return found;
}

/** The same in the currency of the books, for what is told of lines as they were booked. */
export function inBooks(scope: URLSearchParams): URLSearchParams {
  const found = new URLSearchParams(scope);
  found.delete('in');
  return found;
}

/** What asks for the open orders that a step leads to. */
export function ordersAsked(screen: Screen, depth: number): URLSearchParams {
  const asked = scopeAt(screen, depth);
  asked.set('due', screen.steps[depth - 1]?.by ?? 'now');
  return asked;
}

/** How the sheet after so many steps is shown. */
export const optionsAt = ({ options, steps }: Screen, depth: number): Record<string, string> =>
  depth === 0 ? options : (steps[depth - 1]?.options ?? {});

/** The screen with its last sheet shown in another way. */
export function withOptions(screen: Screen, options: Record<string, string>): Screen {
  const depth = screen.steps.length;
  if (depth === 0) return { ...screen, options };
  return { ...screen, steps: screen.steps.map((s, i) => (i === depth - 1 ? { ...s, options } : s)) };
}

/** Puts parameters in place of those of the same name; a named window gives way to ends. */
export function changedScope(scope: URLSearchParams, put: Record<string, string[]>): void {
  if ('from' in put || 'to' in put) scope.delete('window');
  for (const [name, values] of Object.entries(put)) {
    scope.delete(name);
    for (const value of values) if (value !== '') scope.append(name, value);
  }
}

export const traced = (screen: Screen, step: Step): Screen => ({
  ...screen,
  options: withoutSort(screen.options),
  steps: [...screen.steps, step.view === 'split' ? withColumns(screen, step) : step],
});

/** Columns beside a sheet stay beside what it is broken down into (method.md §5), but for the window of one of them. */
function withColumns(screen: Screen, step: Step): Step {
  const above = screen.steps.findLast((s) => s.columns !== undefined);
  const columns = above?.columns ?? screen.options.columns ?? '';
  const another = step.column !== 'window' && step.put.from !== undefined && columns.split(',').includes(step.column);
  if (step.columns !== undefined || step.across || columns === '' || another) return step;
  const compare =
    step.compare ??
    above?.compare ??
    (screen.origin === 'trial-balance' ? (screen.options.compare ?? 'closing') : undefined);
  return { ...step, columns, ...(compare ? { compare } : {}) };
}

/** What two narrowings ask together: of one name the second holds, of two windows what is in both. */
export function together(a: Record<string, string[]>, b: Record<string, string[]>): Record<string, string[]> {
  const [from, to] = [
    [a.from?.[0], b.from?.[0]],
    [a.to?.[0], b.to?.[0]],
  ].map((ends) => ends.filter((end) => end !== undefined).sort());
  return {
    ...a,
    ...b,
    ...(from?.length === 2 && to?.length === 2 ? { from: [from[1] as string], to: [to[0] as string] } : {}),
  };
}

/**
 * What several rows of a sheet ask together, as one narrowing: they may differ in one thing only, such as the account,
 * since only then their values side by side ask for these rows and no others.
 * @returns null where they differ in more
 */
export function allOf(rows: readonly Record<string, string[]>[]): Record<string, string[]> | null {
  const [first] = rows;
  if (!first) return null;
  const names = [...new Set(rows.flatMap((r) => Object.keys(r)))];
  const differing = names.filter((n) => new Set(rows.map((r) => (r[n] ?? []).join('\n'))).size > 1);
  const span = differing.length > 0 && differing.every((n) => n === 'from' || n === 'to');
  if (span) {
    // Whole periods can be one by one; other windows only as one that goes through.
    const periods = rows.map((r) => [r.from?.[0] ?? '', r.to?.[0] ?? '']);
    if (!periods.every(([from, to]) => from === to && /^\d{4}\.\d\d$/.test(from ?? ''))) return null;
    const ends = periods.map(([from]) => from as string).sort();
    return { ...first, from: [ends[0] as string], to: [ends[ends.length - 1] as string], period: ends };
  }
  const [name, another] = differing;
  if (another !== undefined) return null;
  if (name === undefined) return first;
  const values = rows.flatMap((r) => r[name] ?? []);
  if (values.length < rows.length || values.some((v) => v.startsWith('~not:'))) return null;
  if (name !== 'accounts')
    return ['min', 'max', 'text', 'load'].includes(name) ? null : { ...first, [name]: [...new Set(values)] };
  return values.some((v) => v.includes('except')) ? null : { ...first, accounts: [values.join(', ')] };
}

/** A narrowing turned round: all that the scope asks for but that. @returns null where it cannot be said in one clause */
export function allBut(scope: URLSearchParams, put: Record<string, string[]>): Record<string, string[]> | null {
  const names = Object.keys(put).filter((n) => (put[n] ?? []).some((v) => v !== ''));
  const [name] = names;
  if (name === undefined || names.length > 1) return null;
  const values = put[name] ?? [];
  if (name === 'accounts') {
    const held = scope.get('accounts');
    return /,|except/.test(values.join())
      ? null
      : { accounts: [[...(held ? [held] : []), ...values.map((v) => `except ${v}`)].join(', ')] };
  }
  if (!name.startsWith('dim.') && !TURNED.includes(name)) return null;
  return { [name]: [...scope.getAll(name), ...values.map((v) => `~not:${v}`)] };
}

/** Clauses that can ask for all but what they name. */
const TURNED: readonly string[] = [...ATTRIBUTES, ...LINE_NUMBERS];

/** A step that is about whole books: the clauses of the sheets above are put away, whose books and when stay. */
export function ofWholeBooks(screen: Screen, step: Step): Step {
  const names = new Set(scopeAt(screen, screen.steps.length).keys());
  const cleared = [...names].filter((n) => !FRAME.includes(n)).map((n): [string, string[]] => [n, []]);
  return { ...step, put: { ...Object.fromEntries(cleared), ...step.put } };
}

/** The screen as it was after fewer steps. */
export const backTo = (screen: Screen, depth: number): Screen => ({
  ...screen,
  options: withoutSort(screen.options),
  steps: screen.steps.slice(0, depth),
});

/** Whose books, when, and which lines count: what a whole thread is about. */
const FRAME = [
  'entity',
  'from',
  'to',
  'window',
  'goesOn',
  'period',
  'status',
  'adjustments',
  'accounting',
  'basis',
  'set',
  'load',
  'in',
  'heavy',
];

/**
 * A part of the scope changed. A clause belongs to the sheet on which it is given, and those above stay as they were; whose
 * books and when belongs to the step that set it, else to the first figure, so that the whole thread follows. Taking away
 * what a step set goes back to before that step.
 */
export function changed(screen: Screen, put: Record<string, string[]>): Screen {
  const names = Object.keys(put);
  const removing = Object.values(put).every((v) => v.length === 0);
  const given = screen.steps.findLastIndex((s) => names.some((n) => s.only && n in s.only));
  if (removing && given >= 0) return withOnly(screen, given, (only) => without(only, names));
  const last = screen.steps.length - 1;
  if (!removing && last >= 0 && !names.some((n) => FRAME.includes(n)))
    return withOnly(screen, last, (only) => ({ ...only, ...put }));
  const at = screen.steps.findLastIndex((s) => names.some((n) => n in s.put));
  if (at >= 0 && removing) return backTo(screen, at);
  if (at >= 0) {
    const steps = screen.steps.map((s, i) => (i === at ? { ...s, put: { ...s.put, ...put } } : s));
    return { ...screen, steps };
  }
  const scope = new URLSearchParams(screen.scope);
  if ('window' in put) for (const end of ['from', 'to']) scope.delete(end);
  changedScope(scope, put);
  return { ...screen, scope };
}

/** The clauses of a lower sheet given to the whole thread, which then begins with them. @param at the step that has them */
export function carriedUp(screen: Screen, at: number): Screen {
  const scope = new URLSearchParams(screen.scope);
  changedScope(scope, screen.steps[at]?.only ?? {});
  return { ...withOnly(screen, at, () => ({})), scope };
}

/** The clauses that a step has of its own, changed. */
function withOnly(
  screen: Screen,
  at: number,
  change: (only: Record<string, string[]>) => Record<string, string[]>,
): Screen {
  const steps = screen.steps.map((step, i) => {
    if (i !== at) return step;
    const { only: former = {}, ...bare } = step;
    const only = change(former);
    return Object.keys(only).length > 0 ? { ...bare, only } : bare;
  });
  return { ...screen, options: withoutSort(screen.options), steps };
}

const without = (put: Record<string, string[]>, names: readonly string[]): Record<string, string[]> =>
  Object.fromEntries(Object.entries(put).filter(([name]) => !names.includes(name)));

const withoutSort = ({ sort: _sort, ...rest }: Record<string, string>): Record<string, string> => rest;

/** Before the name of a clause that was added on a sheet. */
const ONLY = '~only:';

function writeStep({
  view,
  by,
  across,
  open,
  columns,
  compare,
  picture,
  runs,
  entry,
  options,
  label,
  row,
  column,
  measure,
  put,
  only,
}: Step): string {
  const params = new URLSearchParams({ '~v': view, '~l': label, '~r': row, '~c': column });
  if (by) params.set('~b', by);
  if (across) params.set('~x', across);
  if (open) params.set('~o', open);
  if (columns !== undefined) params.set('~k', columns);
  if (compare) params.set('~m', compare);
  if (picture) params.set('~p', picture);
  if (runs) params.set('~n', runs);
  if (entry) params.set('~e', entry);
  if (options) params.set('~z', new URLSearchParams(options).toString());
  if (measure) params.set('~w', measure);
  // What is put away is written as nothing, so that it is not forgotten.
  for (const [name, values] of Object.entries(put))
    for (const value of values.length > 0 ? values : ['']) params.append(name, value);
  for (const [name, values] of Object.entries(only ?? {}))
    for (const value of values) params.append(ONLY + name, value);
  return params.toString();
}

function readStep(text: string): Step {
  const params = new URLSearchParams(text);
  const put: Record<string, string[]> = {};
  const only: Record<string, string[]> = {};
  for (const name of new Set(params.keys())) {
    if (name.startsWith(ONLY)) only[name.slice(ONLY.length)] = params.getAll(name);
    else if (!name.startsWith('~')) put[name] = params.getAll(name);
  }
  const view = params.get('~v');
  const by = params.get('~b');
  const across = params.get('~x');
  const entry = params.get('~e');
  const options = params.get('~z');
  const runs = params.get('~n');
  const open = params.get('~o');
  const columns = params.get('~k');
  const compare = params.get('~m');
  const picture = params.get('~p');
  const measure = TRACED.find((m) => m === params.get('~w'));
  return {
    view: STEP_VIEWS.find((v) => v === view) ?? 'split',
    ...(by ? { by } : {}),
    ...(across ? { across } : {}),
    ...(open ? { open } : {}),
    ...(columns === null ? {} : { columns }),
    ...(compare ? { compare } : {}),
    ...(picture ? { picture } : {}),
    ...(runs ? { runs } : {}),
    ...(entry ? { entry } : {}),
    ...(options === null ? {} : { options: Object.fromEntries(new URLSearchParams(options)) }),
    ...(measure ? { measure } : {}),
    label: params.get('~l') ?? '',
    row: params.get('~r') ?? '',
    column: params.get('~c') ?? '',
    put,
    ...(Object.keys(only).length > 0 ? { only } : {}),
  };
}
