'use client';

import { momentText } from '../amounts';
import { Failure, Place, TEST_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();

/** What is ignored in every run, and why; each can be taken back. */
export function IgnoredPage() {
  const { data, error } = useAnswer('GET /ignored-hits', NO_PARAMS);
  const revoke = useChange((id: number) => ask('DELETE /ignored-hits/{id}', { path: { id } }), TOUCHES);
  return (
    <Place title="Tests" tabs={TEST_TABS} here="/tests/ignored">
      <Failure error={error ?? revoke.error} />
      {data?.rows.length === 0 && (
        <p className="max-w-[70ch] text-soft">
          Nothing is ignored. On a hit, i has all that are like it ignored, in every run, with a reason.
        </p>
      )}
      {data && data.rows.length > 0 && (
        <Table
          label="What is ignored"
          columns={[
            { label: 'Test', width: 'w-[24%]' },
            { label: 'Company', width: 'w-[90px]' },
            { label: 'Alike in', width: 'w-[22%]' },
            { label: 'Why' },
            { label: 'By', width: 'w-[120px]' },
            { label: 'When', width: 'w-[140px]' },
            { label: '', width: 'w-[130px]' },
          ]}
        >
          {data.rows.map((r) => (
            <Tr key={r.id}>
              <Td>{r.name}</Td>
              <Td>{r.entity}</Td>
              <Td>{r.alike.map((a) => `${a.word} ${a.value}`).join(', ')}</Td>
              <Td>{r.why}</Td>
              <Td>{r.by}</Td>
              <Td>{momentText(r.at)}</Td>
              <Td>
                {r.revoked ? (
                  <span className="text-soft">taken back by {r.revoked.by}</span>
                ) : (
                  <button type="button" className="link" onClick={() => revoke.mutate(r.id)}>
                    Take back
                  </button>
                )}
              </Td>
            </Tr>
          ))}
        </Table>
      )}
    </Place>
  );
}
