'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { Load } from '@/contracts/answers/loads';
import { dateText } from '@/core/sentence';
import { amountText, countText, momentText } from '../amounts';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useChange, useCompleteness, useLoad } from '../query/hooks';
import { useMe } from '../shell/me';
import { FORMAT_WORDS, KIND_WORDS } from './kinds';

/** One load: how far it is, what came, what the file stated, and the proof that it is complete. */
export function LoadDetail({ id }: { id: number }) {
  const { data: load } = useLoad(id);
  if (!load) return null;
  return (
    <section aria-label={`Load ${id}`} className="min-w-0">
      <h2 className="font-book text-[18px] font-semibold break-words">
        Load {load.id}, {load.file}
      </h2>
      <p className="text-soft">
        {KIND_WORDS[load.kind as keyof typeof KIND_WORDS] ?? load.kind}, {FORMAT_WORDS[load.format] ?? load.format};{' '}
        {load.person}, {momentText(load.createdAt)}; {countText(load.bytes)} bytes
      </p>
      <p className="truncate text-[12.5px] text-faint" title={load.digest}>
        SHA-256 {load.digest}
      </p>
      <Progress load={load} />
      <p className={`mt-2 ${load.status === 'refused' ? 'text-warn' : ''}`} role="status">
        {said(load)}
      </p>
      <p className="mt-1 flex flex-wrap gap-x-4 text-[13px]">
        <a
          href={`/api/v1/loads/${id}/file`}
          className="underline decoration-rule underline-offset-4 hover:decoration-ink"
        >
          The file as it came
        </a>
        {load.status === 'loaded' && load.kind === 'lines' && (
          <>
            <Link
              href={`/trial-balance?load=${id}${load.entity ? `&entity=${load.entity}` : ''}`}
              className="underline decoration-rule underline-offset-4 hover:decoration-ink"
            >
              Read the ledger as of this load
            </Link>
            <Link
              href={`/loads/compare?to=${id}`}
              className="underline decoration-rule underline-offset-4 hover:decoration-ink"
            >
              What it changed
            </Link>
          </>
        )}
        {load.problemCount > 0 && (
          <a
            href={`/api/v1/loads/${id}/problems`}
            className="underline decoration-rule underline-offset-4 hover:decoration-ink"
          >
            Problems as CSV
          </a>
        )}
      </p>
      {load.mapping?.columns && <MappingLine load={load} />}
      <Problems load={load} />
      <Stated load={load} />
      {load.status === 'loaded' && load.kind === 'lines' && <Complete id={id} />}
      <Totals load={load} />
    </section>
  );
}

function said(load: Load): string {
  const what = load.kind === 'lines' ? 'lines' : 'rows';
  if (load.status === 'refused') return load.message ?? '';
  if (load.status === 'reading') return load.waits ? 'Waits until the load before it is done.' : (load.message ?? '');
  const entries = load.entries ? ` in ${countText(load.entries)} entries` : '';
  const replaced = load.replaced
    ? `; ${countText(load.replaced)} ${what}${load.replaces ? ` of ${load.replaces}` : ''} replaced`
    : '';
  return `${countText(load.lines)} ${what}${entries}${replaced}.${load.message ? ` (${load.message})` : ''}`;
}

function Progress({ load }: { load: Load }) {
  const { role } = useMe();
  const cancel = useChange(() => ask('DELETE /loads/{id}', { path: { id: load.id } }), ['/loads']);
  if (load.status !== 'reading') return null;
  const seconds = load.startedAt ? (Date.now() - new Date(load.startedAt).getTime()) / 1000 : 0;
  const left = load.progress > 0.02 ? Math.round((seconds / load.progress) * (1 - load.progress)) : null;
  return (
    <div className="mt-2">
      <progress value={load.progress} max={1} aria-label="How far the load is" className="h-2 w-full accent-ink" />
      <p className="flex items-center gap-4 text-[13px] text-soft">
        <span>
          {countText(load.rowsRead)} rows read,{' '}
          {load.problemsSoFar === 0 ? 'no problems so far' : `${countText(load.problemsSoFar)} problems so far`}
          {left !== null && `, about ${left < 60 ? `${left} seconds` : `${Math.ceil(left / 60)} minutes`} left`}. It
          goes on if this page is closed.
        </span>
        {role !== 'reader' && (
          <button
            type="button"
            className="button h-7"
            disabled={cancel.isPending || load.cancelAsked}
            onClick={() => cancel.mutate(undefined as never)}
          >
            {load.cancelAsked ? 'Stopping …' : 'Cancel'}
          </button>
        )}
      </p>
    </div>
  );
}

