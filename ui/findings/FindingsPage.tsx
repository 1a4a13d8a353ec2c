'use client';

import Link from 'next/link';
import { useState } from 'react';
import { FINDING_KINDS, FINDING_STATES } from '@/contracts/work';
import { dateText } from '@/core/sentence';
import { amountText, countText } from '../amounts';
import { Failure, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer } from '../query/hooks';

/** What was found, by kind, owner and state, with what those come to that are not done with. */
export function FindingsPage() {
  const [state, setState] = useState('waiting');
  const [kind, setKind] = useState('');
  const [owner, setOwner] = useState('');
  const { data, error } = useAnswer('GET /findings', new URLSearchParams(state === 'all' ? [] : [['state', state]]));
  const rows = (data?.rows ?? []).filter(
    (f) => (kind === '' || f.kind === kind) && (owner === '' || f.owner?.name === owner),
  );
  const owners = [...new Set((data?.rows ?? []).flatMap((f) => f.owner?.name ?? []))].sort();
  const today = new Date().toISOString().slice(0, 10);
  return (
    <Place title="Findings" tabs={[]} here="/findings">
      <Failure error={error} />
      <p className="mb-3 flex flex-wrap items-baseline gap-x-2 text-soft">
        {countText(rows.length)} {rows.length === 1 ? 'finding' : 'findings'}
        <Select look="word" aria-label="State" value={state} onChange={(event) => setState(event.target.value)}>
          <option value="waiting">not done with</option>
          {FINDING_STATES.map((s) => (
            <option key={s} value={s}>
              {s}
            </option>
          ))}
          <option value="all">of any state</option>
        </Select>
        <Select look="word" aria-label="Kind" value={kind} onChange={(event) => setKind(event.target.value)}>
          <option value="">of any kind</option>
          {FINDING_KINDS.map((k) => (
            <option key={k} value={k}>
              {k}
            </option>
          ))}
        </Select>
        <Select look="word" aria-label="Owner" value={owner} onChange={(event) => setOwner(event.target.value)}>
          <option value="">of anybody</option>
          {owners.map((name) => (
            <option key={name} value={name}>
              of {name}
            </option>
          ))}
        </Select>
        {data?.sums.map((s) => (
          <strong key={s.currency} className="ml-3 font-semibold text-ink">
            {s.currency} {amountText(s.value)} in {countText(s.count)} that {s.count === 1 ? 'is' : 'are'} open or
            agreed
          </strong>
        ))}
      </p>
      {data && rows.length === 0 && (
        <p className="max-w-[70ch] text-soft">
          No finding is here. Write one with F on any row of a sheet: an error, a weakness of control, a question, or
          what could be done better; with its amount, its cause and effect, and what is recommended.
        </p>
      )}
      {rows.length > 0 && (
        <Table
          label="Findings"
          fixed
          columns={[
            { label: 'What was found' },
            { label: 'Kind', width: 'w-[110px]' },
            { label: 'Amount', width: 'w-[150px]', right: true },
            { label: 'State', width: 'w-[90px]' },
            { label: 'Owner', width: 'w-[130px]' },
            { label: 'Due', width: 'w-[110px]' },
            { label: 'By', width: 'w-[120px]' },
          ]}
        >
          {rows.map((f) => (
            <Tr key={f.id}>
              <Td cut title={f.title}>
                <Link href={`/findings/${f.id}`} className="font-semibold hover:underline">
                  {f.title}
                </Link>
              </Td>
              <Td>{f.kind}</Td>
              <Td right>{f.amount ? `${f.amount.currency} ${amountText(f.amount.value)}` : ''}</Td>
              <Td>{f.state}</Td>
              <Td cut>{f.owner?.name}</Td>
              <Td>
                {f.due && (
                  <span className={f.due < today && (f.state === 'open' || f.state === 'agreed') ? 'text-warn' : ''}>
                    {dateText(f.due)}
                  </span>
                )}
              </Td>
              <Td cut>{f.by}</Td>
            </Tr>
          ))}
        </Table>
      )}
    </Place>
  );
}
