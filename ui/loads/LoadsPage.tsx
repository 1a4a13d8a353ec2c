'use client';

import { type FormEvent, useState } from 'react';
import { amountText, countText, momentText } from '../amounts';
import type { Load } from '../query/answers';
import { ask } from '../query/client';
import { useChange, useEntities, useLoad, useLoads } from '../query/hooks';
import { useMe } from '../shell/Providers';

/** What was loaded, by whom, and what was wrong with what was not. */
export function LoadsPage() {
  const { role } = useMe();
  const loads = useLoads();
  const [chosen, setChosen] = useState<number | null>(null);
  const shown = chosen ?? loads.data?.rows[0]?.id ?? null;
  return (
    <div className="min-h-0 flex-1 overflow-auto px-[26px] pt-4 pb-8">
      <h1 className="mb-3 font-book text-[22px] font-semibold">Loads</h1>
      {role !== 'reader' && <Upload onLoaded={setChosen} />}
      <div className="mt-5 grid grid-cols-[minmax(0,1.35fr)_minmax(0,1fr)] gap-6">
        <section aria-label="All loads">
          <table className="w-full table-fixed border border-rule bg-sheet">
            <thead>
              <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
                <th className="w-12 py-1 pl-3 font-normal">Load</th>
                <th className="font-normal">File</th>
                <th className="w-14 font-normal">Books</th>
                <th className="w-20 pr-4 text-right font-normal">Lines</th>
                <th className="w-28 font-normal">By</th>
                <th className="w-28 pr-3 font-normal">State</th>
              </tr>
            </thead>
            <tbody>
              {loads.data?.rows.map((load) => (
                <tr key={load.id} className={`border-b border-hair ${load.id === shown ? 'bg-chosen' : ''}`}>
                  <td className="h-7 pl-3">
                    <button
                      type="button"
                      onClick={() => setChosen(load.id)}
                      className="cursor-pointer underline decoration-rule underline-offset-4"
                      aria-pressed={load.id === shown}
                    >
                      {load.id}
                    </button>
                  </td>
                  <td className="truncate pr-2">
                    {load.file} <span className="text-faint">{load.kind}</span>
                  </td>
                  <td>{load.entity ?? 'all'}</td>
                  <td className="pr-4 text-right">{load.lines === 0 ? '–' : countText(load.lines)}</td>
                  <td className="truncate">{load.person}</td>
                  <td className="pr-3">
                    <State load={load} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          {loads.data?.rows.length === 0 && (
            <p className="mt-3 text-soft">
              Nothing has been loaded yet. Begin with the dimensions, then the chart of accounts of each company, then its journal lines.
            </p>
          )}
          {loads.error && <p className="mt-3 text-warn">{loads.error.message}</p>}
        </section>
        {shown !== null && <Detail id={shown} />}
      </div>
    </div>
  );
}

function State({ load }: { load: Load }) {
  if (load.status === 'loaded') return <span>✓ loaded</span>;
  if (load.status === 'refused') return <span className="text-warn">✗ refused</span>;
  return <progress value={load.progress} max={1} aria-label={`Load ${load.id}`} className="h-2 w-24 accent-ink" />;
}

function Upload({ onLoaded }: { onLoaded(id: number): void }) {
  const { data } = useEntities();
  const [kind, setKind] = useState('lines');
  const send = useChange(
    (form: FormData) => ask<{ id: number }>('/loads', { method: 'POST', body: form }),
    ['/loads', '/entities', '/trial-balance', '/sheets', '/totals', '/lines', '/pins'],
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const fields = new FormData(form);
    // The file goes last, so that the server knows what it is for when it comes.
    const file = fields.get('file') as File;
    fields.delete('file');
    fields.append('file', file);
    const { id } = await send.mutateAsync(fields);
    onLoaded(id);
    form.reset();
    setKind('lines');
  };
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3 border border-rule bg-sheet p-3">
      <label>
        <span className="mb-1 block text-[12.5px] text-soft">File (CSV)</span>
        <input type="file" name="file" required accept=".csv,.tsv,.txt,text/csv" className="field w-[250px] pt-1" />
      </label>
      <label>
        <span className="mb-1 block text-[12.5px] text-soft">It holds</span>
        <select name="kind" value={kind} onChange={(event) => setKind(event.target.value)} className="field">
          <option value="lines">journal lines</option>
          <option value="accounts">chart of accounts</option>
          <option value="dimensions">dimensions</option>
        </select>
      </label>
      {kind !== 'dimensions' && (
        <label>
          <span className="mb-1 block text-[12.5px] text-soft">Books</span>
          <select name="entity" className="field">
            <option value="">as the file says</option>
            {data?.entities.map((e) => (
              <option key={e.code} value={e.code}>
                {e.code} {e.name}
              </option>
            ))}
          </select>
        </label>
      )}
      {kind === 'lines' && (
        <label>
          <span className="mb-1 block text-[12.5px] text-soft">Replaces periods</span>
          <input name="replaces" placeholder="none, or 2027.04 to 2027.05" className="field w-[210px]" />
        </label>
      )}
      <button type="submit" disabled={send.isPending} className="button-main">
        {send.isPending ? 'Sending …' : 'Load the file'}
      </button>
      {send.error && (
        <p role="alert" className="w-full text-warn">
          {send.error.message}
        </p>
      )}
    </form>
  );
}

function Detail({ id }: { id: number }) {
  const { data: load } = useLoad(id);
  if (!load) return null;
  return (
    <section aria-label={`Load ${id}`} className="min-w-0">
      <h2 className="font-book text-[18px] font-semibold">
        Load {load.id}, {load.file}
      </h2>
      <p className="text-soft">
        {load.person}, {momentText(load.createdAt)}; {countText(load.bytes)} bytes
      </p>
      <p className="truncate text-[12.5px] text-faint" title={load.digest}>
        SHA-256 {load.digest}
      </p>
      <p className={`mt-2 ${load.status === 'refused' ? 'text-warn' : ''}`} role="status">
        {load.status === 'reading' && `Reading, ${Math.round(load.progress * 100)} % done`}
        {load.status === 'loaded' &&
          `${countText(load.lines)} ${load.kind === 'lines' ? 'lines' : 'rows'}${load.entries ? ` in ${countText(load.entries)} entries` : ''}${load.replaced ? `; ${countText(load.replaced)} lines of ${load.replaces} replaced` : ''}.`}
        {load.status === 'refused' && load.message}
      </p>
      {load.problems && load.problems.length > 0 && (
        <table className="mt-3 w-full border border-rule bg-sheet">
          <caption className="sr-only">Problems</caption>
          <thead>
            <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
              <th className="w-14 py-1 pl-3 font-normal">Row</th>
              <th className="w-24 font-normal">Column</th>
              <th className="pr-3 font-normal">What is wrong</th>
            </tr>
          </thead>
          <tbody>
            {load.problems.map((p, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: problems have no other name than their place
              <tr key={i} className="border-b border-hair align-top">
                <td className="py-1 pl-3">{p.row ?? '–'}</td>
                <td className="py-1">{p.column ?? '–'}</td>
                <td className="py-1 pr-3">{p.message}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {load.problemCount > (load.problems?.length ?? 0) && (
        <p className="mt-1 text-soft">and {countText(load.problemCount - (load.problems?.length ?? 0))} more</p>
      )}
      {load.totals && load.totals.length > 0 && (
        <table className="mt-3 w-full border border-rule bg-sheet">
          <thead>
            <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
              <th className="py-1 pl-3 font-normal">Books</th>
              <th className="font-normal">Period</th>
              <th className="text-right font-normal">Lines</th>
              <th className="text-right font-normal">Debit</th>
              <th className="pr-3 text-right font-normal">Credit</th>
            </tr>
          </thead>
          <tbody>
            {load.totals.map((t) => (
              <tr key={`${t.entity}${t.period}`} className="border-b border-hair">
                <td className="h-6 pl-3">{t.entity}</td>
                <td>{t.period}</td>
                <td className="text-right">{countText(t.lines)}</td>
                <td className="text-right">{amountText(t.debit)}</td>
                <td className="pr-3 text-right">{amountText(t.credit)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}
