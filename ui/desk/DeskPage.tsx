'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import type { Desk, Waiting } from '@/contracts/answers/desk';
import { amountText, countText, momentText } from '../amounts';
import { STATE_WORD } from '../keptThreads/words';
import { Failure, Place } from '../parts/Place';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useKeys } from '../shell/keys';

const NO_PARAMS = new URLSearchParams();

const KIND: Record<Waiting['kind'], string> = {
  question: 'question',
  answer: 'answer',
  point: 'review point',
  mention: 'mention',
  review: 'to review',
  finding: 'finding',
  proposed: 'proposed entry',
};

/** What waits for whoever signs in, what moved since they last looked, their own threads, and how far the team is. */
export function DeskPage() {
  const { data, error } = useAnswer('GET /desk', NO_PARAMS);
  return (
    <Place title="Desk" tabs={[]} here="">
      <Failure error={error} />
      {data && (
        <div className="grid grid-cols-[minmax(0,1fr)_330px] gap-x-10">
          <div className="flex min-w-0 flex-col gap-6">
            <WaitingList rows={data.waiting} />
            <Moved desk={data} />
          </div>
          <div className="flex min-w-0 flex-col gap-6">
            <Own desk={data} />
            <Progress desk={data} />
          </div>
        </div>
      )}
    </Place>
  );
}

const HEAD = 'mb-1 border-b-[1.5px] border-ink pb-0.5 font-book text-[16px] font-semibold';

