'use client';

import { useQuery } from '@tanstack/react-query';
import { momentText } from '../amounts';
import { Failure } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';

/** Where somebody is signed in. @param of a person's number, or “me” */
export function Sessions({ of }: { of: string }) {
  const key = `/people/${of}/sessions`;
  const { data, error } = useQuery({
    queryKey: [key],
    queryFn: () => ask('GET /people/{id}/sessions', { path: { id: of } }),
  });
  const end = useChange(
    (session: number | null) =>
      session === null
        ? ask('DELETE /people/{id}/sessions', { path: { id: of } })
        : ask('DELETE /people/{id}/sessions/{session}', { path: { id: of, session } }),
    [key],
  );
  const others = data?.rows.filter((s) => !s.here).length ?? 0;
  return (
    <section aria-label="Sessions">
      <div className="mb-1 flex items-baseline gap-4">
        <h3 className="font-semibold">Signed in</h3>
        {others > 1 && (
          <button type="button" className="link text-soft" onClick={() => end.mutate(null)}>
            End all others
          </button>
        )}
      </div>
      {data?.rows.length === 0 && <p className="text-soft">No other session.</p>}
      {data && data.rows.length > 0 && (
        <Table
          label="Sessions"
          fixed
          columns={[
            { label: 'From' },
            { label: 'Since', width: 'w-32' },
            { label: 'Last asked', width: 'w-32' },
            { label: '', width: 'w-20' },
          ]}
        >
          {data.rows.map((s) => (
            <Tr key={s.id}>
              <Td cut title={s.agent}>
                {s.address || 'unknown'} <span className="text-faint">{browserOf(s.agent)}</span>
              </Td>
              <Td>{momentText(s.createdAt)}</Td>
              <Td>{momentText(s.seenAt)}</Td>
              <Td right>
                {s.here ? (
                  <span className="text-soft">this one</span>
                ) : (
                  <button
                    type="button"
                    className="link"
                    onClick={() => end.mutate(s.id)}
                    aria-label={`End the session from ${s.address}`}
                  >
                    End it
                  </button>
                )}
              </Td>
            </Tr>
          ))}
        </Table>
      )}
      <Failure error={error ?? end.error} />
    </section>
  );
}

/** The last of what a browser says of itself tells most. */
const browserOf = (agent: string): string => agent.split(' ').at(-1)?.split('/')[0] ?? '';
