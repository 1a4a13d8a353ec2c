'use client';

import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import type { Run } from '@/contracts/answers/tests';
import { placeOfSubject } from '@/contracts/places';
import { amountText, countText, momentText } from '../amounts';
import { Failure, Place, TEST_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { hitsPlace } from './hitsPlace';
import { useRun } from './useRuns';
import { STATE_WORD, TOUCHES } from './words';

/** So many are told of each way to put them together. */
const GROUPS = '200';

const BY = [
  ['entry', 'by entry'],
  ['account', 'by account'],
  ['person', 'by person'],
  ['party', 'by party'],
  ['day', 'by day'],
] as const;

/** A run of tests: what it looked at, what each test came to, and what it found put together; the hits are a sheet. */
export function RunPage({ id }: { id: number }) {
  const { data: run, error } = useRun(id);
  const underWay = run?.state === 'waiting' || run?.state === 'running';
  const me = useMe();
  const router = useRouter();
  const remove = useChange(() => ask('DELETE /test-runs/{id}', { path: { id } }), TOUCHES);
  const again = useChange(() => ask('POST /test-runs/{id}/again', { path: { id } }), TOUCHES);
  const stop = useChange(() => ask('DELETE /jobs/{id}', { path: { id: run?.job ?? 0 } }), TOUCHES);
  if (!run)
    return (
      <Place title="Run of tests" tabs={TEST_TABS} here="">
        <Failure error={error} />
      </Place>
    );
  return (
    <Place title={run.title} tabs={TEST_TABS} here="">
      <p className="-mt-2 mb-2 flex flex-wrap items-baseline gap-x-4 text-soft">
        <span>
          {run.sentence}; run by {run.byItself ? 'itself after a load' : run.by}, {momentText(run.at)}, as of load{' '}
          {run.load}
        </span>
        <Link href={placeOfSubject(run.subject)} className="link">
          What it looked at
        </Link>
        {run.thread && (
          <Link href={`/threads/${run.thread}`} className="link">
            its thread
          </Link>
        )}
        {underWay && run.job !== null && (
          <button type="button" className="link" onClick={() => stop.mutate(undefined)}>
            Stop
          </button>
        )}
        {me.role !== 'reader' && !underWay && (
          <button
            type="button"
            className="link"
            title="The same tests with the same settings, on the newest load"
            onClick={() => again.mutate(undefined, { onSuccess: (begun) => router.push(`/tests/${begun.id}`) })}
          >
            Run again
          </button>
        )}
        {run.mine && !underWay && (
          <button
            type="button"
            className="link"
            onClick={() => {
              if (window.confirm(`Take “${run.title}” away? What was said of its hits stays said.`))
                remove.mutate(undefined, { onSuccess: () => router.push('/tests') });
            }}
          >
            Take away
          </button>
        )}
      </p>
      <Failure error={stop.error ?? remove.error ?? again.error} />
      {run.state !== 'done' ? <UnderWay run={run} /> : <Done run={run} />}
    </Place>
  );
}

function UnderWay({ run }: { run: Run }) {
  return (
    <div role="status" className="max-w-[560px]">
      <p>
        {STATE_WORD[run.state]}
        {run.message ? `: ${run.message}` : ''}
      </p>
      <progress max={1} value={run.progress} className="mt-2 w-full" aria-label="How far it is" />
    </div>
  );
}

function Done({ run }: { run: Run }) {
  const params = useSearchParams();
  const router = useRouter();
  const by = BY.find(([word]) => word === params.get('by'))?.[0] ?? 'entry';
  const groups = useAnswer('GET /test-runs/{id}/groups', new URLSearchParams({ by, state: 'open', limit: GROUPS }), {
    id: run.id,
  });
  return (
    <div className="grid grid-cols-[230px_minmax(0,1fr)_236px] items-start gap-x-6">
      <Tests run={run} />
      <div className="min-w-0">
        <div className="mb-2 flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <Link href={hitsPlace(run)} className="button-main">
            Go through the hits
          </Link>
          <Select
            aria-label="Put together"
            look="word"
            value={by}
            onChange={(event) => router.replace(`/tests/${run.id}?by=${event.target.value}`, { scroll: false })}
          >
            {BY.map(([word, name]) => (
              <option key={word} value={word}>
                {name}
              </option>
            ))}
          </Select>
          {run.before !== null && <Compared run={run} />}
        </div>
        <Failure error={groups.error} />
        {groups.data?.rows.length === 0 && <p className="text-soft">Nothing is open here.</p>}
        <Groups rows={groups.data?.rows ?? []} by={by} run={run} />
      </div>
      <Looked run={run} />
    </div>
  );
}

/** What each test came to; its hits are gone through from here. */
function Tests({ run }: { run: Run }) {
  const found = run.results.filter((r) => r.hits > 0);
  const none = run.results.filter((r) => r.hits === 0 && r.notLookedAt === null);
  const not = run.results.filter((r) => r.notLookedAt !== null);
  return (
    <nav aria-label="Tests" className="text-[13px]">
      <p className="mb-1 flex w-full justify-between border-b border-ink pb-0.5 font-semibold">
        <span>All tests</span>
        <span>{countText(run.results.reduce((sum, r) => sum + r.hits, 0))}</span>
      </p>
      {found.map((r) => (
        <Link
          key={r.code}
          title={`${r.looksFor} ${r.source}`}
          href={hitsPlace(run, { test: r.code })}
          className="flex w-full justify-between gap-2 py-[2px] hover:underline"
        >
          <span>{r.name}</span>
          <span className="tabular-nums">
            {r.judged + r.ignored > 0 && <span className="text-faint">{countText(r.judged + r.ignored)} of </span>}
            {countText(r.hits)}
          </span>
        </Link>
      ))}
      {none.length > 0 && (
        <details className="mt-3 text-soft">
          <summary>{countText(none.length)} found nothing</summary>
          <ul className="mt-1 pl-3">
            {none.map((r) => (
              <li key={r.code} title={r.looksFor}>
                {r.name}
              </li>
            ))}
          </ul>
        </details>
      )}
      {not.length > 0 && (
        <details className="mt-2 text-warn">
          <summary>{countText(not.length)} did not look</summary>
          <ul className="mt-1 pl-3">
            {not.map((r) => (
              <li key={r.code}>
                {r.name}: {r.notLookedAt}
              </li>
            ))}
          </ul>
        </details>
      )}
    </nav>
  );
}

/** What was looked at, and whether that is all. */
function Looked({ run }: { run: Run }) {
  return (
    <section aria-label="What was looked at" className="text-[13px]">
      <h2 className="mb-1 font-book text-[16px] font-semibold">What was looked at</h2>
      {run.population.map((p) => (
        <p key={p.entity} className="mb-2">
          {p.name}: {countText(p.lines)} lines of {countText(p.entries)} entries, {p.currency} {amountText(p.debit)} in
          debits and {amountText(p.credit)} in credits.{' '}
          {p.tie ? (
            '✓ The trial balance says the same.'
          ) : (
            <span className="text-warn">✗ The trial balance says otherwise.</span>
          )}
        </p>
      ))}
    </section>
  );
}

function Groups({
  rows,
  by,
  run,
}: {
  rows: readonly {
    entity: string;
    key: string | null;
    label: string;
    hits: number;
    tests: string[];
    score: number;
    reason: string;
  }[];
  by: string;
  run: Run;
}) {
  if (rows.length === 0) return null;
  return (
    <table className="w-full border border-rule bg-sheet">
      <caption className="sr-only">Hits put together by {by}</caption>
      <thead>
        <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
          <th scope="col" className="w-[56px] px-2 py-1 text-right font-normal" title="How unusual, in bits">
            Score
          </th>
          <th scope="col" className="px-2 py-1 font-normal">
            What, and why
          </th>
          <th scope="col" className="w-[60px] px-2 py-1 text-right font-normal">
            Hits
          </th>
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <tr key={`${r.entity}/${r.key}`} className="border-b border-hair align-baseline">
            <td className="px-2 py-1 text-right tabular-nums">{r.score.toFixed(1)}</td>
            <td className="px-2 py-1">
              <Link
                href={hitsPlace(run, { by, key: `${r.entity}/${r.key ?? '~none'}` })}
                className="font-semibold hover:underline"
              >
                {r.label}
              </Link>
              <span className="ml-2 text-[12.5px] text-faint">{r.entity}</span>
              <span className="block text-[13px]">
                {r.reason} <span className="text-soft">{r.tests.join(', ')}.</span>
              </span>
            </td>
            <td className="px-2 py-1 text-right tabular-nums">{countText(r.hits)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** How many hits are new, gone and changed since the run before. */
function Compared({ run }: { run: Run }) {
  const { data } = useAnswer('GET /test-runs/{id}/compared', new URLSearchParams({ with: String(run.before) }), {
    id: run.id,
  });
  if (!data) return null;
  const of = (change: string): number => data.rows.filter((r) => r.change === change).length;
  return (
    <span className="text-[13px] text-soft">
      since{' '}
      <Link className="link" href={`/tests/${run.before}`}>
        the run before
      </Link>
      : {countText(of('new'))} new, {countText(of('changed'))} changed, {countText(of('gone'))} gone
    </span>
  );
}
