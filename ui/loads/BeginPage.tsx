'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { Inspection, LedgerProposal } from '@/contracts/answers/loads';
import type { Mapping, Reading } from '@/contracts/mapping';
import { Failure, LOAD_TABS, Place } from '../parts/Place';
import { ask } from '../query/client';
import { useChange, useEntities } from '../query/hooks';
import { useMe } from '../shell/me';
import { BegunLoads } from './BegunLoads';
import { ColumnTable } from './ColumnTable';
import { PickFile } from './PickFile';
import { ProposalForm } from './ProposalForm';
import { ReadingFields } from './ReadingFields';

/** From one file of lines to a trial balance: a file, what it would become, corrected where it was guessed wrong, loaded. */
export function BeginPage() {
  const { role } = useMe();
  const router = useRouter();
  const { data: entities } = useEntities();
  const [seen, setSeen] = useState<Inspection | null>(null);
  const [mapping, setMapping] = useState<Mapping | null>(null);
  const [proposal, setProposal] = useState<LedgerProposal | null>(null);
  const [begun, setBegun] = useState<{ loads: number[]; entity: string } | null>(null);
  const look = useChange(
    ({ digest, mapping: wanted }: { digest: string; mapping: Mapping | null }) =>
      ask('POST /files/{digest}/inspection', {
        path: { digest },
        body: { kind: 'lines', unknownAccounts: 'create', ...(wanted ? { mapping: wanted } : {}) },
      }),
    [],
  );
  const propose = useChange(
    ({ digest, name, mapping: wanted }: { digest: string; name: string; mapping: Mapping | null }) =>
      ask('POST /files/{digest}/proposal', {
        path: { digest },
        body: { name, ...(wanted ? { mapping: wanted } : {}) },
      }),
    [],
  );
  const settle = (wanted: Mapping | null): void => {
    setMapping(wanted);
    setProposal(null);
    if (seen)
      look.mutate({ digest: seen.digest, mapping: wanted }, { onSuccess: (next) => setSeen(named(next, seen)) });
  };
  const read = seen?.unreadable === null ? seen : null;
  const doubts = read === null ? [] : [...read.missing.map((m) => m.message), ...asked(read)];
  if (role !== 'owner')
    return (
      <Place title="Bring in a ledger" tabs={LOAD_TABS} here="/loads/begin">
        <p className="text-soft">An owner begins a ledger: a company comes with it. Ask one.</p>
      </Place>
    );
  if (begun)
    return (
      <Place title="Bring in a ledger" tabs={LOAD_TABS} here="/loads/begin">
        <BegunLoads
          loads={begun.loads}
          onDone={() => router.push(`/trial-balance?entity=${encodeURIComponent(begun.entity)}`)}
        />
      </Place>
    );
  return (
    <Place title="Bring in a ledger" tabs={LOAD_TABS} here="/loads/begin">
      <p className="mb-3 max-w-[75ch] text-soft">
        One file of journal lines is enough: date, account, amount, and a number that holds an entry together. Company,
        fiscal year, chart of accounts and dimensions are proposed from it; you see and correct them before anything is
        made. {(entities?.entities.length ?? 0) > 0 && 'A company that is here already takes files under Deliveries.'}
      </p>
      {!seen && (
        <PickFile
          onLooked={(file) => {
            setSeen(file);
            // What the columns are is looked at again as lines, whatever the file seemed to be.
            look.mutate({ digest: file.digest, mapping: null }, { onSuccess: (next) => setSeen(named(next, file)) });
          }}
        />
      )}
      {seen && (
        <p className="mb-3 flex items-baseline gap-4">
          <strong className="font-semibold">{seen.name}</strong>
          {look.isPending && <span className="text-faint">looking …</span>}
          <button
            type="button"
            className="link"
            onClick={() => {
              setSeen(null);
              setMapping(null);
              setProposal(null);
            }}
          >
            another file
          </button>
        </p>
      )}
      {seen?.unreadable != null && <p className="text-warn">✗ {seen.unreadable}</p>}
      {read && read.format !== 'saft' && (doubts.length > 0 || !proposal) && (
        <>
          <div className="flex flex-wrap items-end gap-3 border border-rule bg-sheet p-3">
            <ReadingFields
              seen={read}
              onChange={(reading: Partial<Reading>) =>
                settle({ ...(mapping ?? read.mapping), reading: { ...mapping?.reading, ...reading } })
              }
            />
          </div>
          <ColumnTable
            seen={read}
            own={read.ownColumns && !mapping?.columns}
            mapping={mapping ?? read.mapping}
            dimensions={[]}
            onChange={settle}
          />
        </>
      )}
      {doubts.length > 0 && <p className="mt-3 text-warn">{doubts.join('; ')}.</p>}
      <Failure error={look.error ?? propose.error} />
      {read && !proposal && doubts.length === 0 && (
        <button
          type="button"
          className="button-main mt-4"
          disabled={propose.isPending || look.isPending}
          onClick={() =>
            propose.mutate(
              { digest: read.digest, name: read.name ?? 'ledger', mapping: mapping ?? read.mapping },
              { onSuccess: (made) => setProposal(made) },
            )
          }
        >
          {propose.isPending ? 'Reading the file …' : 'Propose a ledger'}
        </button>
      )}
      {read && proposal && (
        <ProposalForm
          key={proposal.digest}
          file={read.name ?? 'ledger'}
          proposal={proposal}
          onBegun={(loads, entity) => setBegun({ loads, entity })}
        />
      )}
    </Place>
  );
}

/** A later look at a file that keeps what it is called. */
const named = (next: Inspection, before: Inspection): Inspection => ({
  ...next,
  ...(before.name === undefined ? {} : { name: before.name }),
  ...(before.bytes === undefined ? {} : { bytes: before.bytes }),
});

const asked = (read: Extract<Inspection, { unreadable: null }>): string[] => [
  ...(read.recognised.dates.doubt === 'ask' ? [`say how dates are written: ${read.recognised.dates.why}`] : []),
  ...(read.recognised.decimal.doubt === 'ask' ? [`say which the decimal mark is: ${read.recognised.decimal.why}`] : []),
];
