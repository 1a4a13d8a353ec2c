/** A row of a tree in reading order: headings before what is beneath them. */
export interface InTree<Row> {
  row: Row;
  /** From 0 at the top. */
  depth: number;
  /** Itself, if it holds amounts, and every row beneath it that does. */
  beneath: Row[];
}

/**
 * Rows that name their parents in the order of their tree; a row whose parent is not among them is at the top.
 * @param holds whether amounts are on the row itself, and not only beneath it
 */
export function inTreeOrder<Row extends { code: string; parent: string | null }>(
  rows: readonly Row[],
  holds: (row: Row) => boolean,
): InTree<Row>[] {
  const codes = new Set(rows.map((r) => r.code));
  const children = new Map<string | null, Row[]>();
  for (const row of rows) {
    const parent = row.parent !== null && codes.has(row.parent) ? row.parent : null;
    children.set(parent, [...(children.get(parent) ?? []), row]);
  }
  const found: InTree<Row>[] = [];
  const walk = (row: Row, depth: number): Row[] => {
    const at: InTree<Row> = { row, depth, beneath: holds(row) ? [row] : [] };
    found.push(at);
    for (const child of children.get(row.code) ?? []) at.beneath.push(...walk(child, depth + 1));
    return at.beneath;
  };
  for (const top of children.get(null) ?? []) walk(top, 0);
  return found;
}
