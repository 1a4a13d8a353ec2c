'use client';

import { useRouter } from 'next/navigation';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import type { TestHit } from '@/contracts/answers/tests';
import { amountText } from '../amounts';
import { JudgeDialog, type Judging } from './JudgeDialog';
import { SideBySide } from './SideBySide';
import { JUDGEMENT_WORD } from './words';

/** Score, what and why, amount, what was said of it. */
const ROW = 'grid grid-cols-[36px_minmax(0,1fr)_112px_76px] gap-x-2.5 px-2 py-1';

/** Hits in rows, gone through and judged by keys: arrows, Enter to its lines, E explained, F finding, Q asked, O open, I ignore alike. */
export function HitRows({
  hits,
  at,
  onAt,
  empty,
  onMore,
  run,
  may,
}: {
  hits: readonly TestHit[];
  at: number;
  onAt(at: number): void;
  empty: string;
  onMore: (() => Promise<void>) | null;
  run: number;
  may: boolean;
}) {
  const router = useRouter();
  const list = useRef<HTMLDivElement>(null);
  const [judging, setJudging] = useState<Judging | null>(null);
  const [beside, setBeside] = useState<TestHit | null>(null);
  const focused = Math.min(at, hits.length - 1);
  useEffect(() => {
    list.current?.querySelector(`#hit-${focused}`)?.scrollIntoView({ block: 'nearest' });
  }, [focused]);
  // Whoever came to go through them has the keyboard there, unless something else has it.
  useEffect(() => {
    if (hits.length > 0 && document.activeElement === document.body) list.current?.focus({ preventScroll: true });
  }, [hits.length]);
  if (hits.length === 0) return <p className="text-soft">{empty}</p>;
  const onKey = (event: KeyboardEvent): void => {
    const hit = hits[focused];
    if (!hit || event.ctrlKey || event.metaKey || event.altKey) return;
    const go = (to: number): void => onAt(Math.max(0, Math.min(hits.length - 1, to)));
    const acts: Record<string, () => void> = {
      ArrowDown: () => go(focused + 1),
      ArrowUp: () => go(focused - 1),
      PageDown: () => go(focused + 10),
      PageUp: () => go(focused - 10),
      Home: () => go(0),
      End: () => go(hits.length - 1),
      Enter: () => router.push(hit.address),
      ...(hit.entries.length > 1 ? { b: () => setBeside(hit) } : {}),
      ...(may
        ? {
            e: () => setJudging({ hit, act: 'explained' }),
            f: () => setJudging({ hit, act: 'finding' }),
            q: () => setJudging({ hit, act: 'asked' }),
            o: () => setJudging({ hit, act: 'open' }),
            i: () => setJudging({ hit, act: 'ignore' }),
          }
        : {}),
    };
    const act = acts[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  };
  return (
    <>
      <div className="border border-rule bg-sheet text-[13.5px]">
        <div aria-hidden="true" className={`${ROW} border-b-[1.5px] border-ink text-[12.5px] text-soft`}>
          <span className="text-right" title="How unusual, in bits">
            Score
          </span>
          <span>What and why</span>
          <span className="text-right">Amount</span>
          <span>Judged</span>
        </div>
        <div
          ref={list}
          role="listbox"
          aria-label="Hits"
          tabIndex={0}
          aria-activedescendant={`hit-${focused}`}
          onKeyDown={onKey}
          className="outline-offset-[-1px]"
        >
          {hits.map((hit, i) => {
            const above = hits[i - 1];
            const again =
              above !== undefined && hit.entry !== null && above.entry === hit.entry && above.entity === hit.entity;
            return (
              // biome-ignore lint/a11y/useKeyWithClickEvents: keys are the list's
              // biome-ignore lint/a11y/useFocusableInteractive: the list has the focus, and says which option is meant
              <div
                key={hit.key}
                id={`hit-${i}`}
                role="option"
                aria-selected={i === focused}
                onClick={() => onAt(i)}
                onDoubleClick={() => router.push(hit.address)}
                className={`${ROW} items-baseline ${again ? '' : 'border-t border-rule'} ${i === focused ? 'bg-chosen' : ''}`}
              >
                <span className="text-right tabular-nums">{hit.score.toFixed(1)}</span>
                <span className="min-w-0">
                  {!again && (
                    <span className="block">
                      <span className="font-semibold">{hit.what}</span>
                      <span className="ml-2 text-[12.5px] text-faint">{hit.entity}</span>
                    </span>
                  )}
                  <span className="text-[12.5px] text-soft">{hit.name}.</span> {hit.reason}
                </span>
                <span className="text-right whitespace-nowrap tabular-nums">
                  <span className="text-[11.5px] text-faint">{hit.currency}</span> {amountText(hit.amount)}
                </span>
                <span className="text-[12.5px]">
                  {hit.judgement ? JUDGEMENT_WORD[hit.judgement.judgement] : ''}
                  {hit.ignored !== null && <span className="text-soft">– ignored</span>}
                </span>
              </div>
            );
          })}
        </div>
      </div>
      {onMore && (
        <button type="button" className="button mt-2" onClick={() => void onMore()}>
          Show more
        </button>
      )}
      {beside && (
        <SideBySide
          hit={beside}
          onClose={() => {
            setBeside(null);
            setTimeout(() => list.current?.focus({ preventScroll: true }), 80);
          }}
        />
      )}
      {judging && (
        <JudgeDialog
          {...judging}
          run={run}
          onClose={(moved) => {
            setJudging(null);
            if (moved) setTimeout(() => list.current?.focus({ preventScroll: true }), 80);
          }}
        />
      )}
    </>
  );
}
