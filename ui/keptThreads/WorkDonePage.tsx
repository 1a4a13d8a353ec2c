'use client';

import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { amountText, countText } from '../amounts';
import { Failure, Labelled, Place, THREAD_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { useAnswer, useEntities } from '../query/hooks';
import { STATE_WORD } from './words';

const STATE = {
  signed: '● signed',
  prepared: '◐ prepared',
  'under way': '○ under way',
  nothing: 'nothing yet',
} as const;

/** A statement with the work on each of its rows: signed, under way, or nothing; each leads to its threads. */
export function WorkDonePage() {
  const router = useRouter();
  const params = useSearchParams();
  const entities = useEntities();
  const asked = new URLSearchParams(params);
  const company = entities.data?.entities[0]?.code;
  if (!asked.has('entity') && company) asked.set('entity', company);
  if (!asked.has('statement')) asked.set('statement', 'income');
  if (!asked.has('from') && !asked.has('window')) asked.set('window', 'year-to-date');
  const { data, error } = useAnswer('GET /completeness', asked.has('entity') ? asked : null);
  const show = (change: Record<string, string>): void => {
    const next = new URLSearchParams(asked);
    for (const [name, value] of Object.entries(change))
      if (value === '') next.delete(name);
      else next.set(name, value);
    router.replace(`/threads/done?${next}`);
  };
  const linesOf = (accounts: string): string => {
    const lines = new URLSearchParams(asked);
    for (const name of ['statement', 'above']) lines.delete(name);
    lines.set('accounts', accounts);
    return `/lines?${lines}`;
  };
  return (
    <Place title="What is done" tabs={THREAD_TABS} here="/threads/done">
      <form
        className="mb-3 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          const form = new FormData(event.currentTarget);
          show({ above: String(form.get('above') ?? '').replace(/[,\s]/g, '') });
        }}
      >
        <Labelled label="Company">
          <Select
            value={asked.get('entity') ?? ''}
            onChange={(event) => show({ entity: event.target.value })}
            className="w-[220px]"
          >
            {(entities.data?.entities ?? []).map((e) => (
              <option key={e.code} value={e.code}>
                {e.name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Statement">
          <Select
            value={asked.get('statement') ?? ''}
            onChange={(event) => show({ statement: event.target.value })}
            className="w-[170px]"
          >
            <option value="income">Income statement</option>
            <option value="balance">Balance sheet</option>
          </Select>
        </Labelled>
        <Labelled label="Window">
          <Select
            value={asked.get('window') ?? ''}
            onChange={(event) => show({ window: event.target.value, from: '', to: '' })}
            className="w-[180px]"
          >
            {asked.has('from') && (
              <option value="">
                {asked.get('from')} to {asked.get('to')}
              </option>
            )}
            <option value="year-to-date">year to date</option>
            <option value="latest">latest period</option>
            <option value="year-before">year before</option>
          </Select>
        </Labelled>
        <Labelled label="Rows from this amount on">
          <input
            name="above"
            inputMode="decimal"
            defaultValue={asked.get('above') ?? ''}
            placeholder={data?.above ?? '0'}
            title="Empty: performance materiality, where it is said"
            className="field w-[140px] text-right"
          />
        </Labelled>
        <button type="submit" className="button">
          Show
        </button>
      </form>
      <Failure error={error} />
      {data && (
        <>
          <p className="mb-2 text-soft">
            {data.sentence}. {countText(data.counts.signed)} of {countText(data.counts.rows)} rows are signed,{' '}
            {countText(data.counts.prepared)} prepared, {countText(data.counts.underWay)} under way;{' '}
            {data.counts.nothing === 0 ? (
              'none has nothing.'
            ) : (
              <strong className="font-semibold text-ink">{countText(data.counts.nothing)} have nothing.</strong>
            )}
          </p>
          <table className="w-auto border border-rule bg-sheet">
            <caption className="sr-only">{data.name} with the work on each row</caption>
            <thead>
              <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
                <th scope="col" className="w-[120px] py-1 pl-3 font-normal">
                  Work
                </th>
                <th scope="col" className="px-2 py-1 font-normal">
                  {data.name}
                </th>
                <th scope="col" className="px-3 py-1 text-right font-normal">
                  {data.currency}
                </th>
                <th scope="col" className="min-w-[300px] px-3 py-1 font-normal">
                  Threads
                </th>
              </tr>
            </thead>
            <tbody>
              {data.rows.map((row) => (
                <tr
                  key={row.key}
                  className={`border-b border-hair ${row.is === 'subtotal' || row.is === 'total' ? 'font-semibold' : ''}`}
                >
                  <td className={`py-[4px] pl-3 ${row.state === 'nothing' ? 'text-warn' : ''}`}>
                    {row.state && STATE[row.state]}
                  </td>
                  <td
                    className={`px-2 py-[4px] ${row.is === 'caption' ? 'font-book font-semibold' : ''}`}
                    style={{ paddingLeft: `${8 + row.depth * 14}px` }}
                  >
                    {row.accounts && row.state ? (
                      <Link
                        href={linesOf(row.accounts)}
                        className="hover:underline"
                        title="Opens its lines, to begin a thread there"
                      >
                        {row.label}
                      </Link>
                    ) : (
                      row.label
                    )}
                  </td>
                  <td className="px-3 py-[4px] text-right whitespace-nowrap">
                    {row.amount === null ? '' : amountText(row.amount)}
                  </td>
                  <td className="px-3 py-[4px] font-normal">
                    {row.threads.map((t, i) => (
                      <span key={t.id}>
                        {i > 0 && ', '}
                        <Link
                          href={`/threads/${t.id}`}
                          className="hover:underline"
                          title={STATE_WORD[t.state as keyof typeof STATE_WORD]}
                        >
                          {t.reference ? `${t.reference} ` : ''}
                          {t.name}
                        </Link>
                        {t.moved && <span className="text-warn"> ≠ moved</span>}
                      </span>
                    ))}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </Place>
  );
}
