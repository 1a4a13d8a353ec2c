'use client';

import Link from 'next/link';
import { useMemo, useState } from 'react';
import type { Misstatements } from '@/contracts/answers/proposals';
import { amountText } from '../amounts';
import { TakeOutLink } from '../leaving/TakeOutLink';
import { Failure, Labelled, Place, PROPOSAL_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { useAnswer, useEntities } from '../query/hooks';
import { KIND_WORD } from './words';

const VERDICT: Record<Misstatements['verdict'], string> = {
  nothing: 'Nothing is uncorrected, or it comes to nothing.',
  trivial: 'What is uncorrected is clearly trivial, taken together.',
  'below performance': 'What is uncorrected is below performance materiality, taken together.',
  performance:
    'What is uncorrected is above performance materiality, taken together: what was not found may make it material.',
  overall: 'What is uncorrected is material, taken together.',
  'not set': 'Nothing is said of what is material in this year, so that it cannot be weighed.',
};

/** All misstatements of a company in a year against what is material: the page for those charged with governance. */
export function MisstatementsPage() {
  const { data: names } = useEntities();
  const companies = (names?.entities ?? []).filter((e) => e.reach !== null);
  const [entity, setEntity] = useState<string | null>(null);
  const code = entity ?? companies[0]?.code ?? null;
  const [to, setTo] = useState('');
  const params = useMemo(
    () => (code === null ? null : new URLSearchParams({ entity: code, ...(/^\d{4}\.\d\d$/.test(to) ? { to } : {}) })),
    [code, to],
  );
  const { data, error } = useAnswer('GET /misstatements', params);
  return (
    <Place
      title="Misstatements"
      tabs={PROPOSAL_TABS}
      here="/proposals/misstatements"
      aside={data && params && <TakeOutLink path={`/misstatements?${params}`} label="Summary of misstatements" />}
    >
      <div className="mb-4 flex flex-wrap items-end gap-4 print:hidden">
        <Labelled label="Company">
          <Select value={code ?? ''} onChange={(event) => setEntity(event.target.value)}>
            {companies.map((e) => (
              <option key={e.code} value={e.code}>
                {e.name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Up to period">
          <input
            className="field w-[110px]"
            placeholder={data?.to ?? 'the last'}
            value={to}
            onChange={(event) => setTo(event.target.value.trim())}
          />
        </Labelled>
        <button type="button" className="button" onClick={() => window.print()}>
          Print
        </button>
      </div>
      <Failure error={error} />
      {data && <Summary data={data} />}
    </Place>
  );
}

function Summary({ data }: { data: Misstatements }) {
  const { materiality: m, uncorrected: u, currency } = data;
  const material = data.verdict === 'overall' || data.verdict === 'performance';
  return (
    <>
      <p className="max-w-[110ch]">
        {data.entityName}, {data.from} to {data.to}, in {currency}, as of load {data.load}.{' '}
        {m ? (
          <>
            Material is {amountText(m.overall)} overall, {amountText(m.performance)} for performance; clearly trivial is
            up to {amountText(m.trivial)}
            {m.entity === null ? ' (of the group)' : ''}. {m.reason}
          </>
        ) : (
          <Link href="/proposals/materiality" className="link">
            Say what is material
          </Link>
        )}
      </p>
      <p className={`mt-2 mb-4 font-semibold ${material ? 'text-warn' : ''}`} role="status">
        {material ? '! ' : ''}
        {VERDICT[data.verdict]}
      </p>
      <Groups data={data} is="uncorrected" title="Uncorrected" />
      {data.groups.some((g) => g.is === 'uncorrected') && (
        <table className="mt-3 mb-6 border border-rule bg-sheet" aria-label="Uncorrected, taken together">
          <tbody>
            {[
              ['On the result of the year, with what turns around in it (rollover)', u.rollover],
              ['after the tax that is said', u.afterTax],
              ['Of earlier years, still in the balance sheet', u.prior],
              ['On all that the balance sheet is out by (iron curtain)', u.ironCurtain],
              ['Each by its size, whichever way (gross)', u.gross],
            ].map(([label, value]) => (
              <tr key={label} className="border-b border-hair last:border-b-0">
                <th scope="row" className="px-3 py-[3px] text-left font-normal">
                  {label}
                </th>
                <td className="w-[140px] px-3 py-[3px] text-right tabular-nums">{amountText(value ?? '')}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {data.byLine.length > 0 && <ByLine data={data} />}
      <Groups data={data} is="corrected" title="Corrected" />
      {data.groups.length === 0 && (
        <p className="text-soft">No misstatement is proposed in this year. C on a sheet proposes one.</p>
      )}
    </>
  );
}

function Groups({ data, is, title }: { data: Misstatements; is: 'uncorrected' | 'corrected'; title: string }) {
  const groups = data.groups.filter((g) => g.is === is);
  if (groups.length === 0) return null;
  const amount = 'w-[116px] px-2 py-[3px] text-right whitespace-nowrap tabular-nums';
  const heads = ['Assets', 'Liabilities', 'Equity', 'Result', 'Of the year', 'Up to its end'];
  return (
    <section aria-label={title} className="mb-4 overflow-x-auto">
      <h2 className="mb-1 font-book text-[16px] font-semibold">{title}</h2>
      <table className="min-w-[1000px] border border-rule bg-sheet" aria-label={`${title} misstatements`}>
        <thead>
          <tr className="border-b-[1.5px] border-ink text-[12.5px] text-soft">
            <th scope="col" className="min-w-[300px] px-3 py-1 text-left font-normal">
              Debit, less credit in parentheses; of the result, a profit
            </th>
            {heads.map((label) => (
              <th key={label} scope="col" className={`${amount} font-normal`}>
                {label}
              </th>
            ))}
          </tr>
        </thead>
        {groups.map((g) => (
          <tbody key={g.kind} className="border-b border-rule">
            <tr>
              <th scope="rowgroup" colSpan={7} className="px-3 pt-2 pb-1 text-left font-semibold">
                {KIND_WORD[g.kind]}
              </th>
            </tr>
            {g.rows.map((r) => (
              <tr key={r.id} className="border-t border-hair align-baseline">
                <th scope="row" className="px-3 py-[3px] text-left font-normal">
                  <Link href={`/proposals/${r.id}`} className="font-semibold hover:underline">
                    {r.number}
                  </Link>{' '}
                  {r.title}
                  {r.trivial && <span className="ml-2 text-[12.5px] text-faint">clearly trivial</span>}
                  {r.waivedBy && (
                    <span className="block text-[12.5px] text-soft">
                      left uncorrected by {r.waivedBy}: {r.reason}
                    </span>
                  )}
                </th>
                {[
                  r.effect.assets,
                  r.effect.liabilities,
                  r.effect.equity,
                  r.effect.result,
                  r.rollover,
                  r.ironCurtain,
                ].map((value, i) => (
                  <td key={heads[i]} className={amount}>
                    {amountText(value)}
                  </td>
                ))}
              </tr>
            ))}
            <tr className="border-t border-ink font-semibold">
              <th scope="row" className="px-3 py-[3px] text-left font-semibold">
                Together
              </th>
              {[g.total.assets, g.total.liabilities, g.total.equity, g.total.result].map((value, i) => (
                <td key={heads[i]} className={amount}>
                  {amountText(value)}
                </td>
              ))}
              <td colSpan={2} className={`${amount} font-normal text-soft`}>
                gross {amountText(g.gross)}
              </td>
            </tr>
          </tbody>
        ))}
      </table>
    </section>
  );
}

function ByLine({ data }: { data: Misstatements }) {
  const amount = 'w-[140px] px-3 py-[3px] text-right whitespace-nowrap tabular-nums';
  return (
    <section aria-label="By statement line" className="mb-5">
      <h2 className="mb-1 font-book text-[16px] font-semibold">What correcting them would change</h2>
      <table className="border border-rule bg-sheet">
        <thead>
          <tr className="border-b-[1.5px] border-ink text-[12.5px] text-soft">
            <th scope="col" className="min-w-[300px] px-3 py-1 text-left font-normal">
              Statement line
            </th>
            <th scope="col" className={`${amount} font-normal`}>
              As booked
            </th>
            <th scope="col" className={`${amount} font-normal`}>
              Change
            </th>
          </tr>
        </thead>
        <tbody>
          {data.byLine.map((r) => (
            <tr key={`${r.statement} ${r.key}`} className="border-b border-hair last:border-b-0">
              <th scope="row" className="px-3 py-[3px] text-left font-normal">
                <span className="text-soft">{r.statement}:</span> {r.label}
              </th>
              <td className={amount}>{amountText(r.booked)}</td>
              <td className={`${amount} bg-proposed`}>{amountText(r.change)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
