'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { Expectation } from '@/contracts/answers/expectations';
import { amountText, countText } from '../amounts';
import { Failure, Place, THREAD_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer } from '../query/hooks';
import { stateInk } from './words';

const NO_PARAMS = new URLSearchParams();
const STATES: readonly Expectation['state'][] = ['needs explaining', 'explained', 'as expected', 'not reckoned'];

/** Figures beside what somebody expects them to be. */
export function ExpectationsPage() {
  const { data, error } = useAnswer('GET /expectations', NO_PARAMS);
  const [state, setState] = useState('');
  const rows = (data?.rows ?? []).filter((e) => state === '' || e.state === state).reverse();
  return (
    <Place title="Expectations" tabs={THREAD_TABS} here="/threads/expectations">
      <Failure error={error} />
      {data && data.rows.length === 0 && (
        <p className="max-w-[76ch] text-soft">
          Nothing is expected yet. E on a figure of any sheet says what it should be: the year before and some percent
          more, an average, a share of another figure, a quantity at a price, or an amount of your own. What differs by
          more than you allow is to be explained, part by part.
        </p>
      )}
      {data && data.rows.length > 0 && (
        <>
          <p className="mb-3 flex items-baseline gap-x-2 text-soft">
            {countText(rows.length)} {rows.length === 1 ? 'figure' : 'figures'}
            <Select look="word" aria-label="State" value={state} onChange={(event) => setState(event.target.value)}>
              <option value="">in any state</option>
              {STATES.map((s) => (
                <option key={s} value={s}>
                  {s}
                </option>
              ))}
            </Select>
          </p>
          <Table
            label="Expectations"
            fixed
            columns={[
              { label: 'Figure' },
              { label: 'Expected', width: 'w-[140px]', right: true },
              { label: 'Actual', width: 'w-[140px]', right: true },
              { label: 'Difference', width: 'w-[130px]', right: true },
              { label: 'Left', width: 'w-[130px]', right: true },
              { label: 'State', width: 'w-[140px]' },
              { label: 'By', width: 'w-[110px]' },
            ]}
          >
            {rows.map((e) => (
              <Tr key={e.id}>
                <Td cut title={e.sentence}>
                  <Link href={`/threads/expectations/${e.id}`} className="font-semibold hover:underline">
                    {e.label}
                  </Link>{' '}
                  <span className="text-[12.5px] text-faint">{e.currency}</span>
                </Td>
                <Td right>{e.expected === null ? '' : amountText(e.expected)}</Td>
                <Td right>{e.actual === null ? '' : amountText(e.actual)}</Td>
                <Td right>{e.difference === null ? '' : amountText(e.difference)}</Td>
                <Td right>{e.left === null ? '' : amountText(e.left)}</Td>
                <Td>
                  <span className={stateInk(e.state)}>{e.state}</span>
                </Td>
                <Td cut>{e.by}</Td>
              </Tr>
            ))}
          </Table>
        </>
      )}
    </Place>
  );
}
