/** Lines are fetched so many at a time. */
export const PAGE_ROWS = 200;

/** What all pages of a ledger are asked, in an order of theirs. */
export function pagesOf(scope: URLSearchParams, sort: string | undefined): string {
  const params = new URLSearchParams(scope);
  if (sort) params.set('sort', sort);
  params.set('limit', String(PAGE_ROWS));
  return params.toString();
}

/** What asks for a page of a ledger. @param asOf the load that the pages before were read as of */
export function pageAsked(pages: string, page: number, asOf: number | null): URLSearchParams {
  const asked = new URLSearchParams(pages);
  asked.set('at', String(page * PAGE_ROWS));
  if (page > 0 && asOf !== null) asked.set('load', String(asOf));
  return asked;
}

/** Under what a page is remembered, whatever load it was read as of. */
export const pageKey = (pages: string, page: number): readonly unknown[] => ['/lines', pages, page];
