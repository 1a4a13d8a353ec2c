import type { Hit, HitKind } from '@/contracts/answers/search';
import { folded } from '@/core/folded';
import { fitOf, hasAll, marksIn, type Sought } from '@/core/searchWords';

/** No more of one kind are counted one by one. */
export const COUNTED_MAX = 1_000;

/** Something that was found, before it is shown. */
export interface Found extends Omit<Hit, 'kind' | 'marks'> {
  /** Its code, number or name, by which people know it. */
  own: readonly string[];
  /** What comes first among those that fit alike: the smaller text. */
  order: string;
}

/** What was found of one kind, the best first. */
export interface FoundOfKind {
  kind: HitKind;
  /** Those that can be shown; there may be more. */
  found: Found[];
  count: number;
  /** There are more than were counted. */
  capped: boolean;
  /** What was not looked through, in words. */
  missing?: string[];
}

/** Puts what was found in order, the best first. */
export function ranked(kind: HitKind, found: readonly Found[], sought: readonly Sought[]): FoundOfKind {
  const fits = new Map(found.map((one) => [one, fitOf(one.own.map(folded), sought)]));
  const inOrder = [...found].sort(
    (a, b) =>
      (fits.get(a) as number) - (fits.get(b) as number) ||
      (a.order < b.order ? -1 : a.order > b.order ? 1 : a.label < b.label ? -1 : 1),
  );
  return { kind, found: inOrder.slice(0, COUNTED_MAX), ...counted(inOrder.length) };
}

/** How many there are, as far as they are counted. */
export const counted = (many: number): Pick<FoundOfKind, 'count' | 'capped'> => ({
  count: Math.min(many, COUNTED_MAX),
  capped: many > COUNTED_MAX,
});

/** What is said of a hit beside its name; what there is nothing of is left out. */
export const detailOf = (...parts: readonly (string | null | undefined | false)[]): string =>
  parts.filter(Boolean).join(' · ');

/** A day as a text that is the smaller the later it is. */
export const inverse = (day: string): string => day.replace(/\d/g, (digit) => String(9 - Number(digit)));

/** What several companies have alike, found once: in the first of them, with how many more there are. */
export class OncePerCompany {
  private readonly found = new Map<string, { one: Found; companies: string[] }>();

  /** @param key what is alike of it */
  add(one: Found, company: string, key = detailOf(one.label, one.detail)): void {
    const held = this.found.get(key);
    if (held) held.companies.push(company);
    else this.found.set(key, { one, companies: [company] });
  }

  get all(): Found[] {
    return [...this.found.values()].map(({ one, companies: [first = '', ...more] }) => ({
      ...one,
      detail: detailOf(one.detail, more.length === 0 ? first : `${first} and ${more.length} more`),
    }));
  }
}

/** The words that were sought are marked where they stand. */
export function shownHit(kind: HitKind, { own: _own, order: _order, ...hit }: Found, sought: readonly Sought[]): Hit {
  return { kind, ...hit, marks: { label: marksIn(hit.label, sought), detail: marksIn(hit.detail, sought) } };
}

/** Those of which some texts have all that is sought. */
export const fitting = <One>(
  all: Iterable<One>,
  sought: readonly Sought[],
  texts: (one: One) => readonly string[],
): One[] => [...all].filter((one) => hasAll(texts(one).map(folded), sought));

/** Of one that has no books, amount or clause of its own. */
export const BARE = { entity: null, amount: null, subject: null, put: null } as const;
