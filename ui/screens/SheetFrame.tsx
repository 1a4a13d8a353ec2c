'use client';

import Link from 'next/link';
import { Fragment, type ReactNode, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Pin } from '@/contracts/answers/evidence';
import type { Tie } from '@/contracts/answers/head';
import type { BodySent } from '@/contracts/routes';
import { changed, changedScope, type Screen, type Step, scopeAt, screenPath, traced } from '../address/address';
import { recall, remember } from '../address/memory';
import { countText } from '../amounts';
import { KeepThread } from '../keptThreads/KeepThread';
import { MEASURE } from '../keptThreads/way';
import { ColumnsPanel } from '../panels/ColumnsPanel';
import { ask } from '../query/client';
import { useAnswer, useChange, useNotes, usePins } from '../query/hooks';
import { KeptScopes } from '../scope/KeptScopes';
import { ScopeSentence } from '../scope/ScopeSentence';
import { inOrder, moved } from '../sheet/arrange';
import { columnName } from '../sheet/columnWord';
import type { SheetAt } from '../sheet/features/feature';
import { FEATURES } from '../sheet/features/list';
import { narrow } from '../sheet/features/narrow';
import { Grid } from '../sheet/Grid';
import type { GridHandle } from '../sheet/gridModel';
import { Margin, type MarginItem } from '../sheet/Margin';
import { decorated, marksOf, useMarginItems } from '../sheet/marginItems';
import type { SheetModel } from '../sheet/model';
import { PinDialog } from '../sheet/PinDialog';
import { StatusLine } from '../sheet/StatusLine';
import { Strips, TieMark } from '../sheet/Strips';
import { severalRows } from '../sheet/severalRows';
import { useColumns } from '../sheet/useColumns';
import { useKeys } from '../shell/keys';
import { useMe } from '../shell/Providers';
import { NewerData } from './NewerData';
import { Failure, Nothing } from './NoSheet';
import { splitSheet } from './steps';
import { useSiblings } from './useSiblings';

export interface ScreenProps {
  screen: Screen;
  memoryKey: string;
  go(to: Screen): void;
  replace(to: Screen): void;
}

interface Props extends ScreenProps {
  model: SheetModel;
  /** Under what the arrangement of its columns is kept. */
  sheet: string;
  tools?: ReactNode;
  onFold?(row: number): void;
  onSort?(column: string, also: boolean): void;
  onRange?(first: number, last: number): void;
  above?: ReactNode;
  /** What is below the sheet. @param trace traces a row from a column */
  below?(trace: (row: number, column: string) => void): ReactNode;
}

