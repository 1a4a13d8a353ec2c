'use client';

import Link from 'next/link';
import { useDeferredValue, useMemo, useState } from 'react';
import type { OpenDocuments } from '@/contracts/answers/documents';
import { dateText } from '@/core/sentence';
import { amountText, countText } from '../amounts';
import { DOCUMENT_TABS, Failure, Labelled, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer } from '../query/hooks';
import { ScopeSentence } from '../scope/ScopeSentence';
import { usePageScope } from '../scope/usePageScope';
import { TieMark } from '../sheet/Strips';
import { documentPath } from './address';

/** So many rows are drawn at once; the rest on request. */
const ROWS_FIRST = 300;

/** The documents of a control account: what is open of each, how old it is, and whether they add up to the ledger. */
export function DocumentsPage() {
  const { scope, asked, change } = usePageScope('/documents');
  const { data, error, isPlaceholderData } = useAnswer('GET /documents', asked);
  const [text, setText] = useState('');
  const [band, setBand] = useState<number | null>(null);
  const [all, setAll] = useState(false);
  const wanted = useDeferredValue(text.trim().toLowerCase());
  const rows = useMemo(
    () =>
      (data?.rows ?? []).filter(
        (r) =>
          (band === null || r.band === band) &&
          (!wanted ||
            `${r.number} ${r.type} ${r.counterparty ?? ''} ${r.counterpartyName ?? ''} ${r.description}`
              .toLowerCase()
              .includes(wanted)),
      ),
    [data, band, wanted],
  );
  const ledger = new URLSearchParams(data?.address ?? '');
  return (
    <>
      {data && <ScopeSentence parts={data.parts} scope={scope} onChange={change} stale={isPlaceholderData} />}
      <Place title="Documents" tabs={DOCUMENT_TABS} here="/documents">
        <div className="mb-3 flex flex-wrap items-end gap-x-3 gap-y-2">
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
          <Labelled label="Find">
            <input
              value={text}
              onChange={(event) => setText(event.target.value)}
              placeholder="Number, party, words"
              className="field w-[190px]"
            />
          </Labelled>
          <p className="ml-auto pb-1.5 text-soft">
            {countText(rows.length)} of {countText(data?.rows.length ?? 0)} documents
            {data ? `, at ${dateText(data.at)}` : ''}
          </p>
        </div>
        <Failure error={error} />
        {!data && !error && <p className="text-soft">Adding up the documents …</p>}
        {data && data.controls.length === 0 && (
          <p className="text-soft">
            No documents of {data.entity} have been loaded. Load a table of them, with their files in one zip, on the
            Loads page.
          </p>
        )}
        {data && data.controls.length > 0 && (
          <>
            {data.accounts.length > 1 ? (
              <Accounts data={data} onChoose={(account) => change({ accounts: [account] })} />
            ) : (
              <Bands data={data} chosen={band} onChoose={setBand} />
            )}
            {data.accounts.length === 1 && (
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
                {!data.tie.ok && <span>Lines of the account without a document make the difference.</span>}
                {data.total.inOtherCurrencies > 0 && (
                  <span>{countText(data.total.inOtherCurrencies)} in other currencies are not in the sum.</span>
                )}
              </p>
            )}
            {rows.length === 0 ? (
              <p className="text-soft">
                {data.rows.length === 0
                  ? 'Nothing is open at that day.'
                  : 'No document is like that. Take a limit away.'}
              </p>
            ) : (
              <Table
                label="Documents"
                fixed
                columns={[
                  { label: 'Document', width: 'w-[150px]' },
                  { label: 'Type', width: 'w-[100px]' },
                  { label: 'Date', width: 'w-[100px]' },
                  { label: 'Due', width: 'w-[100px]' },
                  { label: 'With' },
                  { label: 'Description' },
                  { label: 'Days past', width: 'w-[76px]', right: true },
                  { label: `Amount, ${data.currency}`, width: 'w-[120px]', right: true },
                  { label: 'Open', width: 'w-[120px]', right: true },
                ]}
              >
                {rows.slice(0, all ? undefined : ROWS_FIRST).map((r) => (
                  <Tr key={`${r.account}/${r.number}`}>
                    <Td cut title={r.number}>
                      <Link
                        href={documentPath(data.entity, r.number)}
                        className="underline decoration-rule underline-offset-4 hover:decoration-ink"
                      >
                        {r.number}
                      </Link>
                    </Td>
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
