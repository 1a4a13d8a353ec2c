'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { countText, momentText } from '../amounts';
import { Failure, Place, TEST_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { useMe } from '../shell/me';
import { RunDialog } from './RunDialog';
import { useRuns } from './useRuns';
import { STATE_WORD } from './words';

/** Runs of tests, with what is still open of what they found. */
export function RunsPage() {
  const me = useMe();
  const router = useRouter();
  const { data, error } = useRuns();
  const [asking, setAsking] = useState(false);
  return (
    <Place title="Tests" tabs={TEST_TABS} here="/tests">
      <div className="mb-4 flex items-baseline gap-5">
        {me.role !== 'reader' && (
          <button type="button" className="button-main" onClick={() => setAsking(true)}>
            Run tests …
          </button>
        )}
        <p className="max-w-[80ch] text-soft">
          A run goes through every line of a scope and says what an experienced reader would look at first, with the
          reason. On any sheet, U runs them over the focused figure.
        </p>
      </div>
      <Failure error={error} />
      {data?.rows.length === 0 && (
        <p className="text-soft">No test has been run yet: a first look is made after each load, and by “Run tests”.</p>
      )}
      {data && data.rows.length > 0 && (
        <Table
          label="Runs of tests"
          fixed
          columns={[
            { label: 'Run', width: 'w-[170px]' },
            { label: 'Over' },
            { label: 'State', width: 'w-[150px]' },
            { label: 'Hits', width: 'w-[80px]', right: true },
            { label: 'Open', width: 'w-[80px]', right: true },
            { label: 'Load', width: 'w-[60px]', right: true },
            { label: 'By', width: 'w-[110px]' },
            { label: 'When', width: 'w-[140px]' },
          ]}
        >
          {data.rows.map((r) => (
            <Tr key={r.id}>
              <Td cut title={r.title}>
                <Link href={`/tests/${r.id}`} className="font-semibold hover:underline">
                  {r.title}
                </Link>
              </Td>
              <Td cut title={r.label}>
                {r.label}
              </Td>
              <Td cut title={r.message ?? ''}>
                {r.state === 'running' ? `${Math.round(r.progress * 100)} % · ${r.message ?? ''}` : STATE_WORD[r.state]}
              </Td>
              <Td right>{r.hits === null ? '' : countText(r.hits)}</Td>
              <Td right>{r.open === null ? '' : countText(r.open)}</Td>
              <Td right>{r.load}</Td>
              <Td cut>{r.byItself ? 'after a load' : r.by}</Td>
              <Td>{momentText(r.at)}</Td>
            </Tr>
          ))}
        </Table>
      )}
      {asking && (
        <RunDialog
          scope={null}
          label=""
          address="/tests"
          thread={null}
          onClose={() => setAsking(false)}
          onBegun={(id) => router.push(`/tests/${id}`)}
        />
      )}
    </Place>
  );
}
