'use client';

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { type ReactNode, useEffect, useMemo, useState } from 'react';
import { decimalMark } from '../amounts';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useAnswer, useEntities } from '../query/hooks';
import { EffectShown } from './EffectShown';
import { EntryGrid } from './EntryGrid';
import { amountOf, type EntryRow, isEmptyRow, momentOf, rowsOf, sentEntry } from './entryRows';
import { useEntry } from './useEntry';

const NO_PARAMS = new URLSearchParams();
/** What is typed is tried out once nobody has typed for so long. */
const STILL_MS = 500;

export interface Filled {
  entity: string;
  date: string;
  period: string;
  turnsAround: string;
  rows: readonly EntryRow[];
}

/** An entry as it is typed, what stands against it, and what it would do, before it is kept. */
export function EntryForm({
  entities,
  first,
  fixedEntity,
  template,
  taxPercent,
  pending,
  error,
  action,
  ready,
  onKeep,
  onCancel,
  onTemplate,
  children,
}: {
  entities: readonly { code: string; name: string }[];
  first: Filled;
  fixedEntity: boolean;
  template?: number | undefined;
  taxPercent: string;
  pending: boolean;
  error: Error | null;
  action: string;
  ready: boolean;
  onKeep(filled: Filled): void;
  onCancel?(): void;
  onTemplate?(words: { kind?: never; title?: string; reason?: string; taxPercent?: string }): void;
  children: ReactNode;
}) {
  const entry = useEntry(first.rows);
  const [on, setOn] = useState({
    ...{ entity: first.entity, date: first.date, period: first.period, turnsAround: first.turnsAround },
  });
  const { data } = useEntities();
  const company = data?.entities.find((e) => e.code === on.entity);
  const chart = useAnswer(
    'GET /accounts',
    useMemo(() => new URLSearchParams({ entity: on.entity }), [on.entity]),
  );
  const parties = useAnswer('GET /parties', NO_PARAMS);
  const templates = useAnswer('GET /proposed-templates', NO_PARAMS);
  const [added, setAdded] = useState<string[]>([]);
  const [filling, setFilling] = useState<Error | null>(null);
  const dimensions = data?.dimensions ?? [];
  const rules = new Map((chart.data?.rows ?? []).map((a) => [a.account, a.dims] as const));
  const shownDims = dimensions
    .map((d) => d.code)
    .filter(
      (code) =>
        added.includes(code) ||
        entry.rows.some((r) => (r.dims[code] ?? '') !== '' || rules.get(r.account.trim())?.[code] === 'required'),
    );
  const foreign = added.includes(IN_CURRENCY) || entry.rows.some((r) => r.currency !== '');
  const several = entry.rows.some((r) => r.date !== '');
  const filled: Filled = { ...on, rows: entry.rows };
  const fill = async (id: number, date: string): Promise<void> => {
    setFilling(null);
    try {
      const draft = await ask('POST /proposed-templates/{id}/draft', { path: { id }, body: { date } });
      const spec = data?.entities.find((e) => e.code === draft.entity)?.calendar;
      const moment = momentOf(draft, spec);
      setOn((o) => ({ ...o, entity: draft.entity, ...moment }));
      entry.change(rowsOf(draft.lines, moment, spec));
      const words = templates.data?.rows.find((t) => t.id === id)?.words as
        | { title?: string; reason?: string; taxPercent?: string }
        | undefined;
      if (words)
        onTemplate?.({ title: words.title ?? '', reason: words.reason ?? '', taxPercent: words.taxPercent ?? '' });
    } catch (problem) {
      setFilling(problem as Error);
    }
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: a template is filled once, when the page is opened with it
  useEffect(() => {
    if (template !== undefined) void fill(template, on.date);
  }, [template]);

  const effect = useTried(filled, taxPercent);
  const faults = effect.data?.faults ?? [];
  const whole = faults.filter((f) => f.line === null && f.field !== 'amount');
  const own = (templates.data?.rows ?? []).filter((t) => !fixedEntity || t.entity === on.entity);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onKeep(filled);
      }}
    >
      <div className="mb-3 flex flex-wrap items-end gap-x-4 gap-y-2">
        {fixedEntity ? (
          <p>
            <span className="mb-1 block text-[12.5px] text-soft">Company</span>
            <span className="flex h-8 items-center">
              {company?.name ?? on.entity}, {company?.currency}
            </span>
          </p>
        ) : (
          <Labelled label="Company">
            <Select value={on.entity} onChange={(event) => setOn({ ...on, entity: event.target.value })}>
              {entities.map((e) => (
                <option key={e.code} value={e.code}>
                  {e.name}
                </option>
              ))}
            </Select>
          </Labelled>
        )}
        <Labelled label="On the day">
          <input
            type="date"
            required
            className="field"
            value={on.date}
            onChange={(event) => setOn({ ...on, date: event.target.value })}
          />
        </Labelled>
        <Labelled label="In a period of its own">
          <input
            className="field w-[110px]"
            placeholder="by its day"
            pattern="\d{4}\.\d\d"
            title="A period such as 2027.13; empty: the one that its day is in"
            value={on.period}
            onChange={(event) => setOn({ ...on, period: event.target.value.trim() })}
          />
        </Labelled>
        <Labelled label="Taken back on">
          <input
            type="date"
            className="field"
            title="A later day on which all of it is taken back, as an accrual is"
            value={on.turnsAround}
            onChange={(event) => setOn({ ...on, turnsAround: event.target.value })}
          />
        </Labelled>
        {own.length > 0 && (
          <Labelled label="From a template">
            <Select value="" onChange={(event) => event.target.value && void fill(Number(event.target.value), on.date)}>
              <option value="">choose one</option>
              {own.map((t) => (
                <option key={t.id} value={t.id}>
                  {t.name}
                </option>
              ))}
            </Select>
          </Labelled>
        )}
        {(dimensions.some((d) => !shownDims.includes(d.code)) || !foreign) && (
          <Labelled label="A further column">
            <Select value="" onChange={(event) => event.target.value && setAdded([...added, event.target.value])}>
              <option value="">choose one</option>
              {!foreign && <option value={IN_CURRENCY}>Currency of the transaction</option>}
              {dimensions
                .filter((d) => !shownDims.includes(d.code))
                .map((d) => (
                  <option key={d.code} value={d.code}>
                    {d.name}
                  </option>
                ))}
            </Select>
          </Labelled>
        )}
      </div>
      <Failure error={filling ?? chart.error} />
      <EntryGrid
        entry={entry}
        chart={chart.data?.rows ?? []}
        dimensions={dimensions}
        parties={parties.data?.rows ?? []}
        shownDims={shownDims}
        foreign={foreign}
        several={several}
        faults={faults}
      />
      <p className="mt-1 text-[12.5px] text-soft">
        Enter goes down, Ctrl Z takes a step back, = fills what is left, and a table from a spreadsheet can be pasted.
        {entry.canUndo && (
          <>
            {' '}
            <button type="button" className="link" onClick={entry.undo}>
              Undo
            </button>
          </>
        )}
        {entry.canRedo && (
          <>
            {' '}
            <button type="button" className="link" onClick={entry.redo}>
              Redo
            </button>
          </>
        )}
      </p>
      {faults.length > 0 && (
        <ul className="mt-2 max-w-[90ch] text-warn" aria-label="What stands against it">
          {[...whole, ...faults.filter((f) => f.line !== null)].slice(0, 8).map((f) => (
            <li key={`${f.line} ${f.field} ${f.message}`}>
              {f.line === null ? '' : `Line ${f.line + 1}: `}
              {f.message}
            </li>
          ))}
          {faults.length > 8 && <li>and {faults.length - 8} more</li>}
        </ul>
      )}
      {children}
      <div className="mt-4 flex items-center gap-3">
        <button type="submit" className="button-main" disabled={pending || !ready || !isReadable(entry.rows)}>
          {action}
        </button>
        {onCancel && (
          <button type="button" className="button" onClick={onCancel}>
            Cancel
          </button>
        )}
        <Failure error={error} />
      </div>
      <section aria-label="What it does" className="mt-6" aria-busy={effect.isFetching}>
        <h2 className="mb-2 font-book text-[16px] font-semibold">What it does</h2>
        {effect.data ? (
          <EffectShown effect={effect.data} />
        ) : effect.error ? (
          <p className="text-soft">{effect.error.message}</p>
        ) : (
          <p className="text-soft">Statements and results are shown with it as soon as two lines can be read.</p>
        )}
      </section>
    </form>
  );
}

