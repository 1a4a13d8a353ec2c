'use client';

import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { placeOfSubject } from '@/contracts/places';
import { countText } from '../amounts';
import { PointCard } from '../evidence/cards';
import { Failure, Place, THREAD_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { useAnswer, useThreads } from '../query/hooks';
import { useKeys } from '../shell/keys';

/** All review points, those that wait first; a key walks from one that is open to the next. */
export function PointsPage() {
  const wanted = Number(useSearchParams().get('id')) || null;
  const [state, setState] = useState('waiting');
  const { data, error } = useAnswer(
    'GET /review-points',
    new URLSearchParams(state === 'all' ? [] : [['state', state]]),
  );
  const threads = useThreads();
  const [at, setAt] = useState<number | null>(null);
  const cards = useRef(new Map<number, HTMLElement>());
  const rows = data?.rows ?? [];
  const here = at ?? (wanted === null ? null : rows.findIndex((p) => p.id === wanted));
  const go = (to: number): void => {
    setAt(to);
    cards.current.get(to)?.focus();
  };
  useKeys({
    ']': () => rows.length > 0 && go(((here ?? -1) + 1) % rows.length),
    '[': () => rows.length > 0 && go(((here ?? 0) + rows.length - 1) % rows.length),
  });
  useEffect(() => {
    if (here !== null && here >= 0) cards.current.get(here)?.scrollIntoView({ block: 'nearest' });
  }, [here]);
  const nameOf = (id: number | null): string | null => {
    const thread = threads.data?.rows.find((t) => t.id === id);
    return thread ? `${thread.reference ? `${thread.reference} ` : ''}${thread.name}` : null;
  };
  return (
    <Place title="Review points" tabs={THREAD_TABS} here="/threads/points">
      <Failure error={error} />
      <p className="mb-3 flex items-baseline gap-x-2 text-soft">
        {countText(rows.length)} {rows.length === 1 ? 'point' : 'points'}
        <Select look="word" aria-label="Which points" value={state} onChange={(event) => setState(event.target.value)}>
          <option value="waiting">not cleared</option>
          <option value="open">open</option>
          <option value="answered">answered</option>
          <option value="cleared">cleared</option>
          <option value="all">of any state</option>
        </Select>
        {rows.length > 1 && <span>· ] goes to the next, [ to the one before</span>}
      </p>
      {data && rows.length === 0 && (
        <p className="max-w-[70ch] text-soft">
          {state === 'waiting'
            ? 'No point waits to be answered or cleared. A reviewer raises one with R on any row of a sheet, or on the page of a thread.'
            : 'There is none.'}
        </p>
      )}
      <ul className="flex max-w-[760px] flex-col gap-4">
        {rows.map((point, i) => (
          <li
            key={point.id}
            ref={(box) => void (box ? cards.current.set(i, box) : cards.current.delete(i))}
            tabIndex={-1}
            className={`p-2 outline-none ${i === here ? 'bg-chosen/60 shadow-[inset_3px_0_0_var(--ink)]' : ''}`}
          >
            <p className="mb-0.5 flex flex-wrap items-baseline gap-x-3 text-[13px]">
              <Link href={point.address || placeOfSubject(point.subject)} className="font-semibold hover:underline">
                {point.label}
              </Link>
              {nameOf(point.thread) && (
                <Link href={`/threads/${point.thread}`} className="text-soft hover:underline">
                  in {nameOf(point.thread)}
                </Link>
              )}
            </p>
            <PointCard point={point} />
          </li>
        ))}
      </ul>
    </Place>
  );
}
