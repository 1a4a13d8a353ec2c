/** One thing to split by in the chooser. */
export interface ListedSplit {
  by: string;
  name: string;
  group: string;
  /** How much it tells of the figure, in words. */
  tells: string | null;
}

/** How much a split tells of the change of a figure: the least members that make 80 % of it, of all of them. */
export interface Telling {
  by: string;
  concentration: number;
  members: number;
}

/** So many of those that tell most are shown first. */
const TELLING_MAX = 4;
const RECENT_MAX = 4;
const RECENT = 'splits:recent';

const GROUPS: [group: string, has: (by: string) => boolean][] = [
  ['Dimensions', (by) => by.startsWith('dim:')],
  ['Time', (by) => ['period', 'month', 'week', 'day'].includes(by)],
  ['Accounts', (by) => by.startsWith('account') || by === 'type' || by === 'entity'],
  ['Parties', (by) => ['counterparty', 'partnerEntity'].includes(by)],
  ['Document', (by) => /^document|^dueDate$|^attachment$|^taxCode$/.test(by)],
  ['Text', (by) => ['description', 'entryDescription'].includes(by)],
];
const groupOf = (by: string): string => GROUPS.find(([, has]) => has(by))?.[0] ?? 'Entry';
const ORDER = [...GROUPS.map(([group]) => group).slice(0, 4), 'Entry', 'Document', 'Text'];

/**
 * What a figure can be split by, as the chooser lists it: what tells most of it first, then what was split by last, then
 * all of it in groups; typed words narrow it to names that have a word beginning so.
 */
export function listedSplits(
  choices: readonly [by: string, name: string][],
  words: string,
  recent: readonly string[],
  telling: readonly Telling[],
): ListedSplit[] {
  const wanted = wantedIn(words);
  const tellsOf = (by: string): string | null => {
    const of = telling.find((t) => t.by === by && t.members > 1);
    return of ? `${of.concentration} of ${of.members} make 80 %` : null;
  };
  const listed = (by: string, group: string): ListedSplit[] =>
    choices.flatMap(([key, name]) => (key === by ? [{ by, name, group, tells: tellsOf(by) }] : []));
  const all = ORDER.flatMap((group) => choices.flatMap(([by]) => (groupOf(by) === group ? listed(by, group) : [])));
  if (wanted !== '') {
    // The closest name is the first, whatever group it is in.
    return all
      .map((split, at) => ({ split, at, fit: fitOf(split.name, wanted) }))
      .filter(({ fit }) => fit < 2)
      .sort((a, b) => a.fit - b.fit || a.split.name.length - b.split.name.length || a.at - b.at)
      .map(({ split }) => ({ ...split, group: 'By name' }));
  }
  const most = telling.filter((t) => t.members > 1).slice(0, TELLING_MAX);
  const last = recent.filter((by) => !most.some((t) => t.by === by));
  return [
    ...most.flatMap((t) => listed(t.by, 'Tell most of the change on the year before')),
    ...last.flatMap((by) => listed(by, 'Split by last')),
    ...all,
  ];
}

const wantedIn = (words: string): string =>
  words
    .trim()
    .toLowerCase()
    .replace(/^by\s+/, '');

/** 0 for a name that begins so, 1 for one that has a word beginning so, 2 for others. */
const fitOf = (name: string, wanted: string): number => {
  const lower = name.toLowerCase();
  if (lower.startsWith(wanted)) return 0;
  return lower.split(/[\s,]+/).some((w) => w.startsWith(wanted)) ? 1 : 2;
};

/** Whether a name is among those that typed words narrow to. */
export const isCalled = (name: string, words: string): boolean => fitOf(name, wantedIn(words)) < 2;

/** What figures were split by last in this browser, the latest first. */
export function recentSplits(): string[] {
  try {
    const kept: unknown = JSON.parse(window.localStorage.getItem(RECENT) ?? '[]');
    return Array.isArray(kept) ? kept.filter((by) => typeof by === 'string') : [];
  } catch {
    return [];
  }
}

export function rememberSplit(by: string): void {
  try {
    const kept = [by, ...recentSplits().filter((former) => former !== by)].slice(0, RECENT_MAX);
    window.localStorage.setItem(RECENT, JSON.stringify(kept));
  } catch {
    // A full or forbidden storage only costs the comfort.
  }
}