/** One thing after the other: arrows go from one to the next, Enter opens it. */
function WaitingList({ rows }: { rows: readonly Waiting[] }) {
  const router = useRouter();
  const [at, setAt] = useState(0);
  const links = useRef<(HTMLAnchorElement | null)[]>([]);
  const seen = useChange(
    (row: Waiting) => ask('POST /desk/seen', { body: { kind: row.seen as 'note', id: row.id } }),
    ['/desk'],
  );
  const go = (to: number): void => {
    const next = Math.max(0, Math.min(rows.length - 1, to));
    setAt(next);
    links.current[next]?.focus();
  };
  useKeys({ ArrowDown: () => go(at + 1), ArrowUp: () => go(at - 1) });
  // Whoever comes here begins with the first that waits.
  useEffect(() => links.current[0]?.focus({ preventScroll: true }), []);
  const open = (row: Waiting): void => {
    if (row.seen) seen.mutate(row);
    router.push(row.place);
  };
  return (
    <section aria-labelledby="waiting">
      <h2 id="waiting" className={HEAD}>
        Waits for you
        {rows.length > 0 && (
          <span className="ml-2 font-sans text-[13px] font-normal text-soft">{countText(rows.length)}</span>
        )}
      </h2>
      {rows.length === 0 && <p className="py-1 text-soft">Nothing waits for you.</p>}
      <ul>
        {rows.map((row, i) => (
          <li key={`${row.kind}${row.id}`} className="group flex items-baseline gap-3 border-b border-hair py-[5px]">
            <span className="w-[86px] shrink-0 text-[12.5px] text-soft">{KIND[row.kind]}</span>
            <div className="min-w-0 flex-1">
              <Link
                ref={(link) => {
                  links.current[i] = link;
                }}
                href={row.place}
                onFocus={() => setAt(i)}
                onClick={(event) => {
                  event.preventDefault();
                  open(row);
                }}
                className="hover:underline"
              >
                <strong className="font-semibold">{row.by}</strong> {row.says}
              </Link>
              {row.body && <p className="line-clamp-2 text-soft">{row.body}</p>}
            </div>
            <span
              className={`shrink-0 text-[12.5px] ${row.late ? 'text-warn' : 'text-faint'}`}
              title={momentText(row.at)}
            >
              {row.late
                ? 'past its day'
                : row.age === 0
                  ? 'today'
                  : `${countText(row.age)} ${row.age === 1 ? 'day' : 'days'}`}
            </span>
            {row.seen && (
              <button type="button" className="link shrink-0 text-[12.5px] text-faint" onClick={() => seen.mutate(row)}>
                seen
              </button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** So many loads are told one by one. */
const LOADS_TOLD = 4;

function Moved({ desk }: { desk: Desk }) {
  const loads = desk.moved.filter((m) => m.kind === 'load');
  // What changed of one's own is told before what came.
  const told = [...desk.moved.filter((m) => m.kind !== 'load'), ...loads.slice(0, LOADS_TOLD)];
  const more = loads.length - LOADS_TOLD;
  const seen = useChange(() => ask('POST /desk/seen', { body: { moved: true } }), ['/desk']);
  return (
    <section aria-labelledby="moved">
      <h2 id="moved" className={`${HEAD} flex items-baseline gap-3`}>
        Moved since you last looked
        {desk.lookedAt && (
          <span className="font-sans text-[12.5px] font-normal text-soft">{momentText(desk.lookedAt)}</span>
        )}
        {desk.moved.length > 0 && (
          <button
            type="button"
            className="link ml-auto font-sans text-[12.5px] font-normal"
            onClick={() => seen.mutate(undefined)}
          >
            I have seen it
          </button>
        )}
      </h2>
      {desk.moved.length === 0 && (
        <p className="py-1 text-soft">Nothing: no load has come, and what you kept stands as it stood.</p>
      )}
      <ul>
        {told.map((m) => (
          <li key={`${m.kind}${m.says}${m.place}`} className="flex items-baseline gap-3 border-b border-hair py-[3px]">
            <Link href={m.place} className="min-w-0 flex-1 truncate hover:underline">
              {m.kind !== 'load' && <span className="text-warn">≠ </span>}
              {m.says}
            </Link>
            <span className="shrink-0 text-[12.5px] text-soft">
              {m.change ? `${m.change.currency} ${amountText(m.change.value)}` : m.at ? momentText(m.at) : ''}
            </span>
          </li>
        ))}
      </ul>
      {more > 0 && (
        <p className="py-[3px]">
          <Link href="/loads" className="link text-soft">
            and {countText(more)} earlier {more === 1 ? 'load' : 'loads'}
          </Link>
        </p>
      )}
    </section>
  );
}

function Own({ desk }: { desk: Desk }) {
  return (
    <section aria-labelledby="own">
      <h2 id="own" className={HEAD}>
        Your threads
      </h2>
      {desk.threads.length === 0 && (
        <p className="py-1 text-soft">
          None is under way. Begin on the{' '}
          <Link href="/trial-balance" className="link">
            trial balance
          </Link>{' '}
          or a{' '}
          <Link href="/statements" className="link">
            statement
          </Link>
          .
        </p>
      )}
      <ul>
        {desk.threads.map((t) => (
          <li key={t.id} className="border-b border-hair py-[4px]">
            <Link href={`/threads/${t.id}`} className="block truncate font-semibold hover:underline">
              {t.reference ? `${t.reference} ` : ''}
              {t.name}
            </Link>
            <span className="text-[12.5px] text-soft">
              {STATE_WORD[t.state as keyof typeof STATE_WORD]}
              {t.openPoints > 0 && `, ${countText(t.openPoints)} open ${t.openPoints === 1 ? 'point' : 'points'}`}
              {t.moved > 0 && <span className="text-warn">, ≠ {countText(t.moved)} moved</span>}
            </span>
          </li>
        ))}
      </ul>
      {desk.scopes.length > 0 && (
        <>
          <h3 className="mt-3 text-[12.5px] text-soft">Kept sentences</h3>
          <ul>
            {desk.scopes.map((s) => (
              <li key={s.place} className="truncate py-[2px]">
                <Link href={s.place} className="hover:underline">
                  {s.name}
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
    </section>
  );
}

/** How far the team is, by the folders of its threads: signed, prepared, under way. */
function Progress({ desk }: { desk: Desk }) {
  if (desk.progress.length === 0) return null;
  return (
    <section aria-labelledby="progress">
      <h2 id="progress" className={HEAD}>
        The team
      </h2>
      <ul>
        {desk.progress.map((p) => (
          <li key={p.folder} className="border-b border-hair py-[5px]">
            <p className="flex items-baseline justify-between gap-3">
              <Link href="/threads" className="min-w-0 truncate hover:underline">
                {p.folder === '' ? 'In no folder' : p.folder.split('/').join(' › ')}
              </Link>
              <span className="shrink-0 text-[12.5px] text-soft">
                {countText(p.signed)} of {countText(p.threads)} signed
              </span>
            </p>
            <span aria-hidden className="mt-0.5 flex h-[5px] border border-rule bg-sheet">
              <span className="bg-reviewer" style={{ width: `${(100 * p.signed) / p.threads}%` }} />
              <span className="bg-preparer" style={{ width: `${(100 * p.prepared) / p.threads}%` }} />
            </span>
            <p className="text-[12.5px] text-soft">
              {countText(p.prepared)} prepared, {countText(p.open)} under way
              {p.openPoints > 0 && `, ${countText(p.openPoints)} open ${p.openPoints === 1 ? 'point' : 'points'}`}
              {p.moved > 0 && <span className="text-warn">, ≠ {countText(p.moved)} moved</span>}
            </p>
          </li>
        ))}
      </ul>
    </section>
  );
}