const MappingLine = ({ load }: { load: Load }) => (
  <p className="mt-2 text-[13px] text-soft">
    Mapped{load.mapping?.name ? ` as “${load.mapping.name}”` : ''}:{' '}
    {Object.entries(load.mapping?.columns ?? {})
      .map(([field, column]) => `${Array.isArray(column) ? column.join(' + ') : column} → ${field}`)
      .join(', ')}
  </p>
);

function Problems({ load }: { load: Load }) {
  if (!load.problems || load.problems.length === 0) return null;
  const more = load.problemCount - load.problems.length;
  return (
    <div className="mt-3">
      <Table
        label="Problems"
        columns={[{ label: 'Row', width: 'w-16' }, { label: 'Column', width: 'w-28' }, { label: 'What is wrong' }]}
      >
        {load.problems.slice(0, 100).map((p, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: problems have no other name than their place
          <Tr key={i}>
            <Td>{p.row ?? '–'}</Td>
            <Td>{p.column ?? '–'}</Td>
            <Td>{p.message}</Td>
          </Tr>
        ))}
      </Table>
      {(more > 0 || load.problems.length > 100) && (
        <p className="mt-1 text-soft">
          The first 100 of {countText(load.problemCount)};{' '}
          {more > 0 ? `the first ${countText(load.problems.length)} are` : 'all are'} in the CSV.
        </p>
      )}
    </div>
  );
}

/** Control totals and balances: what the file states against what came, differences first. */
function Stated({ load }: { load: Load }) {
  const [all, setAll] = useState(false);
  const { stated } = load;
  if (!stated) return null;
  const off = stated.filter((s) => !s.ok);
  const rows = all ? stated : off.length > 0 ? off : [];
  return (
    <div className="mt-4">
      <h3 className="font-semibold">Stated against found</h3>
      <p className={off.length > 0 ? 'text-warn' : ''}>
        {off.length === 0
          ? `✓ all ${countText(stated.length)} stated figures are met`
          : `✗ ${countText(off.length)} of ${countText(stated.length)} stated figures differ`}{' '}
        <button
          type="button"
          onClick={() => setAll(!all)}
          className="cursor-pointer text-soft underline decoration-rule underline-offset-4"
        >
          {all ? 'differences only' : 'show all'}
        </button>
      </p>
      {rows.length > 0 && (
        <div className="mt-1">
          <Table
            label="Stated against found"
            columns={[
              { label: 'What' },
              { label: 'Account', width: 'w-24' },
              { label: 'Stated', right: true },
              { label: 'Found', right: true },
              { label: '', width: 'w-8' },
            ]}
          >
            {rows.map((s) => (
              <Tr key={`${s.what}${s.entity}${s.account}${s.period}`}>
                <Td>
                  {s.what} {s.period && <span className="text-faint">{s.period}</span>}
                </Td>
                <Td>{s.account ?? s.entity}</Td>
                <Td right>{s.what === 'entries' ? s.stated : amountText(s.stated)}</Td>
                <Td right>{s.what === 'entries' ? s.found : amountText(s.found)}</Td>
                <Td>
                  <span className={s.ok ? '' : 'text-warn'}>{s.ok ? '✓' : '✗'}</span>
                </Td>
              </Tr>
            ))}
          </Table>
        </div>
      )}
    </div>
  );
}

