'use client';

import Link from 'next/link';
import { countText, momentText } from '../amounts';
import { Failure, Place } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { useThreads } from '../query/hooks';

/** The saved threads: who followed what, how far, and whether it is concluded. */
export function ThreadsPage() {
  const { data, error } = useThreads();
  return (
    <Place title="Threads" tabs={[]} here="/threads">
      <Failure error={error} />
      {data?.rows.length === 0 && (
        <p className="max-w-[70ch] text-soft">
          No thread is kept yet. Trace a figure on the <Link href="/trial-balance">trial balance</Link> or a{' '}
          <Link href="/statements">statement</Link>, then choose “Keep this thread” at the foot of the sheet: the way
          down is kept, and every further step with it.
        </p>
      )}
      {data && data.rows.length > 0 && (
        <Table
          label="Saved threads"
          columns={[
            { label: 'Thread' },
            { label: 'Books', width: 'w-[140px]' },
            { label: 'Steps', width: 'w-[70px]', right: true },
            { label: 'State', width: 'w-[110px]' },
            { label: 'By', width: 'w-[160px]' },
            { label: 'Last step', width: 'w-[170px]' },
          ]}
        >
          {data.rows.map((t) => (
            <Tr key={t.id}>
              <Td>
                <Link href={`/threads/${t.id}`} className="font-semibold hover:underline">
                  {t.name}
                </Link>
              </Td>
              <Td>{t.entities.join(', ')}</Td>
              <Td right>{countText(t.steps)}</Td>
              <Td>{t.state === 'open' ? 'open' : '✓ concluded'}</Td>
              <Td>{t.by}</Td>
              <Td>{momentText(t.changed)}</Td>
            </Tr>
          ))}
        </Table>
      )}
    </Place>
  );
}
