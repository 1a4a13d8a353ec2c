'use client';

import Link from 'next/link';
import { useState } from 'react';
import { amountText, countText } from '../amounts';
import { ACCOUNT_TABS, Failure, Labelled, Place } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { ScopeSentence } from '../scope/ScopeSentence';
import { usePageScope } from '../scope/usePageScope';
import { NameCell } from './NameCell';

/** Every dimension as a tree, each member with its lines and movement; a click reads the trial balance of it. */
export function DimensionsPage() {
  const { scope, asked, change } = usePageScope('/accounts/dimensions');
  const { data, error, isPlaceholderData } = useAnswer('GET /dimensions', asked);
  const [chosen, setChosen] = useState<string | null>(null);
  const [held, setHeld] = useState(false);
  const name = useChange(
    ({
      dimension,
      code,
      language,
      name: to,
    }: {
      dimension: string;
      code: string;
      language: string | null;
      name: string;
    }) =>
      ask('PUT /dimensions/{dimension}/{code}', {
        path: { dimension, code },
        body: { language, name: to === '' ? null : to },
      }),
    ['/dimensions', '/entities', '/sheets'],
  );
  const shown = data?.dimensions.find((d) => d.code === chosen) ?? data?.dimensions[0];
  const rows = (shown?.rows ?? []).filter((r) => !held || r.count > 0);
  const traceOf = (code: string): string => {
    const to = new URLSearchParams(data?.address);
    to.set(`dim.${shown?.code}`, code);
    return `/trial-balance?${to}`;
  };
  return (
    <>
      {data && <ScopeSentence parts={data.parts} scope={scope} onChange={change} stale={isPlaceholderData} />}
      <Place title="Accounts" tabs={ACCOUNT_TABS} here="/accounts/dimensions">
        <Failure error={error ?? name.error} />
        {data?.dimensions.length === 0 && (
          <p className="text-soft">There are no dimensions yet. Load a file of dimensions and members.</p>
        )}
        {shown && (
          <>
            <div className="mb-3 flex items-end gap-4">
              <Labelled label="Dimension">
                <select value={shown.code} onChange={(event) => setChosen(event.target.value)} className="field">
                  {data?.dimensions.map((d) => (
                    <option key={d.code} value={d.code}>
                      {d.name}
                    </option>
                  ))}
                </select>
              </Labelled>
              <label className="flex h-8 items-center gap-1.5">
                <input type="checkbox" checked={held} onChange={(event) => setHeld(event.target.checked)} /> only
                members with lines
              </label>
              <p className="ml-auto pb-1.5 text-soft">
                {countText(rows.length)} of {countText(shown.rows.length)} members
              </p>
            </div>
            <Table
              label={shown.name}
              columns={[
                { label: shown.name },
                ...shown.languages.map((l) => ({ label: `Name (${l})` })),
                { label: 'Valid', width: 'w-48' },
                { label: 'Lines', right: true, width: 'w-20' },
                { label: 'Debit', right: true, width: 'w-32' },
                { label: 'Credit', right: true, width: 'w-32' },
                { label: `Movement, ${data?.currency}`, right: true, width: 'w-36' },
              ]}
            >
              {rows.map((r) => (
                <Tr key={r.code}>
                  <Td>
                    <span className="flex gap-2" style={{ paddingLeft: r.depth * 14 }}>
                      <span className="text-soft">{r.code}</span>
                      <NameCell
                        label={`Name of ${r.code}`}
                        name={r.name}
                        missing={false}
                        onKeep={(to) =>
                          name.mutateAsync({ dimension: shown.code, code: r.code, language: null, name: to })
                        }
                      />
                    </span>
                  </Td>
                  {shown.languages.map((l) => (
                    <Td key={l}>
                      <NameCell
                        label={`Name of ${r.code} in ${l}`}
                        name={r.names[l] ?? ''}
                        missing={!r.names[l]}
                        onKeep={(to) =>
                          name.mutateAsync({ dimension: shown.code, code: r.code, language: l, name: to })
                        }
                      />
                    </Td>
                  ))}
                  <Td>
                    <span className="text-[13px] text-soft">
                      {r.validFrom || r.validTo ? `${r.validFrom ?? '…'} to ${r.validTo ?? '…'}` : 'always'}
                      {r.groups.length > 0 && `, ${r.groups.join(', ')}`}
                    </span>
                  </Td>
                  <Td right>{r.count === 0 ? '–' : countText(r.count)}</Td>
                  <Td right>{amountText(r.debit)}</Td>
                  <Td right>{amountText(r.credit)}</Td>
                  <Td right>
                    {r.count === 0 ? (
                      <span className="text-faint">–</span>
                    ) : (
                      <Link
                        href={traceOf(r.code)}
                        className="underline decoration-rule underline-offset-4 hover:decoration-ink"
                      >
                        {amountText(r.movement)}
                      </Link>
                    )}
                  </Td>
                </Tr>
              ))}
            </Table>
          </>
        )}
      </Place>
    </>
  );
}
