'use client';

import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import type { Comparison } from '@/contracts/answers/loads';
import { amountText, countText } from '../amounts';
import { Failure, Labelled, LOAD_TABS, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer, useLoads } from '../query/hooks';

const WORDS = { added: '+ added', changed: '≠ changed', removed: '− removed' } as const;
const FIELD_WORDS: Record<string, string> = {
  postingDate: 'date',
  entryDescription: 'entry description',
  postedBy: 'posted by',
  currencyAmount: 'currency amount',
  dims: 'dimensions',
};
const PAGE = 200;

/** What changed in the ledger between any two loads: lines with their fields, sums by account, evidence touched. */
export function ComparePage() {
  const loads = useLoads();
  const router = useRouter();
  const params = useSearchParams();
  const done = (loads.data?.rows ?? []).filter((l) => l.status === 'loaded' && l.kind === 'lines');
  const to = Number(params.get('to')) || done[0]?.id || 0;
  const from = params.has('from') ? Number(params.get('from')) : (done.find((l) => l.id < to)?.id ?? 0);
  const at = Number(params.get('at')) || 0;
  const asked =
    to > 0 && from < to
      ? new URLSearchParams({ from: String(from), to: String(to), limit: String(PAGE), at: String(at) })
      : null;
  const { data, error, isPending } = useAnswer('GET /loads/compare', asked);
  const go = (next: Record<string, number>): void =>
    router.replace(
      `/loads/compare?${new URLSearchParams({ from: String(from), to: String(to), ...Object.fromEntries(Object.entries(next).map(([k, v]) => [k, String(v)])) })}`,
    );
  const several = new Set(data?.accounts.map((a) => a.entity)).size > 1;
  const total = data ? data.counts.added + data.counts.changed + data.counts.removed : 0;
  return (
    <Place title="Loads" tabs={LOAD_TABS} here="/loads/compare">
      <div className="mb-4 flex flex-wrap items-end gap-3">
        <Labelled label="From">
          <Select value={from} onChange={(event) => go({ from: Number(event.target.value), at: 0 })} className="field">
            <option value={0}>before any load</option>
            {done.map((l) => (
              <option key={l.id} value={l.id} disabled={l.id >= to}>
                load {l.id}, {l.file}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="To">
          <Select value={to} onChange={(event) => go({ to: Number(event.target.value), at: 0 })} className="field">
            {done.map((l) => (
              <option key={l.id} value={l.id}>
                load {l.id}, {l.file}
              </option>
            ))}
          </Select>
        </Labelled>
        {data && (
          <p className="pb-1">
            <b>{countText(data.counts.added)}</b> lines added, <b>{countText(data.counts.changed)}</b> changed,{' '}
            <b>{countText(data.counts.removed)}</b> removed
          </p>
        )}
      </div>
      <Failure error={error} />
      {asked && isPending && <p className="text-soft">Comparing …</p>}
      {!asked && loads.data && <p className="text-soft">There are no two loads of journal lines to compare yet.</p>}
      {data && total === 0 && <p className="text-soft">The two are the same, line by line.</p>}
      {data && total > 0 && (
        <div className="grid grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)] gap-6">
          <section aria-label="Lines">
            <Table
              label="Lines that differ"
              fixed
              columns={[
                { label: 'Change', width: 'w-[92px]' },
                { label: 'Entry and line', width: 'w-[170px]' },
                { label: 'Account', width: 'w-[70px]' },
                { label: 'What' },
                { label: 'Amount', right: true, width: 'w-[110px]' },
              ]}
            >
              {data.lines.map((l) => (
                <Tr key={`${l.entity}${l.entry}${l.line}`}>
                  <Td>
                    <span className={l.change === 'added' ? '' : 'text-warn'}>{WORDS[l.change]}</span>
                  </Td>
                  <Td>
                    {several && `${l.entity} `}
                    {l.entry} <span className="text-faint">line {l.line}</span>
                  </Td>
                  <Td>{l.account}</Td>
                  <Td>
                    {l.description}
                    {l.fields.map((f) => (
                      <span key={f.field} className="block text-[13px] text-soft">
                        {FIELD_WORDS[f.field] ?? f.field}: {plain(f.field, f.from)} →{' '}
                        <b className="text-ink">{plain(f.field, f.to)}</b>
                      </span>
                    ))}
                  </Td>
                  <Td right>{amountText(l.amount)}</Td>
                </Tr>
              ))}
            </Table>
            {total > PAGE && (
              <p className="mt-2 flex gap-3">
                <button
                  type="button"
                  className="button"
                  disabled={at === 0}
                  onClick={() => go({ at: Math.max(0, at - PAGE) })}
                >
                  Before
                </button>
                <span className="pt-1.5">
                  {countText(at + 1)} to {countText(Math.min(total, at + PAGE))} of {countText(total)}
                </span>
                <button
                  type="button"
                  className="button"
                  disabled={at + PAGE >= total}
                  onClick={() => go({ at: at + PAGE })}
                >
                  After
                </button>
              </p>
            )}
          </section>
          <div>
            <section aria-label="Sums by account">
              <h2 className="mb-1 font-semibold">Sums by account</h2>
              <Table
                label="Sums by account"
                fixed
                columns={[
                  { label: 'Account' },
                  { label: 'Before', right: true, width: 'w-[100px]' },
                  { label: 'After', right: true, width: 'w-[100px]' },
                  { label: 'Change', right: true, width: 'w-[104px]' },
                ]}
              >
                {data.accounts.map((a) => (
                  <Tr key={`${a.entity}${a.account}`}>
                    <Td cut>
                      <Link
                        href={`/lines?entity=${a.entity}&accounts=${encodeURIComponent(a.account)}&window=everything&load=${data.to}`}
                        className="underline decoration-rule underline-offset-4 hover:decoration-ink"
                      >
                        {a.account} {a.name}
                      </Link>
                      {several && (
                        <span className="text-faint">
                          {' '}
                          {a.entity}, {a.currency}
                        </span>
                      )}
                    </Td>
                    <Td right>{amountText(a.before)}</Td>
                    <Td right>{amountText(a.after)}</Td>
                    <Td right>{amountText(a.change)}</Td>
                  </Tr>
                ))}
              </Table>
            </section>
            <Touched touched={data.touched} />
          </div>
        </div>
      )}
    </Place>
  );
}

const plain = (field: string, value: string): string => {
  if (value === '') return 'nothing';
  if (field === 'amount') return amountText(value);
  if (field !== 'dims') return value;
  const pairs = JSON.parse(value) as [string, string][];
  return pairs.length === 0 ? 'nothing' : pairs.map(([dim, member]) => `${dim} ${member}`).join(', ');
};

function Touched({ touched }: { touched: Comparison['touched'] }) {
  return (
    <section aria-label="Evidence touched" className="mt-5">
      <h2 className="mb-1 font-semibold">Evidence that this touches</h2>
      {touched.pins.length + touched.notes.length + touched.threads.length === 0 && (
        <p className="text-soft">No pin, no note and no thread stands on these lines.</p>
      )}
      <ul>
        {touched.threads.map((t) => (
          <li key={`t${t.id}`} className="border-b border-hair py-1">
            <Link href={`/threads/${t.id}`} className="underline decoration-rule underline-offset-2 hover:text-ink">
              Thread “{t.name}”
            </Link>{' '}
            of {t.by}, {t.state}: {t.steps.join(', ')}
          </li>
        ))}
        {touched.pins.map((p) => (
          <li key={`p${p.id}`} className="border-b border-hair py-1">
            {p.state === 'drifted' ? <span className="text-warn">≠</span> : '▪'} Pin of {p.by} on {p.label}:{' '}
            {amountText(p.value)}
            {p.now !== null && p.state === 'drifted' && `, now ${amountText(p.now)}`}
          </li>
        ))}
        {touched.notes.map((n) => (
          <li key={`n${n.id}`} className="border-b border-hair py-1">
            ^ Note of {n.by} on {n.label}: {n.body}
          </li>
        ))}
      </ul>
    </section>
  );
}
