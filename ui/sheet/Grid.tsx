'use client';

import { type KeyboardEvent, type ReactNode, useEffect, useImperativeHandle, useRef, useState } from 'react';
import { TickShape } from '../evidence/TickShape';
import { CellView } from './CellView';
import type { Cell } from './cell';
import { Head } from './GridHead';
import { gridAct } from './gridKeys';
import { between, type Column, type Focus, type GridHandle, type GridRow, type RowMark } from './gridModel';
import { INK } from './ink';
import { type Editing, useEditing } from './useEditing';
import { ROW_PX, useRows } from './useRows';
import { useWidthOf } from './useWidth';

/** Heads of two lines. */
const HEAD_PX = 44;

interface Props {
  label: string;
  columns: Column[];
  /** Key of the column in which the traced figure is the sum of the rows. */
  traced?: string | undefined;
  count: number;
  rowAt(index: number): GridRow | undefined;
  /** Amounts by column, and under `label` what they are the total of. */
  total?: Record<string, Cell> | undefined;
  /** Whether the total takes the focus, as the row below the last. */
  totalFocusable?: boolean;
  focus: Focus;
  onFocus(focus: Focus): void;
  onTrace?(focus: Focus, newTab: boolean): void;
  onFold?(row: number): void;
  /** @param also after what it is sorted by already */
  onSort?(column: string, also: boolean): void;
  sort?: string | undefined;
  /** @param byHand whether somebody scrolled, and the sheet did not by itself */
  onScroll?(top: number, byHand: boolean): void;
  onRange?(first: number, last: number): void;
  startAt?: number | undefined;
  /** Rows that are chosen together. */
  chosen?: ReadonlySet<number>;
  onChoose?(rows: ReadonlySet<number>): void;
  /** Whether all columns are made to fit. */
  fit?: boolean;
  /** A column was pulled to so many pixels; null: back to its own width. */
  onResize?(column: string, pixels: number | null): void;
  /** A column was dropped in the place of another. */
  onMove?(column: string, to: string): void;
  handle?: React.Ref<GridHandle>;
  stale?: boolean;
  /** Its rows are still awaited. */
  loading?: boolean;
  /** Makes its cells ones that are written in. */
  editing?: Editing;
}

