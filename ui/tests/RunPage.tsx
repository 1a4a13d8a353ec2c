'use client';

import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { useEffect, useMemo, useState } from 'react';
import type { Run, TestHit } from '@/contracts/answers/tests';
import { placeOfSubject } from '@/contracts/places';
import { amountText, countText, momentText } from '../amounts';
import { Failure, Place, TEST_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { HitAside } from './HitAside';
import { HitRows } from './HitRows';
import { useRun } from './useRuns';
import { STATE_WORD, TOUCHES } from './words';

const PAGE = 200;

const BY = [
  ['', 'one by one'],
  ['entry', 'by entry'],
  ['account', 'by account'],
  ['person', 'by person'],
  ['party', 'by party'],
  ['day', 'by day'],
] as const;

/** A run of tests: what it looked at, what each test came to, and its hits, which are judged one after the other. */
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
  const me = useMe();
  const params = useSearchParams();
  const router = useRouter();
  const test = params.get('test');
  const by = params.get('by') ?? '';
  const key = params.get('key');
  const state = params.get('state') ?? 'open';
  const put = (change: Record<string, string | null>): void => {
    const next = new URLSearchParams(params);
    for (const [name, value] of Object.entries(change)) {
      if (value === null || value === '') next.delete(name);
      else next.set(name, value);
    }
    router.replace(`/tests/${run.id}?${next}`, { scroll: false });
  };
  const asked = useMemo(() => {
    const query = new URLSearchParams({ state, limit: String(PAGE) });
    if (test) query.append('test', test);
    if (by) query.set('by', by);
    if (key) query.set('key', key);
    return query;
  }, [state, test, by, key]);
  const groups = useAnswer('GET /test-runs/{id}/groups', by && !key ? asked : null, { id: run.id });
  const { data, error } = useAnswer('GET /test-runs/{id}/hits', by && !key ? null : asked, { id: run.id });
  const [after, setAfter] = useState<TestHit[]>([]);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another question begins at its first page
  useEffect(() => setAfter([]), [asked, data]);
  const hits = useMemo(() => [...(data?.hits ?? []), ...after], [data, after]);
  const [at, setAt] = useState(0);
  // biome-ignore lint/correctness/useExhaustiveDependencies: another question begins at its first hit
  useEffect(() => setAt(0), [asked]);
  const hit = hits[Math.min(at, hits.length - 1)] ?? null;
  return (
    <div className="grid grid-cols-[216px_minmax(0,1fr)_252px] items-start gap-x-5">
      <Tests run={run} test={test} onTest={(code) => put({ test: code, key: null })} />
      <div className="min-w-0">
        <div className="mb-2 flex items-baseline gap-4">
          <Select
            aria-label="Which hits"
            value={state}
            onChange={(event) => put({ state: event.target.value })}
            className="h-7 w-[130px]"
          >
            <option value="open">open</option>
            <option value="judged">judged</option>
            <option value="ignored">ignored</option>
            <option value="all">all</option>
          </Select>
          <Select
            aria-label="Put together"
            value={by}
            onChange={(event) => put({ by: event.target.value, key: null })}
            className="h-7 w-[130px]"
          >
            {BY.map(([word, name]) => (
              <option key={word} value={word}>
                {name}
              </option>
            ))}
          </Select>
          {key && (
            <button type="button" className="link" onClick={() => put({ key: null })}>
              all of them
            </button>
          )}
          {run.before !== null && <Compared run={run} />}
        </div>
        <Failure error={error ?? groups.error} />
        {by && !key ? (
          <Groups rows={groups.data?.rows ?? []} by={by} onGroup={(of) => put({ key: of })} />
        ) : (
          <HitRows
            hits={hits}
            at={at}
            onAt={setAt}
            empty={state === 'open' ? 'Nothing is open here.' : 'There is nothing here.'}
            onMore={
              data?.next != null && after.length === 0
                ? async () => {
                    const query = new URLSearchParams(asked);
                    query.set('after', String(data.next));
                    query.set('limit', '1000');
                    const more = await ask('GET /test-runs/{id}/hits', { path: { id: run.id }, query });
                    setAfter(more.hits);
                  }
                : null
            }
            run={run.id}
            may={me.role !== 'reader'}
          />
        )}
      </div>
      {hit && !(by && !key) ? (
        <HitAside key={hit.key} run={run} hit={hit} may={me.role !== 'reader'} />
      ) : (
        <Looked run={run} />
      )}
    </div>
  );
}

/** What each test came to; one alone is chosen here. */
function Tests({ run, test, onTest }: { run: Run; test: string | null; onTest(code: string | null): void }) {
  const found = run.results.filter((r) => r.hits > 0);
  const none = run.results.filter((r) => r.hits === 0 && r.notLookedAt === null);
  const not = run.results.filter((r) => r.notLookedAt !== null);
  return (
    <nav aria-label="Tests" className="text-[13px]">
      <button
        type="button"
        onClick={() => onTest(null)}
        aria-pressed={test === null}
        className={`mb-1 flex w-full justify-between border-b border-ink pb-0.5 text-left ${test === null ? 'font-semibold' : ''}`}
      >
        <span>All tests</span>
        <span>{countText(run.results.reduce((sum, r) => sum + r.hits, 0))}</span>
      </button>
      {found.map((r) => (
        <button
          key={r.code}
          type="button"
          title={`${r.looksFor} ${r.source}`}
          aria-pressed={test === r.code}
          onClick={() => onTest(r.code)}
          className={`flex w-full justify-between gap-2 py-[2px] text-left hover:underline ${test === r.code ? 'font-semibold' : ''}`}
        >
          <span>{r.name}</span>
          <span className="tabular-nums">
            {r.judged + r.ignored > 0 && <span className="text-faint">{countText(r.judged + r.ignored)} of </span>}
            {countText(r.hits)}
          </span>
        </button>
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
  onGroup,
}: {
  rows: readonly { entity: string; key: string | null; label: string; hits: number; tests: string[]; score: number }[];
  by: string;
  onGroup(key: string): void;
}) {
  return (
    <table className="w-full border border-rule bg-sheet">
      <caption className="sr-only">Hits put together by {by}</caption>
      <tbody>
        {rows.map((r) => (
          <tr key={`${r.entity}/${r.key}`} className="border-b border-rule align-baseline">
            <td className="w-[56px] px-2 py-1 text-right tabular-nums" title="How unusual, in bits">
              {r.score.toFixed(1)}
            </td>
            <td className="w-[40%] px-2 py-1">
              <button
                type="button"
                className="text-left font-semibold hover:underline"
                onClick={() => onGroup(`${r.entity}/${r.key ?? '~none'}`)}
              >
                {r.label}
              </button>
              <span className="ml-2 text-faint">{r.entity}</span>
            </td>
            <td className="px-2 py-1 text-[13px] text-soft">{r.tests.join(', ')}</td>
            <td className="w-[70px] px-2 py-1 text-right tabular-nums">{countText(r.hits)}</td>
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
