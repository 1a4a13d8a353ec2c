import { type Calendar, type Ordinal, periodText } from './calendar';
import { type Account, LINE_KINDS } from './ledger';
import { accountsIn, parseSelection, SelectionError, selectionText } from './selection';
import { windowText } from './sentence';
import { typedStatus, typedWindow } from './typedWindow';
import { exactly } from './values';

/** A reading of what was typed: what it would put into the scope, or which clause it opens. */
export interface Reading {
  key: string;
  /** What it is, before its name. */
  kind: string;
  name: string;
  put?: Record<string, string[]>;
  opens?: string;
  /** By what the sheet is to be split; what is absent stays as it is. */
  split?: SplitPhrase;
  /** Where no line has it, the next reading is what was meant. */
  orNext?: true;
}

/** Whether a reading asks for words as they were typed, which may be those of no line. */
export const isGuess = (reading: Reading | undefined): boolean =>
  reading?.key === 'text' || reading?.key.startsWith('said:') === true;

export interface SplitPhrase {
  by?: string[];
  across?: string;
}

/** A clause that can be said by its name and what it asks, such as “quantity over 100” or “not journal GL”. */
export interface Sayable {
  name: string;
  words: readonly string[];
  /** Its values are numbers, written as people here write them. */
  isNumber: boolean;
}

const EACH_MAX = 8;
const AMOUNT = String.raw`([\d][\d\s.,']*)`;
const OVER = new RegExp(`^(?:amounts? )?(?:over|above|from|at least|more than|>=?)\\s*${AMOUNT}$`, 'i');
const UNDER = new RegExp(`^(?:amounts? )?(?:under|below|up to|at most|less than|<=?)\\s*${AMOUNT}$`, 'i');
const BETWEEN = new RegExp(`^(?:amounts? )?between\\s+${AMOUNT}\\s+and\\s+${AMOUNT}$`, 'i');
/** An amount by itself has decimals: a whole number is rather an account. */
const EXACTLY = new RegExp(`^(?:(?:amounts?|exactly|=)\\s*(?:of\\s+)?${AMOUNT}|([\\d][\\d\\s.,']*[.,]\\d{2}))$`, 'i');

/** A dimension with the members that can be asked for. */
interface TypedDimension {
  code: string;
  name: string;
  members: readonly { code: string; name: string }[];
}

/** What is known of the books when words are typed. */
export interface Known {
  clauses: readonly { name: string; label: string }[];
  dimensions: readonly TypedDimension[];
  accounts: readonly { account: string; name: string }[];
  /** Counterparties of the scope, where they are at hand. */
  parties?: readonly { code: string; name: string }[];
  /** The chart that selections of accounts are taken from; empty where it is not at hand. */
  chart?: readonly Account[];
  /** Companies, with the currencies of their books. */
  companies?: readonly { code: string; name: string; currency: string }[];
  /** Rows of statements, with the accounts that each takes. */
  captions?: readonly { label: string; accounts: string }[];
  /** The calendar by which windows are said, and the latest period with lines. */
  time?: { calendar: Calendar; latest: Ordinal } | undefined;
  /** Turns an amount as it is typed here into a decimal. */
  plain(text: string): string;
  /** What the sheet can be split by, with names; none where it cannot. */
  splits?: readonly [key: string, name: string][];
  /** Clauses that can be said by their names. */
  sayable?: readonly Sayable[];
}

/**
 * Everything that words typed into the scope can mean, the likeliest first. Where a word fits several things all of
 * them are there, so that nobody is misunderstood.
 */
