'use client';

import { type KeyboardEvent, useId, useMemo, useRef } from 'react';
import type { Chart, Entities } from '@/contracts/answers/charts';
import { amountText, decimalMark, isZero } from '../amounts';
import { Codes } from '../parts/Codes';
import {
  balanceOf,
  balancesIn,
  EMPTY_ROW,
  type EntryRow,
  type Field,
  isEmptyRow,
  openAccounts,
  pasted,
  valueIn,
  withRow,
  withValue,
} from './entryRows';
import type { useEntry } from './useEntry';

export interface RowFault {
  line: number | null;
  field: string;
  message: string;
}

interface Column {
  field: Field;
  label: string;
  width: string;
  list?: string;
  amount?: true;
}

/** How many empty lines wait below those that are filled. */
const WAITING = 1;

/** The lines of an entry as a sheet that is typed in: it completes codes, and takes tables from a spreadsheet. */
export function EntryGrid({
  entry,
  chart,
  dimensions,
  parties,
  shownDims,
  foreign,
  several,
  faults,
}: {
  entry: ReturnType<typeof useEntry>;
  chart: Chart['rows'];
  dimensions: Entities['dimensions'];
  parties: readonly { code: string; name: string }[];
  shownDims: readonly string[];
  /** Lines may be in the currency of their transaction. */
  foreign: boolean;
  /** Lines are on several days, so that each says its own. */
  several: boolean;
  faults: readonly RowFault[];
}) {
  const id = useId();
  const body = useRef<HTMLTableSectionElement>(null);
  const { rows, change, undo, redo } = entry;
  const mark = decimalMark();
  const accounts = useMemo(() => openAccounts(chart), [chart]);
  const names = useMemo(
    () =>
      new Map<string, string>([
        ...chart.map((a) => [`account ${a.account}`, a.name] as const),
        ...parties.map((p) => [`counterparty ${p.code}`, p.name] as const),
        ...dimensions.flatMap((d) => d.members.map((m) => [`dims.${d.code} ${m.code}`, m.name] as const)),
      ]),
    [chart, parties, dimensions],
  );
  const uses = (field: Field): boolean => rows.some((r) => valueIn(r, field) !== '');
  const dims = dimensions.filter((d) => shownDims.includes(d.code));
  const columns: Column[] = [
    { field: 'account', label: 'Account', width: 'w-[92px]', list: `${id}-accounts` },
    { field: 'debit', label: 'Debit', width: 'w-[116px]', amount: true },
    { field: 'credit', label: 'Credit', width: 'w-[116px]', amount: true },
    { field: 'description', label: 'Text', width: 'w-[190px]' },
    ...dims.map(
      (d): Column => ({ field: `dims.${d.code}`, label: d.name, width: 'w-[108px]', list: `${id}-${d.code}` }),
    ),
    { field: 'counterparty', label: 'Party', width: 'w-[96px]', list: `${id}-parties` },
    ...(foreign || uses('currency')
      ? [
          { field: 'currency' as const, label: 'Currency', width: 'w-[72px]' },
          { field: 'currencyAmount' as const, label: 'Amount in it', width: 'w-[116px]', amount: true as const },
        ]
      : []),
    ...(uses('taxCode') ? [{ field: 'taxCode' as const, label: 'Tax code', width: 'w-[80px]' }] : []),
    ...(uses('document') ? [{ field: 'document' as const, label: 'Document', width: 'w-[110px]' }] : []),
    ...(several ? [{ field: 'date' as const, label: 'Day', width: 'w-[108px]' }] : []),
    ...(uses('period') ? [{ field: 'period' as const, label: 'Period', width: 'w-[84px]' }] : []),
  ];
  const fields = columns.map((c) => c.field);
  const filled = rows.reduce((last, row, i) => (isEmptyRow(row) ? last : i), -1) + 1;
  const shown = Array.from({ length: Math.max(rows.length, filled + WAITING, 2) }, (_, i) => rows[i] ?? EMPTY_ROW);
  const places = placesOf(shown);
  const faultAt = (row: number, field: Field): string | undefined =>
    faults.find((f) => f.line !== null && f.line === places.get(row) && f.field === field)?.message;
  const focus = (row: number, field: Field): void =>
    body.current?.querySelector<HTMLInputElement>(`[data-at="${row} ${field}"]`)?.focus();
  const balance = balanceOf(rows, mark);
  const apart = balancesIn(rows, mark).filter((b) => !isZero(b.off));

  const onKey = (event: KeyboardEvent<HTMLInputElement>, row: number, field: Field): void => {
    const ctrl = event.ctrlKey || event.metaKey;
    if (ctrl && event.key.toLowerCase() === 'z') {
      event.preventDefault();
      event.shiftKey ? redo() : undo();
    } else if (ctrl && event.key.toLowerCase() === 'y') {
      event.preventDefault();
      redo();
    } else if (event.key === 'Enter' && !ctrl) {
      event.preventDefault();
      focus(Math.max(0, row + (event.shiftKey ? -1 : 1)), field);
    } else if (ctrl && event.key === 'Backspace') {
      event.preventDefault();
      change(rows.filter((_, i) => i !== row));
    } else if (event.key === '=' && (field === 'debit' || field === 'credit')) {
      event.preventDefault();
      fillRest(row);
    }
  };
  /** What is left goes where it balances. */
  const fillRest = (row: number): void => {
    const others = rows.map((r, i) => (i === row ? { ...r, debit: '', credit: '' } : r));
    const { off } = balanceOf(others, mark);
    if (isZero(off)) return;
    const size = off.replace('-', '').replace('.', mark);
    const here = rows[row] ?? EMPTY_ROW;
    change(
      withRow(rows, row, withValue({ ...here, debit: '', credit: '' }, off.startsWith('-') ? 'debit' : 'credit', size)),
    );
  };

  return (
    <div className="overflow-x-auto">
      <table className="border border-rule bg-sheet" style={{ minWidth: 720 }}>
        <caption className="sr-only">Lines of the entry</caption>
        <thead>
          <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
            {columns.map((c) => (
              <th
                key={c.field}
                scope="col"
                className={`${c.width} px-2 py-1 font-normal first:pl-3 ${c.amount ? 'text-right' : ''}`}
              >
                {c.label}
              </th>
            ))}
            <th scope="col" className="w-[34px]">
              <span className="sr-only">Take the line away</span>
            </th>
          </tr>
        </thead>
        <tbody ref={body}>
          {shown.map((row, i) => (
            <Line
              // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name than their place
              key={i}
              at={i}
              row={row}
              columns={columns}
              nameOf={(field) => names.get(`${field} ${valueIn(row, field).trim()}`)}
              faultAt={(field) => faultAt(i, field)}
              onKey={onKey}
              onValue={(field, value) => change(withRow(rows, i, withValue(row, field, value)), { row: i, field })}
              onPaste={(field, text) => change(pasted(rows, text, { row: i, field }, fields, dimensions))}
              onGone={() => change(rows.filter((_, k) => k !== i))}
            />
          ))}
        </tbody>
        <tfoot>
          <tr className="border-t-[1.5px] border-ink font-semibold">
            <td className="px-2 py-[5px] pl-3">Total</td>
            <td className="px-2 py-[5px] text-right tabular-nums">{amountText(balance.debit)}</td>
            <td className="px-2 py-[5px] text-right tabular-nums">{amountText(balance.credit)}</td>
            <td colSpan={columns.length - 2} className="px-2 py-[5px] font-normal">
              {isZero(balance.off) ? (
                <span role="status" className="text-soft">
                  {isZero(balance.debit) ? 'Nothing yet' : '✓ debits and credits are equal'}
                </span>
              ) : (
                <span role="status" className="text-warn">
                  {`! ${amountText(balance.off.replace('-', ''))} more ${balance.off.startsWith('-') ? 'credit' : 'debit'}; = in an amount fills what is left`}
                </span>
              )}
              {apart.map(({ currency, off }) => (
                // Only in the currency of the books must it balance: what rates have done stands in no other.
                <span key={currency} className="ml-3 text-soft">
                  {currency}: {amountText(off.replace('-', ''))} more {off.startsWith('-') ? 'credit' : 'debit'}
                </span>
              ))}
            </td>
          </tr>
        </tfoot>
      </table>
      <Codes id={`${id}-accounts`} of={accounts} />
      <Codes id={`${id}-parties`} of={parties} />
      {dims.map((d) => (
        <Codes key={d.code} id={`${id}-${d.code}`} of={d.members} />
      ))}
    </div>
  );
}

