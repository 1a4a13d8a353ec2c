'use client';

import { useRouter } from 'next/navigation';
import { type RefObject, useMemo } from 'react';
import type { BodySent } from '@/contracts/routes';
import { changedScope, ofWholeBooks, type Screen, type Step, scopeAt, screenPath, traced } from '../address/address';
import { MEASURE } from '../address/measures';
import { remember } from '../address/memory';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import type { SheetAt } from '../sheet/features/feature';
import type { Focus, GridHandle } from '../sheet/gridModel';
import type { MarginItem } from '../sheet/marginItems';
import type { SheetModel } from '../sheet/model';
import { severalRows } from '../sheet/severalRows';
import { focusCell } from '../sheet/useFocus';
import type { useOpened } from '../sheet/useOpened';
import { useMe } from '../shell/me';

interface On {
  screen: Screen;
  memoryKey: string;
  model: SheetModel;
  focus: Focus;
  setFocus(focus: Focus): void;
  chosen: ReadonlySet<number>;
  opened: ReturnType<typeof useOpened>;
  siblings: SheetAt['siblings'];
  ownKeys: SheetAt['ownKeys'];
  grid: RefObject<GridHandle | null>;
  go(to: Screen): void;
  onDraft(draft: MarginItem | null): void;
  /** Rows that bear a tick. */
  ticked: ReadonlySet<number>;
  /** The thread that is being worked on. */
  thread: number | null;
  /** Something was written beside the sheet: its margin is opened. */
  onWritten(): void;
}

/** What Enter says on a cell that has no lines of its own. */
const NOTHING_BENEATH = 'Nothing lies beneath this cell: it is planned, ordered, or made of other figures.';

/** A sheet as its features see it: what is focused or chosen, and what can be done with it. */
export function useSheetAt(on: On): SheetAt & { trace(at: Focus, newTab: boolean): void } {
  const { screen, memoryKey, model, focus, chosen, opened, siblings, go } = on;
  const me = useMe();
  const router = useRouter();
  const depth = screen.steps.length;
  const focused = model.rowAt(focus.row);
  const column = model.columns[focus.column]?.key ?? '';
  const several = useMemo(() => severalRows(model, chosen), [model, chosen]);
  // Under a column to compare with a cell is a figure of its own; one calculated from others is about the row.
  const cell = several ? undefined : focused?.figureAt?.(column);
  const row = several?.together ?? (cell && focused ? { ...focused, put: cell.put, subject: cell.subject } : focused);
  const pinIt = useChange(
    (wanted: Pick<BodySent<'POST /pins'>, 'subject' | 'measure' | 'label' | 'thread'>) =>
      ask('POST /pins', { body: { ...wanted, address: screenPath(screen) } }),
    ['/pins', '/threads'],
  );
  const scopeOfRow = useMemo(() => {
    const scope = scopeAt(screen, depth);
    if (row?.put) changedScope(scope, row.put);
    // Beside a sheet the books of a single company are asked in their own currency.
    if (scope.getAll('entity').length === 1) scope.delete('in');
    return scope;
  }, [screen, depth, row]);
  const step = (to: Omit<Step, 'row' | 'column'>): void => {
    if (!row) return;
    remember(memoryKey, { row: row.key, at: focus.row, column });
    go(traced(screen, { ...to, row: row.key, column }));
  };
  return {
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
    measure: cell?.measure ?? (MEASURE[column] === 'closing' ? 'closing' : 'movement'),
    scopeOfRow,
    siblings,
    ownKeys: on.ownKeys,
    go,
    step,
    trace: (at, newTab) => {
      const from = model.rowAt(at.row);
      const key = model.columns[at.column]?.key ?? '';
      const to = from?.step(key);
      // A key that does nothing says why.
      if (from && !to && newTab === false) toast(NOTHING_BENEATH);
      if (!from || !to) return;
      remember(memoryKey, { row: from.key, at: at.row, column: key });
      if (newTab) window.open(screenPath(traced(screen, to)), '_blank');
      else go(traced(screen, to));
    },
    follow: (link) => {
      if (!row) return;
      remember(memoryKey, { row: row.key, at: focus.row, column });
      if ('href' in link) return void router.push(link.href);
      const taken = { ...link.step, row: row.key, column };
      go(traced(screen, link.whole ? ofWholeBooks(screen, taken) : taken));
    },
    linesOf: (more, name) =>
      row?.put && step({ view: 'lines', label: `${row.label}, ${name}`, put: { ...row.put, ...more } }),
    focusRow: (index) => {
      on.setFocus({ row: index, column: focus.column });
      on.grid.current?.scrollTo(index);
    },
    focusCell,
    isOpen: opened.isOpen,
    open: (name) => opened.setOpen(name, true),
    close: (name) => opened.setOpen(name, false),
    toggle: (name) => opened.setOpen(name, !opened.isOpen(name)),
    write: (kind) => {
      if (!row?.subject) return;
      on.onWritten();
      const about = { subject: row.subject, measure: cell?.measure ?? MEASURE[column] ?? null, label: row.label };
      on.onDraft({ row: focus.row, is: 'draft', kind, about });
    },
    nextUnticked: () => {
      const rows = Array.from({ length: model.count }, (_, i) => (focus.row + 1 + i) % model.count);
      const next = rows.find((i) => model.rowAt(i)?.subject && !on.ticked.has(i));
      if (next === undefined) return void toast('Every row here is ticked.');
      on.setFocus({ row: next, column: focus.column });
      on.grid.current?.scrollTo(next);
      requestAnimationFrame(focusCell);
    },
    address: screenPath(screen),
    thread: on.thread,
    pin: async (subject, wanted, label) => {
      const pin = await pinIt.mutateAsync({ subject, measure: wanted, label, thread: on.thread });
      on.onWritten();
      return pin;
    },
    say: (text) => void toast(text),
  };
}
