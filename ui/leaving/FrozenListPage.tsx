'use client';

import Link from 'next/link';
import { momentText } from '../amounts';
import { Failure, Place, REPORT_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer } from '../query/hooks';

const NO_PARAMS = new URLSearchParams();

/** Copies that stay as they were. */
export function FrozenListPage() {
  const { data, error } = useAnswer('GET /frozen', NO_PARAMS);
  const rows = data?.rows ?? [];
  return (
    <Place title="Reports" tabs={REPORT_TABS} here="/reports/frozen">
      <p className="mb-3 max-w-[80ch] text-soft">
        A frozen copy says for ever what a sheet said when it was frozen, under an address that does not change, and
        tells what has moved since. It is seen by whoever may ask the same question whole.
      </p>
      <Failure error={error} />
      {data && rows.length === 0 ? (
        <p className="text-soft">No copy was frozen yet: from any sheet with O, then Freeze it.</p>
      ) : (
        <Table
          label="Frozen copies"
          columns={[
            { label: 'Copy', width: 'w-[230px]' },
            { label: 'Of what' },
            { label: 'As of load', right: true, width: 'w-[90px]' },
            { label: 'Frozen by', width: 'w-[220px]' },
          ]}
        >
          {rows.map((r) => (
            <Tr key={r.id}>
              <Td>
                <Link className="font-semibold hover:underline" href={`/frozen/${r.id}`}>
                  {r.title}
                </Link>
              </Td>
              <Td>{r.sentence}</Td>
              <Td right>{r.load}</Td>
              <Td>
                {r.by}, {momentText(r.at)}
              </Td>
            </Tr>
          ))}
        </Table>
      )}
    </Place>
  );
}
