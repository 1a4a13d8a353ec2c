'use client';

import { Fragment, type ReactNode, useCallback, useEffect, useLayoutEffect, useMemo, useRef, useState } from 'react';
import type { EvidenceFile, Pin } from '@/contracts/answers/evidence';
import { canBeKept, changed, type Screen, scopeAt, screenPath } from '../address/address';
import { remember } from '../address/memory';
import { useAttach } from '../evidence/useAttach';
import { useEvidence } from '../evidence/useEvidence';
import { ColumnsPanel } from '../panels/ColumnsPanel';
import { later } from '../parts/later';
import { useAnswer, useThread } from '../query/hooks';
import { KeptScopes } from '../scope/KeptScopes';
import { ScopeSentence } from '../scope/ScopeSentence';
import { reordered } from '../sheet/arrange';
import { copyFigure, dropFiles, pasteFiles } from '../sheet/carry';
import type { FeatureKey } from '../sheet/features/feature';
import { FEATURES } from '../sheet/features/list';
import { Grid } from '../sheet/Grid';
import type { GridHandle } from '../sheet/gridModel';
import { Margin } from '../sheet/Margin';
import { decorated, type MarginItem, marksOf, useMarginItems } from '../sheet/marginItems';
import type { SheetModel, SheetRow } from '../sheet/model';
import { SheetStatus } from '../sheet/SheetStatus';
import { Strips } from '../sheet/Strips';
import { useFocus } from '../sheet/useFocus';
import { type Folding, turned } from '../sheet/useFolding';
import { useGridState } from '../sheet/useGridState';
import { useOpened } from '../sheet/useOpened';
import { widestOf } from '../sheet/width';
import { doWhatWasPressed } from '../shell/early';
import { useKeys } from '../shell/keys';
import { useMe } from '../shell/me';
import { NewerData } from './NewerData';
import { Failure, NoLines, Nothing } from './NoSheet';
import { splitSheet } from './steps';
import { useSheetAt } from './useSheetAt';
import { useSiblings } from './useSiblings';

