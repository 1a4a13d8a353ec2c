/** What a scope asks of entries: its company, window and clauses, with more of them, without how a sheet is shown. */
export function withMore(scope: URLSearchParams, more: Record<string, string | string[]>): URLSearchParams {
  const query = new URLSearchParams(scope);
  for (const name of ['openings', 'order']) query.delete(name);
  for (const [name, value] of Object.entries(more)) {
    query.delete(name);
    for (const each of [value].flat()) query.append(name, each);
  }
  return query;
}
