'use client';

import { useState } from 'react';
import type { ExportCheck } from '@/contracts/answers/leaving';
import { amountText, countText } from '../amounts';
import { Failure, Labelled, Place, REPORT_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer, useEntities } from '../query/hooks';

const FORMATS: [string, string][] = [
  ['saft', 'OECD standard audit file for tax'],
  ['fec', 'French accounting entries file'],
  ['ads', 'AICPA audit data standards, general ledger'],
];
const WINDOWS: [string, string][] = [
  ['last-year', 'the last year'],
  ['year-to-date', 'the year to date'],
  ['everything', 'everything'],
];

/** Files for authorities and auditors, each held against its published structure before it is handed over. */
export function AuditFilesPage() {
  const { data: entities } = useEntities();
  const [entity, setEntity] = useState<string | null>(null);
  const [format, setFormat] = useState('saft');
  const [window, setWindow] = useState('last-year');
  const code = entity ?? entities?.entities[0]?.code ?? null;
  const params = code === null ? null : new URLSearchParams({ entity: code, window, format });
  const { data, error, isPlaceholderData } = useAnswer('GET /export/check', params);
  return (
    <Place title="Reports" tabs={REPORT_TABS} here="/reports/audit">
      <p className="mb-3 max-w-[80ch] text-soft">
        A file for an authority or an auditor is held against its published structure before it is handed over: what its
        lines lack is told here, and mended in the ledger that they came from.
      </p>
      <div className="mb-4 flex flex-wrap items-end gap-4">
        <Labelled label="Company">
          <Select value={code ?? ''} className="w-[240px]" onChange={(event) => setEntity(event.target.value)}>
            {(entities?.entities ?? []).map((e) => (
              <option key={e.code} value={e.code}>
                {e.name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="File">
          <Select value={format} className="w-[330px]" onChange={(event) => setFormat(event.target.value)}>
            {FORMATS.map(([value, says]) => (
              <option key={value} value={value}>
                {says}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Of">
          <Select value={window} className="w-[170px]" onChange={(event) => setWindow(event.target.value)}>
            {WINDOWS.map(([value, says]) => (
              <option key={value} value={value}>
                {says}
              </option>
            ))}
          </Select>
        </Labelled>
      </div>
      <Failure error={error} />
      {!data && !error && <p className="text-soft">Looking at every line …</p>}
      {data && (
        <div className={isPlaceholderData ? 'opacity-60' : ''}>
          <Checked data={data} />
          <a className="button-main mt-4 inline-flex items-center" download href={`/api/v1/export?${params}`}>
            {data.ok ? 'Take it out' : 'Take it out all the same'}
          </a>
        </div>
      )}
    </Place>
  );
}

function Checked({ data }: { data: ExportCheck }) {
  return (
    <>
      <p className="font-book text-[15px] italic">{data.sentence}</p>
      <p className="mt-1">
        {countText(data.lines)} {data.lines === 1 ? 'line' : 'lines'}, debits {amountText(data.debit)}, credits{' '}
        {amountText(data.credit)} {data.currency}, as of load {data.load}.
      </p>
      {data.ok ? (
        <p className="mt-2 font-semibold">✓ Nothing that the structure asks for is missing.</p>
      ) : (
        <p className="mt-2 font-semibold text-warn">This file would lack something that its structure asks for.</p>
      )}
      {data.unbalancedCount > 0 && (
        <p className="mt-1 text-warn">
          {countText(data.unbalancedCount)} entries do not balance in it: {data.unbalanced.join(', ')}
          {data.unbalancedCount > data.unbalanced.length ? ' …' : ''}
        </p>
      )}
      {data.missing.length > 0 && (
        <div className="mt-3">
          <Table
            label="What lines lack"
            narrow
            columns={[
              { label: 'Field' },
              { label: 'Taken from' },
              { label: 'Lines without', right: true },
              { label: 'The first' },
            ]}
          >
            {data.missing.map((m) => (
              <Tr key={m.field}>
                <Td>{m.field}</Td>
                <Td>{m.of}</Td>
                <Td right>{countText(m.lines)}</Td>
                <Td>{m.first}</Td>
              </Tr>
            ))}
          </Table>
        </div>
      )}
    </>
  );
}
