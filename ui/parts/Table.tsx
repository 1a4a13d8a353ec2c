import type { ReactNode } from 'react';
import type { Ordering } from './useListing';

export interface Column {
  label: string;
  /** Tailwind width; the rest share what is left. */
  width?: string;
  right?: boolean;
  /** The attribute that the list is put in order by from this head. */
  orders?: string;
}

/** A plain table as all pages beside the sheets have it. Its first cell is in from the rule. */
export function Table({
  label,
  columns,
  children,
  fixed = false,
  narrow = false,
  sideways = false,
  list,
}: {
  label: string;
  columns: readonly Column[];
  children: ReactNode;
  fixed?: boolean;
  /** As wide as its columns need, so that a name and its figure stand close together. */
  narrow?: boolean;
  /** It scrolls in a narrow window rather than cut off what is in it; heads that are buttons bring all of it in sight by keyboard. */
  sideways?: boolean;
  list?: Ordering;
}) {
  const table = (
    <table
      className={`${narrow ? 'w-auto' : 'w-full'} border border-rule bg-sheet ${fixed ? 'table-fixed' : ''} ${sideways ? 'min-w-[960px]' : ''}`}
    >
      <caption className="sr-only">{label}</caption>
      <thead>
        <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
          {columns.map((c) => (
            <th
              key={c.label}
              scope="col"
              className={`px-2 py-1 font-normal first:pl-3 last:pr-3 ${c.width ?? ''} ${c.right ? 'text-right' : ''}`}
              aria-sort={c.orders === undefined || !list ? undefined : ORDERS[wayOf(list, c.orders)]}
            >
              {c.orders === undefined || !list ? (
                c.label
              ) : (
                <button
                  type="button"
                  onClick={() => list.orderBy(c.orders as string)}
                  title={`Sort by ${c.label.toLowerCase()}: up, down, as it came`}
                  className="cursor-pointer hover:text-ink"
                >
                  {c.label}
                  {ARROWS[wayOf(list, c.orders)]}
                </button>
              )}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>{children}</tbody>
    </table>
  );
  return sideways ? <div className="overflow-x-auto">{table}</div> : table;
}

const wayOf = ({ order }: Ordering, key: string): 'up' | 'down' | 'none' =>
  order === key ? 'up' : order === `-${key}` ? 'down' : 'none';
const ORDERS = { up: 'ascending', down: 'descending', none: 'none' } as const;
const ARROWS = { up: ' ↑', down: ' ↓', none: '' } as const;

export const Tr = ({ children, chosen = false }: { children: ReactNode; chosen?: boolean }) => (
  <tr className={`border-b border-hair align-top ${chosen ? 'bg-chosen' : ''}`}>{children}</tr>
);

export const Td = ({
  children,
  right = false,
  cut = false,
  title,
}: {
  children?: ReactNode;
  right?: boolean;
  cut?: boolean;
  title?: string | undefined;
}) => (
  <td
    title={title}
    className={`px-2 py-[4px] first:pl-3 last:pr-3 ${right ? 'text-right whitespace-nowrap' : ''} ${cut ? 'truncate' : ''}`}
  >
    {children}
  </td>
);
