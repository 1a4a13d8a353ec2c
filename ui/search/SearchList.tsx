'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { type KeyboardEvent, type MouseEvent, useEffect, useMemo, useRef, useState } from 'react';
import { AT_HAND, HIT_KINDS, type Hit, type HitKind, IN_BOOKS } from '@/contracts/answers/search';
import { changed, type Origin, readScreen, screenPath } from '../address/address';
import { amountText, countText } from '../amounts';
import { useAnswer } from '../query/hooks';
import { useDebounced } from '../query/useDebounced';
import { useMe } from '../shell/me';
import { KIND_NAMES, keepOpened, recents, SHOWN_MAX } from './recent';

/** Nobody reads what is found of a word that is still being typed. */
const PAUSE_MS = 120;

const ORIGINS: readonly Origin[] = ['trial-balance', 'statements', 'lines'];

/**
 * What words find: names and what people wrote at once, what was booked when it is there. What was found of other words
 * stays until the first of the new is known.
 */
function useSearch(asked: URLSearchParams | null, kind: HitKind | null) {
  const atHand = useAnswer('GET /search', kind === null ? ofKinds(asked, AT_HAND) : null);
  const inBooks = useAnswer('GET /search', kind === null ? ofKinds(asked, IN_BOOKS) : asked);
  const both = kind === null ? [atHand, inBooks] : [inBooks];
  const fresh = both.filter((part) => part.data && !part.isPlaceholderData);
  const parts = (fresh.length > 0 ? fresh : both).flatMap((part) => part.data ?? []);
  return {
    data:
      parts.length === 0
        ? undefined
        : {
            hits: HIT_KINDS.flatMap((of) => parts.flatMap((part) => part.hits.filter((hit) => hit.kind === of))),
            counts: Object.assign({}, ...parts.map((part) => part.counts)) as (typeof parts)[number]['counts'],
            next: parts.at(-1)?.next ?? null,
            missing: parts.flatMap((part) => part.missing ?? []),
          },
    error: both.find((part) => part.error)?.error ?? null,
    isFetching: both.some((part) => part.isFetching),
  };
}

function ofKinds(asked: URLSearchParams | null, kinds: readonly HitKind[]): URLSearchParams | null {
  if (!asked) return null;
  const query = new URLSearchParams(asked);
  for (const kind of kinds) query.append('kind', kind);
  return query;
}

