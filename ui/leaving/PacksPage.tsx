'use client';

import { useState } from 'react';
import type { Pack, Report } from '@/contracts/answers/leaving';
import { momentText } from '../amounts';
import { later } from '../parts/later';
import { Failure, Place, REPORT_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { TOUCHES } from './words';

const PackForm = later(() => import('./PackForm').then((m) => m.PackForm));

const NO_PARAMS = new URLSearchParams();

/** Reports in an order, with a front page, which one window, company or unit drives. */
export function PacksPage() {
  const packs = useAnswer('GET /packs', NO_PARAMS);
  const reports = useAnswer('GET /reports', NO_PARAMS);
  const [open, setOpen] = useState<Pack | 'new' | null>(null);
  const [copiesOf, setCopiesOf] = useState<number | null>(null);
  const drop = useChange((id: number) => ask('DELETE /packs/{id}', { path: { id } }), TOUCHES);
  const restore = useChange(
    (id: number) => ask('PUT /packs/{id}', { path: { id }, body: { restored: true } }),
    TOUCHES,
  );
  const takeAway = async (pack: Pack): Promise<void> => {
    const done = await drop.mutateAsync(pack.id).then(
      () => true,
      () => false,
    );
    if (done)
      toast(`“${pack.name}” is taken away`, {
        action: { label: 'Bring it back', onClick: () => restore.mutate(pack.id) },
      });
  };
  const rows = packs.data?.rows ?? [];
  const kept = reports.data?.rows ?? [];
  return (
    <Place title="Reports" tabs={REPORT_TABS} here="/reports/packs">
      <p className="mb-3 max-w-[80ch] text-soft">
        A pack is reports in an order with a front page. One window, company or unit takes the place of each report’s
        own, figures that the front page quotes among them; of a dimension, each member on which anything was booked has
        a copy.
      </p>
      <Failure error={packs.error ?? drop.error} />
      {packs.data && rows.length === 0 ? (
        <p className="text-soft">
          {kept.length === 0 ? 'Keep a report first; a pack is made of reports.' : 'None is made yet.'}
        </p>
      ) : (
        <Table
          label="Packs"
          columns={[
            { label: 'Pack', width: 'w-[220px]' },
            { label: 'Reports' },
            { label: 'A copy for each', width: 'w-[150px]' },
            { label: 'Made by', width: 'w-[210px]' },
            { label: '', width: 'w-[230px]' },
          ]}
        >
          {rows.map((p) => (
            <Tr key={p.id}>
              <Td>
                <strong className="font-semibold">{p.name}</strong>
              </Td>
              <Td>{p.reports.map((id) => nameOf(kept, id)).join(', ')}</Td>
              <Td>
                <UnitName units={p.units} />
              </Td>
              <Td>
                {p.by}, {momentText(p.at)}
              </Td>
              <Td>
                <span className="flex flex-wrap gap-x-3">
                  <button
                    type="button"
                    className="link"
                    aria-expanded={copiesOf === p.id}
                    onClick={() => setCopiesOf(copiesOf === p.id ? null : p.id)}
                  >
                    copies
                  </button>
                  {p.mine && (
                    <>
                      <button type="button" className="link" onClick={() => setOpen(p)}>
                        change
                      </button>
                      <button type="button" className="link" onClick={() => void takeAway(p)}>
                        take away
                      </button>
                    </>
                  )}
                </span>
                {copiesOf === p.id && <Copies id={p.id} />}
              </Td>
            </Tr>
          ))}
        </Table>
      )}
      {open === null ? (
        kept.length > 0 && (
          <button type="button" className="button mt-4" onClick={() => setOpen('new')}>
            Make a pack
          </button>
        )
      ) : (
        <PackForm
          key={open === 'new' ? 'new' : open.id}
          pack={open === 'new' ? null : open}
          reports={kept}
          onDone={() => setOpen(null)}
        />
      )}
    </Place>
  );
}

const nameOf = (reports: readonly Report[], id: number): string =>
  reports.find((r) => r.id === id)?.name ?? `report ${id}`;

function UnitName({ units }: { units: string | null }) {
  const { data } = useEntities();
  if (units === null) return null;
  if (units === 'entity') return 'company';
  const code = units.slice('dim:'.length);
  return (data?.dimensions.find((d) => d.code === code)?.name ?? code).toLowerCase();
}

/** The copies that a pack comes to now, each to be taken out. */
function Copies({ id }: { id: number }) {
  const { data, error } = useAnswer('GET /packs/{id}/copies', NO_PARAMS, { id });
  return (
    <div className="mt-1.5">
      <Failure error={error} />
      {data?.rows.length === 0 && <p className="text-soft">Nothing was booked on any unit.</p>}
      <ul>
        {(data?.rows ?? []).map((copy, i) => (
          <li key={copy.title} className="flex gap-x-3">
            <span className="min-w-0 flex-1 truncate" title={copy.title}>
              {copy.title}
            </span>
            {(['pdf', 'xlsx'] as const).map((format) => (
              <a key={format} className="link" download href={`/api/v1/packs/${id}/file?copy=${i}&format=${format}`}>
                {format === 'pdf' ? 'paper' : 'spreadsheet'}
              </a>
            ))}
          </li>
        ))}
      </ul>
    </div>
  );
}
