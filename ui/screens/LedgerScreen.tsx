'use client';

import { useCallback, useMemo } from 'react';
import { screenPath } from '../address/address';
import { linesAsked, measureAt, openingsOf, partTraced } from '../address/measures';
import { remember } from '../address/memory';
import { countText } from '../amounts';
import { ask } from '../query/client';
import { useEntities } from '../query/hooks';
import { amountCell } from '../sheet/cell';
import type { Column } from '../sheet/gridModel';
import type { FoundRow, SheetModel, SheetRow } from '../sheet/model';
import { proofOf } from '../sheet/proof';
import { wholeRow } from '../sheet/wholeRow';
import { CondensedLedger } from './CondensedLedger';
import { ledgerColumns } from './ledgerColumns';
import { lineRow, OPENING, openingRow, ratesRow, rolledRow } from './ledgerRows';
import { Unread } from './NoSheet';
import { RunsChoice } from './RunsChoice';
import { isGroups, runsOf } from './runs';
import { SectionedLedger } from './SectionedLedger';
import { type ScreenProps, SheetFrame } from './SheetFrame';
import { useLedger } from './useLedger';

/** The ledger of a figure: line by line, an account a section, or condensed to entries, days, weeks or months. */
export function LedgerScreen(props: ScreenProps) {
  const runs = runsOf(props.screen);
  if (isGroups(runs)) return <SectionedLedger key={runs} {...props} by={runs.slice('by:'.length)} />;
  return runs === 'line' ? <LinesLedger {...props} /> : <CondensedLedger {...props} runs={runs} />;
}

/** The lines of a figure with opening row, running balance and closing row, however many there are. */
function LinesLedger(props: ScreenProps) {
  const { screen, replace } = props;
  const measure = measureAt(screen, screen.steps.length);
  const part = partTraced(screen);
  const scope = useMemo(() => linesAsked(screen), [screen]);
  /** A ledger without what was there before it has no row for that, and runs from nothing. */
  const lead = openingsOf(screen) === 'none' ? 0 : 1;
  const { sort } = screen.options;
  const { head, error, loading, rows, onRange, ending, unread, readAgain } = useLedger(scope, sort);
  const { data: entities } = useEntities();
  const oneAccount = head?.oneAccount ?? false;
  const taxed = scope.has('taxCode');
  const worthIn = head?.worth?.currency;
  const columns = useMemo(
    (): Column[] =>
      ledgerColumns({ oneAccount, taxed, part, running: lead === 0, worthIn }, entities?.dimensions ?? []),
    [oneAccount, entities, taxed, part, lead, worthIn],
  );

  const { load } = head ?? {};
  // In another order the place of a line is not known without reading all of them.
  const far = load !== undefined && (head?.totals.count ?? 0) > rows.size && (sort ?? 'date') === 'date';
  const seek = useCallback(
    async (text: string, from: number | null, way: 'next' | 'previous'): Promise<FoundRow | null> => {
      const query = new URLSearchParams(scope);
      for (const name of ['openings', 'part']) query.delete(name);
      query.set('load', String(load));
      query.set('find', text);
      query.set('way', way);
      if (from !== null && from >= lead) query.set('at', String(from - lead));
      const { at, number, of } = await ask('GET /lines/find', { query });
      return at === null || number === null ? null : { row: at + lead, number, of };
    },
    [scope, load, lead],
  );

  const model = useMemo((): SheetModel => {
    const count = head ? head.totals.count : 0;
    const rolled = head !== undefined && /[1-9]/.test(head.roll);
    const { worth } = head ?? {};
    const byRates = worth?.byRates && /[1-9]/.test(worth.byRates) ? worth.byRates : null;
    // What comes after the lines, before their total.
    const after = head
      ? [
          ...(rolled ? [rolledRow(head.roll, head.closing, worth?.roll)] : []),
          ...(byRates === null ? [] : [ratesRow(byRates)]),
        ]
      : [];
    const rowAt = (index: number): SheetRow | undefined => {
      if (index < lead) return head && openingRow(head.opening, head.address, head.carries, worth?.opening);
      if (index >= count + lead) return after[index - count - lead];
      const line = rows.get(index - lead);
      return line && lineRow(line, head ?? { currency: '', parts: [] });
    };
    const total = head && {
      label: `${part ? '' : lead === 0 ? 'Movement, ' : 'Closing balance, '}${countText(count)} ${count === 1 ? 'line' : 'lines'}, in ${head.currency}`,
      debit: amountCell(head.totals.debit),
      credit: amountCell(head.totals.credit),
      balance: amountCell(head.closing),
      ...(part ? { part: head.part === null ? 'too many to add up' : amountCell(head.part ?? '') } : {}),
      ...(worth ? { worth: amountCell(worth.closing) } : {}),
    };
    return {
      label: 'Lines',
      columns,
      traced: part ? 'part' : worth ? 'worth' : measure === 'debit' || measure === 'credit' ? measure : 'balance',
      count: head ? count + lead + after.length : 0,
      rowAt,
      loaded: [...rows.keys()].map((i) => i + lead),
      ...(far ? { seek } : {}),
      indexOf: (key) => {
        if (key === OPENING) return lead - 1;
        for (const [i, row] of rows) if (row.id === key) return i + lead;
        return -1;
      },
      total,
      whole:
        head && total && wholeRow(total, head.address, { view: 'split', by: head.oneAccount ? 'period' : 'account' }),
      parts: head?.parts ?? [],
      path: head && `/lines?${sort ? `${scope}&sort=${encodeURIComponent(sort)}` : scope}`,
      load: head?.load,
      ...(head?.empty ? { empty: head.empty } : {}),
      tie: part ? null : proofOf(ending, 'ties to its last line'),
      stale: false,
      loading,
      error,
    };
  }, [head, rows, columns, loading, error, ending, measure, part, lead, far, seek, scope, sort]);

  const emptyModel = head?.empty && !/[1-9]/.test(head.opening) ? { ...model, count: 0 } : model;
  return (
    <SheetFrame
      {...props}
      sheet="lines"
      model={emptyModel}
      onRange={(first, last) => onRange(Math.max(0, first - lead), last)}
      onSort={(column, also) => {
        const next = nextSort(sort, column, also);
        // Kept under the address without an order, which is where one comes back to.
        const { sort: _before, ...options } = screen.options;
        remember(screenPath({ ...screen, options }), { sort: next });
        replace({ ...screen, options: { ...options, sort: next } });
      }}
      tools={
        <>
          <RunsChoice {...props} />
          {sort && sort !== 'date' && (
            <span>In another order than the ledger’s; each line keeps its date-order balance.</span>
          )}
          {unread && <Unread error={unread} readAgain={readAgain} />}
        </>
      }
    />
  );
}

/** One column up, then down, then the ledger's own order again; with Shift after the columns that it is sorted by already. */
function nextSort(sort: string | undefined, column: string, also: boolean): string {
  const held = (sort ?? 'date').split(',');
  const mine = held.find((word) => word.replace('-', '') === column);
  const turned = mine === undefined ? [column] : mine.startsWith('-') ? [] : [`-${column}`];
  if (!also) return mine === undefined || held.length > 1 ? column : (turned[0] ?? 'date');
  return (
    held
      .flatMap((word) => (word === mine ? turned : [word]))
      .concat(mine === undefined ? turned : [])
      .join(',') || 'date'
  );
}
