'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { Chart, ChartRow } from '@/contracts/answers/charts';
import { dateText } from '@/core/sentence';
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
import { Guesses } from './Guesses';
import { NameCell } from './NameCell';

/** The status of an account; one that was inactive or suspended before is told from those that always were active. */
const statusOf = (r: ChartRow): string =>
  r.status === 'active' && r.statusHistory.length > 0 ? 're-activated' : r.status;

/** Attributes that the chart is limited and put in order by. */
const ATTRIBUTES: ListAttribute<ChartRow>[] = [
  { key: 'account', label: 'Account', of: (r) => [r.account], unlimited: true },
  { key: 'name', label: 'Name', of: (r) => [r.name], unlimited: true },
  { key: 'type', label: 'Type', of: (r) => [r.type] },
  { key: 'statement', label: 'Statement', of: (r) => [r.statement] },
  { key: 'level', label: 'Level', of: (r) => [String(r.depth + 1)] },
  { key: 'posting', label: 'Takes lines', of: (r) => [r.posting ? 'posting' : 'heading'] },
  { key: 'status', label: 'Status', of: (r) => [statusOf(r)] },
  { key: 'group', label: 'Group', of: (r) => r.groups },
  { key: 'classification', label: 'Classification', of: (r) => (r.classification ? [r.classification] : []) },
  { key: 'flow', label: 'Cash flow', of: (r) => (r.flow ? [r.flow] : []) },
  { key: 'currency', label: 'Currency', of: (r) => (r.currency ? [r.currency] : []) },
  { key: 'rule', label: 'Dimension rule', of: (r) => Object.entries(r.dims).map(([dim, rule]) => `${dim} ${rule}`) },
  { key: 'createdAt', label: 'Added on', of: (r) => (r.createdAt ? [r.createdAt.slice(0, 10)] : []), unlimited: true },
  { key: 'createdBy', label: 'Added by', of: (r) => (r.createdBy ? [r.createdBy] : []) },
  {
    key: 'names',
    label: 'Names',
    of: (r) => [
      ...(r.missing.length > 0 ? ['one is missing'] : []),
      ...(r.similar.length > 0 ? ['with similar names'] : []),
    ],
  },
  { key: 'balance', label: 'Balance', of: (r) => [r.closing], order: (r) => Number(r.closing), unlimited: true },
];

const NONE: readonly ChartRow[] = [];
const textOf = (r: ChartRow): string => `${r.account} ${r.name} ${Object.values(r.names).join(' ')}`;

