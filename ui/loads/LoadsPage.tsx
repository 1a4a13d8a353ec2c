'use client';

import { useRouter, useSearchParams } from 'next/navigation';
import { useState } from 'react';
import type { Inspection, Load } from '@/contracts/answers/loads';
import { countText } from '../amounts';
import { LOAD_TABS, Place } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { useEntities, useLoads } from '../query/hooks';
import { useMe } from '../shell/me';
import { BringIn } from './BringIn';
import { LoadDetail } from './LoadDetail';
import { PickFile } from './PickFile';

const COLUMNS = [
  { label: 'Load', width: 'w-14' },
  { label: 'File' },
  { label: 'Books', width: 'w-16' },
  { label: 'Lines', width: 'w-20', right: true },
  { label: 'By', width: 'w-28' },
  { label: 'State', width: 'w-28' },
];

/** What was loaded, by whom, and what was wrong with what was not; and the way in for a file. */
export function LoadsPage() {
  const { role } = useMe();
  const loads = useLoads();
  const isLoaded = (useEntities().data?.newestLoad ?? 0) > 0;
  const router = useRouter();
  const asked = Number(useSearchParams().get('load')) || null;
  const [file, setFile] = useState<Inspection | null>(null);
  const shown = asked ?? loads.data?.rows[0]?.id ?? null;
  const choose = (id: number): void => router.replace(`/loads?load=${id}`, { scroll: false });
  if (file) {
    return (
      <Place title="Bring a file in" tabs={LOAD_TABS} here="/loads">
        <BringIn
          first={file}
          onDone={(id) => {
            setFile(null);
            if (id !== null) choose(id);
          }}
        />
      </Place>
    );
  }
  return (
    <Place title="Loads" tabs={LOAD_TABS} here="/loads">
      {role !== 'reader' && <PickFile onLooked={setFile} />}
      <div className="mt-5 grid gap-6 min-[1180px]:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)]">
        <section aria-label="All loads">
          <Table label="Loads" columns={COLUMNS} fixed>
            {loads.data?.rows.map((load) => (
              <Tr key={load.id} chosen={load.id === shown}>
                <Td>
                  <button
                    type="button"
                    onClick={() => choose(load.id)}
                    className="cursor-pointer underline decoration-rule underline-offset-4"
                    aria-pressed={load.id === shown}
                  >
                    {load.id}
                  </button>
                </Td>
                <Td cut title={load.file}>
                  {load.file} <span className="text-faint">{load.kind}</span>
                </Td>
                <Td>{load.entity ?? 'all'}</Td>
                <Td right>{load.lines === 0 ? '–' : countText(load.lines)}</Td>
                <Td cut>{load.person}</Td>
                <Td>
                  <State load={load} />
                </Td>
              </Tr>
            ))}
          </Table>
          {loads.data?.rows.length === 0 && isLoaded && (
            <p className="mt-3 text-soft">
              Loads are shown to those who see a company whole; what you see of the books came by loads of others.
            </p>
          )}
          {loads.data?.rows.length === 0 && !isLoaded && (
            <p className="mt-3 text-soft">
              Nothing has been loaded yet. Begin with the dimensions, then the chart of accounts of each company, then
              its journal lines. An audit file brings its own chart.
            </p>
          )}
          {loads.error && <p className="mt-3 text-warn">{loads.error.message}</p>}
        </section>
        {shown !== null && <LoadDetail id={shown} />}
      </div>
    </Place>
  );
}

function State({ load }: { load: Load }) {
  if (load.status === 'loaded') return <span>✓ loaded</span>;
  if (load.status === 'refused') return <span className="text-warn">✗ refused</span>;
  if (load.waits) return <span className="text-soft">waits</span>;
  return <progress value={load.progress} max={1} aria-label={`Load ${load.id}`} className="h-2 w-24 accent-ink" />;
}