/** The one grid of all sheets: WAI-ARIA grid pattern, rows drawn only where seen, the total always in view. */
export function Grid({
  label,
  columns,
  traced,
  count,
  rowAt,
  total,
  totalFocusable = false,
  focus,
  onFocus,
  onTrace,
  onFold,
  onSort,
  sort,
  onScroll,
  onRange,
  startAt,
  chosen,
  onChoose,
  fit = false,
  onResize,
  onMove,
  handle,
  stale,
  loading = false,
  editing,
}: Props) {
  const scroller = useRef<HTMLDivElement>(null);
  const whole = useRef<HTMLDivElement>(null);
  // Until there is a cell to have the keyboard, the sheet has it.
  useEffect(() => {
    if (loading && document.activeElement === document.body) whole.current?.focus({ preventScroll: true });
  }, [loading]);
  const takeFocus = useRef(false);
  // The heads push the rows down, and the total covers the last of them.
  const rows = useRows(scroller, count, HEAD_PX + (total ? ROW_PX : 0), startAt ?? 0, onScroll);
  const { first, last, scrollTo } = rows;
  useEffect(() => onRange?.(first, last), [first, last, onRange]);
  useImperativeHandle(handle, () => ({ scrollTo }), [scrollTo]);
  // The cell that had the keyboard is no longer drawn where somebody scrolled away from it: the sheet has it meanwhile.
  useEffect(() => {
    const isAway = focus.row < count && (focus.row < first || focus.row > last);
    if (isAway && document.activeElement === document.body) whole.current?.focus({ preventScroll: true });
  }, [first, last, focus.row, count]);

  // The focused cell may only come to be drawn after scrolling to it.
  useEffect(() => {
    if (!takeFocus.current) return;
    const within = focus.row === count && focus.column < spannedBy(columns) ? 0 : focus.column;
    const cell = scroller.current?.querySelector<HTMLElement>(`[data-cell="${focus.row}:${within}"]`);
    if (!cell) return;
    takeFocus.current = false;
    cell.focus({ preventScroll: true });
  });

  const inner = useWidthOf(scroller);
  // The focused cell is in sight sideways too, also where the sheet has become narrower, as beside an open margin.
  useEffect(() => {
    const cell = inner > 0 && scroller.current?.querySelector(`[data-cell="${focus.row}:${focus.column}"]`);
    if (cell && scroller.current) intoSightSideways(scroller.current, cell);
  }, [inner, focus.row, focus.column]);

  const rowsToFocus = count + (total && totalFocusable && count > 0 ? 1 : 0);
  // Where a choice of several rows began.
  const anchor = useRef(focus.row);
  // Where the focus was put from outside, such as by a search, a choice begins anew.
  const placed = useRef(focus.row);
  if (placed.current !== focus.row) {
    placed.current = focus.row;
    anchor.current = focus.row;
  }
  const choose = (row: number, way: 'from anchor' | 'toggle'): void => {
    // The total is no row to be chosen with others.
    const [low, high] = [Math.min(anchor.current, row, count - 1), Math.min(count - 1, Math.max(anchor.current, row))];
    const next = way === 'toggle' ? new Set(chosen) : new Set(between(low, high));
    if (way === 'toggle' && !next.delete(row)) next.add(row);
    onChoose?.(next);
  };
  const move = (row: number, column: number, stretch = false): void => {
    const there = Math.max(0, Math.min(rowsToFocus - 1, row));
    const to = {
      row: edits?.rowFrom(there, rowsToFocus) ?? there,
      column: Math.max(0, Math.min(columns.length - 1, column)),
    };
    takeFocus.current = true;
    placed.current = to.row;
    scrollTo(Math.min(to.row, count - 1));
    onFocus(to);
    edits?.focused(to, stretch);
    if (stretch) choose(to.row, 'from anchor');
    else anchor.current = to.row;
  };
  const edits = useEditing(editing, focus, ({ row, column }) => move(row, column));

  const onKey = (event: KeyboardEvent): void => {
    if (edits?.onKey(event)) return;
    const { folded } = rowAt(focus.row) ?? {};
    const act = gridAct(event, {
      focus,
      rows: rowsToFocus,
      columns: columns.length,
      folded: onFold ? folded : null,
      ofCells: edits !== undefined,
    });
    if (!act) return;
    event.preventDefault();
    if (act.is === 'move') move(act.to.row, act.to.column, act.stretch);
    else if (act.is === 'fold') onFold?.(focus.row);
    else if (act.is === 'trace') onTrace?.(focus, act.newTab);
    else choose(focus.row, 'toggle');
  };

  const [pulled, setPulled] = useState<{ key: string; px: number } | null>(null);
  const own = columns.map((c) => (pulled?.key === c.key ? `${pulled.px}px` : c.width));
  // Narrower than this, the sheet scrolls sideways instead of cutting amounts off.
  const needed = own.reduce((px, width) => px + leastOf(width), 16);
  // Made to fit, a column of amounts keeps the room that it likes best: smaller, but never cut off.
  const roomy = own.map((width, i) => (columns[i]?.amount ? `${mostOf(width)}px` : width));
  const wished = roomy.reduce((px, width) => px + leastOf(width), 16);
  const zoom = fit && inner > 0 ? Math.min(1, Math.max(LEAST_ZOOM, inner / wished)) : 1;
  const minWidth = zoom === 1 ? needed : wished * zoom;
  const template = (
    zoom === 1
      ? own
      : roomy.map((width) => width.replace(/\d+px/g, (px) => `${Math.floor(Number.parseInt(px, 10) * zoom)}px`))
  ).join(' ');
  // The label of the total takes the place of all that is before the first amount.
  const spanned = spannedBy(columns);

  return (
    // biome-ignore lint/a11y/useSemanticElements: a virtualised grid cannot be a table element
    <div
      role="grid"
      aria-label={label}
      aria-rowcount={count + 2}
      aria-colcount={columns.length}
      aria-busy={stale || loading}
      ref={whole}
      tabIndex={-1}
      onKeyDown={(event) => event.target === event.currentTarget && onKey(event)}
      className="flex min-h-0 flex-1 flex-col border border-rule bg-sheet outline-none"
      style={zoom === 1 ? undefined : { fontSize: 14 * zoom }}
    >
      <div
        ref={scroller}
        onScroll={rows.onScroll}
        className={`relative min-h-0 flex-1 overflow-auto ${stale ? 'opacity-60' : ''}`}
        data-testid="sheet-scroller"
      >
        {/* biome-ignore lint/a11y/useSemanticElements: see above */}
        <div
          role="row"
          aria-rowindex={1}
          tabIndex={-1}
          className="sticky top-0 z-10 grid border-b-[1.5px] border-ink bg-sheet px-1.5 text-[12.5px] text-soft"
          style={{ gridTemplateColumns: template, minWidth }}
        >
          {columns.map((c) => (
            <Head
              key={c.key}
              column={c}
              isTraced={c.key === traced}
              sort={sort}
              onSort={onSort}
              onPull={onResize && ((px) => setPulled({ key: c.key, px }))}
              onPulled={(px) => {
                setPulled(null);
                onResize?.(c.key, px);
              }}
              onMove={c === columns[0] ? undefined : onMove}
            />
          ))}
        </div>
        {/* biome-ignore lint/a11y/useSemanticElements: see above */}
        <div
          role="rowgroup"
          onKeyDown={onKey}
          onCopy={edits?.onCopy}
          onPaste={edits?.onPaste}
          className="relative"
          style={{ height: rows.height, minWidth }}
        >
          {between(first, last).map((index) => {
            const row = rowAt(index);
            const heading = row?.look === 'heading';
            return (
              // biome-ignore lint/a11y/useSemanticElements: see above
              <div
                key={index}
                role="row"
                aria-rowindex={index + 2}
                aria-selected={chosen?.has(index)}
                tabIndex={-1}
                className={`absolute left-0 grid w-full border-b border-hair px-1.5 ${chosen?.has(index) ? 'bg-chosen shadow-[inset_3px_0_0_var(--ink)]' : row?.look === 'marked' ? 'bg-chosen' : row?.look === 'proposed' ? `${focus.row === index ? 'bg-chosen' : 'bg-proposed'} shadow-[inset_3px_0_0_var(--preparer)]` : focus.row === index ? 'bg-chosen/60' : ''} ${row?.look === 'quiet' ? 'text-soft' : ''} ${row?.look === 'subtotal' ? 'border-t border-t-ink font-semibold' : ''} ${row?.look === 'total' ? 'border-t border-t-ink border-b-[3px] border-b-ink border-double font-semibold' : ''}`}
                style={{ top: rows.topOf(index), height: ROW_PX, gridTemplateColumns: template }}
              >
                {columns.map((c, i) => {
                  const focused = focus.row === index && focus.column === i;
                  const cell = { row: index, column: i };
                  const editor = edits?.editorAt(cell);
                  return (
                    // biome-ignore lint/a11y/useSemanticElements: see above
                    // biome-ignore lint/a11y/useKeyWithClickEvents: the rowgroup takes the keys of all cells
                    <div
                      key={c.key}
                      role="gridcell"
                      data-cell={`${index}:${i}`}
                      tabIndex={focused ? 0 : -1}
                      aria-colindex={i + 1}
                      aria-selected={edits?.isChosen(cell)}
                      onClick={(event) => {
                        if (editor) return;
                        event.currentTarget.focus({ preventScroll: true });
                        placed.current = index;
                        onFocus(cell);
                        edits?.focused(cell, event.shiftKey);
                        if (event.shiftKey) choose(index, 'from anchor');
                        else {
                          anchor.current = index;
                          if (event.ctrlKey || event.metaKey) choose(index, 'toggle');
                        }
                      }}
                      onDoubleClick={() => (edits ? edits.begin(cell) : onTrace?.(cell, false))}
                      className={`group/cell flex min-w-0 cursor-default items-center leading-[27px] outline-none ${c.amount ? 'justify-end pr-2 pl-1' : 'px-1.5'} ${edits?.isChosen(cell) ? 'bg-chosen' : ''} ${focused ? 'shadow-[inset_0_0_0_2px_var(--ink)]' : ''} ${heading && i === 0 ? 'font-book text-[15px] font-semibold' : ''} ${c.key === traced ? THREADED : ''}`}
                      style={i === 0 ? { paddingLeft: indentOf(row) } : undefined}
                    >
                      {i === 0 && row?.marks && <Marks marks={row.marks} room={MARK_PX + indentOf(row) - 6} />}
                      {i === 0 && row && row.folded !== undefined && row.folded !== null && (
                        <button
                          type="button"
                          tabIndex={-1}
                          aria-label={row.folded ? 'Unfold' : 'Fold'}
                          title={`${row.folded ? 'Unfolds' : 'Folds'} what is beneath it (Space)`}
                          className="mr-1 w-4 shrink-0 cursor-pointer text-[11px] text-soft"
                          onClick={() => onFold?.(index)}
                        >
                          {row.folded ? '▸' : '▾'}
                        </button>
                      )}
                      <span
                        className={`truncate ${c.amount && row?.opens ? 'decoration-rule decoration-1 underline-offset-[5px] group-hover/cell:underline' : ''}`}
                      >
                        {editor ? (
                          editor
                        ) : row ? (
                          <CellView cell={row.cells[c.key]} amount={c.amount ?? false} />
                        ) : i === 0 ? (
                          <span className="text-faint">…</span>
                        ) : null}
                      </span>
                    </div>
                  );
                })}
              </div>
            );
          })}
        </div>
        {loading && count === 0 && <p className="px-3 py-2 text-soft">Reading …</p>}
        {total && (
          // biome-ignore lint/a11y/useSemanticElements: see above
          <div
            role="row"
            onKeyDown={onKey}
            aria-rowindex={count + 2}
            tabIndex={-1}
            className="sticky bottom-0 z-10 grid border-b-[3px] border-double border-ink bg-sheet px-1.5 font-semibold"
            style={{ gridTemplateColumns: template, minWidth }}
          >
            <TotalCell
              at={{ row: count, column: 0 }}
              span={spanned}
              focused={focus.row === count && focus.column < spanned}
              onFocus={totalFocusable ? onFocus : undefined}
              onTrace={onTrace}
            >
              <CellView cell={total.label} amount={false} />
            </TotalCell>
            {columns.slice(spanned).map((c, i) => (
              <TotalCell
                key={c.key}
                at={{ row: count, column: spanned + i }}
                focused={focus.row === count && focus.column === spanned + i}
                amount
                thread={c.key === traced}
                onFocus={totalFocusable ? onFocus : undefined}
                onTrace={onTrace}
              >
                {c.amount && <CellView cell={total[c.key]} amount />}
              </TotalCell>
            ))}
          </div>
        )}
      </div>
    </div>
  );
}

