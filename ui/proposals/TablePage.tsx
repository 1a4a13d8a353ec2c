'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { ProposedTable } from '@/contracts/answers/proposals';
import type { BodySent } from '@/contracts/routes';
import { PROPOSED_KINDS, type ProposedKind } from '@/core/proposedEntry';
import { dateText } from '@/core/sentence';
import { countText, sideText } from '../amounts';
import { Failure, Labelled, Place, PROPOSAL_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useChange, useEntities } from '../query/hooks';
import { useMe } from '../shell/me';
import { KIND_WORD, TOUCHES } from './words';

type Wanted = BodySent<'POST /proposed-entries/table'>;

const KEPT = 'proposed-columns';
const SHOWN_MAX = 60;

/** What columns were said to be, by their heads, so that the next table like it is understood at once. */
const keptColumns = (): Record<string, string> => {
  try {
    return JSON.parse(window.localStorage.getItem(KEPT) ?? '{}') as Record<string, string>;
  } catch {
    return {};
  }
};

/** Many entries at once, from a table that is pasted or a small file. */
export function TablePage() {
  const me = useMe();
  const { data: names } = useEntities();
  const companies = (names?.entities ?? []).filter((e) => e.reach !== null);
  const [text, setText] = useState('');
  const [entity, setEntity] = useState<string | null>(null);
  const [kind, setKind] = useState<ProposedKind>('factual');
  const [reason, setReason] = useState('');
  const look = useChange((body: Wanted) => ask('POST /proposed-entries/table', { body }), []);
  const keep = useChange((body: Wanted) => ask('POST /proposed-entries/table', { body }), TOUCHES);
  const found = keep.data ?? look.data;
  const wanted = (): Wanted => ({
    ...{
      entity: entity ?? companies[0]?.code ?? '',
      text,
      kind,
      reason: reason || 'looked at',
      mapping: keptColumns(),
    },
  });
  const see = (): void => {
    keep.reset();
    void look.mutateAsync(wanted()).catch(() => null);
  };
  const say = (head: string, field: string): void => {
    window.localStorage.setItem(KEPT, JSON.stringify({ ...keptColumns(), [head]: field }));
    see();
  };
  if (me.role === 'reader')
    return (
      <Place title="From a table" tabs={PROPOSAL_TABS} here="/proposals/table">
        <p className="text-soft">A reader proposes no entries; ask a preparer.</p>
      </Place>
    );
  return (
    <Place title="From a table" tabs={PROPOSAL_TABS} here="/proposals/table">
      <p className="mb-3 max-w-[84ch] text-soft">
        Many entries at once: a row for each line, with its entry, day, account, debit and credit or an amount, and
        whatever else its columns are. Copy it in a spreadsheet and paste it here, or choose a CSV file.
      </p>
      <div className="grid max-w-[1000px] grid-cols-[minmax(0,1fr)_240px] gap-x-6 gap-y-3">
        <Labelled label="The table, with its heads" wide>
          <textarea
            rows={8}
            className="field h-auto w-full py-1 font-mono text-[12.5px] whitespace-pre"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
        </Labelled>
        <div className="flex flex-col gap-3">
          <Labelled label="Company" wide>
            <Select
              value={entity ?? companies[0]?.code ?? ''}
              className="w-full"
              onChange={(e) => setEntity(e.target.value)}
            >
              {companies.map((e) => (
                <option key={e.code} value={e.code}>
                  {e.name}
                </option>
              ))}
            </Select>
          </Labelled>
          <Labelled label="Kind" wide>
            <Select value={kind} className="w-full" onChange={(e) => setKind(e.target.value as ProposedKind)}>
              {PROPOSED_KINDS.map((k) => (
                <option key={k} value={k}>
                  {KIND_WORD[k]}
                </option>
              ))}
            </Select>
          </Labelled>
          <Labelled label="Or a file" wide>
            <input
              type="file"
              accept=".csv,.tsv,.txt,text/csv"
              className="w-full text-[12.5px]"
              onChange={(event) => void event.target.files?.[0]?.text().then(setText)}
            />
          </Labelled>
        </div>
        <Labelled label="Why they should be booked" wide>
          <input className="field w-full" value={reason} onChange={(event) => setReason(event.target.value)} />
        </Labelled>
      </div>
      <div className="mt-3 flex items-center gap-2">
        <button type="button" className="button" disabled={text.trim() === '' || look.isPending} onClick={see}>
          Look at it
        </button>
        {look.data && !keep.data && (
          <button
            type="button"
            className="button-main"
            disabled={look.data.problems.length > 0 || reason.trim() === '' || keep.isPending}
            onClick={() => void keep.mutateAsync({ ...wanted(), keep: true }).catch(() => null)}
          >
            Propose {countText(look.data.entries.length)} {look.data.entries.length === 1 ? 'entry' : 'entries'}
          </button>
        )}
        <Failure error={look.error ?? keep.error} />
      </div>
      {keep.data && keep.data.kept.length > 0 && (
        <p role="status" className="mt-3 font-semibold">
          {keep.data.kept[0]}
          {keep.data.kept.length > 1 ? ` to ${keep.data.kept.at(-1)}` : ''} proposed.{' '}
          <Link href="/proposals" className="link font-normal">
            See them
          </Link>
        </p>
      )}
      {found && <Understood found={found} onSay={say} />}
    </Place>
  );
}

