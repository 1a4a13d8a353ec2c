'use client';

import { useMemo } from 'react';
import { amountText } from '../amounts';
import type { SplitSheet } from '../query/answers';
import { useAnswer, useEntities } from '../query/hooks';
import type { Column } from '../sheet/Grid';
import type { SheetModel, SheetRow } from '../sheet/model';
import { type Step, scopeAt } from '../thread/address';
import { type ScreenProps, SheetFrame, ties } from './SheetFrame';
import { splitStep } from './steps';
import { amountCells, Choice, NamedAccount } from './TrialBalanceScreen';

const AMOUNT = 'minmax(100px, 128px)';
const COLUMNS = (title: string): Column[] => [
  { key: 'member', label: title, width: 'minmax(200px, 1fr)' },
  { key: 'opening', label: 'Opening', width: AMOUNT, amount: true },
  { key: 'debit', label: 'Debit', width: AMOUNT, amount: true },
  { key: 'credit', label: 'Credit', width: AMOUNT, amount: true },
  { key: 'closing', label: 'Closing', width: AMOUNT, amount: true },
];

/** A figure broken down by one thing; Enter opens a member's children where it has some, else its lines. */
export function SplitScreen(props: ScreenProps & { by: string }) {
  const { screen, by, replace } = props;
  const params = useMemo(() => {
    const scope = scopeAt(screen, screen.steps.length);
    scope.append('by', by);
    return scope;
  }, [screen, by]);
  const { data, error, isPlaceholderData, isPending } = useAnswer<SplitSheet>('/sheets', params);
  const { data: entities } = useEntities();
  const [, dim = null] = /^dim:([^/]+)/.exec(by) ?? [];
  const dimension = entities?.dimensions.find((d) => d.code === dim);
  const title = dimension?.name ?? TITLES[by] ?? by;

  const model = useMemo((): SheetModel => {
    const parents = new Set(dimension?.members.map((m) => m.parent));
    const rows = data?.rows ?? [];
    const rowAt = (index: number): SheetRow | undefined => {
      const row = rows[index];
      if (!row) return undefined;
      const put = splitStep(row, '').put;
      const opensMembers = dimension !== undefined && parents.has(row.member);
      return {
        key: row.member,
        label: row.name,
        depth: row.depth,
        ...(row.member.startsWith('~') ? { look: 'quiet' as const } : {}),
        opens: true,
        cells: { member: by === 'account' ? <NamedAccount code={row.member} name={row.name} /> : row.name, ...amountCells(row) },
        count: row.count,
        subject: `figure:${row.address}`,
        put,
        step: (column): Step => ({ ...splitStep(row, column), ...(opensMembers ? { view: 'split' as const, by: `dim:${dim}/${row.member}` } : {}) }),
        say: () =>
          `Opening ${amountText(row.opening)} plus ${amountText(row.debit)} debit less ${amountText(row.credit)} credit makes ${amountText(row.closing)}.`,
      };
    };
    const keys = new Map(rows.map((r, i) => [r.member, i]));
    return {
      label: `Split by ${title.toLowerCase()}`,
      columns: COLUMNS(title),
      count: rows.length,
      rowAt,
      indexOf: (key) => keys.get(key) ?? -1,
      total: data && { label: `${rows.length} ${rows.length === 1 ? 'row' : 'rows'}, in ${data.currency}`, ...amountCells(data.total) },
      parts: data?.parts ?? [],
      load: data?.load,
      empty: data?.empty,
      tie: ties(data?.tie),
      stale: isPlaceholderData,
      loading: isPending,
      error,
    };
  }, [data, by, dim, dimension, title, isPlaceholderData, isPending, error]);

  const others = [
    ...(entities?.dimensions ?? []).map((d): [string, string] => [`dim:${d.code}`, d.name.toLowerCase()]),
    ['account', 'account'],
    ['period', 'period'],
    ['counterparty', 'counterparty'],
    ['journal', 'journal'],
    ['postedBy', 'who posted'],
  ] as [string, string][];
  const last = screen.steps.length - 1;
  return (
    <SheetFrame
      {...props}
      model={model}
      tools={
        <Choice
          label="Split by"
          value={by.replace(/\/.*/, '')}
          choices={others}
          onChange={(to) => replace({ ...screen, steps: screen.steps.map((s, i) => (i === last ? { ...s, view: 'split', by: to } : s)) })}
        />
      }
    />
  );
}

const TITLES: Record<string, string> = {
  account: 'Account',
  type: 'Account type',
  entity: 'Entity',
  period: 'Period',
  month: 'Month',
  day: 'Day',
  journal: 'Journal',
  counterparty: 'Counterparty',
  postedBy: 'Who posted',
  currency: 'Transaction currency',
};