export function understood(
  words: string,
  {
    clauses,
    dimensions,
    accounts,
    parties = [],
    chart = [],
    companies = [],
    captions = [],
    time,
    plain,
    splits = [],
    sayable = [],
  }: Known,
): Reading[] {
  const typed = words.trim().replace(/^only\s+(?=\S)/i, '');
  const split = splits.length > 0 ? readSplits(typed, splits) : null;
  if (split) return split;
  const opens = (list: typeof clauses): Reading[] =>
    list.map(({ name, label }) => ({ key: `clause:${name}`, kind: 'lines with', name: label, opens: name }));
  if (typed === '') return opens(clauses);
  const amounts = readAmounts(typed, plain);
  const wanted = typed.toLowerCase();
  const rank = (code: string, name: string): number => {
    const [c, n] = [code.toLowerCase(), name.toLowerCase()];
    if (c === wanted || n === wanted) return 0;
    if (c.startsWith(wanted) || n.startsWith(wanted)) return 1;
    return n.split(/\s+/).some((w) => w.startsWith(wanted)) ? 2 : n.includes(wanted) || c.includes(wanted) ? 3 : 9;
  };
  const best = <T extends { code: string; name: string }>(list: readonly T[]): (T & { at: number })[] =>
    list
      .map((item) => ({ ...item, at: rank(item.code, item.name) }))
      .filter((item) => item.at < 9)
      .sort((a, b) => a.at - b.at)
      .slice(0, EACH_MAX);
  const members = dimensions.flatMap((d) =>
    best(d.members).map((m) => ({
      at: m.at,
      key: `${d.code}:${m.code}`,
      kind: d.name.toLowerCase(),
      name: `${m.name}, ${m.code}`,
      put: { [`dim.${d.code}`]: [m.code] },
    })),
  );
  const inChart = best(accounts.map((a) => ({ code: a.account, name: a.name }))).map((a) => ({
    at: a.at,
    key: `account:${a.code}`,
    kind: 'account',
    name: `${a.code} ${a.name}`,
    put: { accounts: [a.code] },
  }));
  const trading = best(parties).map((p) => ({
    at: p.at,
    key: `party:${p.code}`,
    kind: 'counterparty',
    name: p.name === p.code ? p.code : `${p.name}, ${p.code}`,
    put: { counterparty: [exactly(p.code)] },
  }));
  const ofCompanies = best(companies).map((c) => ({
    at: c.at,
    key: `company:${c.code}`,
    kind: 'company',
    name: `${c.code} ${c.name}`,
    put: { entity: [c.code] },
  }));
  const ofCaptions = best(captions.map((c) => ({ ...c, code: c.accounts, name: c.label }))).map((c) => ({
    at: c.at,
    key: `caption:${c.name}`,
    kind: 'accounts of the row',
    name: c.name,
    put: { accounts: [c.accounts] },
  }));
  const named = [...inChart, ...members, ...trading, ...ofCompanies, ...ofCaptions]
    .sort((a, b) => a.at - b.at)
    .map(({ at: _at, ...reading }) => reading);
  const description: Reading = { key: 'text', kind: 'descriptions with', name: `“${typed}”`, put: { text: [typed] } };
  return [
    ...readStatus(typed),
    ...readPhrase(typed, companies),
    ...(time ? readWindow(typed, time) : []),
    ...amounts,
    ...readSelection(typed, chart),
    ...readSaid(typed, sayable, plain),
    ...named,
    ...opens(clauses.filter((c) => c.label.toLowerCase().includes(wanted))),
    ...readNumber(typed, named.length > 0),
    description,
  ];
}

const LINES = { posted: 'posted lines', unposted: 'unposted lines only', all: 'posted and unposted lines' };

function readStatus(typed: string): Reading[] {
  const status = typedStatus(typed);
  return status ? [{ key: 'status', kind: 'count', name: LINES[status], put: { status: [status] } }] : [];
}

function readWindow(typed: string, { calendar, latest }: NonNullable<Known['time']>): Reading[] {
  const found = typedWindow(typed, calendar, latest);
  if (!found) return [];
  const { window, periods } = found;
  const [from, to] =
    window.by === 'period' ? [periodText(window.from), periodText(window.to)] : [window.from, window.to];
  const texts = periods?.map(periodText) ?? [];
  const name = periods ? `periods ${texts.join(' and ')}` : windowText(window, calendar);
  return [{ key: 'window', kind: 'window', name, put: { window: [], from: [from], to: [to], period: texts } }];
}

