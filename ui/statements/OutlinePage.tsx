'use client';

import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { useEffect, useMemo, useRef, useState } from 'react';
import type { KeptOutline } from '@/contracts/answers/statements';
import type { Outline, OutlineRow } from '@/core/statement';
import { momentText } from '../amounts';
import { Failure, Labelled, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { ProblemAnswer } from '../query/problemAnswer';
import { useMe } from '../shell/me';
import { OutlineRowForm } from './OutlineRowForm';
import { useTakes } from './useTakes';

const KINDS: [OutlineRow['is'], string][] = [
  ['caption', 'a caption'],
  ['accounts', 'accounts'],
  ['formula', 'rows added up'],
  ['ratio', 'one row over another'],
  ['result', 'the result'],
];

/** The outline of a statement: rows in order, what each takes, what guards say while one edits; kept as a version. */
export function OutlinePage() {
  const params = useSearchParams();
  const entity = params.get('entity') ?? '';
  const code = params.get('code') ?? 'income';
  const { data, error } = useAnswer('GET /statements/{code}/outline', new URLSearchParams({ entity }), { code });
  return (
    <Place title={data?.outline.name ?? 'Outline'} tabs={[]} here="">
      <Failure error={error} />
      {data && <Editor key={`${data.versions[0]?.version ?? 0}`} kept={data} />}
    </Place>
  );
}

function Editor({ kept }: { kept: KeptOutline }) {
  const { role } = useMe();
  const [past, setPast] = useState<Outline[]>([]);
  const [outline, setOutline] = useState(kept.outline);
  const [chosen, setChosen] = useState<string | null>(null);
  const [dragged, setDragged] = useState<number | null>(null);
  const list = useRef<HTMLOListElement>(null);
  const takes = useTakes(kept.entity, outline);
  const change = (next: Outline): void => {
    setPast([...past.slice(-50), outline]);
    setOutline(next);
  };
  const undo = (): void => {
    const last = past[past.length - 1];
    if (!last) return;
    setPast(past.slice(0, -1));
    setOutline(last);
  };
  useEffect(() => {
    const key = (event: KeyboardEvent): void => {
      if (
        (event.ctrlKey || event.metaKey) &&
        event.key === 'z' &&
        !(event.target as HTMLElement).closest('input, textarea')
      )
        undo();
    };
    window.addEventListener('keydown', key);
    return () => window.removeEventListener('keydown', key);
  });
  const rows = outline.rows;
  const put = (at: number, row: OutlineRow): void =>
    change({ ...outline, rows: rows.map((r, i) => (i === at ? row : r)) });
  const move = (from: number, to: number): void => {
    if (to < 0 || to >= rows.length || from === to) return;
    const next = rows.filter((_, i) => i !== from);
    next.splice(to, 0, rows[from] as OutlineRow);
    change({ ...outline, rows: next });
  };
  const add = (is: OutlineRow['is']): void => {
    const key = freshKey(rows, is);
    const at = Math.max(0, rows.findIndex((r) => r.key === chosen) + 1) || rows.length;
    const blank = blankRow(key, is, rows);
    change({ ...outline, rows: [...rows.slice(0, at), blank, ...rows.slice(at)] });
    setChosen(key);
  };
  const touches = ['/statements', `/statements/${outline.code}`, `/statements/${outline.code}/outline`];
  const keep = useChange(
    (next: Outline) =>
      ask('PUT /statements/{code}/outline', {
        path: { code: next.code },
        body: { entity: kept.entity, outline: next },
      }),
    touches,
  );
  const remove = useChange(
    () =>
      ask('DELETE /statements/{code}/outline', {
        path: { code: outline.code },
        query: new URLSearchParams({ entity: kept.entity }),
      }),
    touches,
  );
  const faults = keep.error instanceof ProblemAnswer ? keep.error.errors : [];
  const sheet = `/statements?entity=${kept.entity}&statement=${outline.code}`;
  const copy = (): void =>
    change({ ...outline, code: `${outline.code.replace(/-copy$/, '')}-copy`, name: `${outline.name}, copy` });
  const changed = outline !== kept.outline;
  return (
    <div className="grid grid-cols-[minmax(0,1.1fr)_minmax(0,1fr)] gap-6">
      <section aria-label="Rows">
        <div className="mb-2 flex flex-wrap items-center gap-2">
          <Select
            aria-label="Add a row"
            value=""
            onChange={(event) => add(event.target.value as OutlineRow['is'])}
            className="field"
            disabled={role === 'reader'}
          >
            <option value="">Add …</option>
            {KINDS.map(([is, label]) => (
              <option key={is} value={is}>
                {label}
              </option>
            ))}
          </Select>
          <button type="button" className="button" disabled={past.length === 0} onClick={undo}>
            Undo
          </button>
          <button
            type="button"
            className="button-main"
            disabled={!changed || keep.isPending || role === 'reader'}
            onClick={() => keep.mutate(outline)}
          >
            Keep as a new version
          </button>
          <Link href={sheet} className="ml-2 underline decoration-rule underline-offset-4">
            Read the statement
          </Link>
        </div>
        {takes.guards.map((g) => (
          <p
            key={g.text}
            className={`mb-1 text-[13px] ${g.ok ? 'text-soft' : 'border border-warn bg-warnground px-2 py-0.5'}`}
            role="status"
          >
            {g.ok ? '✓' : '✗'} {g.text}
          </p>
        ))}
        <ol ref={list} className="mt-2 border border-rule bg-sheet">
          {rows.map((row, i) => (
            <li
              key={row.key}
              draggable={role !== 'reader'}
              onDragStart={() => setDragged(i)}
              onDragOver={(event) => event.preventDefault()}
              onDrop={() => {
                if (dragged !== null) move(dragged, i);
                setDragged(null);
              }}
              className={`flex items-center gap-2 border-b border-hair px-2 ${chosen === row.key ? 'bg-chosen' : ''}`}
            >
              <span aria-hidden className="cursor-grab text-faint">
                ⋮⋮
              </span>
              <button
                type="button"
                onClick={() => setChosen(row.key)}
                onKeyDown={(event) => {
                  if (!event.altKey || (event.key !== 'ArrowUp' && event.key !== 'ArrowDown')) return;
                  event.preventDefault();
                  move(i, i + (event.key === 'ArrowUp' ? -1 : 1));
                }}
                aria-pressed={chosen === row.key}
                className={`min-w-0 flex-1 cursor-pointer truncate py-1 text-left ${row.is === 'caption' ? 'font-book text-[15px] font-semibold' : 'emphasis' in row && row.emphasis ? 'font-semibold' : ''}`}
                style={{ paddingLeft: row.depth * 14 }}
                title="Alt with the arrow keys moves the row"
              >
                {row.label}
              </button>
              <span className="shrink-0 text-[12.5px] text-soft">
                {row.is === 'accounts' ? takes.said(row.key) : KINDS.find(([is]) => is === row.is)?.[1]}
              </span>
              <button
                type="button"
                className="cursor-pointer px-1 text-faint hover:text-ink"
                aria-label={`Remove ${row.label}`}
                onClick={() => change({ ...outline, rows: rows.filter((r) => r !== row) })}
              >
                ×
              </button>
            </li>
          ))}
        </ol>
        {faults.length > 0 && (
          <ul className="mt-2 border border-warn bg-warnground px-3 py-2" role="alert">
            {faults.map((f) => (
              <li key={f.message}>{f.message}</li>
            ))}
          </ul>
        )}
        {faults.length === 0 && <Failure error={keep.error ?? remove.error} />}
      </section>
      <div>
        {rows.map((row, i) =>
          row.key === chosen ? (
            <OutlineRowForm
              key={row.key}
              row={row}
              rows={rows}
              takes={takes.of(row.key)}
              onChange={(next) => put(i, next)}
            />
          ) : null,
        )}
        {chosen === null && (
          <p className="text-soft">
            Choose a row to say what it takes. Drag rows to order them, or hold Alt and press the arrow keys.
          </p>
        )}
        <section
          aria-label="The whole outline"
          className="mt-5 flex flex-wrap items-end gap-3 border-t border-rule pt-3"
        >
          <Labelled label="Name">
            <input
              value={outline.name}
              onChange={(event) => change({ ...outline, name: event.target.value })}
              className="field w-[220px]"
            />
          </Labelled>
          <Labelled label="Shares are taken of">
            <Select
              value={outline.shareOf ?? ''}
              onChange={(event) => {
                const { shareOf: _former, ...rest } = outline;
                change(event.target.value ? { ...rest, shareOf: event.target.value } : rest);
              }}
              className="field"
            >
              <option value="">nothing</option>
              {rows
                .filter((r) => r.is !== 'caption' && r.is !== 'ratio')
                .map((r) => (
                  <option key={r.key} value={r.key}>
                    {r.label}
                  </option>
                ))}
            </Select>
          </Labelled>
          <button type="button" className="button" onClick={copy}>
            Make it a copy
          </button>
          <Exchange outline={outline} onRead={change} />
        </section>
        <section aria-label="Versions" className="mt-5">
          <h2 className="font-book text-[18px] font-semibold">Versions</h2>
          {kept.versions.length === 0 && (
            <p className="text-soft">Made from the chart of accounts; nobody has changed it.</p>
          )}
          <ul>
            {kept.versions.map((v) => (
              <li key={v.version} className="border-b border-hair py-1">
                {v.version}: {v.removed ? 'removed' : 'kept'} by {v.by}, {momentText(v.at)}
              </li>
            ))}
          </ul>
          {kept.versions[0] && !kept.versions[0].removed && role !== 'reader' && (
            <button type="button" className="button mt-2" onClick={() => remove.mutate(undefined as never)}>
              Back to what the chart makes
            </button>
          )}
        </section>
      </div>
    </div>
  );
}

/** An outline leaves and comes as JSON. */
function Exchange({ outline, onRead }: { outline: Outline; onRead(outline: Outline): void }) {
  const [fault, setFault] = useState<string | null>(null);
  const href = useMemo(
    () => `data:application/json;charset=utf-8,${encodeURIComponent(JSON.stringify(outline, null, 2))}`,
    [outline],
  );
  const read = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    try {
      const raw = JSON.parse(await file.text()) as Outline;
      if (!Array.isArray(raw.rows)) throw new Error();
      onRead({ ...raw, code: outline.code, kind: outline.kind });
      setFault(null);
    } catch {
      setFault('That file is no outline; it needs the JSON that “Export” writes.');
    }
  };
  return (
    <>
      <a href={href} download={`${outline.code}.outline.json`} className="button">
        Export
      </a>
      <label className="button focus-within:outline-2 focus-within:outline-ink">
        Import
        <input
          type="file"
          accept=".json"
          className="sr-only"
          onChange={(event) => void read(event.target.files?.[0])}
        />
      </label>
      {fault && (
        <p role="alert" className="w-full text-warn">
          {fault}
        </p>
      )}
    </>
  );
}

function freshKey(rows: readonly OutlineRow[], is: string): string {
  for (let n = 1; ; n++) if (!rows.some((r) => r.key === `${is}-${n}`)) return `${is}-${n}`;
}

function blankRow(key: string, is: OutlineRow['is'], rows: readonly OutlineRow[]): OutlineRow {
  const first = rows.find((r) => r.is === 'formula' || r.is === 'accounts')?.key ?? key;
  switch (is) {
    case 'caption':
      return { key, label: 'New caption', is, depth: 0 };
    case 'accounts':
      return { key, label: 'New row', is, depth: 1, accounts: '', sign: 'debit' };
    case 'formula':
      return { key, label: 'New subtotal', is, depth: 0, terms: [], emphasis: 'subtotal' };
    case 'ratio':
      return { key, label: 'New share', is, depth: 0, over: first, under: first };
    case 'result':
      return { key, label: 'Result', is, depth: 0, emphasis: 'total' };
  }
}
