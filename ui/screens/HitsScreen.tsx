'use client';

import Link from 'next/link';
import { useMemo, useState } from 'react';
import type { TestHit } from '@/contracts/answers/tests';
import type { Screen } from '../address/address';
import { countText } from '../amounts';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { useAnswer } from '../query/hooks';
import type { FeatureKey, SheetAt } from '../sheet/features/feature';
import type { SheetModel } from '../sheet/model';
import { proofOf } from '../sheet/proof';
import { focusCell } from '../sheet/useFocus';
import { HitFoot } from '../tests/HitFoot';
import { JudgeDialog, type Judging } from '../tests/JudgeDialog';
import { SideBySide } from '../tests/SideBySide';
import { useRun } from '../tests/useRuns';
import { HIT_COLUMNS, HITS_MOST, hitRow, hitsAsked } from './hitRows';
import { type ScreenProps, SheetFrame } from './SheetFrame';

/** A list or a dialog gives the focus back as it goes; the sheet has it after that. */
const AFTER_MS = 80;

const STATES = ['open', 'judged', 'ignored', 'all'] as const;

/** What a run of tests found, the most unusual first: gone through, judged by a key, traced to its lines. */
export function HitsScreen(props: ScreenProps) {
  const { screen, go } = props;
  const id = Number(screen.options.run) || 0;
  const { data: run, error: runError } = useRun(id);
  const asked = useMemo(() => hitsAsked(screen), [screen]);
  const { data, error, isPending, isPlaceholderData } = useAnswer('GET /test-runs/{id}/hits', asked, { id });
  const sentence = useAnswer('GET /sentence', screen.scope).data;
  const [judging, setJudging] = useState<Judging | null>(null);
  const [beside, setBeside] = useState<TestHit | null>(null);
  const model = useMemo((): SheetModel => {
    const hits = data?.hits ?? [];
    const isAgain = (i: number): boolean => {
      const [one, above] = [hits[i], hits[i - 1]];
      return one?.entry != null && above?.entry === one.entry && above.entity === one.entity;
    };
    return {
      label: 'Hits',
      columns: HIT_COLUMNS,
      count: hits.length,
      rowAt: (index) => hits[index] && hitRow(hits[index], isAgain(index)),
      indexOf: (key) => hits.findIndex((h) => h.key === key),
      total: data && {
        label: `${data.next === null ? '' : 'the first '}${countText(hits.length)} ${hits.length === 1 ? 'hit' : 'hits'}`,
      },
      parts: sentence?.parts ?? [],
      path: data && asked ? `/test-runs/${id}/hits?${asked}` : undefined,
      load: run?.load,
      empty: data && hits.length === 0 ? nothingOf(screen) : undefined,
      // What was looked at is all there is: the ledger's own sums say the same.
      tie: proofOf(
        run && { ok: run.population.every((p) => p.tie), offBy: '0' },
        'looked at all that the trial balance has',
      ),
      stale: isPlaceholderData,
      loading: isPending,
      error: error ?? runError,
    };
  }, [data, run, sentence, screen, asked, id, isPending, isPlaceholderData, error, runError]);
  const judge =
    (act: Judging['act']) =>
    (s: SheetAt): void => {
      const hit = s.row?.hit;
      if (s.me.role === 'reader') s.say('A reader judges nothing; ask a preparer.');
      else if (hit) setJudging({ hit, act });
    };
  const keys: FeatureKey[] = [
    { key: 'e', says: 'the hit is explained', run: judge('explained') },
    { key: 'f', says: 'the hit is a finding', run: judge('finding') },
    { key: 'q', says: 'ask somebody about the hit', run: judge('asked') },
    { key: 'o', says: 'the hit is open again', run: judge('open') },
    { key: 'i', says: 'ignore hits that are like it', run: judge('ignore') },
    {
      key: 'b',
      says: 'the entries behind it side by side',
      run: (s) => {
        const hit = s.row?.hit;
        if (hit && hit.entries.length > 1) setBeside(hit);
        else s.say('One entry is behind this hit, or an account; Enter leads to its lines.');
      },
    },
  ];
  const put = (change: Record<string, string>): void => {
    const options = { ...screen.options, ...change };
    for (const [name, value] of Object.entries(change)) if (value === '') delete options[name];
    go({ ...screen, options });
    // Whoever has chosen goes on with the keyboard in what was chosen.
    setTimeout(focusCell, AFTER_MS);
  };
  return (
    <>
      <SheetFrame
        {...props}
        go={(to) => {
          if (to.steps.length === 0 && to.scope.toString() !== screen.scope.toString())
            return void toast('A run is of what it looked at; run the tests again over something else.');
          go(to);
        }}
        sheet="hits"
        model={model}
        keys={keys}
        foot={(row) => run && row?.hit && <HitFoot run={run} hit={row.hit} />}
        tools={
          <>
            <Select
              look="word"
              aria-label="Which test"
              value={screen.options.test ?? ''}
              onChange={(event) => put({ test: event.target.value })}
            >
              <option value="">of all tests</option>
              {(run?.results ?? [])
                .filter((r) => r.hits > 0)
                .map((r) => (
                  <option key={r.code} value={r.code}>
                    {r.name} ({countText(r.hits)})
                  </option>
                ))}
            </Select>
            <Select
              look="word"
              aria-label="Which hits"
              value={screen.options.state ?? 'open'}
              onChange={(event) => put({ state: event.target.value })}
            >
              {STATES.map((state) => (
                <option key={state} value={state}>
                  {state}
                </option>
              ))}
            </Select>
            {screen.options.key && (
              <button type="button" className="link" onClick={() => put({ key: '', by: '' })}>
                all of them, not of {screen.options.key.replace(/^[^/]*\//, '')} alone
              </button>
            )}
            {data?.next != null && <span>the first {countText(HITS_MOST)}; choose a test for the others</span>}
            <Link href={`/tests/${id}`} className="link">
              {run?.title ?? 'The run'}
            </Link>
          </>
        }
      />
      {judging && (
        <JudgeDialog
          {...judging}
          run={id}
          onClose={() => {
            setJudging(null);
            setTimeout(focusCell, AFTER_MS);
          }}
        />
      )}
      {beside && (
        <SideBySide
          hit={beside}
          onClose={() => {
            setBeside(null);
            setTimeout(focusCell, AFTER_MS);
          }}
        />
      )}
    </>
  );
}

const nothingOf = ({ options }: Screen) => ({
  reason: (options.state ?? 'open') === 'open' ? 'Nothing is open here.' : 'There is nothing here.',
  instead: null,
  label: null,
});
