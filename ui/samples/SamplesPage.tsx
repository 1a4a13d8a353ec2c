'use client';

import Link from 'next/link';
import { countText, momentText } from '../amounts';
import { Failure, Place, THREAD_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer } from '../query/hooks';
import { METHOD_WORD } from './words';

const NO_PARAMS = new URLSearchParams();

/** Audit samples, with how far each is. */
export function SamplesPage() {
  const { data, error } = useAnswer('GET /samples', NO_PARAMS);
  return (
    <Place title="Threads" tabs={THREAD_TABS} here="/threads/samples">
      <Failure error={error} />
      {data?.rows.length === 0 && (
        <p className="max-w-[70ch] text-soft">
          No sample is drawn yet. Draw one with S on any figure: of its lines, entries or documents; by monetary unit,
          at random, in strata. It is gathered in the thread that is worked on, and can be drawn again from its seed.
        </p>
      )}
      {data && data.rows.length > 0 && (
        <Table
          label="Samples"
          fixed
          columns={[
            { label: 'Sample' },
            { label: 'Of', width: 'w-[90px]' },
            { label: 'Method', width: 'w-[160px]' },
            { label: 'Tested', width: 'w-[100px]', right: true },
            { label: 'Errors', width: 'w-[80px]', right: true },
            { label: 'Load', width: 'w-[70px]', right: true },
            { label: 'Conclusion', width: 'w-[22%]' },
            { label: 'By', width: 'w-[120px]' },
            { label: 'Drawn', width: 'w-[140px]' },
          ]}
        >
          {data.rows.map((s) => (
            <Tr key={s.id}>
              <Td cut title={s.title}>
                <Link href={`/threads/samples/${s.id}`} className="font-semibold hover:underline">
                  {s.title}
                </Link>
              </Td>
              <Td>{s.of}</Td>
              <Td>{METHOD_WORD[s.method]}</Td>
              <Td right>
                {countText(s.tested)} of {countText(s.size)}
              </Td>
              <Td right>{s.errors === 0 ? '' : countText(s.errors)}</Td>
              <Td right>{s.load}</Td>
              <Td cut title={s.conclusion}>
                {s.conclusion}
              </Td>
              <Td cut>{s.by}</Td>
              <Td>{momentText(s.at)}</Td>
            </Tr>
          ))}
        </Table>
      )}
    </Place>
  );
}
