import type { ColumnLayout } from '@/contracts/bodies/all';
import type { Column } from './gridModel';

export const AS_IT_COMES: ColumnLayout = { order: [], hidden: [], shown: [], widths: {}, fit: false };

/** Columns in a person's own order, those that the order does not name right after the one that they follow as they come. */
export function inOrder<C extends { key: string }>(columns: readonly C[], order: readonly string[]): C[] {
  const [first, ...rest] = columns;
  if (!first) return [];
  const byKey = new Map(rest.map((c) => [c.key, c]));
  const found = [first, ...order.flatMap((key) => byKey.get(key) ?? [])];
  for (const [i, column] of rest.entries()) {
    if (order.includes(column.key)) continue;
    const before = i === 0 ? first : (rest[i - 1] as C);
    found.splice(found.indexOf(before) + 1, 0, column);
  }
  return found;
}

/** Whether a column is shown; the first of a sheet always is. */
export const isShown = ({ key, onRequest }: Column, { hidden, shown }: ColumnLayout): boolean =>
  onRequest ? shown.includes(key) : !hidden.includes(key);

/** The layout with a column shown or not. */
export function withShown(layout: ColumnLayout, { key, onRequest }: Column, is: boolean): ColumnLayout {
  const list = onRequest ? layout.shown : layout.hidden;
  const next = [...list.filter((k) => k !== key), ...(is === (onRequest ?? false) ? [key] : [])];
  return onRequest ? { ...layout, shown: next } : { ...layout, hidden: next };
}

/** All columns after one has been put in the place of another; the first stays first. */
export const reordered = (keys: readonly string[], key: string, to: string): string[] => [
  ...keys.slice(0, 1),
  ...moved(keys, key, to),
];

/** The order after a column has been put in the place of another. The first is not in it. */
export function moved([, ...rest]: readonly string[], key: string, to: string): string[] {
  const keys = [...rest];
  const [from, target] = [keys.indexOf(key), keys.indexOf(to)];
  if (from < 0 || target < 0) return keys;
  keys.splice(from, 1);
  keys.splice(target, 0, key);
  return keys;
}