/** How many columns the label of the total is over: all before the first amount. */
function spannedBy(columns: readonly Column[]): number {
  const labelled = columns.findIndex((c) => c.amount);
  return labelled < 0 ? columns.length : Math.max(1, labelled);
}

/** The red thread through the column in which the traced figure is the sum of the rows. */
const THREADED =
  'relative before:absolute before:inset-y-[-1px] before:left-[3px] before:w-[2px] before:bg-thread before:content-[""]';

/** A cell of the total: its label, or an amount. */
function TotalCell({
  at,
  span = 1,
  focused,
  amount = false,
  thread = false,
  onFocus,
  onTrace,
  children,
}: {
  at: Focus;
  span?: number;
  focused: boolean;
  amount?: boolean;
  thread?: boolean;
  onFocus: ((at: Focus) => void) | undefined;
  onTrace: ((at: Focus, newTab: boolean) => void) | undefined;
  children: ReactNode;
}) {
  return (
    // biome-ignore lint/a11y/useSemanticElements: see above
    // biome-ignore lint/a11y/useKeyWithClickEvents: the row takes the keys of all cells
    <div
      role="gridcell"
      data-cell={`${at.row}:${at.column}`}
      tabIndex={focused && onFocus ? 0 : -1}
      onClick={(event) => {
        event.currentTarget.focus({ preventScroll: true });
        onFocus?.(at);
      }}
      onDoubleClick={() => onFocus && onTrace?.(at, false)}
      className={`truncate leading-[28px] outline-none ${amount ? 'pr-2 text-right' : 'pl-1.5'} ${focused && onFocus ? 'shadow-[inset_0_0_0_2px_var(--ink)]' : ''} ${thread ? THREADED : ''}`}
      style={span > 1 ? { gridColumn: `span ${span}` } : undefined}
    >
      {children}
    </div>
  );
}