/** What every sheet has: scope, thread, grid, margin, panels, status line, keys. */
export function SheetFrame({
  screen,
  memoryKey,
  go,
  model: given,
  sheet,
  tools,
  onFold,
  onSort,
  onRange,
  above,
  below,
}: Props) {
  const me = useMe();
  const { columns, layout, arrange, known } = useColumns(sheet, given.columns);
  const model = useMemo(() => ({ ...given, columns }), [given, columns]);
  const depth = screen.steps.length;
  const memory = useRef(recall(memoryKey));
  const firstAmount = Math.max(
    0,
    model.columns.findLastIndex((c) => ['closing', 'balance', 'debit', 'window'].includes(c.key)),
  );
  // Until somebody goes elsewhere the focus is on the sheet's own amount, wherever that comes to be.
  const [focusAsked, setFocus] = useState<{ row: number; column: number } | null>(null);
  // A column that had the focus may have been hidden since.
  const focus = {
    row: focusAsked?.row ?? 0,
    column: Math.min(focusAsked?.column ?? firstAmount, model.columns.length - 1),
  };
  const [scrollTop, setScrollTop] = useState(memory.current.scroll ?? 0);
  const [marginChosen, setMarginOpen] = useState<boolean | null>(null);
  const [draft, setDraft] = useState<MarginItem | null>(null);
  const [openPin, setOpenPin] = useState<Pin | null>(null);
  /** The feature whose panel is open, and those that are open beside or over the sheet. */
  const [panel, setPanel] = useState<string | null>(null);
  const [shown, setShown] = useState<ReadonlySet<string>>(NOTHING_SHOWN);
  const grid = useRef<GridHandle>(null);
  const entities = useMemo(() => scopeAt(screen, depth).getAll('entity'), [screen, depth]);
  const notes = useNotes(entities);
  const pins = usePins(entities);
  const siblings = useSiblings(screen, go);
  // Where the answer is refused the question still is, to be changed.
  const question = useAnswer('GET /sentence', model.error && model.parts.length === 0 ? scopeAt(screen, depth) : null);

  // The margin is level with the grid, whatever strips and tools are above it.
  const sheetBox = useRef<HTMLDivElement>(null);
  const [sheetTop, setSheetTop] = useState(0);
  useLayoutEffect(() => setSheetTop(sheetBox.current?.offsetTop ?? 0));

  // Coming back to a sheet, the row that was left has the focus again.
  const settled = useRef(false);
  useEffect(() => {
    if (settled.current || model.count === 0 || model.loading) return;
    settled.current = true;
    const key = memory.current.row;
    const row = key ? model.indexOf(key) : -1;
    const column = model.columns.findIndex((c) => c.key === memory.current.column);
    if (row >= 0) setFocus({ row, column: column >= 0 ? column : firstAmount });
    if (row >= 0 && memory.current.scroll === undefined) grid.current?.scrollTo(row);
    focusCell();
  });

  const onScroll = useCallback(
    (top: number): void => {
      setScrollTop(top);
      remember(memoryKey, { scroll: top });
    },
    [memoryKey],
  );

  const [chosen, setChosen] = useState<ReadonlySet<number>>(NO_ROWS);
  // Another sheet, or the same one of other rows, begins with none chosen.
  const rowsOf = `${model.label} ${model.count}`;
  const chosenOf = useRef(rowsOf);
  if (chosenOf.current !== rowsOf) {
    chosenOf.current = rowsOf;
    if (chosen.size > 0) setChosen(NO_ROWS);
  }
  const focused = model.rowAt(focus.row);
  const column = model.columns[focus.column]?.key ?? '';
  const several = useMemo(() => severalRows(model, chosen), [model, chosen]);
  // Under a column to compare with a cell is a figure of its own; one calculated from others is about the row.
  const cell = several ? undefined : focused?.figureAt?.(column);
  const row = several?.together ?? (cell && focused ? { ...focused, put: cell.put, subject: cell.subject } : focused);
  const pinIt = useChange(
    (wanted: Pick<BodySent<'POST /pins'>, 'subject' | 'measure' | 'label'>) =>
      ask('POST /pins', { body: { ...wanted, address: screenPath(screen) } }),
    ['/pins'],
  );

  const trace = useCallback(
    (at: { row: number; column: number }, newTab: boolean): void => {
      const from = model.rowAt(at.row);
      const key = model.columns[at.column]?.key ?? '';
      const step = from?.step(key);
      if (!from || !step) return;
      remember(memoryKey, { row: from.key, column: key });
      const to = traced(screen, step);
      if (newTab) window.open(screenPath(to), '_blank');
      else go(to);
    },
    [model, memoryKey, screen, go],
  );

  const measure = cell?.measure ?? (MEASURE[column] === 'closing' ? 'closing' : 'movement');
  const scopeOfRow = useMemo(() => {
    const scope = scopeAt(screen, depth);
    if (row?.put) changedScope(scope, row.put);
    // Beside a sheet the books of a single company are asked in their own currency.
    if (scope.getAll('entity').length === 1) scope.delete('in');
    return scope;
  }, [screen, depth, row]);

  const isPanel = (name: string): boolean => FEATURES.some((f) => f.name === name && f.panel);
  const setOpen = (name: string, open: boolean): void => {
    if (isPanel(name)) setPanel(open ? name : null);
    else setShown(open ? new Set([...shown, name]) : new Set([...shown].filter((n) => n !== name)));
  };
  const isOpen = (name: string): boolean => panel === name || shown.has(name);
  const step = (to: Omit<Step, 'row' | 'column'>): void => {
    if (!row) return;
    remember(memoryKey, { row: row.key, column });
    go(traced(screen, { ...to, row: row.key, column }));
  };
  const at: SheetAt = {
    me,
    screen,
    memoryKey,
    depth,
    model,
    focused,
    focus,
    column,
    several,
    row,
    cell,
    measure,
    scopeOfRow,
    siblings,
    go,
    step,
    linesOf: (more, name) =>
      row?.put && step({ view: 'lines', label: `${row.label}, ${name}`, put: { ...row.put, ...more } }),
    focusRow: (index) => {
      setFocus({ row: index, column: focus.column });
      grid.current?.scrollTo(index);
    },
    focusCell,
    isOpen,
    open: (name) => setOpen(name, true),
    close: (name) => setOpen(name, false),
    toggle: (name) => setOpen(name, !isOpen(name)),
    writeNote: () => {
      if (!row?.subject) return;
      setMarginOpen(true);
      setDraft({
        row: focus.row,
        draft: { subject: row.subject, measure: cell?.measure ?? MEASURE[column] ?? null, label: row.label },
      });
    },
    pin: async (subject, wanted, label) => {
      const pin = await pinIt.mutateAsync({ subject, measure: wanted, label });
      setMarginOpen(true);
      return pin;
    },
    say: (text) => void toast(text),
  };
  useKeys({
    ...Object.fromEntries(FEATURES.flatMap((f) => f.keys.map(({ key, run }) => [key, () => run(at)]))),
    Escape: () => {
      setPanel(null);
      setChosen(NO_ROWS);
    },
  });

  const items = useMarginItems(model, notes.data?.rows, pins.data?.rows, draft);
  const marked = useMemo(() => marksOf(items), [items]);
  // With nothing to show, or lines beside, the margin is a gutter, until somebody opens it.
  const marginOpen = marginChosen ?? (items.length > 0 && !FEATURES.some((f) => f.beside && isOpen(f.name)));
  const besides = FEATURES.filter((f) => f.beside && isOpen(f.name));
  return (
    <>
      <ScopeSentence
        parts={model.parts.length > 0 ? model.parts : model.error ? (question.data?.parts ?? []) : []}
        scope={scopeAt(screen, depth)}
        onChange={(put) => go(changed(screen, put))}
        stale={model.stale}
        adding={isOpen('clause')}
        onAdding={(open) => setOpen('clause', open)}
        onSplit={(split) => go(splitSheet(screen, split))}
        kept={<KeptScopes screen={screen} />}
      />
      <NewerData load={model.load} fixed={scopeAt(screen, depth).has('load')} />
      <div className="flex min-h-0 flex-1 pr-[14px] pl-[26px]">
        <div className="relative flex min-w-0 flex-1 flex-col">
          <div className="border-x border-transparent">
            <Strips
              screen={screen}
              columns={model.columns}
              compared={model.compared}
              siblings={siblings}
              onSibling={siblings.go}
              wait={model.loading}
            />
          </div>
          {above}
          <div className="flex min-h-[30px] shrink-0 items-start gap-x-4 py-1 text-[12.5px] text-soft">
            <div className="flex min-h-[22px] min-w-0 flex-1 flex-wrap items-center gap-x-4 gap-y-1.5">
              {besides.length === 0 && tools}
              {FEATURES.map((f) => (
                <Fragment key={f.name}>{f.tool?.(at)}</Fragment>
              ))}
            </div>
            <span className="leading-[22px]">
              {known && <ColumnsPanel columns={given.columns} layout={layout} onChange={arrange} />}
            </span>
          </div>
          {model.error ? (
            <Failure error={model.error} screen={screen} />
          ) : model.empty && model.count === 0 ? (
            <Nothing empty={model.empty} screen={screen} />
          ) : (
            <div ref={sheetBox} className="flex min-h-0 flex-1 flex-col">
              <Grid
                label={model.label}
                columns={model.columns}
                count={model.count}
                rowAt={(index) => decorated(model.rowAt(index), marked.get(index))}
                total={model.total}
                focus={focus}
                onFocus={setFocus}
                chosen={chosen}
                onChoose={setChosen}
                onTrace={trace}
                {...(onFold ? { onFold } : {})}
                {...(onSort ? { onSort, sort: screen.options.sort ?? 'date' } : {})}
                onScroll={onScroll}
                {...(onRange ? { onRange } : {})}
                startAt={memory.current.scroll}
                fit={layout.fit || besides.length > 0}
                onResize={(key, px) => {
                  const { [key]: _former, ...widths } = layout.widths;
                  arrange({ ...layout, widths: px === null ? widths : { ...widths, [key]: px } });
                }}
                onMove={(key, to) =>
                  arrange({ ...layout, order: moved(inOrder(given.columns, layout.order), key, to) })
                }
                handle={grid}
                stale={model.stale}
              />
            </div>
          )}
          {below?.((row, column) => trace({ row, column: model.columns.findIndex((c) => c.key === column) }, false))}
          {FEATURES.find((f) => f.name === panel)?.panel?.(at)}
        </div>
        {besides.map((f) => (
          <Fragment key={f.name}>{f.beside?.(at)}</Fragment>
        ))}
        <Margin
          items={items}
          scrollTop={scrollTop - sheetTop}
          open={marginOpen}
          onOpen={setMarginOpen}
          onDraftDone={() => setDraft(null)}
          address={screenPath(screen)}
          onPin={setOpenPin}
        />
      </div>
      <div className="h-2 shrink-0" />
      <StatusLine
        title={
          several
            ? `${several.rows.length} rows chosen.`
            : row
              ? `${row.label}${model.columns[focus.column]?.amount ? `, ${columnName(model, focus.column)}` : ''}.`
              : ''
        }
        text={
          several
            ? several.says(column, model.columns[focus.column]?.label ?? '')
            : row?.standsOut
              ? row.standsOut.join('; ')
              : (row?.say(column) ?? '')
        }
        right={
          <>
            {row?.count !== undefined && (
              <span>
                {countText(row.count)} {row.count === 1 ? 'line' : 'lines'}
              </span>
            )}
            <span>{model.tie}</span>
            {!several &&
              row?.links?.map((link) => (
                <Link
                  key={link.href}
                  href={link.href}
                  className="underline decoration-rule underline-offset-2 hover:text-ink"
                >
                  {link.name}
                </Link>
              ))}
            {several?.together && (
              <button
                type="button"
                className="cursor-pointer underline decoration-rule underline-offset-2 hover:text-ink"
                onClick={() => narrow(at, 'only')}
              >
                Only these
              </button>
            )}
            {!several && row?.step(column) && <span>Enter traces</span>}
            <KeepThread screen={screen} />
            <button type="button" onClick={() => setOpen('keys', true)} className="cursor-pointer hover:text-ink">
              ? keys
            </button>
          </>
        }
      />
      {openPin && <PinDialog pin={openPin} onClose={() => setOpenPin(null)} />}
      {FEATURES.filter((f) => f.dialog && isOpen(f.name)).map((f) => (
        <Fragment key={f.name}>{f.dialog?.(at)}</Fragment>
      ))}
    </>
  );
}

/** The keyboard to the sheet's focused cell, unless somebody is writing or choosing. */
const focusCell = (): void =>
  void requestAnimationFrame(() => {
    if (document.activeElement?.closest('input, textarea, select, [role=dialog]')) return;
    document.querySelector<HTMLElement>('[role=gridcell][tabindex="0"]')?.focus({ preventScroll: true });
  });

const NO_ROWS: ReadonlySet<number> = new Set();
const NOTHING_SHOWN: ReadonlySet<string> = new Set();

export const ties = (tie: Tie | null | undefined, what?: string): ReactNode =>
  tie ? <TieMark tie={tie} {...(what ? { what } : {})} /> : null;
