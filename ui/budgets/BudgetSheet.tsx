'use client';

import { type ClipboardEvent, type KeyboardEvent, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { BudgetAnswer } from '@/contracts/answers/budgets';
import type { BodySent } from '@/contracts/routes';
import { type CellAt, type CellEdit, paste, spread, totalOf } from '@/core/budgetSheet';
import { dateText } from '@/core/sentence';
import { otherSign } from '@/core/writtenAmounts';
import { decimalMark } from '../amounts';
import { Failure } from '../parts/Place';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { Hung } from '../sheet/Hung';
import { type Account, blank, cellsOf, clamp, monthOf, range, shortText, signed, statusOf } from './budgetCells';
import { CellEditor } from './CellEditor';
import { useDelivered } from './useDelivered';
import { useEdits } from './useEdits';

const LABEL_PX = 190;

const CHARACTER_PX = 6;

const CELL_MIN_PX = 62;

const YEAR_PX = 80;

/**
 * Where a budget is typed, or pasted from a spreadsheet: accounts in the shape of the income statement, a column for
 * each period. Nothing is kept before somebody keeps it, and nothing that was typed is lost.
 */
export function BudgetSheet({ sheet }: { sheet: BudgetAnswer }) {
  const { periods, digits } = sheet;
  const accounts = useMemo(() => sheet.rows.filter((r): r is Account => r.account !== null), [sheet]);
  const edits = useEdits([sheet.entity, sheet.year, sheet.version, ...sheet.unit].join('/'));
  const [focus, setFocus] = useState<CellAt>({ row: 0, column: 0 });
  const [anchor, setAnchor] = useState<CellAt>(focus);
  // What the focused cell is begun to be written with; null: it is not.
  const [typing, setTyping] = useState<string | null>(null);
  const grid = useRef<HTMLTableElement>(null);
  const read = { decimal: decimalMark(), digits };

  const keyOf = (row: number, column: number): string => `${accounts[row]?.account}/${periods[column]?.period}`;
  const valueAt = (row: number, column: number): string =>
    edits.now.get(keyOf(row, column)) ?? accounts[row]?.values[column] ?? '';
  const valuesOf = (row: number): string[] => periods.map((_, column) => valueAt(row, column));
  const changed = accounts.flatMap((a, row) =>
    periods.flatMap((p, column) => (valueAt(row, column) === a.values[column] ? [] : [{ a, p, row, column }])),
  );

  const put = (cells: readonly CellEdit[]): void =>
    edits.put(
      cells.flatMap(({ row, column, amount }) => {
        if (column < periods.length) return [[keyOf(row, column), amount] as const];
        // The year's own column spreads over the periods.
        const parts = amount === '' ? periods.map(() => '') : spread(amount, valuesOf(row), digits);
        return parts.map((part, at) => [keyOf(row, at), part] as const);
      }),
    );

  const chosen = {
    from: { row: Math.min(anchor.row, focus.row), column: Math.min(anchor.column, focus.column) },
    to: { row: Math.max(anchor.row, focus.row), column: Math.max(anchor.column, focus.column) },
  };
  const isChosen = (row: number, column: number): boolean =>
    row >= chosen.from.row && row <= chosen.to.row && column >= chosen.from.column && column <= chosen.to.column;

  const move = (rows: number, columns: number, stretch = false): void => {
    const to = {
      row: clamp(focus.row + rows, accounts.length),
      column: clamp(focus.column + columns, periods.length + 1),
    };
    setFocus(to);
    if (!stretch) setAnchor(to);
  };

  const take = (text: string): boolean => {
    const { edits: found, refused } = paste(
      [[text]],
      focus,
      focus,
      { rows: accounts.length, columns: periods.length + 1 },
      read,
    );
    if (refused[0]) {
      toast(refused[0].why);
      return false;
    }
    put(found);
    setTyping(null);
    return true;
  };

  const onKey = (event: KeyboardEvent): unknown => {
    const command = event.ctrlKey || event.metaKey;
    if (typing !== null) return undefined;
    if (command && /^[zy]$/i.test(event.key)) {
      event.preventDefault();
      return event.shiftKey || event.key.toLowerCase() === 'y' ? edits.redo() : edits.undo();
    }
    const act: Record<string, () => void> = {
      ArrowDown: () => move(1, 0, event.shiftKey),
      ArrowUp: () => move(-1, 0, event.shiftKey),
      ArrowRight: () => move(0, 1, event.shiftKey),
      ArrowLeft: () => move(0, -1, event.shiftKey),
      Home: () => move(command ? -accounts.length : 0, -periods.length - 1, event.shiftKey),
      End: () => move(command ? accounts.length : 0, periods.length + 1, event.shiftKey),
      PageDown: () => move(15, 0, event.shiftKey),
      PageUp: () => move(-15, 0, event.shiftKey),
      Enter: () => setTyping(plainAt(focus.row, focus.column)),
      F2: () => setTyping(plainAt(focus.row, focus.column)),
      Delete: () => put(cellsOf(chosen).map((at) => ({ ...at, amount: '' }))),
      Backspace: () => put(cellsOf(chosen).map((at) => ({ ...at, amount: '' }))),
    };
    if (act[event.key]) {
      event.preventDefault();
      return act[event.key]?.();
    }
    if (!command && !event.altKey && /^[\d(.,−-]$/.test(event.key)) {
      event.preventDefault();
      setTyping(event.key);
    }
    return undefined;
  };

  const plainAt = (row: number, column: number): string =>
    (column < periods.length ? valueAt(row, column) : blank(totalOf(valuesOf(row), digits))).replace('.', read.decimal);

  const onCopy = (event: ClipboardEvent): void => {
    if (typing !== null) return;
    event.preventDefault();
    const rows = range(chosen.from.row, chosen.to.row).map((row) =>
      range(chosen.from.column, chosen.to.column).map((column) => plainAt(row, column)),
    );
    event.clipboardData.setData('text/plain', rows.map((cells) => cells.join('\t')).join('\n'));
  };

  const onPaste = async (event: ClipboardEvent): Promise<void> => {
    if (typing !== null) return;
    event.preventDefault();
    // The clipboard can only be read while the event lasts.
    const text = event.clipboardData.getData('text/plain');
    if (text.trim() === '') return;
    const { parse } = await import('csv-parse/browser/esm/sync');
    const block = parse(text, {
      delimiter: '\t',
      relax_column_count: true,
      relax_quotes: true,
      skip_empty_lines: false,
    }) as string[][];
    const { edits: found, refused } = paste(
      block,
      chosen.from,
      chosen.to,
      { rows: accounts.length, columns: periods.length },
      read,
    );
    put(found);
    const [first] = refused;
    if (first) toast(`${found.length} cells taken; ${refused.length} not: ${first.why}`);
    else toast(`${found.length} ${found.length === 1 ? 'cell' : 'cells'} taken from the clipboard`);
  };

  // The focused cell is the one that has the keyboard.
  const wantsFocus = useRef(false);
  useEffect(() => {
    if (!wantsFocus.current || typing !== null) return;
    grid.current?.querySelector<HTMLElement>(`[data-cell="${focus.row}:${focus.column}"]`)?.focus();
  }, [focus, typing]);

  useEffect(() => {
    if (changed.length === 0) return;
    const warn = (event: BeforeUnloadEvent): void => event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  });

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
    edits.clear();
    setLoad(null);
    toast(`Kept as load ${load}`);
  });
  const keepAll = async (): Promise<void> => {
    const cells = changed.map(({ a, p, row, column }) => {
      const amount = valueAt(row, column);
      return { account: a.account, period: p.period, amount: a.sign === 'credit' ? otherSign(amount) : amount };
    });
    const done = await keep.mutateAsync(cells).catch(() => null);
    if (done) setLoad(done.id);
  };
  const waits = keep.isPending || (load !== null && !refused);

  const results = periods.map((_, column) =>
    totalOf(
      accounts.map((a, i) => signed(a, valueAt(i, column))),
      digits,
    ),
  );
  const longest = Math.max(
    ...results.map((r) => shortText(r).length),
    ...accounts.map((_, i) => Math.max(...valuesOf(i).map((v) => shortText(v).length))),
  );
  const cellPx = Math.max(CELL_MIN_PX, longest * CHARACTER_PX + 10);
  const elsewhere = accounts.some((a) => /[1-9]/.test(a.elsewhere));
  const here = accounts[focus.row];
  let index = -1;
  return (
    <section aria-label={`Budget ${sheet.version}`}>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <button type="button" className="button" disabled={!edits.canUndo} onClick={edits.undo}>
          Undo
        </button>
        <button type="button" className="button" disabled={!edits.canRedo} onClick={edits.redo}>
          Redo
        </button>
        <button type="button" className="button-main" disabled={changed.length === 0 || waits} onClick={keepAll}>
          {waits
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
      <Failure error={keep.error ?? refused} />
      <div className="max-h-[calc(100vh-230px)] overflow-auto border border-rule bg-sheet">
        <table
          ref={grid}
          // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a grid of cells that are written in
          role="grid"
          aria-label={`Budget ${sheet.version}, ${sheet.year}`}
          className="w-full table-fixed border-separate border-spacing-0 text-[13px]"
          style={{ minWidth: LABEL_PX + cellPx * periods.length + YEAR_PX * (elsewhere ? 2 : 1) }}
          onKeyDown={onKey}
          onCopy={onCopy}
          onPaste={onPaste}
        >
          <colgroup>
            <col style={{ width: LABEL_PX }} />
            {periods.map((p) => (
              <col key={p.period} />
            ))}
            <col style={{ width: YEAR_PX }} />
            {elsewhere && <col style={{ width: YEAR_PX }} />}
          </colgroup>
          <thead>
            <tr className="text-[12.5px] text-soft">
              <th scope="col" className={`${HEAD} left-0 z-20 pl-3 text-left`}>
                Account
              </th>
              {periods.map((p) => (
                <th
                  key={p.period}
                  scope="col"
                  className={`${HEAD} pr-1.5 text-right`}
                  title={`Period ${p.period}, ${dateText(p.from)} to ${dateText(p.to)}`}
                >
                  {monthOf(p.to, periods.length)}
                </th>
              ))}
              <th scope="col" className={`${HEAD} pr-1.5 text-right`}>
                Year
              </th>
              {elsewhere && (
                <th
                  scope="col"
                  className={`${HEAD} pr-1.5 text-right`}
                  title="What this version has for other units, over the year"
                >
                  Other units
                </th>
              )}
            </tr>
          </thead>
          <tbody>
            {sheet.rows.map((row) => {
              if (row.kind === 'caption') {
                const inside = range(index + 1, index + row.takes);
                const sums = [
                  ...periods.map((_, column) => inside.map((i) => valueAt(i, column))),
                  inside.flatMap(valuesOf),
                ];
                return (
                  <tr key={row.label} className="text-soft">
                    <th
                      scope="row"
                      className={`${FIRST} truncate font-book font-semibold text-ink ${row.takes > 0 ? 'text-[14.5px]' : 'text-[15.5px]'}`}
                      style={{ paddingLeft: 12 + row.depth * 8 }}
                    >
                      {row.label}
                    </th>
                    {sums.map((cells, column) => (
                      <td key={periods[column]?.period ?? 'year'} className={CELL}>
                        {row.takes > 0 && <Hung>{shortText(totalOf(cells, digits))}</Hung>}
                      </td>
                    ))}
                    {elsewhere && <td className={CELL} />}
                  </tr>
                );
              }
              index += 1;
              const mine = index;
              const cells = [...valuesOf(mine), blank(totalOf(valuesOf(mine), digits))];
              return (
                <tr key={row.account}>
                  <th
                    scope="row"
                    style={{ paddingLeft: 12 + row.depth * 8 }}
                    className={`${FIRST} truncate font-normal`}
                    title={`${row.account} ${row.label}`}
                  >
                    <span className="mr-1.5 inline-block min-w-8 text-faint">{row.account}</span>
                    {row.label}
                  </th>
                  {cells.map((text, column) => {
                    const focused = focus.row === mine && focus.column === column;
                    const fresh = column < periods.length && text !== row.values[column];
                    return (
                      // biome-ignore lint/a11y/useKeyWithClickEvents: the grid takes the keys of all cells
                      <td
                        key={periods[column]?.period ?? 'year'}
                        // biome-ignore lint/a11y/noNoninteractiveElementToInteractiveRole: a cell of a grid
                        role="gridcell"
                        data-cell={`${mine}:${column}`}
                        tabIndex={focused ? 0 : -1}
                        aria-selected={isChosen(mine, column)}
                        onClick={(event) => {
                          wantsFocus.current = true;
                          setFocus({ row: mine, column });
                          if (!event.shiftKey) setAnchor({ row: mine, column });
                        }}
                        onFocus={() => {
                          wantsFocus.current = true;
                        }}
                        onDoubleClick={() => setTyping(plainAt(mine, column))}
                        className={`${CELL} cursor-cell outline-none ${isChosen(mine, column) ? 'bg-chosen' : ''} ${focused ? 'shadow-[inset_0_0_0_2px_var(--ink)]' : ''} ${fresh ? 'font-semibold' : ''} ${column === periods.length ? 'text-soft' : ''}`}
                      >
                        {focused && typing !== null ? (
                          <CellEditor
                            label={`${row.label}, ${periods[column]?.period ?? 'year'}`}
                            start={typing}
                            onTake={(written, to) => take(written) && to && move(...to)}
                            onLeave={() => setTyping(null)}
                          />
                        ) : (
                          <Hung>{text === '' ? '' : shortText(text)}</Hung>
                        )}
                      </td>
                    );
                  })}
                  {elsewhere && (
                    <td className={`${CELL} text-faint`}>
                      <Hung>{shortText(row.elsewhere)}</Hung>
                    </td>
                  )}
                </tr>
              );
            })}
          </tbody>
          <tfoot>
            <tr className="font-semibold">
              <th scope="row" className={`${FOOT} left-0 z-20 pl-3 text-left`}>
                Result
              </th>
              {[...results, totalOf(results, digits)].map((result, column) => (
                <td key={periods[column]?.period ?? 'year'} className={`${FOOT} pr-1.5 text-right`}>
                  <Hung>{shortText(result)}</Hung>
                </td>
              ))}
              {elsewhere && <td className={FOOT} />}
            </tr>
          </tfoot>
        </table>
      </div>
      <p role="status" className="mt-1 truncate text-[12.5px] text-soft">
        {here && (
          <>
            <strong className="font-semibold text-ink">
              {here.account} {here.label}, {periods[focus.column]?.period ?? `year ${sheet.year}`}.
            </strong>{' '}
            {statusOf(
              cellsOf(chosen)
                .filter((c) => c.column < periods.length)
                .map((c) => valueAt(c.row, c.column)),
              digits,
            )}
          </>
        )}
      </p>
    </section>
  );
}

const HEAD = 'sticky top-0 z-10 border-b-[1.5px] border-ink bg-sheet py-[5px] font-normal';

const FOOT = 'sticky bottom-0 z-10 border-t border-ink bg-sheet py-[4px]';

const FIRST = 'sticky left-0 z-[5] border-b border-hair bg-sheet py-0 pl-3 text-left leading-[27px]';

const CELL = 'truncate border-b border-hair py-0 pr-1.5 pl-0.5 text-right leading-[27px]';
