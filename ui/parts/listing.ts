/** What the rows of a list can be limited and put in order by. */
export interface ListAttribute<Row> {
  key: string;
  label: string;
  /** The values that a row has of it; a row with several is found under each. */
  of(row: Row): readonly string[];
  /** What rows are put in order by, where that is not their first value as words. */
  order?(row: Row): number | string;
  /** It is not offered as a limit, since hardly two rows share a value. */
  unlimited?: boolean;
}

/** How a list is shown: all of it is in the address. */
export interface Shown {
  find: string;
  /** Attribute keys, with - before one that runs down; empty: as the list comes. */
  order: string;
  chosen: Readonly<Record<string, string>>;
}

const FIND = '~find';
const ORDER = '~order';
const ONLY = '~only.';

/** Parameters of the address that are about the list, not about what is asked of the server. */
export const isOfList = (name: string): boolean => name.startsWith('~');

export function shownOf(params: URLSearchParams): Shown {
  const chosen: Record<string, string> = {};
  for (const [name, value] of params) if (name.startsWith(ONLY)) chosen[name.slice(ONLY.length)] = value;
  return { find: params.get(FIND) ?? '', order: params.get(ORDER) ?? '', chosen };
}

/** The address with another way to show the list. */
export function withShown(params: URLSearchParams, { find, order, chosen }: Shown): URLSearchParams {
  const next = new URLSearchParams(
    [...params].filter(([name]) => name !== FIND && name !== ORDER && !name.startsWith(ONLY)),
  );
  if (find) next.set(FIND, find);
  if (order) next.set(ORDER, order);
  for (const [key, value] of Object.entries(chosen)) if (value) next.set(ONLY + key, value);
  return next;
}

/** The next order after a head is chosen: up, down, and as it came. */
export const nextOrder = (order: string, key: string): string =>
  order === key ? `-${key}` : order === `-${key}` ? '' : key;

/** The rows that are wanted, in the order that is wanted. */
export function listed<Row>(
  rows: readonly Row[],
  attributes: readonly ListAttribute<Row>[],
  { find, order, chosen }: Shown,
  text: (row: Row) => string,
): Row[] {
  const wanted = find.trim().toLowerCase();
  const found = rows.filter(
    (row) =>
      (wanted === '' || text(row).toLowerCase().includes(wanted)) &&
      attributes.every((a) => !chosen[a.key] || a.of(row).includes(chosen[a.key] as string)),
  );
  const by = attributes.find((a) => a.key === order.replace(/^-/, ''));
  if (!by) return found;
  const keyOf = (row: Row): number | string => by.order?.(row) ?? by.of(row)[0] ?? '';
  const turn = order.startsWith('-') ? -1 : 1;
  return found
    .map((row, at) => ({ row, at, key: keyOf(row) }))
    .sort((a, b) => {
      // Rows without a value are last, whichever way the order runs.
      if ((a.key === '') !== (b.key === '')) return a.key === '' ? 1 : -1;
      const first =
        typeof a.key === 'number' && typeof b.key === 'number'
          ? a.key - b.key
          : String(a.key).localeCompare(String(b.key), undefined, { numeric: true });
      return first === 0 ? a.at - b.at : turn * first;
    })
    .map(({ row }) => row);
}

/** The values by which a list can be limited: those that occur, of attributes in which rows differ. */
export const offered = <Row>(
  rows: readonly Row[],
  attributes: readonly ListAttribute<Row>[],
  chosen: Shown['chosen'],
): { key: string; label: string; values: string[] }[] =>
  attributes
    .filter((a) => !a.unlimited)
    .map(({ key, label, of }) => ({ key, label, values: [...new Set(rows.flatMap((row) => of(row)))].sort() }))
    .filter(
      ({ key, values }) => values.length > 1 || chosen[key] || (values.length === 1 && someLack(rows, key, attributes)),
    );

const someLack = <Row>(rows: readonly Row[], key: string, attributes: readonly ListAttribute<Row>[]): boolean =>
  rows.some((row) => attributes.find((a) => a.key === key)?.of(row).length === 0);
