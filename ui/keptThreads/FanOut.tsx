'use client';

import Link from 'next/link';
import { amountText } from '../amounts';
import { Failure } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer } from '../query/hooks';
import { TieMark } from '../sheet/Strips';

/** The figures of a thread once for every member in which anything was booked; each leads to the thread walked for it. */
export function FanOut({ id, by }: { id: number; by: string }) {
  const { data, error, isPending } = useAnswer('GET /threads/{id}/fan-out', new URLSearchParams({ by }), { id });
  if (error) return <Failure error={error} />;
  if (isPending || !data) return <p className="text-soft">Walking it for every member …</p>;
  return (
    <Table
      label="Once for every member"
      narrow
      columns={[
        { label: 'Member', width: 'min-w-[260px]' },
        ...data.columns.map((c) => ({ label: `${c.label}, ${c.measure}`, right: true, width: 'w-[150px]' })),
      ]}
    >
      {data.rows.map((r) => (
        <Tr key={r.member}>
          <Td>
            {/~/.test(r.member) ? (
              <span className="text-soft">{r.name}</span>
            ) : (
              <Link
                href={`/threads/${id}?member=${encodeURIComponent(`${by.replace(/^dim:/, '')}:${r.member}`)}`}
                className="hover:underline"
              >
                {r.name}
              </Link>
            )}
          </Td>
          {r.cells.map((cell, i) => (
            <Td key={data.columns[i]?.step} right>
              {cell === null ? '' : amountText(cell)}
            </Td>
          ))}
        </Tr>
      ))}
      <tr className="border-t-[1.5px] border-ink font-semibold">
        <Td>{data.rows.length} with postings</Td>
        {data.columns.map((c) => (
          <Td key={c.step} right>
            {c.total === null ? '' : amountText(c.total)}
            <span className="block text-[12.5px] font-normal">
              <TieMark tie={c.tie} />
            </span>
          </Td>
        ))}
      </tr>
    </Table>
  );
}
