'use client';

import { useEffect, useMemo, useState } from 'react';
import type { BudgetAnswer } from '@/contracts/answers/budgets';
import type { BodySent } from '@/contracts/routes';
import { type CellEdit, paste, spread } from '@/core/budgetSheet';
import { otherSign } from '@/core/writtenAmounts';
import { decimalMark } from '../amounts';
import { Failure } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { Grid } from '../sheet/Grid';
import type { Focus } from '../sheet/gridModel';
import type { CellRange, Editing } from '../sheet/useEditing';
import { BudgetCells, cellsOf, statusOf } from './budgetRows';
import { useDelivered } from './useDelivered';
import { useEdits } from './useEdits';

/**
 * Where a budget is typed, or pasted from a spreadsheet: accounts in the shape of the income statement, a column for
 * each period. Nothing is kept before somebody keeps it, and nothing that was typed is lost.
 */
export function BudgetSheet({ sheet }: { sheet: BudgetAnswer }) {
  const edits = useEdits([sheet.entity, sheet.year, sheet.version, ...sheet.unit].join('/'));
  const cells = useMemo(() => new BudgetCells(sheet, edits.now), [sheet, edits.now]);
  const first = Math.max(
    0,
    sheet.rows.findIndex((r) => r.account !== null),
  );
  const [focus, setFocus] = useState<Focus>({ row: first, column: 1 });
  const [range, setRange] = useState<CellRange>({ from: focus, to: focus });
  const editing = useBudgetEditing(cells, edits, setRange);
  const { changed } = cells;
  useEffect(() => {
    if (changed.length === 0) return;
    const warn = (event: BeforeUnloadEvent): void => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  });
  const keep = useKeep(sheet, edits.clear);
  const here = cells.cellAt(focus);
  const account = here && cells.accounts[here.row];
  const chosen = cells.within(range);
  return (
    <section aria-label={`Budget ${sheet.version}`} className="flex h-[calc(100vh-150px)] min-h-[320px] flex-col">
      <div className="mb-2 flex shrink-0 flex-wrap items-center gap-2">
        <button type="button" className="button" disabled={!edits.canUndo} onClick={edits.undo}>
          Undo
        </button>
        <button type="button" className="button" disabled={!edits.canRedo} onClick={edits.redo}>
          Redo
        </button>
        <button
          type="button"
          className="button-main"
          disabled={changed.length === 0 || keep.waits}
          onClick={() => keep.run(changed)}
        >
          {keep.waits
            ? 'Keeping …'
            : changed.length === 0
              ? 'Keep'
              : `Keep ${changed.length} ${changed.length === 1 ? 'change' : 'changes'}`}
        </button>
        <p className="ml-2 text-[12.5px] text-soft">
          Type or paste. An amount under Year spreads over its periods. Income and expense are both written as positive
          amounts, in {sheet.currency}.
        </p>
      </div>
      <Failure error={keep.error} />
      <Grid
        label={`Budget ${sheet.version}, ${sheet.year}`}
        columns={cells.columns}
        count={sheet.rows.length}
        rowAt={(index) => cells.rowAt(index)}
        total={cells.total}
        focus={focus}
        onFocus={setFocus}
        editing={editing}
        fit
      />
      <p role="status" className="mt-1 shrink-0 truncate text-[12.5px] text-soft">
        {here && account && (
          <>
            <strong className="font-semibold text-ink">
              {account.account} {account.label}, {sheet.periods[here.column]?.period ?? `year ${sheet.year}`}.
            </strong>{' '}
          </>
        )}
        {chosen &&
          statusOf(
            cellsOf(chosen)
              .filter((c) => c.column < sheet.periods.length)
              .map((c) => cells.valueAt(c.row, c.column)),
            sheet.digits,
          )}
      </p>
    </section>
  );
}

/** Writing in the cells of a budget; what cannot be read is said, and the rest is taken. */
function useBudgetEditing(
  cells: BudgetCells,
  edits: ReturnType<typeof useEdits>,
  onRange: (range: CellRange) => void,
): Editing {
  const { periods, digits } = cells.sheet;
  const read = { decimal: decimalMark(), digits };
  const size = { rows: cells.accounts.length, columns: periods.length };
  const put = (found: readonly CellEdit[]): void =>
    edits.put(
      found.flatMap(({ row, column, amount }) => {
        if (column < periods.length) return [[cells.keyOf(row, column), amount] as const];
        // The year's own column spreads over the periods.
        const parts = amount === '' ? periods.map(() => '') : spread(amount, cells.valuesOf(row), digits);
        return parts.map((part, at) => [cells.keyOf(row, at), part] as const);
      }),
    );
  const plain = (at: Focus): string => {
    const cell = cells.cellAt(at);
    return cell ? cells.plainAt(cell).replace('.', read.decimal) : '';
  };
  return {
    takesRow: (row) => cells.cellAt({ row, column: 1 }) !== null,
    takes: (at) => cells.cellAt(at) !== null,
    textOf: plain,
    labelOf: (at) => {
      const cell = cells.cellAt(at);
      return cell ? `${cells.accounts[cell.row]?.label}, ${periods[cell.column]?.period ?? 'year'}` : '';
    },
    take: (at, text) => {
      const cell = cells.cellAt(at);
      if (!cell) return false;
      const { edits: found, refused } = paste([[text]], cell, cell, { ...size, columns: size.columns + 1 }, read);
      if (refused[0]) toast(refused[0].why);
      else put(found);
      return !refused[0];
    },
    clear: (range) => {
      const within = cells.within(range);
      if (within) put(cellsOf(within).map((at) => ({ ...at, amount: '' })));
    },
    paste: async (text, range) => {
      const within = cells.within(range);
      if (!within) return void toast('Choose a cell of an account to paste from.');
      const { parse } = await import('csv-parse/browser/esm/sync');
      const block = parse(text, {
        delimiter: '\t',
        relax_column_count: true,
        relax_quotes: true,
        skip_empty_lines: false,
      }) as string[][];
      const { edits: found, refused } = paste(block, within.from, within.to, size, read);
      put(found);
      const [first] = refused;
      if (first) toast(`${found.length} cells taken; ${refused.length} not: ${first.why}`);
      else toast(`${found.length} ${found.length === 1 ? 'cell' : 'cells'} taken from the clipboard`);
    },
    undo: edits.undo,
    redo: edits.redo,
    onRange,
  };
}

/** Keeps what was written as a load of its own, and waits for it to be delivered. */
function useKeep(sheet: BudgetAnswer, onKept: () => void) {
  const [load, setLoad] = useState<number | null>(null);
  const keep = useChange(
    (cells: BodySent<'PUT /budgets/{version}'>['cells']) =>
      ask('PUT /budgets/{version}', {
        path: { version: sheet.version },
        body: { entity: sheet.entity, year: sheet.year, unit: sheet.unit, asOf: sheet.asOf, cells },
      }),
    [],
  );
  const refused = useDelivered(load, () => {
    onKept();
    setLoad(null);
    toast(`Kept as load ${load}`);
  });
  return {
    run: async (changed: BudgetCells['changed']): Promise<void> => {
      const cells = changed.map(({ account, period, amount }) => ({
        account: account.account,
        period,
        amount: account.sign === 'credit' ? otherSign(amount) : amount,
      }));
      const done = await keep.mutateAsync(cells).catch(() => null);
      if (done) setLoad(done.id);
    },
    waits: keep.isPending || (load !== null && !refused),
    error: keep.error ?? refused,
  };
}
