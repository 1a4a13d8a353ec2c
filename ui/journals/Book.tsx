'use client';

import Link from 'next/link';
import { useId, useState } from 'react';
import type { EntrySeries } from '@/contracts/answers/journals';
import type { SplitSheet } from '@/contracts/answers/sheets';
import { amountText, countText } from '../amounts';
import { useAnswer } from '../query/hooks';
import { EntriesInFull } from './EntriesInFull';
import { withMore } from './scopes';

/** One book: what is in it at a glance, and opened, how it is numbered, the tax boxes it goes to, and its entries. */
export function Book({
  row,
  asked,
  open,
  onToggle,
}: {
  row: SplitSheet['rows'][number];
  asked: URLSearchParams;
  open: boolean;
  onToggle(): void;
}) {
  const inside = useId();
  return (
    <section className="border-b border-hair last:border-b-0">
      <h2>
        <button
          type="button"
          aria-expanded={open}
          aria-controls={inside}
          onClick={onToggle}
          className="grid w-full cursor-pointer grid-cols-[1fr_90px_130px_130px] items-baseline gap-x-3 px-3 py-[5px] text-left hover:bg-chosen"
        >
          <span className={open ? 'font-semibold' : ''}>
            <span aria-hidden className="inline-block w-4 text-soft">
              {open ? '−' : '+'}
            </span>
            {row.name || 'none named'}
          </span>
          <span className="text-right tabular-nums">{countText(row.count)}</span>
          <span className="text-right tabular-nums">{amountText(row.debit)}</span>
          <span className="text-right tabular-nums">{amountText(row.credit)}</span>
        </button>
      </h2>
      <div id={inside}>
        {open && (
          <div className="border-t border-hair px-3 pt-2 pb-4">
            <Numbering asked={asked} />
            <TaxBoxes asked={asked} />
            <EntriesInFull asked={asked} />
          </div>
        )}
      </div>
    </section>
  );
}

/** How the entries of a book are numbered, and which numbers are missing. */
function Numbering({ asked }: { asked: URLSearchParams }) {
  const { data, error } = useAnswer('GET /journals/series', asked);
  if (error || !data?.series || data.series.length === 0) return null;
  return (
    <ul className="mb-2 text-soft">
      {data.series.map((series) => (
        <Series key={series.first} series={series} />
      ))}
      {data.more && <li>Further series are not shown.</li>}
    </ul>
  );
}

const SHOWN_FIRST = 6;

function Series({ series }: { series: NonNullable<EntrySeries['series']>[number] }) {
  const [all, setAll] = useState(false);
  const { gaps, missing } = series;
  const named = gaps
    .slice(0, all ? undefined : SHOWN_FIRST)
    .map(({ from, to }) => (from === to ? from : `${from} to ${to}`));
  return (
    <li>
      {series.first} to {series.last}, {countText(series.count)} here
      {missing === 0 ? (
        ', none missing'
      ) : (
        <>
          ,{' '}
          <strong className="font-semibold text-ink">
            {countText(missing)} {missing === 1 ? 'number that no entry bears' : 'numbers that no entry bears'}
          </strong>
          : {named.join(', ')}
          {series.more && ' …'}
          {gaps.length > named.length && (
            <>
              {' '}
              <button
                type="button"
                onClick={() => setAll(true)}
                className="cursor-pointer underline underline-offset-4"
              >
                and {countText(gaps.length - named.length)} more
              </button>
            </>
          )}
        </>
      )}
      {series.jumps.length > 0 && (
        <span className="text-faint">
          {' '}
          (goes on from {series.jumps.map(({ from, to }) => `${from} at ${to}`).join(', from ')})
        </span>
      )}
    </li>
  );
}

/** Which boxes of the tax return a book goes to, each leading to its lines. */
function TaxBoxes({ asked }: { asked: URLSearchParams }) {
  const { data } = useAnswer('GET /statements/{code}', asked, { code: 'tax' });
  const boxes = data?.rows.filter((row) => row.depth === 0) ?? [];
  if (boxes.length === 0) return null;
  return (
    <p className="mb-3 flex flex-wrap gap-x-5 text-soft">
      <span>
        In the{' '}
        <Link href={`/statements?${withMore(asked, { statement: 'tax' })}`} className={LINK}>
          tax return
        </Link>
        :
      </span>
      {boxes.map((box) => (
        <span key={box.key}>
          {box.label}{' '}
          {box.refine ? (
            <Link href={`/lines?${withMore(asked, box.refine)}`} className={`text-ink tabular-nums ${LINK}`}>
              {amountText(box.values.window ?? '')}
            </Link>
          ) : (
            <strong className="font-normal text-ink tabular-nums">{amountText(box.values.window ?? '')}</strong>
          )}
        </span>
      ))}
    </p>
  );
}

const LINK = 'underline decoration-rule underline-offset-4 hover:decoration-ink';
