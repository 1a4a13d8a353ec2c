'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { useMemo, useState } from 'react';
import type { DocumentRegister } from '@/contracts/answers/documents';
import { dateText } from '@/core/sentence';
import { amountText, countText } from '../amounts';
import { TakeOutLink } from '../leaving/TakeOutLink';
import { DOCUMENT_TABS, Failure, Labelled, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer, useEntities } from '../query/hooks';
import { useDebounced } from '../query/useDebounced';
import { linesOfDocument } from './address';
import { NumberCell } from './NumberCell';

const ROWS = 300;
const PAUSE_MS = 200;

const ONLY: readonly [key: string, name: string][] = [
  ['all', 'every document'],
  ['no-entry', 'without an entry'],
  ['not-delivered', 'named by lines, not here'],
];

/** Every document of a company, booked or not, and those that are missing on one side or the other. */
export function RegisterPage() {
  const params = useSearchParams();
  const router = useRouter();
  const { data: books } = useEntities();
  const entity = params.get('entity') ?? books?.entities[0]?.code ?? null;
  const [words, setWords] = useState(params.get('words') ?? '');
  const typed = useDebounced(words.trim(), PAUSE_MS);
  const change = (name: string, value: string): void => {
    const query = new URLSearchParams(params);
    query.delete('after');
    if (value) query.set(name, value);
    else query.delete(name);
    router.replace(`/documents/all?${query}`);
  };
  const asked = useMemo(() => {
    if (entity === null) return null;
    const query = new URLSearchParams({ entity, limit: String(ROWS) });
    for (const name of ['type', 'only', 'from', 'to', 'party', 'after']) {
      const value = params.get(name);
      if (value) query.set(name, value);
    }
    if (typed) query.set('words', typed);
    return query;
  }, [entity, params, typed]);
  const { data, error, isPlaceholderData } = useAnswer('GET /document-register', asked);
  const only = params.get('only') ?? 'all';
  const after = Number(params.get('after') ?? 0) || 0;
  return (
    <Place
      title="Documents"
      tabs={DOCUMENT_TABS}
      here="/documents/all"
      aside={data && asked && <TakeOutLink path={`/document-register?${asked}`} label="Documents" />}
    >
      <div className="mb-3 flex flex-wrap items-end gap-x-4 gap-y-2">
        <Labelled label="Company">
          <Select value={entity ?? ''} onChange={(event) => change('entity', event.target.value)}>
            {books?.entities.map((e) => (
              <option key={e.code} value={e.code}>
                {e.name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Find">
          <input
            value={words}
            onChange={(event) => setWords(event.target.value)}
            placeholder="Number, party, words"
            className="field w-[200px]"
          />
        </Labelled>
        <Labelled label="Only">
          <Select
            value={only}
            onChange={(event) => change('only', event.target.value === 'all' ? '' : event.target.value)}
          >
            {ONLY.map(([key, name]) => (
              <option key={key} value={key}>
                {name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Kind">
          <Select value={params.get('type') ?? ''} onChange={(event) => change('type', event.target.value)}>
            <option value="">every kind</option>
            {data?.kinds.map(({ type, count }) => (
              <option key={type} value={type}>
                {`${type} (${countText(count)})`}
              </option>
            ))}
          </Select>
        </Labelled>
        {(['from', 'to'] as const).map((end) => (
          <Labelled key={end} label={end === 'from' ? 'From' : 'To'}>
            <input
              type="date"
              value={params.get(end) ?? ''}
              onChange={(event) => change(end, event.target.value)}
              className="field"
            />
          </Labelled>
        ))}
        {params.get('party') && (
          <button type="button" className="button" onClick={() => change('party', '')}>
            of {params.get('party')} ×
          </button>
        )}
      </div>
      <Failure error={error} />
      {!data && !error && <p className="text-soft">Looking through the documents …</p>}
      {data && (
        <p className="mb-2 text-soft" aria-live="polite">
          {saidOf(data, only, after)}
        </p>
      )}
      {data && data.rows.length > 0 && (
        <div className={isPlaceholderData ? 'opacity-60' : ''}>
          <Rows data={data} missing={only === 'not-delivered'} />
          <p className="mt-2 flex gap-4">
            {after > 0 && (
              <button
                type="button"
                className="button"
                onClick={() => change('after', String(Math.max(0, after - ROWS)))}
              >
                Those before
              </button>
            )}
            {data.next !== null && (
              <button type="button" className="button" onClick={() => change('after', String(data.next))}>
                The next {countText(Math.min(ROWS, data.count - data.next))}
              </button>
            )}
          </p>
        </div>
      )}
    </Place>
  );
}

function saidOf({ count, kinds, rows }: DocumentRegister, only: string, after: number): string {
  const shown = count > rows.length ? `, ${countText(after + 1)} to ${countText(after + rows.length)} shown` : '';
  if (only === 'no-entry')
    return count === 0
      ? 'Every document that is to be booked has a line or an entry with its number.'
      : `${countText(count)} ${count === 1 ? 'document has' : 'documents have'} no line and no entry with their number: not booked, or under another one${shown}.`;
  if (only === 'not-delivered')
    return count === 0
      ? 'Every document that lines name is here.'
      : `${countText(count)} ${count === 1 ? 'number is' : 'numbers are'} named by lines and by no document here${shown}.`;
  if (kinds.length === 0) return 'No documents of this company have been loaded. Load a table of them under Loads.';
  return count === 0
    ? 'No document is like that. Remove a limit.'
    : `${countText(count)} documents, the newest first${shown}.`;
}

const Rows = ({ data, missing }: { data: DocumentRegister; missing: boolean }) => (
  <Table
    label="Every document"
    fixed
    sideways
    columns={[
      { label: 'Document', width: 'w-[140px]' },
      { label: 'Kind', width: 'w-[142px]' },
      { label: 'Date', width: 'w-[96px]' },
      { label: 'With' },
      { label: 'Description' },
      ...(missing
        ? [
            { label: 'Lines', width: 'w-[70px]', right: true },
            { label: 'Half of their amounts', width: 'w-[150px]', right: true },
          ]
        : [
            { label: 'Amount', width: 'w-[124px]', right: true },
            { label: 'Left of it', width: 'w-[124px]', right: true },
            { label: 'How far', width: 'w-[150px]' },
          ]),
    ]}
  >
    {data.rows.map((r) => (
      <Tr key={r.number}>
        <NumberCell
          entity={data.entity}
          number={r.number}
          {...(missing ? { href: linesOfDocument(data.entity, r.number) } : {})}
        />
        <Td cut>{r.type}</Td>
        <Td>{dateText(r.date)}</Td>
        <Td cut title={r.counterpartyName ?? undefined}>
          {r.counterpartyName ?? r.counterparty}
        </Td>
        <Td cut title={r.description}>
          {r.description}
        </Td>
        {missing ? (
          <>
            <Td right>{countText(r.lines ?? 0)}</Td>
            <Td right>{amountText(r.amount)}</Td>
          </>
        ) : (
          <>
            <Td right>
              {amountText(r.value ?? r.amount)}
              {r.value !== null && (
                <span className="block text-[12.5px] text-faint">{amountText(r.amount)} at first</span>
              )}
            </Td>
            <Td right>{r.state && amountText(r.open)}</Td>
            <Td cut>{r.state}</Td>
          </>
        )}
      </Tr>
    ))}
  </Table>
);
