'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { JournalEntry } from '@/contracts/answers/journals';
import { entryPlace } from '@/contracts/places';
import { dateText } from '@/core/sentence';
import { amountText, countText } from '../amounts';
import { documentPath } from '../documents/address';
import { Failure } from '../parts/Place';
import { useAnswer } from '../query/hooks';
import { Tag } from '../sheet/CellView';
import { TieMark } from '../sheet/Strips';

const ROWS = 50;
const COLUMNS: readonly [label: string, width: string][] = [
  ['Account', 'w-[30%]'],
  ['Description', ''],
  ['Coding', 'w-[20%]'],
  ['Debit', 'w-[118px] text-right'],
  ['Credit', 'w-[118px] text-right'],
];
const LINK = 'underline decoration-rule underline-offset-4 hover:decoration-ink';

/** Entries of a scope with all their lines, page by page: in the order of days, or the last entered first. */
export function EntriesInFull({ asked }: { asked: URLSearchParams }) {
  const [at, setAt] = useState({ of: asked.toString(), after: 0 });
  // Another question begins at its first page.
  const after = at.of === asked.toString() ? at.after : 0;
  const turn = (to: number): void => setAt({ of: asked.toString(), after: Math.max(0, to) });
  const query = new URLSearchParams(asked);
  query.set('limit', String(ROWS));
  if (after > 0) query.set('after', String(after));
  const { data, error, isPlaceholderData } = useAnswer('GET /journals', query);
  if (error) return <Failure error={error} />;
  if (!data) return <p className="text-soft">Reading the entries …</p>;
  if (data.count === 0) return <p className="text-soft">There are no entries in this scope.</p>;
  const pages = data.count > ROWS && (
    <p className="flex items-center gap-4 text-soft">
      <span>
        Entries {countText(after + 1)} to {countText(after + data.entries.length)} of {countText(data.count)}
      </span>
      <button type="button" className="button" disabled={after === 0} onClick={() => turn(after - ROWS)}>
        Those before
      </button>
      <button
        type="button"
        className="button"
        disabled={data.next === null}
        onClick={() => data.next !== null && turn(data.next)}
      >
        The next {countText(Math.min(ROWS, Math.max(0, data.count - after - ROWS)))}
      </button>
    </p>
  );
  return (
    <div className={isPlaceholderData ? 'opacity-60' : ''}>
      {pages || (
        <p className="text-soft">
          {countText(data.count)} {data.count === 1 ? 'entry' : 'entries'}
        </p>
      )}
      <div className="my-2 overflow-x-auto">
        <table className="w-full min-w-[880px] table-fixed border border-rule bg-sheet">
          <caption className="sr-only">Entries in full</caption>
          <thead>
            <tr className="border-b border-rule text-left text-[12.5px] text-soft">
              {COLUMNS.map(([label, width]) => (
                <th key={label} scope="col" className={`px-2 py-1 font-normal first:pl-3 last:pr-3 ${width}`}>
                  {label}
                </th>
              ))}
            </tr>
          </thead>
          {data.entries.map((entry) => (
            <InFull key={entry.id} entry={entry} />
          ))}
        </table>
      </div>
      {pages}
    </div>
  );
}

function InFull({ entry }: { entry: JournalEntry }) {
  const partly = entry.lines.some((line) => line.within) && entry.lines.some((line) => !line.within);
  const by = [
    entry.origin?.name,
    entry.postedBy && `by ${entry.postedBy}`,
    entry.enteredAt &&
      entry.enteredAt.slice(0, 10) !== entry.date &&
      `entered ${dateText(entry.enteredAt.slice(0, 10))}`,
  ].filter(Boolean);
  return (
    <tbody className="border-b border-rule">
      <tr className="bg-paper align-baseline">
        <th scope="rowgroup" colSpan={3} className="px-2 pt-1.5 pb-1 pl-3 text-left font-normal">
          <span className="flex flex-wrap gap-x-4">
            <span className="text-soft">{dateText(entry.date)}</span>
            <Link href={entryPlace(entry.entity, entry.number, entry.id)} className={`font-semibold ${LINK}`}>
              {entry.number}
            </Link>
            <span>{entry.description}</span>
            {entry.documents.map((number) => (
              <Link key={number} href={documentPath(entry.entity, number)} className={LINK}>
                {entry.type ?? 'document'} {number === entry.number ? '' : number}
              </Link>
            ))}
            {entry.counterparties.length > 0 && <span className="text-soft">{entry.counterparties.join(', ')}</span>}
            {by.length > 0 && <span className="text-faint">{by.join(', ')}</span>}
            {entry.status === 'unposted' && <Tag>not posted</Tag>}
          </span>
        </th>
        <td colSpan={2} className="px-2 pt-1.5 pb-1 pr-3 text-right">
          {entry.tie && !entry.tie.ok && <TieMark tie={entry.tie} what="debits equal credits" />}
          {entry.outside > 0 && (
            <span className="text-soft">
              {countText(entry.outside)} more {entry.outside === 1 ? 'line' : 'lines'} outside what you may see
            </span>
          )}
        </td>
      </tr>
      {entry.lines.map((line) => (
        <tr key={line.id} className={`align-top ${partly && !line.within ? 'text-faint' : ''}`}>
          <td className="truncate px-2 py-[2px] pl-3" title={`${line.account} ${line.accountName}`}>
            <span className="inline-block w-14 tabular-nums">{line.account}</span> {line.accountName}
          </td>
          <td className="truncate px-2 py-[2px]" title={line.description}>
            {line.description === entry.description ? '' : line.description}
          </td>
          <td className="truncate px-2 py-[2px]" title={line.dims.join(', ')}>
            {line.dims.join(', ')}
          </td>
          <td className="px-2 py-[2px] text-right tabular-nums">{blankIfNothing(line.debit)}</td>
          <td className="px-2 py-[2px] pr-3 text-right tabular-nums">{blankIfNothing(line.credit)}</td>
        </tr>
      ))}
    </tbody>
  );
}

const blankIfNothing = (amount: string): string => (/[1-9]/.test(amount) ? amountText(amount) : '');
