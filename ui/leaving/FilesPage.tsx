'use client';

import { useQuery } from '@tanstack/react-query';
import { momentText } from '../amounts';
import { sizeText } from '../evidence/sizeText';
import { Failure, Place, REPORT_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { FORMAT_WORD } from './how';
import { STATE_WORD } from './words';

const EVERY_MS = 800;
const AT_REST_MS = 15_000;

/** Files that were made for the reader: asked for at length, or come with a schedule. */
export function FilesPage() {
  const { data, error } = useQuery({
    queryKey: ['/exports'],
    queryFn: () => ask('GET /exports'),
    refetchInterval: ({ state }) =>
      state.data?.rows.some((r) => r.state === 'waiting' || r.state === 'under way') ? EVERY_MS : AT_REST_MS,
  });
  const rows = data?.rows ?? [];
  return (
    <Place title="Reports" tabs={REPORT_TABS} here="/reports/files">
      <p className="mb-3 max-w-[80ch] text-soft">
        Files that were made for you, for thirty days. Nobody else sees them; that they were made is on record.
      </p>
      <Failure error={error} />
      {data && rows.length === 0 ? (
        <p className="text-soft">None was made yet.</p>
      ) : (
        <Table
          label="Files"
          narrow
          columns={[
            { label: 'File' },
            { label: 'As' },
            { label: 'Asked for' },
            { label: 'State' },
            { label: 'Size', right: true },
            { label: '' },
          ]}
        >
          {rows.map((r) => (
            <Tr key={r.id}>
              <Td>{r.title}</Td>
              <Td>{r.format === 'zip' ? 'Bundle' : FORMAT_WORD[r.format][0]}</Td>
              <Td>{momentText(r.at)}</Td>
              <Td>
                {STATE_WORD[r.state]}
                {r.message && r.state !== 'done' ? `: ${r.message}` : ''}
              </Td>
              <Td right>{r.bytes === null ? '' : sizeText(r.bytes)}</Td>
              <Td>
                {r.fileName && (
                  <a className="link" download href={`/api/v1/exports/${r.id}/file`}>
                    save
                  </a>
                )}
              </Td>
            </Tr>
          ))}
        </Table>
      )}
    </Place>
  );
}