/** A field, and below it what its words find, by kind; all of it by keys. */
export function SearchList({
  words,
  onWords,
  kind = null,
  onKind,
  limit,
  after = 0,
  onAfter,
  onGone,
}: {
  words: string;
  onWords(words: string): void;
  /** Only what is of this kind; null: all. */
  kind?: HitKind | null;
  /** Shows all that is of one kind, or of every one again. */
  onKind(kind: HitKind | null): void;
  /** How many of each kind. */
  limit: number;
  after?: number;
  onAfter?(after: number): void;
  /** Something was opened in this tab. */
  onGone?(): void;
}) {
  const me = useMe();
  const router = useRouter();
  const path = usePathname();
  const params = useSearchParams();
  const typed = useDebounced(words.trim(), PAUSE_MS);
  const asked = useMemo(() => {
    if (typed === '') return null;
    const query = new URLSearchParams({ q: typed, limit: String(limit) });
    if (kind) query.set('kind', kind);
    if (kind && after > 0) query.set('after', String(after));
    return query;
  }, [typed, limit, kind, after]);
  const { data, error, isFetching } = useSearch(asked, kind);
  /** Which hit was gone to by keys; those that are found later move it down, and do not take its place. */
  const [picked, setPicked] = useState<string | null>(null);
  /** Enter was pressed before all was found: the first of it is meant. */
  const [waits, setWaits] = useState<{ beside: boolean; clause: boolean } | null>(null);
  const list = useRef<HTMLDivElement>(null);
  const [opened, setOpened] = useState<Hit[]>([]);
  useEffect(() => setOpened(recents(me.name).map((r) => ({ ...r, marks: { label: [], detail: [] } }))), [me.name]);
  const hits = typed === '' ? opened.slice(0, SHOWN_MAX) : (data?.hits ?? []);
  const counts = typed === '' ? {} : (data?.counts ?? {});
  const at = Math.max(
    0,
    hits.findIndex((hit) => keyOf(hit) === picked),
  );
  const setAt = (to: number): void => setPicked(hits[to] ? keyOf(hits[to]) : null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: other words, or another kind, begin at the first hit
  useEffect(() => {
    setPicked(null);
    setWaits(null);
  }, [typed, kind, after]);
  useEffect(() => {
    list.current?.querySelector(`#hit-${at}`)?.scrollIntoView({ block: 'nearest' });
  }, [at]);

  const settled = words.trim() === typed && !isFetching;
  const open = (hit: Hit | undefined, beside: boolean): void => {
    if (!hit) return;
    keepOpened(me.name, hit);
    if (beside) return void window.open(hit.address, '_blank');
    onGone?.();
    router.push(hit.address);
  };
  /** What was found, as a clause of the sheet that one is at, or of the lines. */
  const asClause = (hit: Hit | undefined): void => {
    if (!hit?.put) return;
    keepOpened(me.name, hit);
    onGone?.();
    const origin = ORIGINS.find((o) => path === `/${o}`);
    if (origin) {
      router.push(screenPath(changed(readScreen(origin, new URLSearchParams(params)), hit.put)));
      return;
    }
    const scope = new URLSearchParams(hit.entity ? { entity: hit.entity } : {});
    scope.set('window', 'everything');
    for (const [name, values] of Object.entries(hit.put)) for (const value of values) scope.append(name, value);
    router.push(`/lines?${scope}`);
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: done once, when all is found
  useEffect(() => {
    if (!settled || waits === null) return;
    setWaits(null);
    if (waits.clause) asClause(hits[0]);
    else open(hits[0], waits.beside);
  }, [settled, waits]);
  const onKey = (event: KeyboardEvent): void => {
    const act: Record<string, () => void> = {
      ArrowDown: () => setAt(Math.min(hits.length - 1, at + 1)),
      ArrowUp: () => setAt(Math.max(0, at - 1)),
      PageDown: () => setAt(nextKind(hits, at, 1)),
      PageUp: () => setAt(nextKind(hits, at, -1)),
      Enter: () => (event.shiftKey ? asClause(hits[at]) : open(hits[at], event.ctrlKey || event.metaKey)),
    };
    if (!act[event.key]) return;
    event.preventDefault();
    // What was typed last is what is meant, not what was found of less of it, nor what happened to be found first.
    if (event.key === 'Enter' && words.trim() !== typed) return;
    if (event.key === 'Enter' && picked === null && !settled) {
      setWaits({ beside: event.ctrlKey || event.metaKey, clause: event.shiftKey });
      return;
    }
    act[event.key]?.();
  };
  const groups = HIT_KINDS.flatMap((of) => {
    const mine = hits.flatMap((hit, i) => (hit.kind === of ? [{ hit, i }] : []));
    return mine.length > 0 ? [{ of, mine }] : [];
  });
  const shown = typed === '' ? [{ of: null, mine: hits.map((hit, i) => ({ hit, i })) }] : groups;
  const focused = hits[at];
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <input
        role="combobox"
        aria-label="Find"
        aria-expanded={hits.length > 0}
        aria-controls="hits"
        aria-activedescendant={focused ? `hit-${at}` : undefined}
        autoFocus
        autoComplete="off"
        spellCheck={false}
        maxLength={200}
        value={words}
        onChange={(event) => onWords(event.target.value)}
        onKeyDown={onKey}
        placeholder="An account, a number, words of a line, >5000, 6 jul, trial balance of …"
        className="field w-full text-[16px]"
      />
      <p className="flex min-h-[26px] items-center gap-x-4 text-[12.5px] text-soft" aria-live="polite">
        <span>{saidOf(typed, hits.length, counts, settled, error)}</span>
        {data && data.missing.length > 0 && typed !== '' && (
          <span className="text-warn">Not covered yet: {data.missing.join('; ')}.</span>
        )}
        {kind && (
          <button type="button" className="link ml-auto" onClick={() => onKind(null)}>
            all kinds
          </button>
        )}
      </p>
      <div
        ref={list}
        role="listbox"
        id="hits"
        aria-label={typed === '' ? 'Opened before' : 'What was found'}
        aria-busy={!settled}
        className="min-h-0 flex-1 overflow-y-auto"
      >
        {shown.map(({ of, mine }) => (
          // biome-ignore lint/a11y/useSemanticElements: a group within a list of options
          <div key={of ?? 'before'} role="group" aria-labelledby={`kind-${of}`} className="mb-2">
            {(of || mine.length > 0) && (
              <p
                id={`kind-${of}`}
                className="flex items-baseline gap-2 border-b border-rule pb-0.5 text-[12.5px] text-soft"
              >
                {of ? KIND_NAMES[of] : 'Opened before'}
                {of && <span className="text-faint">{countOf(counts[of])}</span>}
                {of && !kind && (counts[of]?.count ?? 0) > mine.length && (
                  <button type="button" className="link ml-auto" onClick={() => onKind(of)}>
                    show more
                  </button>
                )}
              </p>
            )}
            {mine.map(({ hit, i }) => (
              <HitRow
                key={keyOf(hit)}
                hit={hit}
                id={`hit-${i}`}
                named={of === null}
                chosen={i === at}
                onOpen={(event) => open(hit, event.ctrlKey || event.metaKey)}
              />
            ))}
          </div>
        ))}
        {kind && (after > 0 || data?.next !== null) && typed !== '' && data && onAfter && (
          <p className="flex gap-4 py-1 text-[12.5px] text-soft">
            {after > 0 && (
              <button type="button" className="link" onClick={() => onAfter(Math.max(0, after - limit))}>
                those before
              </button>
            )}
            {data.next !== null && (
              <button type="button" className="link" onClick={() => onAfter(data.next ?? 0)}>
                those after
              </button>
            )}
            {kind === 'line' && data.next === null && counts.line?.capped && (
              <span>There are more. Add a word, or ask for lines with these words under Lines.</span>
            )}
          </p>
        )}
      </div>
      <p className="flex gap-5 border-t border-rule pt-1.5 text-[12.5px] text-soft">
        <Key name="Enter">opens</Key>
        <Key name="Ctrl Enter">in a tab beside</Key>
        <span className={focused?.put ? '' : 'opacity-50'}>
          <Key name="Shift Enter">only this, as a clause</Key>
        </span>
        <span className="ml-auto text-faint">“…” finds a phrase whole</span>
      </p>
    </div>
  );
}

const keyOf = (hit: Hit): string => `${hit.kind} ${hit.address} ${hit.subject ?? ''}`;

const Key = ({ name, children }: { name: string; children: string }) => (
  <span>
    <strong className="font-semibold text-ink">{name}</strong> {children}
  </span>
);

const countOf = (of: { count: number; capped: boolean } | undefined): string =>
  of ? `${countText(of.count)}${of.capped ? ' and more' : ''}` : '';

function saidOf(
  typed: string,
  many: number,
  counts: Partial<Record<HitKind, { count: number; capped: boolean }>>,
  settled: boolean,
  error: Error | null,
): string {
  if (error) return error.message;
  if (typed === '')
    return many > 0
      ? ''
      : 'Everything that you may see: accounts, entries, lines, documents, threads, notes and places.';
  if (!settled) return 'Looking …';
  if (many === 0) return 'Nothing has all of these words. Try fewer of them, or a part of one.';
  const all = Object.values(counts);
  const sum = all.reduce((n, { count }) => n + count, 0);
  return `${countText(sum)}${all.some((c) => c.capped) ? ' and more' : ''} found`;
}

/** The first hit of the next kind, or of the one before. */
function nextKind(hits: readonly Hit[], at: number, way: 1 | -1): number {
  const kind = hits[at]?.kind;
  if (way === 1) {
    const next = hits.findIndex((hit, i) => i > at && hit.kind !== kind);
    return next < 0 ? Math.max(0, hits.length - 1) : next;
  }
  const first = hits.findIndex((hit) => hit.kind === kind);
  if (at > first) return first;
  const before = hits[first - 1]?.kind;
  return Math.max(
    0,
    hits.findIndex((hit) => hit.kind === before),
  );
}

function HitRow({
  hit,
  id,
  named,
  chosen,
  onOpen,
}: {
  hit: Hit;
  id: string;
  /** Whether its kind is said with it. */
  named: boolean;
  chosen: boolean;
  onOpen(event: MouseEvent): void;
}) {
  return (
    // biome-ignore lint/a11y/useFocusableInteractive: the field above keeps the focus and names the option
    // biome-ignore lint/a11y/useKeyWithClickEvents: see above
    <div
      id={id}
      role="option"
      aria-selected={chosen}
      onClick={onOpen}
      className={`grid cursor-pointer grid-cols-[minmax(0,1fr)_minmax(0,1fr)_132px] items-baseline gap-x-3 border-b border-hair px-2 py-[3px] hover:bg-chosen ${chosen ? 'bg-chosen' : ''}`}
    >
      <span className="truncate" title={hit.label}>
        <Marked text={hit.label} marks={hit.marks.label} />
      </span>
      <span className="truncate text-[13px] text-soft" title={hit.detail}>
        {named && `${KIND_NAMES[hit.kind]} · `}
        <Marked text={hit.detail} marks={hit.marks.detail} />
      </span>
      <span className="text-right whitespace-nowrap">
        {hit.amount && (
          <>
            {amountText(hit.amount.amount)} <span className="text-[12.5px] text-faint">{hit.amount.currency}</span>
          </>
        )}
      </span>
    </div>
  );
}

/** A text in which the words that were sought stand out. */
function Marked({ text, marks }: { text: string; marks: readonly (readonly [number, number])[] }) {
  const parts: { said: string; found: boolean; from: number }[] = [];
  let at = 0;
  for (const [from, to] of marks) {
    if (from > at) parts.push({ said: text.slice(at, from), found: false, from: at });
    parts.push({ said: text.slice(from, to), found: true, from });
    at = to;
  }
  parts.push({ said: text.slice(at), found: false, from: at });
  return parts.map(({ said, found, from }) =>
    found ? (
      <mark
        key={from}
        className="bg-transparent font-semibold text-inherit underline decoration-soft decoration-1 underline-offset-2"
      >
        {said}
      </mark>
    ) : (
      said
    ),
  );
}
