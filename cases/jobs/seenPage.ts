/** Rows are looked through so many at a time. */
const LOOK_ROWS = 200;

/**
 * A page of numbered rows, newest first, filled with those that the viewer may see. It leads on from the last of these,
 * and tells nothing of the others.
 * @param list rows below a number, newest first, as many as asked for
 * @param params `after`: the number of the last row of the page before
 */
export async function seenPage<Row extends { id: number }>(
  list: (limit: number, before: number | null) => Promise<Row[]>,
  maySee: (row: Row) => boolean,
  params: { limit: number; after?: string | undefined },
): Promise<{ page: Row[]; next: string | null }> {
  const seen: Row[] = [];
  let before = params.after === undefined ? null : Number(params.after);
  for (let more = true; more && seen.length <= params.limit; ) {
    const rows = await list(LOOK_ROWS, before);
    seen.push(...rows.filter(maySee));
    before = rows.at(-1)?.id ?? null;
    more = rows.length === LOOK_ROWS;
  }
  const page = seen.slice(0, params.limit);
  return { page, next: seen.length > page.length ? String(page.at(-1)?.id) : null };
}
