import type { SplitSheet } from '@/contracts/answers/sheets';
import { countText } from '../amounts';

/** How many rows a page of a very long split has, and after which member it begins. */
type Page = { first?: string; after?: string };

/** How many rows are shown at once, one step after the other; fewer where each has others beneath it. */
const LENGTHS = { plain: [200, 1_000, 2_000], nested: [20, 60, 200] };

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
  const lengths = LENGTHS[nested ? 'nested' : 'plain'];
  const longer = lengths.find((n) => n > Number(page.first ?? lengths[0]));
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
