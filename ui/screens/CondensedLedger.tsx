'use client';

import { useMemo } from 'react';
import { subjectText } from '@/contracts/subject';
import { runningBalances } from '@/core/money';
import { asPut } from '../address/address';
import { ledgerScope } from '../address/measures';
import { SPLIT_NAMES } from '../address/splitNames';
import { amountText, countText } from '../amounts';
import { useAnswer } from '../query/hooks';
import { amountCell } from '../sheet/cell';
import type { Column } from '../sheet/gridModel';
import type { SheetModel, SheetRow } from '../sheet/model';
import { proofOf } from '../sheet/proof';
import { wholeRow } from '../sheet/wholeRow';
import { OPENING, openingRow, rolledRow } from './ledgerRows';
import { RunsChoice } from './RunsChoice';
import type { Groups, Runs } from './runs';
import { type ScreenProps, SheetFrame } from './SheetFrame';

const AMOUNT = 'minmax(110px, 140px)';

/** A busy ledger in fewer rows: one for each entry, day, week or month, with the balance after it; each traces to its lines. */
export function CondensedLedger({ runs, ...props }: ScreenProps & { runs: Exclude<Runs, 'line' | Groups> }) {
  const { screen } = props;
  const params = useMemo(() => {
    const scope = ledgerScope(screen);
    // Entries are in the order of their days.
    for (const by of runs === 'entry' ? ['day', 'entry'] : [runs]) scope.append('by', by);
    return scope;
  }, [screen, runs]);
  const { data, error, isPlaceholderData, isPending } = useAnswer('GET /sheets', params);

  const model = useMemo((): SheetModel => {
    const depth = runs === 'entry' ? 1 : 0;
    let day = '';
    const listed = (data?.rows ?? []).flatMap((row) => {
      if (row.depth === 0) day = row.name;
      return row.depth === depth && row.count > 0 ? [{ row, day }] : [];
    });
    const balances = data
      ? runningBalances(
          data.total.opening,
          listed.map(({ row }) => row.movement),
        )
      : [];
    const rolled = data !== undefined && /[1-9]/.test(data.total.roll);
    const rowAt = (index: number): SheetRow | undefined => {
      if (!data) return undefined;
      if (index === 0)
        return {
          ...openingRow(data.total.opening, data.address),
          cells: { member: 'Opening balance', balance: amountCell(data.total.opening) },
        };
      const found = listed[index - 1];
      if (!found) {
        const row = rolledRow(data.total.roll, data.total.closing);
        return rolled && index === listed.length + 1
          ? { ...row, cells: { ...row.cells, member: row.cells.description } }
          : undefined;
      }
      const { row } = found;
      const put = asPut(row.refine);
      return {
        key: `${found.day} ${row.member}`,
        label: row.name,
        opens: true,
        cells: {
          member: row.name,
          day: found.day,
          count: countText(row.count),
          debit: amountCell(row.debit),
          credit: amountCell(row.credit),
          balance: amountCell(balances[index - 1] ?? ''),
        },
        amounts: { balance: row.movement },
        count: row.count,
        subject: subjectText({ is: 'figure', address: row.address }),
        put,
        step: (column) => ({ view: 'lines', label: row.name, row: `${found.day} ${row.member}`, column, put }),
        say: () =>
          `${countText(row.count)} ${row.count === 1 ? 'line' : 'lines'}, ${amountText(row.movement)} together.`,
      };
    };
    const total = data && {
      label: `Closing balance, ${countText(listed.length)} ${listed.length === 1 ? runs : MANY[runs]}, in ${data.currency}`,
      count: countText(data.total.count),
      debit: amountCell(data.total.debit),
      credit: amountCell(data.total.credit),
      balance: amountCell(data.total.closing),
    };
    return {
      label: `Lines by ${runs}`,
      columns: columnsOf(runs),
      count: data ? listed.length + 1 + (rolled ? 1 : 0) : 0,
      rowAt,
      indexOf: (key) =>
        key === OPENING ? 0 : listed.findIndex(({ row, day: of }) => `${of} ${row.member}` === key) + 1,
      total,
      whole: data && total && wholeRow(total, data.address, { view: 'split', by: 'account' }),
      parts: data?.parts ?? [],
      path: data && `/sheets?${params}`,
      load: data?.load,
      empty: data?.empty,
      tie: proofOf(data?.tie),
      stale: isPlaceholderData,
      loading: isPending,
      error,
    };
  }, [data, runs, params, isPlaceholderData, isPending, error]);

  return <SheetFrame {...props} sheet={`lines-${runs}`} model={model} tools={<RunsChoice {...props} />} />;
}

const MANY = { entry: 'entries', day: 'days', week: 'weeks', month: 'months' } as const;

const columnsOf = (runs: Runs): Column[] => [
  { key: 'member', label: SPLIT_NAMES[runs] ?? '', width: 'minmax(200px, 1fr)' },
  ...(runs === 'entry' ? [{ key: 'day', label: 'Date', width: '110px' }] : []),
  { key: 'count', label: 'Lines', width: '84px', amount: true },
  { key: 'debit', label: 'Debit', width: AMOUNT, amount: true },
  { key: 'credit', label: 'Credit', width: AMOUNT, amount: true },
  { key: 'balance', label: 'Balance', width: AMOUNT, amount: true },
];
