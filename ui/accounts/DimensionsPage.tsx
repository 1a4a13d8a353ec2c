'use client';

import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import type { Dimensions } from '@/contracts/answers/charts';
import { amountText, countText } from '../amounts';
import { ListFilters } from '../parts/ListFilters';
import type { ListAttribute } from '../parts/listing';
import { ACCOUNT_TABS, Failure, Labelled, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useListing } from '../parts/useListing';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { ScopeSentence } from '../scope/ScopeSentence';
import { usePageScope } from '../scope/usePageScope';
import { NameCell } from './NameCell';

type MemberRow = Dimensions['dimensions'][number]['rows'][number];

const ATTRIBUTES: ListAttribute<MemberRow>[] = [
  { key: 'code', label: 'Code', of: (r) => [r.code], unlimited: true },
  { key: 'level', label: 'Level', of: (r) => [String(r.depth + 1)] },
  { key: 'group', label: 'Group', of: (r) => r.groups },
  { key: 'lines', label: 'Lines', of: (r) => [r.count > 0 ? 'with lines' : 'without lines'] },
  { key: 'valid', label: 'Valid', of: (r) => (r.validFrom || r.validTo ? [r.validFrom ?? ''] : []), unlimited: true },
  { key: 'count', label: 'Number of lines', of: () => [], order: (r) => r.count, unlimited: true },
  { key: 'debit', label: 'Debit', of: () => [], order: (r) => Number(r.debit), unlimited: true },
  { key: 'credit', label: 'Credit', of: () => [], order: (r) => Number(r.credit), unlimited: true },
  { key: 'movement', label: 'Movement', of: () => [], order: (r) => Number(r.movement), unlimited: true },
];

const NONE: readonly MemberRow[] = [];
const textOf = (r: MemberRow): string => `${r.code} ${r.name} ${Object.values(r.names).join(' ')}`;

/** Every dimension as a tree, each member with its lines and movement; a click reads the trial balance of it. */
export function DimensionsPage() {
  const { scope, asked, change } = usePageScope('/accounts/dimensions');
  const { data, error, isPlaceholderData } = useAnswer('GET /dimensions', asked);
  const params = useSearchParams();
  const chosen = params.get('~dimension');
  const setChosen = (code: string): void => {
    const to = new URLSearchParams(params);
    to.set('~dimension', code);
    window.history.replaceState(null, '', `?${to}`);
  };
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
  const list = useListing(shown?.rows ?? NONE, ATTRIBUTES, textOf);
  const { rows } = list;
  const asTree = list.order === '';
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
            <ListFilters list={list} placeholder="Code or name" noun="members">
              <Labelled label="Dimension">
                <Select value={shown.code} onChange={(event) => setChosen(event.target.value)} className="field">
                  {data?.dimensions.map((d) => (
                    <option key={d.code} value={d.code}>
                      {d.name}
                    </option>
                  ))}
                </Select>
              </Labelled>
            </ListFilters>
            <Table
              label={shown.name}
              list={list}
              columns={[
                { label: shown.name, orders: 'code' },
                ...shown.languages.map((l) => ({ label: `Name (${l})` })),
                { label: 'Valid', width: 'w-48', orders: 'valid' },
                { label: 'Lines', right: true, width: 'w-20', orders: 'count' },
                { label: 'Debit', right: true, width: 'w-32', orders: 'debit' },
                { label: 'Credit', right: true, width: 'w-32', orders: 'credit' },
                { label: `Movement, ${data?.currency}`, right: true, width: 'w-36', orders: 'movement' },
              ]}
            >
              {rows.map((r) => (
                <Tr key={r.code}>
                  <Td>
                    <span className="flex gap-2" style={asTree ? { paddingLeft: r.depth * 14 } : undefined}>
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
