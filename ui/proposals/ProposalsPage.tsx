'use client';

import Link from 'next/link';
import { useState } from 'react';
import { PROPOSED_STATES, type ProposedState } from '@/core/proposedEntry';
import { dateText } from '@/core/sentence';
import { amountText, countText } from '../amounts';
import { Failure, Place, PROPOSAL_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer } from '../query/hooks';
import { useMe } from '../shell/me';
import { HandOver } from './HandOver';
import { KIND_WORD, STATE_WORD, stateInk } from './words';

const NO_PARAMS = new URLSearchParams();

/** Entries that are proposed, with how far each has come. */
export function ProposalsPage() {
  const me = useMe();
  const { data, error } = useAnswer('GET /proposed-entries', NO_PARAMS);
  const [state, setState] = useState('');
  const [set, setSet] = useState('');
  const all = data?.rows ?? [];
  const sets = [...new Set(all.map((p) => p.set))].sort();
  const rows = all.filter((p) => (state === '' || p.state === state) && (set === '' || p.set === set)).reverse();
  const leaving = all.filter((p) => p.state === 'approved' && p.exported === null);
  return (
    <Place title="Proposed entries" tabs={PROPOSAL_TABS} here="/proposals">
      <Failure error={error} />
      {data && all.length === 0 && (
        <p className="max-w-[76ch] text-soft">
          Nothing is proposed. C on a line, on chosen lines or on a figure of any sheet proposes to put it right: in
          another account, on another day, taken back, spread or split. Nothing booked is ever changed: what is proposed
          is seen in every figure whose sentence says “with proposed entries”, approved by somebody else, and handed
          over to be booked.
        </p>
      )}
      {all.length > 0 && (
        <>
          <div className="mb-3 flex flex-wrap items-baseline gap-x-2 gap-y-2 text-soft">
            {countText(rows.length)} {rows.length === 1 ? 'entry' : 'entries'}
            <Select look="word" aria-label="State" value={state} onChange={(event) => setState(event.target.value)}>
              <option value="">in any state</option>
              {PROPOSED_STATES.map((s) => (
                <option key={s} value={s}>
                  {STATE_WORD[s]}
                </option>
              ))}
            </Select>
            <Select look="word" aria-label="Set" value={set} onChange={(event) => setSet(event.target.value)}>
              <option value="">of any set</option>
              {sets.map((s) => (
                <option key={s} value={s}>
                  of {s}
                </option>
              ))}
            </Select>
            {me.role !== 'reader' && leaving.length > 0 && (
              <HandOver ids={null} many={leaving.length} className="ml-auto" />
            )}
          </div>
          <Table
            label="Proposed entries"
            fixed
            sideways
            columns={[
              { label: 'Number', width: 'w-[84px]' },
              { label: 'What' },
              { label: 'Kind', width: 'w-[122px]' },
              { label: 'Company', width: 'w-[78px]' },
              { label: 'Day', width: 'w-[102px]' },
              { label: 'Amount', width: 'w-[130px]', right: true },
              { label: 'On the result', width: 'w-[130px]', right: true },
              { label: 'State', width: 'w-[130px]' },
              { label: 'By', width: 'w-[104px]' },
            ]}
          >
            {rows.map((p) => (
              <Tr key={p.id}>
                <Td>
                  <Link href={`/proposals/${p.id}`} className="font-semibold hover:underline">
                    {p.number}
                  </Link>
                </Td>
                <Td cut title={p.reason}>
                  {p.title || p.reason}
                </Td>
                <Td cut>{KIND_WORD[p.kind]}</Td>
                <Td>{p.entity}</Td>
                <Td>{dateText(p.date)}</Td>
                <Td right>{amountText(p.debit)}</Td>
                <Td right>{amountText(p.effect.result)}</Td>
                <Td>
                  <span className={stateInk(p.state)}>{stateText(p.state, p.booked)}</span>
                </Td>
                <Td cut>{p.by}</Td>
              </Tr>
            ))}
          </Table>
        </>
      )}
    </Place>
  );
}

/** How far it has come, and what a load brought in its place. */
function stateText(state: ProposedState, booked: readonly { how: string; entry: string | null }[]): string {
  if (state === 'proposed' || state === 'approved') {
    if (booked.some((b) => b.how === 'differs')) return `${STATE_WORD[state]}, booked otherwise?`;
    if (booked.some((b) => b.how === 'not booked')) return `${STATE_WORD[state]}, not booked yet`;
  }
  return STATE_WORD[state];
}