const WINDOW_PHRASES: [phrase: RegExp, window: string, said: string][] = [
  [/^(?:ytd|year to date|this year so far|the year so far)$/i, 'year-to-date', 'year to date'],
  [/^(?:latest|last) period with lines$|^latest period$/i, 'latest-period', 'latest period with lines'],
  [/^(?:current|this) period$/i, 'current-period', 'current period'],
  [/^(?:last|last closed|previous) period$/i, 'last-period', 'last closed period'],
  [/^(?:previous|last) month$/i, 'previous-month', 'previous month'],
  [/^last (?:fiscal )?year end$|^end of last (?:fiscal )?year$/i, 'last-year-end', 'as at the last fiscal year end'],
  [
    /^trailing (?:12|twelve)(?: periods| months)?$|^last (?:12|twelve) (?:periods|months)$/i,
    'trailing-12',
    'trailing twelve periods',
  ],
  [/^(?:everything|all periods|all dates|whenever)$/i, 'everything', 'everything, whatever its date'],
];

/** Kinds of lines by the words for several of them. */
const KIND_WORDS: Record<string, string> = {
  opening: 'opening',
  openings: 'opening',
  'opening entries': 'opening',
  adjustments: 'adjustment',
  'adjustment entries': 'adjustment',
  'closing entries': 'closing',
  reversals: 'reversal',
  'reversal entries': 'reversal',
  revaluation: 'revaluation',
  revaluations: 'revaluation',
  ...Object.fromEntries(LINE_KINDS.map((kind) => [`kind ${kind}`, kind])),
};

/** What has words of its own: named windows, reconciled lines, kinds of lines, adjustment periods, a currency, a load. */
function readPhrase(typed: string, companies: NonNullable<Known['companies']>): Reading[] {
  const words = typed.toLowerCase().replace(/\s+/g, ' ');
  const [, window, said] = WINDOW_PHRASES.find(([phrase]) => phrase.test(words)) ?? [];
  if (window) {
    const put = { window: [window], from: [], to: [], period: [] };
    return [{ key: 'named', kind: 'window', name: said as string, put }];
  }
  if (/^(?:not |not yet |un)reconciled(?: lines)?$|^reconciled (?:no|none)$|^(?:only )?open lines$/.test(words))
    return [{ key: 'reconciled', kind: 'lines', name: 'not yet reconciled', put: { reconciled: ['~none'] } }];
  if (/^(?:not |not yet |un)ticked(?: lines)?$|^ticked no$/.test(words))
    return [{ key: 'ticked', kind: 'lines', name: 'not yet ticked', put: { ticked: ['no'] } }];
  if (/^ticked(?: lines| yes)?$/.test(words))
    return [{ key: 'ticked', kind: 'lines', name: 'that are ticked', put: { ticked: ['yes'] } }];
  if (/^reconciled(?: lines| yes)?$/.test(words))
    return [{ key: 'reconciled', kind: 'lines', name: 'that are reconciled', put: { reconciled: ['~not:~none'] } }];
  const [, adjustments] = /^(with|without) adjustment(?: period)?s?$/.exec(words) ?? [];
  if (adjustments)
    return [{ key: 'adjustments', kind: adjustments, name: 'adjustment periods', put: { adjustments: [adjustments] } }];
  const [, without, kindWord = ''] = /^(?:(without|no|not|except) |only )?(.+?)(?: only)?$/.exec(words) ?? [];
  const kind = KIND_WORDS[kindWord];
  if (kind)
    return [
      {
        key: 'kind',
        kind: without ? 'without lines of kind' : 'lines of kind',
        name: kind,
        put: { kind: [`${without ? '~not:' : ''}${kind}`] },
      },
    ];
  const [, currency = ''] = /^(?:in|shown in) ([a-z]{3})$/.exec(words) ?? [];
  if (companies.some((c) => c.currency === currency.toUpperCase()))
    return [{ key: 'in', kind: 'shown in', name: currency.toUpperCase(), put: { in: [currency.toUpperCase()] } }];
  const [, load] = /^(?:as of )?load (\d+)$/.exec(words) ?? [];
  return load ? [{ key: 'load', kind: 'as of load', name: load, put: { load: [load] } }] : [];
}

