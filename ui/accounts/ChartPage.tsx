'use client';

import Link from 'next/link';
import { useDeferredValue, useMemo, useState } from 'react';
import type { Chart, ChartRow } from '@/contracts/answers/charts';
import { amountText, countText } from '../amounts';
import { ACCOUNT_TABS, Failure, Labelled, Place } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { ScopeSentence } from '../scope/ScopeSentence';
import { usePageScope } from '../scope/usePageScope';
import { NameCell } from './NameCell';

/** Attributes that the chart is limited by, each with the values that occur. */
const FILTERS: { key: string; label: string; of(row: ChartRow): readonly string[] }[] = [
  { key: 'type', label: 'Type', of: (r) => [r.type] },
  { key: 'statement', label: 'Statement', of: (r) => [r.statement] },
  { key: 'level', label: 'Level', of: (r) => [String(r.depth + 1)] },
  { key: 'posting', label: 'Takes lines', of: (r) => [r.posting ? 'posting' : 'heading'] },
  { key: 'status', label: 'Status', of: (r) => [r.status] },
  { key: 'group', label: 'Group', of: (r) => r.groups },
  { key: 'classification', label: 'Classification', of: (r) => (r.classification ? [r.classification] : []) },
  { key: 'flow', label: 'Cash flow', of: (r) => (r.flow ? [r.flow] : []) },
  { key: 'currency', label: 'Currency', of: (r) => (r.currency ? [r.currency] : []) },
  { key: 'rule', label: 'Dimension rule', of: (r) => Object.entries(r.dims).map(([dim, rule]) => `${dim} ${rule}`) },
  { key: 'createdBy', label: 'Added by', of: (r) => (r.createdBy ? [r.createdBy] : []) },
];

/** The chart of accounts as a tree or a list, with every attribute, limited by any of them; balances trace. */
export function ChartPage() {
  const { scope, asked, change } = usePageScope('/accounts');
  const { data, error, isPlaceholderData } = useAnswer('GET /accounts', asked);
  const [chosen, setChosen] = useState<Record<string, string>>({});
  const [asTree, setAsTree] = useState(true);
  const [only, setOnly] = useState<'all' | 'missing' | 'similar'>('all');
  const [created, setCreated] = useState({ from: '', to: '' });
  const [text, setText] = useState('');
  const wanted = useDeferredValue(text.trim().toLowerCase());
  const [open, setOpen] = useState<string | null>(null);
  const rows = useMemo(() => {
    const found = (data?.rows ?? []).filter((r) => {
      if (wanted && !`${r.account} ${r.name} ${Object.values(r.names).join(' ')}`.toLowerCase().includes(wanted))
        return false;
      if (only === 'missing' && r.missing.length === 0) return false;
      if (only === 'similar' && r.similar.length === 0) return false;
      if (created.from && !(r.createdAt !== null && r.createdAt >= created.from)) return false;
      if (created.to && !(r.createdAt !== null && r.createdAt.slice(0, 10) <= created.to)) return false;
      return FILTERS.every((f) => !chosen[f.key] || f.of(r).includes(chosen[f.key] as string));
    });
    return asTree ? found : [...found].sort((a, b) => (a.account < b.account ? -1 : 1));
  }, [data, chosen, only, created, wanted, asTree]);
  const offers = useMemo(
    () =>
      FILTERS.map((f) => ({ ...f, values: [...new Set((data?.rows ?? []).flatMap((r) => f.of(r)))].sort() })).filter(
        (f) => f.values.length > 1 || chosen[f.key],
      ),
    [data, chosen],
  );
  const name = useChange(
    ({ account, language, name: to }: { account: string; language: string | null; name: string }) =>
      ask('PUT /accounts/{code}', {
        path: { code: account },
        body: { entity: data?.entity ?? '', language, name: to === '' ? null : to },
      }),
    ['/accounts', '/trial-balance', '/entities'],
  );
  const languages = data?.languages ?? [];
  const missing = (data?.rows ?? []).filter((r) => r.missing.length > 0).length;
  const similar = (data?.rows ?? []).filter((r) => r.similar.length > 0).length;
  return (
    <>
      {data && <ScopeSentence parts={data.parts} scope={scope} onChange={change} stale={isPlaceholderData} />}
      <Place title="Accounts" tabs={ACCOUNT_TABS} here="/accounts">
        <div className="mb-3 flex flex-wrap items-end gap-x-3 gap-y-2">
          <Labelled label="Find">
            <input
              value={text}
              onChange={(event) => setText(event.target.value)}
              placeholder="Code or name"
              className="field w-[150px]"
            />
          </Labelled>
          {offers.map((f) => (
            <Labelled key={f.key} label={f.label}>
              <select
                value={chosen[f.key] ?? ''}
                onChange={(event) => setChosen({ ...chosen, [f.key]: event.target.value })}
                className="field max-w-[140px]"
              >
                <option value="">any</option>
                {f.values.map((v) => (
                  <option key={v}>{v}</option>
                ))}
              </select>
            </Labelled>
          ))}
          {data?.rows.some((r) => r.createdAt) && (
            <>
              <Labelled label="Added from">
                <input
                  type="date"
                  value={created.from}
                  onChange={(event) => setCreated({ ...created, from: event.target.value })}
                  className="field w-[138px]"
                />
              </Labelled>
              <Labelled label="Added to">
                <input
                  type="date"
                  value={created.to}
                  onChange={(event) => setCreated({ ...created, to: event.target.value })}
                  className="field w-[138px]"
                />
              </Labelled>
            </>
          )}
          <Labelled label="Show">
            <select value={only} onChange={(event) => setOnly(event.target.value as typeof only)} className="field">
              <option value="all">all</option>
              <option value="missing">a name is missing ({missing})</option>
              <option value="similar">names are alike ({similar})</option>
            </select>
          </Labelled>
          <label className="flex h-8 items-center gap-1.5">
            <input type="checkbox" checked={asTree} onChange={(event) => setAsTree(event.target.checked)} /> as a tree
          </label>
          <p className="ml-auto pb-1.5 text-soft">
            {countText(rows.length)} of {countText(data?.rows.length ?? 0)} accounts
          </p>
        </div>
        <Failure error={error ?? name.error} />
        {data && rows.length === 0 && <p className="text-soft">No account is like that. Take a limit away.</p>}
        {rows.length > 0 && (
          <Table
            label="Chart of accounts"
            columns={[
              { label: 'Account' },
              ...languages.map((l) => ({ label: `Name (${l})` })),
              { label: 'Type', width: 'w-20' },
              { label: 'Attributes' },
              { label: `Balance, ${data?.currency}`, right: true, width: 'w-36' },
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
                    {r.status !== 'active' && <span className="text-warn">{r.status}</span>}
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
    ['Names like it', r.similar.join(', ') || null],
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