const MARK_PX = 11;
const MARK_GAP_PX = 3;

/** In the edge of the row, so that names stay in line; where a row is set in there is room for more than one. */
const Marks = ({ marks, room }: { marks: readonly RowMark[]; room: number }) => (
  <span
    className="flex shrink-0 text-[12px] font-semibold"
    style={{
      marginLeft: -Math.min(room, marks.length * MARK_PX + MARK_GAP_PX),
      paddingRight: room < marks.length * MARK_PX + MARK_GAP_PX ? 0 : MARK_GAP_PX,
    }}
  >
    {marks.map(({ sign, drawn, says, why, ink }) => (
      <span
        key={`${sign}${drawn ?? ''}`}
        className={`w-[11px] ${drawn ? 'flex items-center' : ''} ${ink ? INK[ink] : 'text-warn'}`}
        title={why ?? says}
      >
        {drawn ? <TickShape shape={drawn} size={10} /> : <span aria-hidden>{sign}</span>}
        <span className="sr-only">{says} </span>
      </span>
    ))}
  </span>
);

/** What is left between a cell that was scrolled to and the edge. */
const EDGE_PX = 8;

function intoSightSideways(scroller: Element, cell: Element): void {
  const [box, own] = [scroller.getBoundingClientRect(), cell.getBoundingClientRect()];
  if (own.right > box.right) scroller.scrollLeft += own.right - box.right + EDGE_PX;
  else if (own.left < box.left) scroller.scrollLeft -= box.left - own.left + EDGE_PX;
}

/** The least and the most pixels of a width as "minmax(96px, 110px)". */
const leastOf = (width: string): number => Number(/(\d+)px/.exec(width)?.[1] ?? 0);

const mostOf = (width: string): number => Number(/(\d+)px\)?$/.exec(width)?.[1] ?? leastOf(width));

/** Smaller than 12 of 14 pixels nobody reads it; a sheet that is wider still scrolls sideways. */
const LEAST_ZOOM = 12 / 14;

/** How far a row's name is set in: beneath the name of what can be folded, not beneath its arrow. */
function indentOf(row: GridRow | undefined): number {
  const depth = row?.depth ?? 0;
  return 6 + depth * 12 + (depth > 0 && row?.folded === null ? 20 : 0);
}