/** A number by itself may be that of an entry or of a document; in capitals too, as most of them are. */
function readNumber(typed: string, isNamed: boolean): Reading[] {
  if (isNamed || !/\d/.test(typed) || /\s/.test(typed) || /[*?]/.test(typed)) return [];
  const values = [...new Set([typed, typed.toUpperCase()])].map(exactly);
  return ['entry', 'document'].map((name) => ({
    ...{ key: `said:${name}`, kind: name, name: typed, orNext: true as const },
    put: { [name]: values },
  }));
}

/** Words of the trade for types of accounts together. */
const STATEMENTS: Record<string, string> = {
  'income statement': 'type income, type expense',
  'profit and loss': 'type income, type expense',
  'balance sheet': 'type asset, type liability, type equity',
};

/** “62*”, “6300 to 6399”, “type expense”, “group Vessel running, except 6210”: only where the chart has such accounts. */
function readSelection(typed: string, chart: readonly Account[]): Reading[] {
  const said = STATEMENTS[typed.toLowerCase()] ?? /^accounts?\s+(.+\sto\s.+)$/i.exec(typed)?.[1];
  const text =
    said ?? (/^(?:assets?|liability|liabilities|equity|income|expenses?)$/i.test(typed) ? `type ${typed}` : typed);
  if (
    text === typed &&
    !/\sto\s|[*?,;]|^(?:type|group|classification|cash flow|flow|all|except|accounts?)\s/i.test(typed)
  )
    return [];
  try {
    const selection = parseSelection(text.replace(/liabilities$/i, 'liability'));
    const { size } = accountsIn(selection, chart);
    const name = `${selectionText(selection)}, ${size} ${size === 1 ? 'account' : 'accounts'}`;
    return size === 0
      ? []
      : [{ key: 'selection', kind: 'accounts', name, put: { accounts: [selectionText(selection)] } }];
  } catch (error) {
    if (error instanceof SelectionError) return [];
    throw error;
  }
}

function readAmounts(typed: string, plain: (text: string) => string): Reading[] {
  const amount = (text: string | undefined): string => plain((text ?? '').trim());
  const [over, under, between] = [OVER.exec(typed), UNDER.exec(typed), BETWEEN.exec(typed)];
  if (over) return [{ key: 'min', kind: 'amounts of', name: `${over[1]} and over`, put: { min: [amount(over[1])] } }];
  if (under) return [{ key: 'max', kind: 'amounts up to', name: under[1] ?? '', put: { max: [amount(under[1])] } }];
  if (between) {
    const put = { min: [amount(between[1])], max: [amount(between[2])] };
    return [{ key: 'between', kind: 'amounts', name: `from ${between[1]} to ${between[2]}`, put }];
  }
  const exact = EXACTLY.exec(typed);
  const whole = exact?.[1] ?? exact?.[2];
  if (whole) {
    const at = amount(whole);
    return [{ key: 'exact', kind: 'amounts of', name: `exactly ${whole.trim()}`, put: { min: [at], max: [at] } }];
  }
  return [];
}

/** How what a clause asks is said, with what that makes of the words that follow. */
const SAID: [how: RegExp, values: (first: string, second: string) => string][] = [
  [/^(?:contains?|containing|with|has)\s+(.+)$/i, (text) => `*${text}*`],
  [/^(?:begins?|begins? with|beginning with|starts?|starts? with|starting with)\s+(.+)$/i, (text) => `${text}*`],
  [/^(?:ends?|ends? with|ending with)\s+(.+)$/i, (text) => `*${text}`],
  [/^(?:between|from)\s+(.+?)\s+(?:and|to)\s+(.+)$/i, (from, to) => `${from}..${to}`],
  [/^(?:over|above|from|after|since|at least|>=?)\s*(.+)$/i, (from) => `${from}..`],
  [/^(?:under|below|up to|before|until|at most|<=?)\s*(.+)$/i, (to) => `..${to}`],
  [/^(?:is|=)\s*(.+)$/i, (value) => value],
  [/^(.+)$/, (value) => value],
];

