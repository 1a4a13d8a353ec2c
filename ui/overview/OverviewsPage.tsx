'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { FormEvent } from 'react';
import { momentText } from '../amounts';
import { Failure, Labelled, Place, REPORT_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';

const NO_PARAMS = new URLSearchParams();
const TOUCHES = ['/overviews'];

/** Pages of panels, each from a report that is kept. */
export function OverviewsPage() {
  const router = useRouter();
  const { data, error } = useAnswer('GET /overviews', NO_PARAMS);
  const make = useChange((name: string) => ask('POST /overviews', { body: { name } }), TOUCHES);
  const drop = useChange((id: number) => ask('DELETE /overviews/{id}', { path: { id } }), TOUCHES);
  const restore = useChange(
    (id: number) => ask('PUT /overviews/{id}', { path: { id }, body: { restored: true } }),
    TOUCHES,
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const made = await make.mutateAsync(String(new FormData(event.currentTarget).get('name') ?? '')).catch(() => null);
    if (made) router.push(`/reports/overviews/${made.id}?arrange=yes`);
  };
  const rows = data?.rows ?? [];
  return (
    <Place title="Reports" tabs={REPORT_TABS} here="/reports/overviews">
      <p className="mb-3 max-w-[80ch] text-soft">
        An overview is a page of panels from reports: a figure with its course, the first rows, a picture. One sentence
        drives all of them, and each number leads on to what it is made of.
      </p>
      <Failure error={error ?? drop.error} />
      {rows.length > 0 && (
        <Table
          label="Overviews"
          narrow
          columns={[{ label: 'Overview' }, { label: 'Panels', right: true }, { label: 'Made by' }, { label: '' }]}
        >
          {rows.map((o) => (
            <Tr key={o.id}>
              <Td>
                <Link className="font-semibold hover:underline" href={`/reports/overviews/${o.id}`}>
                  {o.name}
                </Link>
              </Td>
              <Td right>{o.panels.length}</Td>
              <Td>
                {o.by}, {momentText(o.at)}
                {o.shared ? ', shared' : ''}
              </Td>
              <Td>
                {o.mine && (
                  <button
                    type="button"
                    className="link"
                    onClick={() =>
                      void drop.mutateAsync(o.id).then(
                        () =>
                          toast(`“${o.name}” is taken away`, {
                            action: { label: 'Bring it back', onClick: () => restore.mutate(o.id) },
                          }),
                        () => null,
                      )
                    }
                  >
                    take away
                  </button>
                )}
              </Td>
            </Tr>
          ))}
        </Table>
      )}
      <form onSubmit={submit} className="mt-4 flex items-end gap-3">
        <Labelled label="Another overview">
          <input name="name" required maxLength={120} className="field w-[260px]" />
        </Labelled>
        <button type="submit" className="button" disabled={make.isPending}>
          Make it
        </button>
      </form>
      <Failure error={make.error} />
    </Place>
  );
}