const FileBeside = later(() => import('../evidence/FileBeside').then((m) => m.FileBeside));
const AskScope = later(() => import('./AskScope').then((m) => m.AskScope));
const PinDialog = later(() => import('../sheet/PinDialog').then((m) => m.PinDialog));

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
  /** Which of its rows are unfolded, where there is anything to fold. */
  folding?: Folding;
  onSort?(column: string, also: boolean): void;
  onRange?(first: number, last: number): void;
  above?: ReactNode;
  /** What is told below the sheet of the focused row. */
  foot?(row: SheetRow | undefined): ReactNode;
  /** Keys that this sheet alone has, in place of those that every sheet has. */
  keys?: readonly FeatureKey[];
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
  folding,
  onSort,
  onRange,
  above,
  foot,
  keys = NO_KEYS,
  below,
}: Props) {
  const { table, columns, layout, arrange, known, chosen, choose } = useGridState(sheet, given.columns, folding);
  const model = useMemo(() => withWhole({ ...given, columns }), [given, columns]);
  const widest = useMemo(() => widestOf(columns), [columns]);
  const scope = useMemo(() => scopeAt(screen, screen.steps.length), [screen]);
  const grid = useRef<GridHandle>(null);
  const { focus, setFocus, scrolled, scrolledAway } = useFocus(model, memoryKey, grid);
  const [scrollTop, setScrollTop] = useState(scrolled ?? 0);
  const [marginChosen, setMarginOpen] = useState<boolean | null>(null);
  const [draft, setDraft] = useState<MarginItem | null>(null);
  const [openPin, setOpenPin] = useState<Pin | null>(null);
  const opened = useOpened();
  const entities = useMemo(() => scope.getAll('entity'), [scope]);
  const evidence = useEvidence({ entity: entities });
  const attach = useAttach();
  const [openFile, setOpenFile] = useState<EvidenceFile | null>(null);
  const me = useMe();
  // What is kept on the way of an open thread is gathered by it.
  const kept = useThread(Number(screen.options.thread) || null).data;
  const thread = kept && me.role !== 'reader' && (kept.state === 'open' || kept.state === 'changed') ? kept.id : null;
  const siblings = useSiblings(screen, go);
  // Where the answer is refused the question still is, to be changed.
  const question = useAnswer('GET /sentence', model.error && model.parts.length === 0 ? scope : null);

  // The margin is level with the grid, whatever strips and tools are above it.
  const sheetBox = useRef<HTMLDivElement>(null);
  const [sheetTop, setSheetTop] = useState(0);
  useLayoutEffect(() => setSheetTop(sheetBox.current?.offsetTop ?? 0));
  const onScroll = useCallback(
    (top: number, byHand: boolean): void => {
      if (byHand) scrolledAway();
      setScrollTop(top);
      remember(memoryKey, { scroll: top });
    },
    [memoryKey, scrolledAway],
  );

  useEffect(doWhatWasPressed, []);

  // Another sheet, or the same one of other rows, begins with none chosen.
  const rowsOf = `${model.label} ${model.count}`;
  const chosenOf = useRef(rowsOf);
  if (chosenOf.current !== rowsOf) {
    chosenOf.current = rowsOf;
    if (chosen.size > 0) choose(NO_ROWS);
  }
  const items = useMarginItems(model, evidence, draft);
  const marked = useMemo(() => marksOf(items), [items]);
  const ticked = useMemo(() => new Set(items.filter((i) => i.is === 'ticks').map((i) => i.row)), [items]);
  const at = useSheetAt({
    screen,
    ticked,
    thread,
    memoryKey,
    model,
    focus,
    setFocus,
    chosen,
    opened,
    siblings,
    ownKeys: keys,
    grid,
    go,
    onDraft: setDraft,
    onWritten: () => setMarginOpen(true),
  });
  useKeys({
    ...Object.fromEntries([...FEATURES.flatMap((f) => f.keys), ...keys].map(({ key, run }) => [key, () => run(at)])),
    Escape: () => {
      opened.closePanel();
      choose(NO_ROWS);
    },
  });

  const turn = (row: SheetRow | undefined): void => {
    const { key, folded = null } = row ?? {};
    if (key !== undefined && folded !== null) table.setExpanded((expanded) => turned(expanded, key, folded));
  };
  const besides = FEATURES.filter((f) => f.beside && at.isOpen(f.name));
  // With nothing to show, or lines beside, the margin is a gutter, until somebody opens it.
  const marginOpen = marginChosen ?? (items.some((i) => i.is !== 'ticks') && besides.length === 0 && !openFile);
  const people = useMemo(
    () => [...new Set(Object.values(evidence).flatMap((rows: { by: string }[]) => rows.map((r) => r.by)))].sort(),
    [evidence],
  );
  return (
    <>
      <ScopeSentence
        parts={model.parts.length > 0 ? model.parts : model.error ? (question.data?.parts ?? []) : []}
        scope={scope}
        onChange={(put) => go(changed(screen, put))}
        stale={model.stale}
        adding={at.isOpen('clause')}
        onAdding={(open) => opened.setOpen('clause', open)}
        onSplit={(split) => go(splitSheet(screen, split))}
        kept={canBeKept(screen) ? <KeptScopes screen={screen} /> : null}
      />
      <NewerData load={model.load} fixed={scope.has('load')} />
      <div className="flex min-h-0 flex-1 pr-[14px] pl-[26px]">
        <div className="relative flex min-w-0 flex-1 flex-col">
          <div className="border-x border-transparent" style={{ maxWidth: widest }}>
            <Strips
              screen={screen}
              columns={model.columns}
              traced={model.traced}
              shows={model.shows}
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
              {known && <ColumnsPanel table={table} columns={given.columns} layout={layout} onChange={arrange} />}
            </span>
          </div>
          {model.error ? (
            <Failure error={model.error} screen={screen} />
          ) : model.empty && model.count === 0 ? (
            <Nothing empty={model.empty} screen={screen} />
          ) : (
            // biome-ignore lint/a11y/noStaticElementInteractions: what the clipboard and the mouse bring to a row comes here
            <div
              ref={sheetBox}
              className="flex min-h-0 flex-1 flex-col"
              style={{ maxWidth: widest }}
              onCopy={(event) => copyFigure(event, at)}
              onPaste={(event) => pasteFiles(event, at, attach)}
              onDragOver={(event) => event.preventDefault()}
              onDrop={(event) => dropFiles(event, model, at, attach)}
            >
              {model.empty && <NoLines empty={model.empty} screen={screen} />}
              <Grid
                label={model.label}
                columns={model.columns}
                traced={screen.steps.length > 0 ? model.traced : undefined}
                count={model.count}
                rowAt={(index) => decorated(model.rowAt(index), marked.get(index))}
                total={model.total}
                totalFocusable={model.whole !== undefined}
                focus={focus}
                onFocus={setFocus}
                chosen={chosen}
                onChoose={choose}
                onTrace={at.trace}
                {...(folding ? { onFold: (index) => turn(model.rowAt(index)) } : {})}
                {...(onSort ? { onSort, sort: screen.options.sort ?? 'date' } : {})}
                onScroll={onScroll}
                {...(onRange ? { onRange } : {})}
                startAt={scrolled}
                fit={layout.fit || besides.length > 0}
                onResize={(key, px) =>
                  table.setColumnSizing(({ [key]: _former, ...widths }) =>
                    px === null ? widths : { ...widths, [key]: px },
                  )
                }
                onMove={(key, to) => table.setColumnOrder((order) => reordered(order, key, to))}
                handle={grid}
                stale={model.stale}
                loading={model.loading}
              />
            </div>
          )}
          {foot?.(at.focused)}
          {below?.((row, column) => at.trace({ row, column: model.columns.findIndex((c) => c.key === column) }, false))}
          {FEATURES.map((f) => (
            <Fragment key={f.name}>{at.isOpen(f.name) && f.panel?.(at)}</Fragment>
          ))}
        </div>
        {besides.map((f) => (
          <Fragment key={f.name}>{f.beside?.(at)}</Fragment>
        ))}
        {openFile && besides.length === 0 && <FileBeside file={openFile} onClose={() => setOpenFile(null)} />}
        <Margin
          items={items}
          people={people}
          focusedRow={focus.row}
          thread={thread}
          onFile={setOpenFile}
          scrollTop={scrollTop - sheetTop}
          open={marginOpen}
          onOpen={setMarginOpen}
          onDraftDone={() => setDraft(null)}
          address={screenPath(screen)}
          onPin={setOpenPin}
        />
      </div>
      <div className="h-2 shrink-0" />
      <SheetStatus at={at} scope={scope} anyTicks={evidence.ticks.length > 0} ticked={ticked} />
      {screen.options.ask && <AskScope screen={screen} onDone={go} />}
      {openPin && <PinDialog pin={openPin} onClose={() => setOpenPin(null)} />}
      {FEATURES.filter((f) => f.dialog && at.isOpen(f.name)).map((f) => (
        <Fragment key={f.name}>{f.dialog?.(at)}</Fragment>
      ))}
    </>
  );
}

/** The total is the row below the last, for all that looks at the focused one. */
const withWhole = (model: SheetModel): SheetModel => ({
  ...model,
  rowAt: (index) => (index === model.count && model.count > 0 ? model.whole : model.rowAt(index)),
  indexOf: (key) => (key === model.whole?.key ? model.count : model.indexOf(key)),
});

const NO_ROWS: ReadonlySet<number> = new Set();
const NO_KEYS: readonly FeatureKey[] = [];