/** The chart of accounts as a tree or a list, with every attribute, limited by any of them; balances trace. */
export function ChartPage() {
  const { scope, asked, change } = usePageScope('/accounts');
  const { data, error, isPlaceholderData } = useAnswer('GET /accounts', asked);
  const list = useListing(data?.rows ?? NONE, ATTRIBUTES, textOf);
  const { rows } = list;
  // Rows in another order are no tree.
  const asTree = list.order === '';
  const [open, setOpen] = useState<string | null>(null);
  const name = useChange(
    ({ account, language, name: to }: { account: string; language: string | null; name: string }) =>
      ask('PUT /accounts/{code}', {
        path: { code: account },
        body: { entity: data?.entity ?? '', language, name: to === '' ? null : to },
      }),
    ['/accounts', '/trial-balance', '/entities'],
  );
  const languages = data?.languages ?? [];
  return (
    <>
      {data && <ScopeSentence parts={data.parts} scope={scope} onChange={change} stale={isPlaceholderData} />}
      <Place title="Accounts" tabs={ACCOUNT_TABS} here="/accounts">
        {data && <Guesses entity={data.entity} />}
        <ListFilters list={list} placeholder="Code or name" noun="accounts">
          <Labelled label="Sorted by">
            <Select
              value={list.order}
              onChange={(event) => list.setOrder(event.target.value)}
              className="field max-w-[140px]"
            >
              <option value="">the tree</option>
              {ATTRIBUTES.filter((a) => a.key !== 'names').map((a) => (
                <option key={a.key} value={a.key}>
                  {a.label.toLowerCase()}
                </option>
              ))}
              {list.order.startsWith('-') && <option value={list.order}>{list.order.slice(1)}, downwards</option>}
            </Select>
          </Labelled>
        </ListFilters>
        <Failure error={error ?? name.error} />
        {data && rows.length === 0 && <p className="text-soft">No account is like that. Remove a limit.</p>}
        {rows.length > 0 && (
          <Table
            label="Chart of accounts"
            list={list}
            columns={[
              { label: 'Account', orders: 'account' },
              ...languages.map((l) => ({ label: `Name (${l})` })),
              { label: 'Type', width: 'w-20', orders: 'type' },
              { label: 'Attributes', orders: 'group' },
              { label: `Balance, ${data?.currency}`, right: true, width: 'w-36', orders: 'balance' },
            ]}
          >
            {rows.map((r) => (
              <Tr key={r.account} chosen={open === r.account}>
                <Td>
                  <span className="flex gap-2" style={asTree ? { paddingLeft: r.depth * 14 } : undefined}>
                    <button
                      type="button"
                      onClick={() => setOpen(open === r.account ? null : r.account)}
                      aria-expanded={open === r.account}
                      className={`cursor-pointer text-soft hover:text-ink ${r.posting ? '' : 'font-semibold'}`}
                    >
                      {r.account}
                    </button>
                    <span className={r.posting ? '' : 'font-semibold'}>
                      <NameCell
                        label={`Name of ${r.account}`}
                        name={r.name}
                        missing={false}
                        onKeep={(to) => name.mutateAsync({ account: r.account, language: null, name: to })}
                      />
                    </span>
                    {statusOf(r) !== 'active' && <span className="text-warn">{statusOf(r)}</span>}
                  </span>
                  {open === r.account && <Attributes row={r} />}
                </Td>
                {languages.map((l) => (
                  <Td key={l}>
                    <NameCell
                      label={`Name of ${r.account} in ${l}`}
                      name={r.names[l] ?? ''}
                      missing={!r.names[l]}
                      onKeep={(to) => name.mutateAsync({ account: r.account, language: l, name: to })}
                    />
                  </Td>
                ))}
                <Td>{r.type}</Td>
                <Td>
                  <span className="text-[13px] text-soft">{shortly(r)}</span>
                </Td>
                <Td right>
                  {r.count === 0 && /^-?0(\.0+)?$/.test(r.closing) ? (
                    <span className="text-faint">–</span>
                  ) : (
                    <Link
                      href={traceOf(data as Chart, r)}
                      className="underline decoration-rule underline-offset-4 hover:decoration-ink"
                      title={`${countText(r.count)} lines in the window`}
                    >
                      {amountText(r.closing)}
                    </Link>
                  )}
                </Td>
              </Tr>
            ))}
          </Table>
        )}
      </Place>
    </>
  );
}

/** The account's lines under the page's scope; of a heading, its accounts. */
function traceOf(data: Chart, row: ChartRow): string {
  const scope = new URLSearchParams(data.address);
  if (!row.posting) {
    const below = new Set([row.account]);
    for (const r of data.rows) if (r.parent !== null && below.has(r.parent)) below.add(r.account);
    scope.set(
      'accounts',
      data.rows
        .filter((r) => r.posting && below.has(r.account))
        .map((r) => r.account)
        .join(', '),
    );
    return `/trial-balance?${scope}`;
  }
  scope.set('accounts', row.account);
  return `/lines?${scope}`;
}

const shortly = (r: ChartRow): string =>
  [
    ...(r.flow ? [r.flow] : []),
    ...r.groups,
    ...Object.entries(r.dims).map(([dim, rule]) => `${dim} ${rule}`),
    ...Object.entries(r.codes).map(([scheme, code]) => `${scheme} ${code}`),
    ...(r.similar.length > 0 ? [`alike: ${r.similar.join(', ')}`] : []),
  ].join(' · ');

function Attributes({ row: r }: { row: ChartRow }) {
  const pairs: [string, string | null][] = [
    ['Statement', r.statement],
    ['Under', r.parent],
    ['Takes lines', r.posting ? 'yes' : 'no, it only totals'],
    ['Normal side', r.normal],
    ['Cash flow', r.flow],
    ['Classification', r.classification],
    ['Currency', r.currency],
    ['Added', [r.createdAt, r.createdBy].filter(Boolean).join(' by ') || null],
    [
      'Status before',
      r.statusHistory.map((h) => `${h.was} until ${dateText(h.at.slice(0, 10))} (load ${h.load})`).join('; ') || null,
    ],
    ['Similar names', r.similar.join(', ') || null],
  ];
  return (
    <dl className="mt-1 grid grid-cols-[110px_1fr] gap-x-2 pl-2 text-[13px]">
      {pairs
        .filter(([, value]) => value)
        .map(([label, value]) => (
          <div key={label} className="contents">
            <dt className="text-faint">{label}</dt>
            <dd>{value}</dd>
          </div>
        ))}
    </dl>
  );
}
