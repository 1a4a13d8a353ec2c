'use client';

import { useQuery } from '@tanstack/react-query';
import { momentText } from '../amounts';
import { Failure } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';

/** Tokens with which scripts act as somebody. @param of a person's number, or “me” */
export function Tokens({ of }: { of: string }) {
  const key = `/people/${of}/tokens`;
  const { data, error } = useQuery({
    queryKey: [key],
    queryFn: () => ask('GET /people/{id}/tokens', { path: { id: of } }),
  });
  const revoke = useChange(
    (token: number) => ask('DELETE /people/{id}/tokens/{token}', { path: { id: of, token } }),
    [key],
  );
  return (
    <section aria-label="Tokens">
      <h3 className="mb-1 font-semibold">Tokens for scripts</h3>
      {data?.rows.length === 0 && <p className="text-soft">None.</p>}
      {data && data.rows.length > 0 && (
        <Table
          label="Tokens"
          fixed
          columns={[
            { label: 'For' },
            { label: 'Until', width: 'w-32' },
            { label: 'Last used', width: 'w-32' },
            { label: '', width: 'w-20' },
          ]}
        >
          {data.rows.map((t) => (
            <Tr key={t.id}>
              <Td cut title={t.name}>
                {t.name}
              </Td>
              <Td>{t.expired ? <span className="text-warn">expired</span> : momentText(t.expiresAt)}</Td>
              <Td>{t.usedAt ? momentText(t.usedAt) : <span className="text-faint">never</span>}</Td>
              <Td right>
                <button
                  type="button"
                  className="link"
                  onClick={() => revoke.mutate(t.id)}
                  aria-label={`Revoke the token ${t.name}`}
                >
                  Revoke
                </button>
              </Td>
            </Tr>
          ))}
        </Table>
      )}
      <Failure error={error ?? revoke.error} />
    </section>
  );
}
