'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import type { SplitSheet } from '@/contracts/answers/sheets';
import { amountText, countText } from '../amounts';
import { Failure, JOURNAL_TABS, Labelled, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { useAnswer } from '../query/hooks';
import { ScopeSentence } from '../scope/ScopeSentence';
import { usePageScope } from '../scope/usePageScope';
import { TieMark } from '../sheet/Strips';
import { Book } from './Book';
import { withMore } from './scopes';

/** What makes a book. */
const BY: readonly [key: string, name: string, plural: string][] = [
  ['journal', 'journal', 'journals'],
  ['documentType', 'kind of document', 'kinds of document'],
  ['source', 'source', 'sources'],
  ['postedBy', 'who posted', 'people'],
  ['approvedBy', 'who approved', 'people'],
  ['day', 'day', 'days'],
];

/** Each book that is opened is read: so many at once, not every day of a year. */
const OPEN_MAX = 12;

const BY_PARAM = '~by';
const OPEN_PARAM = '~open';

/** The books of a company: entries in full by journal, by kind of document or by day, one, some or all of them open. */
export function JournalsPage() {
  const { scope, asked, change } = usePageScope('/journals');
  const params = useSearchParams();
  const router = useRouter();
  const chosen = BY.find(([key]) => key === params.get(BY_PARAM)) ?? (BY[0] as (typeof BY)[number]);
  const [by, , plural] = chosen;
  const split = asked && withMore(asked, { by });
  const { data, error, isPlaceholderData } = useAnswer('GET /sheets', split);
  const open = new Set(params.getAll(OPEN_PARAM));
  const put = (name: string, values: readonly string[]): void => {
    const next = new URLSearchParams(params);
    next.delete(name);
    if (name === BY_PARAM) next.delete(OPEN_PARAM);
    for (const value of values) next.append(name, value);
    router.replace(`/journals?${next}`, { scroll: false });
  };
  const rows = data?.rows ?? [];
  return (
    <>
      {data && <ScopeSentence parts={data.parts} scope={scope} onChange={change} stale={isPlaceholderData} />}
      <Place title="Journals" tabs={JOURNAL_TABS} here="/journals">
        <div className="mb-3 flex flex-wrap items-end gap-x-4 gap-y-2">
          <Labelled label="A book for each">
            <Select
              value={by}
              onChange={(event) => put(BY_PARAM, event.target.value === 'journal' ? [] : [event.target.value])}
            >
              {BY.map(([key, name]) => (
                <option key={key} value={key}>
                  {name}
                </option>
              ))}
            </Select>
          </Labelled>
          <button
            type="button"
            className="button"
            onClick={() =>
              put(
                OPEN_PARAM,
                rows.slice(0, OPEN_MAX).map((row) => row.member),
              )
            }
          >
            {rows.length > OPEN_MAX ? `Open the first ${OPEN_MAX}` : 'Open all'}
          </button>
          <button type="button" className="button" disabled={open.size === 0} onClick={() => put(OPEN_PARAM, [])}>
            Fold all
          </button>
          {data && (
            <p className="pb-1.5 text-soft" aria-live="polite">
              {countText(rows.length)} {rows.length === 1 ? 'book' : plural}
              {data.others ? ', the first' : ''}, {countText(data.total.count)} lines
            </p>
          )}
        </div>
        <Failure error={error} />
        {!data && !error && <p className="text-soft">Opening the books …</p>}
        {data && rows.length === 0 && (
          <p className="text-soft">Nothing is booked in this window. Choose another period in the sentence above.</p>
        )}
        {data && rows.length > 0 && asked && (
          <div className={`border border-rule bg-sheet ${isPlaceholderData ? 'opacity-60' : ''}`}>
            <Head currency={data.currency} />
            {rows.map((row) => (
              <Book
                key={row.member}
                row={row}
                asked={withMore(asked, row.refine)}
                open={open.has(row.member)}
                onToggle={() =>
                  put(
                    OPEN_PARAM,
                    open.has(row.member) ? [...open].filter((m) => m !== row.member) : [...open, row.member],
                  )
                }
              />
            ))}
            <Foot data={data} />
          </div>
        )}
      </Place>
    </>
  );
}

const GRID = 'grid grid-cols-[1fr_90px_130px_130px] items-baseline gap-x-3 px-3';

const Head = ({ currency }: { currency: string }) => (
  <div className={`${GRID} border-b-[1.5px] border-ink py-1 text-[12.5px] text-soft`}>
    <span>Book</span>
    <span className="text-right">Lines</span>
    <span className="text-right">Debit, {currency}</span>
    <span className="text-right">Credit</span>
  </div>
);

const Foot = ({ data }: { data: SplitSheet }) => (
  <div className={`${GRID} border-t-[1.5px] border-ink py-1.5 font-semibold`}>
    <span className="flex gap-4">All books {data.tie && <TieMark tie={data.tie} what="the books add up to it" />}</span>
    <span className="text-right tabular-nums">{countText(data.total.count)}</span>
    <span className="text-right tabular-nums">{amountText(data.total.debit)}</span>
    <span className="text-right tabular-nums">{amountText(data.total.credit)}</span>
  </div>
);
