/** Where a document stands in the drawing of a chain: from what came first on the left to what came last on the right. */
export interface ChainPlace {
  column: number;
  row: number;
}

/**
 * Lays a chain out in columns: each document one further to the right than the furthest of those that it was applied to.
 * In a column documents stand near those that they follow from, so that few lines cross.
 * @param from the document that the chain is of: its row is kept in the middle of its neighbours
 */
export function laidOut(
  from: string,
  documents: readonly string[],
  links: readonly { source: string; target: string }[],
): { places: Map<string, ChainPlace>; columns: number; rows: number } {
  const all = [...new Set([from, ...documents, ...links.flatMap((l) => [l.source, l.target])])];
  const depth = new Map<string, number>();
  const depthOf = (number: string, above: ReadonlySet<string>): number => {
    const held = depth.get(number);
    if (held !== undefined) return held;
    // Documents that were applied to each other in a ring have no first one: the ring is cut where it closes.
    const within = new Set([...above, number]);
    const before = links.filter((l) => l.target === number && !within.has(l.source));
    const found = before.reduce((most, l) => Math.max(most, depthOf(l.source, within) + 1), 0);
    if (above.size === 0) depth.set(number, found);
    return found;
  };
  for (const number of all) depthOf(number, new Set());
  const columns = Math.max(...depth.values()) + 1;
  const places = new Map<string, ChainPlace>();
  let rows = 1;
  for (let column = 0; column < columns; column++) {
    const mine = all.filter((number) => depth.get(number) === column);
    const wanted = (number: string): number => {
      const near = links.flatMap((l) => (l.target === number ? (places.get(l.source)?.row ?? []) : []));
      return near.length === 0 ? Number.POSITIVE_INFINITY : near.reduce((sum, row) => sum + row, 0) / near.length;
    };
    const ranked = mine
      .map((number, i) => ({ number, at: wanted(number), i }))
      .sort((a, b) => a.at - b.at || a.i - b.i);
    for (const [row, { number }] of ranked.entries()) places.set(number, { column, row });
    rows = Math.max(rows, mine.length);
  }
  return { places, columns, rows };
}
