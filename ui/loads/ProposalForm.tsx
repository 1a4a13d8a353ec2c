'use client';

import { type FormEvent, useMemo, useState } from 'react';
import type { LedgerProposal } from '@/contracts/answers/loads';
import type { BodySent } from '@/contracts/routes';
import { ACCOUNT_TYPES, type AccountType } from '@/core/ledger';
import { dateText, MONTHS } from '@/core/sentence';
import { countText } from '../amounts';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { toggled } from '../parts/toggled';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { guessesOf, WHY } from './proposalGuesses';

/** So many accounts are drawn at once. */
const ACCOUNTS_FIRST = 250;

/** What was proposed of a file, to be corrected: company, year, accounts with their types, dimensions. */
export function ProposalForm({
  file,
  proposal,
  onBegun,
}: {
  file: string;
  proposal: LedgerProposal;
  onBegun(loads: number[], entity: string): void;
}) {
  const [companies, setCompanies] = useState(proposal.companies.map((c) => ({ ...c, inFile: c.code })));
  const [currency, setCurrency] = useState(proposal.currency.code);
  const [month, setMonth] = useState(proposal.yearStart.month);
  const [retained, setRetained] = useState(proposal.retained);
  const [types, setTypes] = useState<ReadonlyMap<string, AccountType>>(new Map());
  const [dims, setDims] = useState<ReadonlySet<string>>(new Set(proposal.dimensions.map((d) => d.column)));
  const [names, setNames] = useState<ReadonlyMap<string, string>>(new Map());
  const [only, setOnly] = useState<'all' | 'guessed'>('all');
  const [all, setAll] = useState(false);
  const begin = useChange((body: BodySent<'POST /ledgers'>) => ask('POST /ledgers', { body }), 'everything');
  const typeOf = (code: string, type: AccountType): AccountType => types.get(code) ?? type;
  const equity = proposal.accounts.filter((a) => typeOf(a.code, a.type) === 'equity');
  const accounts = useMemo(
    () => proposal.accounts.filter((a) => only === 'all' || (a.why !== 'file' && a.why !== 'name')),
    [proposal, only],
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const kept = proposal.dimensions.filter((d) => dims.has(d.column));
    const { loads } = await begin.mutateAsync({
      ...{ file: proposal.digest, name: file, inFile: proposal.inFile, currency, yearStart: month, retained },
      ...{ adjustments: proposal.adjustments, yearEnd: 'derived', mapping: proposal.mapping },
      companies: companies.map(({ code, name, inFile }) => ({ code, name, inFile })),
      accounts: proposal.accounts.map(({ code, name, type }) => ({ code, name, type: typeOf(code, type) })),
      dimensions: kept.map((d) => ({ ...d, name: names.get(d.column) ?? d.name })),
      guesses: guessesOf(proposal, { currency, month, retained, types }),
    });
    onBegun(loads, companies[0]?.code ?? '');
  };
  const change = (at: number, put: Partial<(typeof companies)[number]>): void =>
    setCompanies(companies.map((c, i) => (i === at ? { ...c, ...put } : c)));
  return (
    <form onSubmit={(event) => void submit(event).catch(() => {})} className="mt-5">
      <p className="mb-3">
        {countText(proposal.rows)} lines from {dateText(proposal.first)} to {dateText(proposal.last)}, on{' '}
        {countText(proposal.accounts.length)} accounts
        {proposal.partly ? '; there are more lines than were read for the proposal' : ''}.
        {proposal.problems > 0 && (
          <span className="text-warn"> {countText(proposal.problems)} rows cannot be read as they are.</span>
        )}
      </p>
      <h2 className="mb-2 font-book text-[18px] font-semibold">
        {companies.length === 1 ? 'The company' : `${companies.length} companies`}
      </h2>
      <div className="mb-5 flex flex-wrap items-end gap-3">
        {companies.map((company, at) => (
          <div key={company.inFile} className="flex items-end gap-3">
            <Labelled label="Code">
              <input
                value={company.code}
                required
                pattern="[A-Za-z0-9][A-Za-z0-9._\-]{0,19}"
                onChange={(event) => change(at, { code: event.target.value })}
                readOnly={companies.length > 1}
                className="field w-[130px]"
              />
            </Labelled>
            <Labelled label="Name">
              <input
                value={company.name}
                required
                maxLength={200}
                onChange={(event) => change(at, { name: event.target.value })}
                className="field w-[260px]"
              />
            </Labelled>
            {company.taken && <span className="pb-1.5 text-warn">there is a company of that code already</span>}
          </div>
        ))}
        <Labelled label={`Currency of the books (${proposal.currency.why})`}>
          <input
            value={currency}
            required
            pattern="[A-Z]{3}"
            onChange={(event) => setCurrency(event.target.value.toUpperCase())}
            className="field w-[90px]"
          />
        </Labelled>
        <Labelled label={`Fiscal year begins (${proposal.yearStart.why})`}>
          <Select value={month} onChange={(event) => setMonth(Number(event.target.value))}>
            {MONTHS.map((name, i) => (
              <option key={name} value={i + 1}>
                {name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Results of earlier years are kept on">
          <Select value={retained ?? ''} onChange={(event) => setRetained(event.target.value || null)}>
            <option value="">an account that is added for it</option>
            {equity.map((a) => (
              <option key={a.code} value={a.code}>
                {a.code} {a.name}
              </option>
            ))}
          </Select>
        </Labelled>
      </div>
      {proposal.dimensions.length > 0 && (
        <fieldset className="mb-5">
          <legend className="mb-2 font-book text-[18px] font-semibold">Dimensions found</legend>
          <ul className="border-t border-rule">
            {proposal.dimensions.map((d) => (
              <li key={d.column} className="flex items-center gap-3 border-b border-hair py-1.5">
                <input
                  type="checkbox"
                  aria-label={`Column ${d.column} is a dimension`}
                  checked={dims.has(d.column)}
                  onChange={(event) => setDims(toggled(dims, d.column, event.target.checked))}
                />
                <input
                  aria-label={`What ${d.column} is called`}
                  value={names.get(d.column) ?? d.name}
                  onChange={(event) => setNames(new Map(names).set(d.column, event.target.value))}
                  className="field w-[200px]"
                />
                <span className="min-w-0 flex-1 truncate text-soft">
                  {countText(d.members.length)} members: {d.members.slice(0, 8).join(', ')}
                </span>
              </li>
            ))}
          </ul>
        </fieldset>
      )}
      <div className="mb-2 flex items-baseline gap-4">
        <h2 className="font-book text-[18px] font-semibold">Accounts</h2>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            checked={only === 'guessed'}
            onChange={(event) => setOnly(event.target.checked ? 'guessed' : 'all')}
          />{' '}
          only those whose names do not tell their type
        </label>
      </div>
      <Table
        label="Accounts proposed"
        columns={[
          { label: 'Account', width: 'w-32' },
          { label: 'Name' },
          { label: 'Type', width: 'w-40' },
          { label: 'Taken from', width: 'w-72' },
        ]}
      >
        {accounts.slice(0, all ? undefined : ACCOUNTS_FIRST).map((a) => (
          <Tr key={a.code}>
            <Td>{a.code}</Td>
            <Td>{a.name === a.code ? <span className="text-faint">no name in the file</span> : a.name}</Td>
            <Td>
              <Select
                look="word"
                aria-label={`Type of ${a.code}`}
                value={typeOf(a.code, a.type)}
                onChange={(event) => setTypes(new Map(types).set(a.code, event.target.value as AccountType))}
              >
                {ACCOUNT_TYPES.map((type) => (
                  <option key={type}>{type}</option>
                ))}
              </Select>
            </Td>
            <Td>
              <span className={a.why === 'sides' && !types.has(a.code) ? 'text-warn' : 'text-soft'}>
                {types.has(a.code) ? 'chosen here' : WHY[a.why]}
              </span>
            </Td>
          </Tr>
        ))}
      </Table>
      {!all && accounts.length > ACCOUNTS_FIRST && (
        <button type="button" onClick={() => setAll(true)} className="button mt-3">
          Show the other {countText(accounts.length - ACCOUNTS_FIRST)}
        </button>
      )}
      <Failure error={begin.error} />
      <button type="submit" className="button-main mt-4" disabled={begin.isPending}>
        {begin.isPending ? 'Beginning …' : 'Make this ledger'}
      </button>
    </form>
  );
}
