import type { SplitSheet } from '@/contracts/answers/sheets';
import { countText } from '../amounts';

/** How many rows a page of a very long split has, and after which member it begins. */
type Page = { first?: string; after?: string };

/** How many rows are shown at once, one step after the other. */
const LENGTHS = [200, 1_000, 2_000];

/** Which rows of a very long split are shown, and how to see the others. */
export function SplitPages({
  others: { next },
  shown,
  nested,
  page,
  onChange,
}: {
  others: NonNullable<SplitSheet['others']>;
  shown: number;
  /** Whether each row has others beneath it. */
  nested: boolean;
  page: Page;
  onChange(page: Page): void;
}) {
  // Where each row has others beneath it, the first page has as many as are quick to answer: more are three times as many.
  const longer = nested
    ? page.first === undefined
      ? shown * 3
      : undefined
    : LENGTHS.find((n) => n > Number(page.first ?? LENGTHS[0]));
  const button = (words: string, title: string, then: Page) => (
    <button type="button" className="cursor-pointer hover:text-ink" title={title} onClick={() => onChange(then)}>
      {words}
    </button>
  );
  const { after: _after, ...first } = page;
  return (
    <span className="flex gap-4">
      <span>{page.after ? `${countText(shown)} rows after ${page.after}` : `The first ${countText(shown)} rows`}</span>
      {longer !== undefined &&
        next !== null &&
        button(`Show ${countText(longer)}`, 'Shows more rows at once', { ...page, first: String(longer) })}
      {next !== null && button('Next page', `Shows the rows after ${next}`, { ...page, after: next })}
      {page.after !== undefined && button('From the first', 'Shows the first page again', first)}
    </span>
  );
}
