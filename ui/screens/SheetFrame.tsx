'use client';

import Link from 'next/link';
import { type ReactNode, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import type { Pin } from '@/contracts/answers/evidence';
import type { Tie } from '@/contracts/answers/head';
import type { BodySent } from '@/contracts/routes';
import { allBut, backTo, changed, changedScope, type Screen, scopeAt, screenPath, traced } from '../address/address';
import { recall, remember } from '../address/memory';
import { amountText, countText } from '../amounts';
import { KeepThread } from '../keptThreads/KeepThread';
import { MEASURE } from '../keptThreads/way';
import { BesidePanel } from '../panels/BesidePanel';
import { ColumnsPanel } from '../panels/ColumnsPanel';
import { MarksPanel } from '../panels/MarksPanel';
import { OtherSidePanel } from '../panels/OtherSidePanel';
import { OverTimePanel } from '../panels/OverTimePanel';
import { UsualAccountsPanel } from '../panels/UsualAccountsPanel';
import { WhatMovedPanel } from '../panels/WhatMovedPanel';
import { ask } from '../query/client';
import { useAnswer, useChange, useNotes, usePins } from '../query/hooks';
import { KeptScopes } from '../scope/KeptScopes';
import { ScopeSentence } from '../scope/ScopeSentence';
import { inOrder, moved } from '../sheet/arrange';
import { FindInSheet } from '../sheet/FindInSheet';
import { Grid, type GridHandle } from '../sheet/Grid';
import { Margin, type MarginItem } from '../sheet/Margin';
import { decorated, marksOf, useMarginItems } from '../sheet/marginItems';
import type { SheetModel } from '../sheet/model';
import { PinDialog } from '../sheet/PinDialog';
import { SplitChooser } from '../sheet/SplitChooser';
import { StatusLine } from '../sheet/StatusLine';
import { Strips, TieMark } from '../sheet/Strips';
import { severalRows } from '../sheet/severalRows';
import { useColumns } from '../sheet/useColumns';
import { KeysDialog } from '../shell/KeysDialog';
import { useKeys } from '../shell/keys';
import { useMe } from '../shell/Providers';
import { NewerData } from './NewerData';
import { Failure, Nothing } from './NoSheet';
import { entryStep, splitSheet } from './steps';
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
  const [panel, setPanel] = useState<'other' | 'time' | 'moved' | 'marks' | 'usual' | null>(null);
  const toggle = (wanted: typeof panel): void => setPanel(panel === wanted ? null : wanted);
  const [beside, setBeside] = useState(false);
  const [keysShown, setKeysShown] = useState(false);
  const [adding, setAdding] = useState(false);
  const [splitting, setSplitting] = useState(false);
  const [finding, setFinding] = useState(false);
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

  /** From a panel to the lines of a part of the focused figure. */
  const openFrom = (more: Record<string, string[]>, name: string): void => {
    if (!row?.put) return;
    remember(memoryKey, { row: row.key, column });
    go(
      traced(screen, {
        view: 'lines',
        label: `${row.label}, ${name}`,
        row: row.key,
        column,
        put: { ...row.put, ...more },
      }),
    );
  };
  const measure = cell?.measure ?? (MEASURE[column] === 'closing' ? 'closing' : 'movement');

  const marksAt = model.standingOut ?? [];
  const focusRow = (at: number): void => {
    setFocus({ row: at, column: focus.column });
    grid.current?.scrollTo(at);
  };
  /** To the next or the former row that stands out, round and round. */
  const walkMarks = (way: 1 | -1): void => {
    if (marksAt.length === 0) return void toast('No row of this sheet stands out by the rules of the workspace.');
    const next = way === 1 ? marksAt.find((i) => i > focus.row) : marksAt.findLast((i) => i < focus.row);
    focusRow(next ?? (marksAt.at(way === 1 ? 0 : -1) as number));
  };

  /** The scope with only what the cell, or the chosen rows, stand for; or with all but that. */
  const narrow = (way: 'only' | 'but'): void => {
    if (several && !several.together) return void toast(APART);
    const put = several ? row?.put : (focused?.only?.(column) ?? focused?.put);
    if (!put) return void toast('There is nothing in this cell to narrow the scope by.');
    const next = way === 'only' ? put : allBut(scopeAt(screen, depth), put);
    if (!next) return void toast('All but this cannot be said in one clause; take the rows that are to stay instead.');
    go(changed(screen, next));
  };

  const pinRow = async (): Promise<void> => {
    if (!row?.subject) return;
    if (me.role === 'reader') return void toast('A reader cannot pin evidence; ask a preparer.');
    if (cell === null) return void toast('This column is reckoned from other figures; pin one of those.');
    const measure = cell?.measure ?? MEASURE[column] ?? 'closing';
    const named = COLUMN_WORD[column] ?? model.columns[focus.column]?.label.toLowerCase() ?? column;
    try {
      const pin = await pinIt.mutateAsync({ subject: row.subject, measure, label: `${row.label}, ${named}` });
      setMarginOpen(true);
      toast(`Pinned ${amountText(pin.value)} with ${countText(pin.lines)} ${pin.lines === 1 ? 'line' : 'lines'}`);
    } catch (problem) {
      toast((problem as Error).message);
    }
  };

  const writeNote = (): void => {
    if (!row?.subject) return;
    setMarginOpen(true);
    setDraft({
      row: focus.row,
      draft: { subject: row.subject, measure: cell?.measure ?? MEASURE[column] ?? null, label: row.label },
    });
  };

  useKeys({
    Backspace: () => depth > 0 && go(backTo(screen, depth - 1)),
    '[': () => siblings.go(-1),
    ']': () => siblings.go(1),
    n: writeNote,
    p: () => void pinRow(),
    o: () => toggle('other'),
    g: () => toggle('time'),
    w: () => toggle('moved'),
    u: () =>
      focused?.party || panel === 'usual'
        ? toggle('usual')
        : void toast('This row names no party, whose usual accounts could be told.'),
    f: () => setFinding(true),
    m: () => walkMarks(1),
    M: () => walkMarks(-1),
    s: () => (several && !several.together ? void toast(APART) : row?.put && setSplitting(true)),
    b: () => {
      setBeside(!beside);
      requestAnimationFrame(() => grid.current?.scrollTo(focus.row));
    },
    e: () => narrow('only'),
    x: () => narrow('but'),
    '/': () => setAdding(true),
    '?': () => setKeysShown(true),
    Escape: () => {
      setPanel(null);
      setChosen(NO_ROWS);
    },
  });

  const items = useMarginItems(model, notes.data?.rows, pins.data?.rows, draft);
  const marked = useMemo(() => marksOf(items), [items]);
  // With nothing to show, or lines beside, the margin is a gutter, until somebody opens it.
  const marginOpen = marginChosen ?? (items.length > 0 && !beside);
  const stepHere = focused?.step(column) ?? null;
  const besideStep = stepHere?.view === 'entry' ? null : stepHere;
  const scopeOfRow = useMemo(() => {
    const scope = scopeAt(screen, depth);
    if (row?.put) changedScope(scope, row.put);
    // Beside a sheet the books of a single company are asked in their own currency.
    if (scope.getAll('entity').length === 1) scope.delete('in');
    return scope;
  }, [screen, depth, row]);

  return (
    <>
      <ScopeSentence
        parts={model.parts.length > 0 ? model.parts : model.error ? (question.data?.parts ?? []) : []}
        scope={scopeAt(screen, depth)}
        onChange={(put) => go(changed(screen, put))}
        stale={model.stale}
        adding={adding}
        onAdding={setAdding}
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
              {!beside && tools}
              {finding && (
                <FindInSheet
                  model={model}
                  from={focus.row}
                  onFound={focusRow}
                  onClose={() => {
                    setFinding(false);
                    focusCell();
                  }}
                />
              )}
              {marksAt.length > 0 && (
                <button
                  type="button"
                  className="cursor-pointer whitespace-nowrap text-warn hover:underline"
                  onClick={() => toggle('marks')}
                >
                  ! {marksAt.length} {marksAt.length === 1 ? 'stands' : 'stand'} out
                </button>
              )}
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
                fit={layout.fit || beside}
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
          {panel === 'marks' && (
            <MarksPanel
              model={model}
              rows={marksAt}
              focused={focus.row}
              onFocus={focusRow}
              onClose={() => setPanel(null)}
            />
          )}
          {panel === 'other' && row?.put && (
            <OtherSidePanel
              scope={scopeOfRow}
              label={row.label}
              onAccount={(account, name) => openFrom({ opposite: [account] }, `${account} ${name} opposite`)}
              onClose={() => setPanel(null)}
            />
          )}
          {panel === 'time' && row?.put && (
            <OverTimePanel
              scope={scopeOfRow}
              label={row.label}
              measure={measure}
              onPeriod={(period, name) => openFrom({ from: [period], to: [period] }, name)}
              onWindow={(from, to) => go(changed(screen, { from: [from], to: [to], window: [] }))}
              onClose={() => setPanel(null)}
            />
          )}
          {panel === 'usual' && focused?.party && (
            <UsualAccountsPanel
              party={focused.party}
              label={focused.label}
              onAccount={(put, name) => {
                remember(memoryKey, { row: focused.key, column });
                go(traced(screen, { view: 'lines', label: name, row: focused.key, column, put }));
              }}
              onClose={() => setPanel(null)}
            />
          )}
          {panel === 'moved' && row?.put && (
            <WhatMovedPanel
              scope={scopeOfRow}
              label={row.label}
              measure={measure}
              onMember={(put, name) => openFrom(put, name)}
              onSplit={(by) =>
                go(traced(screen, { view: 'split', by, label: row.label, row: row.key, column, put: row.put ?? {} }))
              }
              onClose={() => setPanel(null)}
            />
          )}
        </div>
        {beside && (
          <BesidePanel
            scope={besideStep && scopeAt(traced(screen, besideStep), depth + 1)}
            label={besideStep?.label ?? row?.label ?? ''}
            onLine={(line) => {
              if (!besideStep || !focused) return;
              remember(memoryKey, { row: focused.key, column });
              go(traced(traced(screen, { ...besideStep, view: 'lines' }), entryStep(line)));
            }}
            onClose={() => setBeside(false)}
          />
        )}
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
              ? `${row.label}${model.columns[focus.column]?.amount ? `, ${COLUMN_WORD[column] ?? model.columns[focus.column]?.label}` : ''}.`
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
                onClick={() => narrow('only')}
              >
                Only these
              </button>
            )}
            {!several && row?.step(column) && <span>Enter traces</span>}
            <KeepThread screen={screen} />
            <button type="button" onClick={() => setKeysShown(true)} className="cursor-pointer hover:text-ink">
              ? keys
            </button>
          </>
        }
      />
      {openPin && <PinDialog pin={openPin} onClose={() => setOpenPin(null)} />}
      {keysShown && <KeysDialog onClose={() => setKeysShown(false)} />}
      {splitting && row?.put && (
        <SplitChooser
          row={row}
          column={column}
          screen={screen}
          scope={scopeOfRow}
          translated={model.translated ?? false}
          onChosen={go}
          onClose={() => setSplitting(false)}
        />
      )}
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
const APART = 'These rows differ in more than one thing; choose rows of one kind to take them together.';

const COLUMN_WORD: Record<string, string> = {
  opening: 'opening balance',
  debit: 'debits',
  credit: 'credits',
  closing: 'closing balance',
  balance: 'balance',
  movement: 'movement',
  yearToDate: 'year to date',
};

export const ties = (tie: Tie | null | undefined, what?: string): ReactNode =>
  tie ? <TieMark tie={tie} {...(what ? { what } : {})} /> : null;