/** The number of each filled line among those that are sent. */
function placesOf(rows: readonly EntryRow[]): Map<number, number> {
  const places = new Map<number, number>();
  for (const [i, row] of rows.entries()) if (!isEmptyRow(row)) places.set(i, places.size);
  return places;
}

function Line({
  at,
  row,
  columns,
  nameOf,
  faultAt,
  onKey,
  onValue,
  onPaste,
  onGone,
}: {
  at: number;
  row: EntryRow;
  columns: readonly Column[];
  nameOf(field: Field): string | undefined;
  faultAt(field: Field): string | undefined;
  onKey(event: KeyboardEvent<HTMLInputElement>, row: number, field: Field): void;
  onValue(field: Field, value: string): void;
  onPaste(field: Field, text: string): void;
  onGone(): void;
}) {
  return (
    <tr className="border-b border-hair align-top">
      {columns.map(({ field, label, list, amount }) => {
        const fault = faultAt(field);
        const name = nameOf(field);
        return (
          <td key={field} className="border-r border-hair p-0 last:border-r-0">
            <input
              aria-label={`${label}, line ${at + 1}`}
              data-at={`${at} ${field}`}
              {...(list ? { list } : {})}
              {...(amount ? { inputMode: 'decimal' as const } : {})}
              {...(fault ? { 'aria-invalid': true, title: fault } : {})}
              autoComplete="off"
              spellCheck={false}
              value={valueIn(row, field)}
              onChange={(event) => onValue(field, event.target.value)}
              onKeyDown={(event) => onKey(event, at, field)}
              onPaste={(event) => {
                const text = event.clipboardData.getData('text/plain');
                if (!/[\t\n]/.test(text)) return;
                event.preventDefault();
                onPaste(field, text);
              }}
              className={`h-[27px] w-full bg-transparent px-2 outline-none focus:bg-chosen ${amount ? 'text-right tabular-nums' : ''} ${fault ? 'shadow-[inset_0_-2px_0_var(--warn)]' : ''}`}
            />
            {name && (
              <p className="max-w-[150px] truncate px-2 pb-[3px] text-[11.5px] leading-[13px] text-soft" title={name}>
                {name}
              </p>
            )}
          </td>
        );
      })}
      <td className="text-center">
        {!isEmptyRow(row) && (
          <button
            type="button"
            aria-label={`Take line ${at + 1} away`}
            title="Take the line away (Ctrl Backspace)"
            onClick={onGone}
            className="h-[27px] w-full cursor-pointer text-faint hover:text-ink"
          >
            ×
          </button>
        )}
      </td>
    </tr>
  );
}