function Complete({ id }: { id: number }) {
  const { data } = useCompleteness(id, true);
  const [open, setOpen] = useState(false);
  if (!data) return <p className="mt-4 text-soft">Looking at the sequence of entry numbers …</p>;
  const missing = data.series.reduce((n, s) => n + s.missing, 0);
  return (
    <div className="mt-4">
      <h3 className="font-semibold">Is it complete?</h3>
      <ul>
        {data.reach.map((r) => (
          <li key={r.entity}>
            {r.balances ? '✓' : '✗'} {r.entity}: {dateText(r.first)} to {dateText(r.last)}, {countText(r.lines)} lines,
            debits {amountText(r.debit)} {r.balances ? '=' : '≠'} credits {amountText(r.credit)}
          </li>
        ))}
        <li className={data.continuity.ok ? '' : 'text-warn'}>
          {data.continuity.ok ? '✓' : '✗'}{' '}
          {data.continuity.ok
            ? `closing balances meet the next opening ones in all ${data.continuity.periods} periods`
            : data.continuity.broken
                .map((b) => `${b.accountsOff} accounts of ${b.entity} are broken after ${b.period}`)
                .join('; ')}
        </li>
        <li className={missing > 0 ? 'text-warn' : ''}>
          {missing === 0 ? '✓ entry numbers run without a gap' : `≠ ${countText(missing)} entry numbers are missing`} in{' '}
          {data.series.length} series{' '}
          <button
            type="button"
            onClick={() => setOpen(!open)}
            aria-expanded={open}
            className="cursor-pointer text-soft underline decoration-rule underline-offset-4"
          >
            {open ? 'hide the series' : 'show the series'}
          </button>
        </li>
        {data.ranges.length > 0 && (
          <li>
            · {countText(data.ranges.length)} {data.ranges.length === 1 ? 'series steps' : 'steps'} to a new range of
            numbers
            {open && `: ${data.ranges.map((g) => `${g.entity} ${g.from} to ${g.to} unused`).join(', ')}`}
          </li>
        )}
        {data.gaps.length > 0 && (
          <li className="pl-4 text-[13px] text-soft">
            Missing:{' '}
            {data.gaps
              .slice(0, open ? undefined : 6)
              .map((g) => `${g.entity} ${g.count === 1 ? g.from : `${g.from} to ${g.to}`}`)
              .join(', ')}
            {!open && data.gaps.length > 6 && ' …'}
            {data.gapsMore && open && ' and more'}
          </li>
        )}
      </ul>
      {open && (
        <div className="mt-1">
          <Table
            label="Series of entry numbers"
            columns={[
              { label: 'Books', width: 'w-16' },
              { label: 'Journal', width: 'w-20' },
              { label: 'From' },
              { label: 'To' },
              { label: 'Entries', right: true },
              { label: 'Missing', right: true },
            ]}
          >
            {data.series.map((s) => (
              <Tr key={`${s.entity}${s.journal}${s.prefix}`}>
                <Td>{s.entity}</Td>
                <Td>{s.journal ?? '–'}</Td>
                <Td>{s.first}</Td>
                <Td>{s.last}</Td>
                <Td right>{countText(s.entries)}</Td>
                <Td right>{s.missing === 0 ? '–' : countText(s.missing)}</Td>
              </Tr>
            ))}
          </Table>
        </div>
      )}
    </div>
  );
}

function Totals({ load }: { load: Load }) {
  const [all, setAll] = useState(false);
  if (!load.totals || load.totals.length === 0) return null;
  const FIRST = 12;
  return (
    <div className="mt-4">
      <h3 className="mb-1 font-semibold">Control totals</h3>
      <Table
        label="Control totals"
        columns={[
          { label: 'Books', width: 'w-16' },
          { label: 'Period', width: 'w-20' },
          { label: 'Lines', right: true },
          { label: 'Debit', right: true },
          { label: 'Credit', right: true },
        ]}
      >
        {load.totals.slice(0, all ? undefined : FIRST).map((t) => (
          <Tr key={`${t.entity}${t.period}`}>
            <Td>{t.entity}</Td>
            <Td>{t.period}</Td>
            <Td right>{countText(t.lines)}</Td>
            <Td right>{amountText(t.debit)}</Td>
            <Td right>{amountText(t.credit)}</Td>
          </Tr>
        ))}
      </Table>
      {load.totals.length > FIRST && (
        <button
          type="button"
          onClick={() => setAll(!all)}
          className="mt-1 cursor-pointer text-soft underline decoration-rule underline-offset-4"
        >
          {all ? 'the first periods only' : `all ${load.totals.length} periods`}
        </button>
      )}
    </div>
  );
}
