'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { Report } from '@/contracts/answers/leaving';
import { momentText } from '../amounts';
import { Failure, Place, REPORT_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { EmbedDialog } from './EmbedDialog';
import { FORMAT_WORD, fileAddress } from './how';
import { TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();

/** Sheets that are kept with how they leave, by folder: read live, taken out, made by themselves. */
export function ReportsPage() {
  const { data, error } = useAnswer('GET /reports', NO_PARAMS);
  const me = useMe();
  const [showing, setShowing] = useState<Report | null>(null);
  const drop = useChange((id: number) => ask('DELETE /reports/{id}', { path: { id } }), TOUCHES);
  const restore = useChange(
    (id: number) => ask('PUT /reports/{id}', { path: { id }, body: { restored: true } }),
    TOUCHES,
  );
  const share = useChange(
    ({ id, shared }: Report) => ask('PUT /reports/{id}', { path: { id }, body: { shared: !shared } }),
    TOUCHES,
  );
  const rows = data?.rows ?? [];
  const takeAway = async (report: Report): Promise<void> => {
    const done = await drop.mutateAsync(report.id).then(
      () => true,
      () => false,
    );
    if (done)
      toast(`“${report.name}” is taken away`, {
        action: { label: 'Bring it back', onClick: () => restore.mutate(report.id) },
      });
  };
  return (
    <Place title="Reports" tabs={REPORT_TABS} here="/reports">
      <p className="mb-3 max-w-[80ch] text-soft">
        A report is a sheet with how it leaves, kept under a name: from any sheet with O, then Keep as a report. Whoever
        runs it sees of it what they may see.
      </p>
      <Failure error={error ?? drop.error ?? share.error} />
      {showing && <EmbedDialog report={showing.id} name={showing.name} onClose={() => setShowing(null)} />}
      {data && rows.length === 0 ? (
        <p className="text-soft">None is kept yet.</p>
      ) : (
        <Table
          label="Reports"
          columns={[
            { label: 'Report' },
            { label: 'Folder', width: 'w-[120px]' },
            { label: 'Leaves as', width: 'w-[120px]' },
            { label: 'Kept by', width: 'w-[200px]' },
            { label: 'Seen by', width: 'w-[90px]' },
            { label: '', width: 'w-[350px]' },
          ]}
        >
          {rows.map((r) => (
            <Tr key={r.id}>
              <Td>
                <Link className="font-semibold hover:underline" href={r.page}>
                  {r.name}
                </Link>
                {r.version > 1 && <span className="ml-2 text-[12.5px] text-soft">version {r.version}</span>}
              </Td>
              <Td>{r.folder}</Td>
              <Td>{FORMAT_WORD[r.format][0]}</Td>
              <Td>
                {r.by}, {momentText(r.at)}
              </Td>
              <Td>{r.shared ? 'everybody' : 'you'}</Td>
              <Td>
                <span className="flex flex-wrap gap-x-3">
                  <a className="link" download href={fileAddress(r.path, { ...r.how, page: r.page, format: r.format })}>
                    take out
                  </a>
                  {me.role !== 'reader' && (
                    <button type="button" className="link" onClick={() => setShowing(r)}>
                      on other pages
                    </button>
                  )}
                  {r.mine && (
                    <>
                      <button type="button" className="link" onClick={() => share.mutate(r)}>
                        {r.shared ? 'keep to yourself' : 'share'}
                      </button>
                      <button type="button" className="link" onClick={() => void takeAway(r)}>
                        take away
                      </button>
                    </>
                  )}
                </span>
              </Td>
            </Tr>
          ))}
        </Table>
      )}
    </Place>
  );
}