/** Among the further columns, which are dimensions by their codes. */
const IN_CURRENCY = '~currency';

const isReadable = (rows: readonly EntryRow[]): boolean => {
  const lines = rows.filter((r) => !isEmptyRow(r));
  return lines.length >= 2 && lines.every((r) => amountOf(r, decimalMark()) !== null && r.account.trim() !== '');
};

/** What the entry would do, asked when the typing has paused. */
function useTried(filled: Filled, taxPercent: string) {
  const period = /^\d{4}\.\d\d$/.test(filled.period) ? filled.period : '';
  const body = JSON.stringify({
    entity: filled.entity,
    ...sentEntry({ ...filled, period }, decimalMark()),
    ...(/^-?\d{1,6}(\.\d{1,4})?$/.test(taxPercent) ? { taxPercent } : {}),
  });
  const [still, setStill] = useState<string | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => setStill(body), STILL_MS);
    return () => clearTimeout(timer);
  }, [body]);
  return useQuery({
    queryKey: ['/proposed-entries/effect', still],
    queryFn: () => ask('POST /proposed-entries/effect', { body: JSON.parse(still ?? '{}') as never }),
    placeholderData: keepPreviousData,
    enabled: still !== null && isReadable(filled.rows) && filled.date !== '',
    retry: false,
  });
}
