'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { OpenDocuments } from '@/contracts/answers/documents';
import { dateText } from '@/core/sentence';
import { exactly } from '@/core/values';
import { amountText, countText } from '../amounts';
import { TakeOutLink } from '../leaving/TakeOutLink';
import { ListFilters } from '../parts/ListFilters';
import type { ListAttribute } from '../parts/listing';
import { DOCUMENT_TABS, Failure, Labelled, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { toast } from '../parts/toast';
import { useListing } from '../parts/useListing';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { ScopeSentence } from '../scope/ScopeSentence';
import { usePageScope } from '../scope/usePageScope';
import { TieMark } from '../sheet/Strips';
import { useMe } from '../shell/me';
import { NumberCell } from './NumberCell';
import { Unmatched } from './Unmatched';

/** So many rows are drawn at once; the rest on request. */
const ROWS_FIRST = 300;

type Row = OpenDocuments['rows'][number];

const ATTRIBUTES: ListAttribute<Row>[] = [
  { key: 'number', label: 'Document', of: (r) => [r.number], unlimited: true },
  { key: 'type', label: 'Type', of: (r) => [r.type] },
  { key: 'date', label: 'Date', of: (r) => [r.date], unlimited: true },
  { key: 'due', label: 'Due', of: (r) => (r.dueDate ? [r.dueDate] : []), unlimited: true },
  { key: 'party', label: 'With', of: (r) => [r.counterpartyName ?? r.counterparty ?? ''], unlimited: true },
  { key: 'description', label: 'Description', of: (r) => [r.description], unlimited: true },
  { key: 'band', label: 'Age', of: (r) => [String(r.band)], unlimited: true },
  { key: 'past', label: 'Days past', of: () => [], order: (r) => r.daysPast, unlimited: true },
  { key: 'amount', label: 'Amount', of: () => [], order: (r) => Number(r.amount), unlimited: true },
  { key: 'open', label: 'Open', of: () => [], order: (r) => Number(r.open), unlimited: true },
];
const NONE: readonly Row[] = [];
const textOf = (r: Row): string =>
  [r.number, r.type, r.counterparty, r.counterpartyName, r.description].filter(Boolean).join(' ');

/** Up to how many days past each band of age goes, typed with commas and set by Enter or by leaving the field. */
function Edges({ value, usual, onChange }: { value: string; usual: string; onChange(edges: string): void }) {
  return (
    <input
      key={value}
      defaultValue={value}
      placeholder={usual}
      className="field w-[130px]"
      onBlur={(event) =>
        event.target.value.replace(/\s/g, '') !== value && onChange(event.target.value.replace(/\s/g, ''))
      }
      onKeyDown={(event) => event.key === 'Enter' && event.currentTarget.blur()}
    />
  );
}

/** What each customer or supplier owes or is owed, by age. */
function ByParty({ data, onChoose }: { data: OpenDocuments; onChoose(code: string): void }) {
  const several = data.accounts.length > 1;
  return (
    <Table
      label="Customers and suppliers by age"
      columns={[
        { label: 'With' },
        ...(several ? [{ label: 'Account', width: 'w-20' }] : []),
        ...data.bands.map((band) => ({ label: band.name, right: true })),
        { label: `Open, ${data.currency}`, right: true },
      ]}
    >
      {data.parties.map((p) => (
        <Tr key={`${p.account}/${p.code}`}>
          <Td>
            {p.code === '' ? (
              <span className="text-faint">no party named</span>
            ) : (
              <button
                type="button"
                onClick={() => onChoose(p.code)}
                className="cursor-pointer text-left underline decoration-rule underline-offset-4 hover:decoration-ink"
              >
                {[p.code, p.name === p.code ? null : p.name].filter(Boolean).join(' ')}
              </button>
            )}
          </Td>
          {several && <Td>{p.account}</Td>}
          {p.bands.map((open, i) => (
            <Td key={data.bands[i]?.name} right>
              {amountText(open)}
            </Td>
          ))}
          <Td right>
            <strong className="font-semibold">{amountText(p.open)}</strong>
          </Td>
        </Tr>
      ))}
    </Table>
  );
}

/** The documents of a control account: what is open of each, how old it is, and whether they add up to the ledger. */
export function DocumentsPage() {
  const { scope, asked, change } = usePageScope('/documents');
  const { data, error, isPlaceholderData } = useAnswer('GET /documents', asked);
  const list = useListing(data?.rows ?? NONE, ATTRIBUTES, textOf);
  const { rows } = list;
  const band = list.chosen.band === undefined || list.chosen.band === '' ? null : Number(list.chosen.band);
  const byParty = list.chosen.rows === 'parties';
  const unmatched = list.chosen.rows === 'unmatched';
  const [all, setAll] = useState(false);
  const owner = useMe().role === 'owner';
  const keepBands = useChange((edges: number[]) => ask('PUT /settings/ages', { body: { edges } }), ['/documents']);
  const ledger = new URLSearchParams(data?.address ?? '');
  return (
    <>
      {data && <ScopeSentence parts={data.parts} scope={scope} onChange={change} stale={isPlaceholderData} />}
      <Place
        title="Documents"
        tabs={DOCUMENT_TABS}
        here="/documents"
        aside={data && asked && <TakeOutLink path={`/documents?${asked}`} label="Open documents" />}
      >
        <ListFilters
          list={list}
          placeholder="Number, party, words"
          noun={`documents${data ? `, at ${dateText(data.at)}` : ''}`}
        >
          <Labelled label="Control account">
            <Select
              value={scope.get('accounts') ?? ''}
              onChange={(event) => change({ accounts: event.target.value ? [event.target.value] : [] })}
              className="field"
            >
              <option value="">every one with documents</option>
              {data?.controls.map((c) => (
                <option key={c.account} value={c.account}>
                  {c.account} {c.name}
                </option>
              ))}
            </Select>
          </Labelled>
          <Labelled label="Show">
            <Select
              value={scope.get('open') ?? 'yes'}
              onChange={(event) => change({ open: [event.target.value] })}
              className="field"
            >
              <option value="yes">what is open</option>
              <option value="all">settled ones too</option>
            </Select>
          </Labelled>
          <Labelled label="Age by">
            <Select
              value={scope.get('aged') ?? 'due'}
              onChange={(event) => change({ aged: [event.target.value] })}
              className="field"
            >
              <option value="due">due date</option>
              <option value="document">date of the document</option>
            </Select>
          </Labelled>
          <Labelled label="Days past, up to">
            <Edges
              value={scope.get('edges') ?? ''}
              usual={data?.edges.join(', ') ?? ''}
              onChange={(edges) => change({ edges: edges ? [edges] : [] })}
            />
          </Labelled>
          {owner && data && scope.has('edges') && (
            <button
              type="button"
              className="button"
              disabled={keepBands.isPending}
              onClick={() =>
                void keepBands.mutateAsync(data.edges).then(
                  () => {
                    toast(`Documents are aged by ${data.edges.join(', ')} days for everybody from now on.`);
                    change({ edges: [] });
                  },
                  () => null,
                )
              }
            >
              Keep for everybody
            </button>
          )}
          <Labelled label="Rows">
            <Select
              value={byParty || unmatched ? list.chosen.rows : ''}
              onChange={(event) => list.choose('rows', event.target.value)}
            >
              <option value="">documents</option>
              <option value="parties">customers and suppliers</option>
              <option value="unmatched">what does not match the ledger</option>
            </Select>
          </Labelled>
        </ListFilters>
        <Failure error={error ?? keepBands.error} />
        {!data && !error && <p className="text-soft">Adding up the documents …</p>}
        {data && data.controls.length === 0 && (
          <p className="text-soft">
            No documents of {data.entity} have been loaded. Load a table of them, with their files in one zip, on the
            Loads page.
          </p>
        )}
        {data && data.controls.length > 0 && (
          <>
            {unmatched ? null : data.accounts.length > 1 ? (
              <Accounts data={data} onChoose={(account) => change({ accounts: [account] })} />
            ) : (
              <Bands data={data} chosen={band} onChoose={(to) => list.choose('band', to === null ? '' : String(to))} />
            )}
            {data.accounts.length === 1 && !unmatched && (
              <p className="mb-3 flex flex-wrap gap-x-5 text-soft">
                <span>
                  Open documents <strong className="text-ink">{amountText(data.total.open)}</strong>
                </span>
                <span>
                  Balance of the ledger{' '}
                  <Link
                    href={`/lines?${ledger}`}
                    className="font-semibold text-ink underline decoration-rule underline-offset-4 hover:decoration-ink"
                  >
                    {amountText(data.ledger)}
                  </Link>
                </span>
                <TieMark tie={data.tie} what="documents and ledger agree" />
                {!data.tie.ok && (
                  <button
                    type="button"
                    onClick={() => list.choose('rows', 'unmatched')}
                    className="cursor-pointer text-ink underline decoration-rule underline-offset-4 hover:decoration-ink"
                  >
                    What does not match
                  </button>
                )}
                {data.total.inOtherCurrencies > 0 && (
                  <span>{countText(data.total.inOtherCurrencies)} in other currencies are not in the sum.</span>
                )}
              </p>
            )}
            {unmatched ? (
              <Unmatched asked={unmatchedAsked(asked)} />
            ) : byParty ? (
              <ByParty data={data} onChoose={(code) => change({ counterparty: [exactly(code)] })} />
            ) : rows.length === 0 ? (
              <p className="text-soft">
                {data.rows.length === 0 ? 'Nothing is open at that day.' : 'No document is like that. Remove a limit.'}
              </p>
            ) : (
              <Table
                label="Documents"
                fixed
                sideways
                list={list}
                columns={[
                  { label: 'Document', width: 'w-[132px]', orders: 'number' },
                  { label: 'Type', width: 'w-[90px]', orders: 'type' },
                  { label: 'Date', width: 'w-[92px]', orders: 'date' },
                  { label: 'Due', width: 'w-[92px]', orders: 'due' },
                  { label: 'With', orders: 'party' },
                  { label: 'Description', orders: 'description' },
                  { label: 'Days past', width: 'w-[76px]', right: true, orders: 'past' },
                  { label: `Amount, ${data.currency}`, width: 'w-[112px]', right: true, orders: 'amount' },
                  { label: 'Open', width: 'w-[112px]', right: true, orders: 'open' },
                ]}
              >
                {rows.slice(0, all ? undefined : ROWS_FIRST).map((r) => (
                  <Tr key={`${r.account}/${r.number}`}>
                    <NumberCell entity={data.entity} number={r.number} />
                    <Td cut>{r.type}</Td>
                    <Td>{dateText(r.date)}</Td>
                    <Td>{r.dueDate && dateText(r.dueDate)}</Td>
                    <Td cut title={r.counterpartyName ?? undefined}>
                      {r.counterpartyName ?? r.counterparty}
                    </Td>
                    <Td cut title={r.description}>
                      {r.description}
                    </Td>
                    <Td right>{r.daysPast > 0 ? r.daysPast : ''}</Td>
                    <Td right>
                      {amountText(r.amount)}
                      {r.currency !== data.currency && <span className="text-faint"> {r.currency}</span>}
                    </Td>
                    <Td right>{amountText(r.open)}</Td>
                  </Tr>
                ))}
              </Table>
            )}
            {!all && rows.length > ROWS_FIRST && (
              <button type="button" onClick={() => setAll(true)} className="button mt-3">
                Show the other {countText(rows.length - ROWS_FIRST)}
              </button>
            )}
          </>
        )}
      </Place>
    </>
  );
}

/** The scope of the page, without how its documents are aged and which are shown. */
function unmatchedAsked(asked: URLSearchParams | null): URLSearchParams | null {
  if (!asked) return null;
  const query = new URLSearchParams(asked);
  for (const name of ['open', 'aged', 'edges']) query.delete(name);
  return query;
}

/** What is open of each control account by age: what is owed to us and what we owe are never added up. */
function Accounts({ data, onChoose }: { data: OpenDocuments; onChoose(account: string): void }) {
  return (
    <div className="mb-4">
      <Table
        label="Control accounts by age"
        columns={[
          { label: 'Control account' },
          { label: 'Owed' },
          ...data.bands.map((band) => ({ label: band.name, right: true })),
          { label: 'Open', right: true },
          { label: 'Ledger', right: true },
          { label: '' },
        ]}
      >
        {data.accounts.map((account) => (
          <Tr key={account.account}>
            <Td>
              <button
                type="button"
                onClick={() => onChoose(account.account)}
                className="cursor-pointer text-left underline decoration-rule underline-offset-4 hover:decoration-ink"
              >
                {account.account} {account.name}
              </button>
            </Td>
            <Td>{account.owed}</Td>
            {account.bands.map((open, i) => (
              <Td key={data.bands[i]?.name} right>
                {amountText(open)}
              </Td>
            ))}
            <Td right>{amountText(account.open)}</Td>
            <Td right>{amountText(account.ledger)}</Td>
            <Td>
              <TieMark tie={account.tie} />
            </Td>
          </Tr>
        ))}
      </Table>
    </div>
  );
}

/** What is open by age; each band limits the list to itself. */
function Bands({
  data,
  chosen,
  onChoose,
}: {
  data: OpenDocuments;
  chosen: number | null;
  onChoose(band: number | null): void;
}) {
  return (
    <fieldset className="mb-3 flex flex-wrap border border-rule bg-sheet">
      <legend className="sr-only">By age</legend>
      {data.bands.map((band, i) => (
        <button
          key={band.name}
          type="button"
          aria-pressed={chosen === i}
          onClick={() => onChoose(chosen === i ? null : i)}
          className={`min-w-[120px] flex-1 cursor-pointer border-r border-hair px-3 py-1.5 text-right last:border-r-0 hover:bg-chosen ${chosen === i ? 'bg-chosen' : ''}`}
        >
          <span className="block text-[12.5px] text-soft">{band.name}</span>
          <span className="tabular-nums">{amountText(band.open)}</span>
        </button>
      ))}
    </fieldset>
  );
}