/** “document begins INV-7”, “quantity not between 5 and 10”, “not journal GL”, “source none”. */
function readSaid(typed: string, sayable: readonly Sayable[], plain: (text: string) => string): Reading[] {
  const [, before = '', rest = typed] = /^(not\s+)?(.*)$/is.exec(typed) ?? [];
  const fitting = sayable
    .flatMap((s) => s.words.map((word) => ({ ...s, word })))
    .filter(({ word }) => rest.toLowerCase().startsWith(`${word} `))
    .sort((a, b) => b.word.length - a.word.length);
  const found = fitting.filter(({ word }) => word.length === fitting[0]?.word.length);
  return found.flatMap(({ name, word, isNumber }): Reading[] => {
    const [, after = '', asked = ''] =
      /^((?:is |does )?not\s+|isn[’']t\s+|doesn[’']t\s+|all but\s+)?(.*)$/is.exec(rest.slice(word.length).trim()) ?? [];
    const not = before !== '' || after !== '';
    const end = (text: string): string => (isNumber ? plain(text.trim()) : text.trim());
    const said =
      asked.toLowerCase() === 'none'
        ? '~none'
        : SAID.map(([how, values]) => ({ match: how.exec(asked), values })).find(({ match }) => match);
    if (said === undefined) return [];
    const value = typeof said === 'string' ? said : said.values(end(said.match?.[1] ?? ''), end(said.match?.[2] ?? ''));
    return [
      {
        key: `said:${name}`,
        kind: not ? `not ${word}` : word,
        name: asked,
        put: { [name]: [not ? `~not:${value}` : value] },
      },
    ];
  });
}

const TERMS_MAX = 4;

/**
 * "by vessel, account across period" as splits; every word may be a part of a name, and one that fits several names is
 * offered as each of them.
 * @returns null where the words do not begin so
 */
function readSplits(typed: string, splits: readonly [key: string, name: string][]): Reading[] | null {
  const [, byText, acrossText] = /^(?:by\s+(.+?))?\s*(?:\bacross\s+(.+))?$/i.exec(typed) ?? [];
  if (byText === undefined && acrossText === undefined) return null;
  const fitting = (word: string): [string, string][] => {
    const wanted = word.trim().toLowerCase();
    const fits = splits.filter(
      ([, name]) =>
        name
          .toLowerCase()
          .split(/\s+/)
          .some((w) => w.startsWith(wanted)) || name.toLowerCase().startsWith(wanted),
    );
    const same = fits.filter(([, name]) => name.toLowerCase() === wanted);
    return (same.length > 0 ? same : fits).map(([key, name]): [string, string] => [key, name.toLowerCase()]);
  };
  const terms = byText?.split(/\s*(?:,|\bthen\b|\bthen by\b)\s*/i).slice(0, TERMS_MAX) ?? [];
  let ways: [string, string][][] = [[]];
  for (const term of terms)
    ways = ways.flatMap((way) => fitting(term).map((choice) => [...way, choice])).slice(0, EACH_MAX);
  const columns: ([string, string] | null)[] = acrossText === undefined ? [null] : fitting(acrossText);
  return ways
    .flatMap((way) => columns.map((across) => ({ way, across })))
    .filter(
      ({ way, across }) =>
        new Set([...way.map(([key]) => key), ...(across ? [across[0]] : [])]).size === way.length + (across ? 1 : 0),
    )
    .slice(0, EACH_MAX)
    .map(({ way, across }): Reading => {
      const by = way.map(([, name]) => name).join(', then ');
      return {
        key: `split:${way.map(([key]) => key).join('|')}:${across?.[0] ?? ''}`,
        kind: by ? 'split by' : 'split',
        name: [by, across ? `across ${across[1]}` : ''].filter(Boolean).join(' '),
        split: { ...(way.length > 0 ? { by: way.map(([key]) => key) } : {}), ...(across ? { across: across[0] } : {}) },
      };
    });
}