/** What each column is taken for, what stands against the rows, and the entries that they would become. */
function Understood({ found, onSay }: { found: ProposedTable; onSay(head: string, field: string): void }) {
  return (
    <div className="mt-5 flex flex-col gap-5">
      <fieldset className="flex max-w-[1100px] flex-wrap gap-x-4 gap-y-2">
        <legend className="sr-only">What each column is</legend>
        {found.columns.map(({ head, field }) => (
          <Labelled key={head} label={head || 'without a head'}>
            <Select value={field ?? ''} onChange={(event) => onSay(head, event.target.value)}>
              <option value="">nothing</option>
              {found.fields.map((f) => (
                <option key={f} value={f}>
                  {f.replace('dim:', '').replace('_', ' ')}
                </option>
              ))}
            </Select>
          </Labelled>
        ))}
      </fieldset>
      {found.problems.length > 0 && (
        <Table
          label="What stands against it"
          columns={[
            { label: 'Row', width: 'w-[70px]' },
            { label: 'Column', width: 'w-[160px]' },
            { label: 'Value', width: 'w-[160px]' },
            { label: 'What is wrong' },
          ]}
        >
          {found.problems.slice(0, SHOWN_MAX).map((p, i) => (
            <Tr
              // biome-ignore lint/suspicious/noArrayIndexKey: problems have no name of their own
              key={i}
            >
              <Td>{p.row}</Td>
              <Td>{p.column}</Td>
              <Td>{p.value}</Td>
              <Td>{p.message}</Td>
            </Tr>
          ))}
        </Table>
      )}
      {found.entries.length > 0 && (
        <Table
          label="Entries"
          columns={[
            { label: 'Entry', width: 'w-[110px]' },
            { label: 'Day', width: 'w-[110px]' },
            { label: 'Account' },
            { label: 'Text' },
            { label: 'Debit', width: 'w-[130px]', right: true },
            { label: 'Credit', width: 'w-[130px]', right: true },
          ]}
        >
          {found.entries
            .flatMap((e) => e.lines.map((l, i) => ({ ...l, name: i === 0 ? e.name : '' })))
            .slice(0, SHOWN_MAX)
            .map((l, i) => (
              <Tr
                // biome-ignore lint/suspicious/noArrayIndexKey: lines stay in their order
                key={i}
              >
                <Td>{l.name}</Td>
                <Td>{dateText(l.date)}</Td>
                <Td>
                  {l.account} {l.accountName}
                </Td>
                <Td>{l.description}</Td>
                <Td right>{sideText(l.debit)}</Td>
                <Td right>{sideText(l.credit)}</Td>
              </Tr>
            ))}
        </Table>
      )}
    </div>
  );
}
