import { type Measure, PARTS_OF_LINES, type PartOfLines, type Traced } from '@/contracts/traced';
import { type Screen, scopeAt } from './address';

/** Which measure of a figure is in a column. */
export const MEASURE: Record<string, Measure> = {
  opening: 'opening',
  debit: 'debit',
  credit: 'credit',
  closing: 'closing',
  movement: 'movement',
  balance: 'closing',
  yearToDate: 'movement',
};

/** The same where a column is traced, of the year so far and of one side too. */
const IN_COLUMN: Record<string, Traced> = {
  ...MEASURE,
  yearDebit: 'debit',
  yearCredit: 'credit',
  openingDebit: 'opening',
  openingCredit: 'opening',
  closingDebit: 'closing',
  closingCredit: 'closing',
};

/**
 * Which measure of its figure is traced at a step of the thread. A step that was taken from a column beside others says
 * so itself; elsewhere the column tells, and where that is of words, what was traced before.
 */
export function measureAt(screen: Screen, depth: number): Traced {
  const step = screen.steps[depth - 1];
  if (!step) return screen.origin === 'statements' && screen.options.statement !== 'balance' ? 'movement' : 'closing';
  if (step.measure) return step.measure;
  if (step.view === 'statement') return step.options?.statement === 'balance' ? 'closing' : 'movement';
  const before = measureAt(screen, depth - 1);
  // The running balance of a ledger that begins at nothing is what moved so far.
  if (step.column === 'balance' && beginsAtNothing(before)) return before;
  return IN_COLUMN[step.column] ?? before;
}

/** Whether the lines of a measure begin without what was there before them. */
const beginsAtNothing = (measure: Traced): boolean =>
  measure === 'movement' || measure === 'allotted' || measure === 'tax';

/**
 * The scope of the ledger that a screen ends in, and whose opening balances it carries: the lines of a movement begin with
 * its first line, unless somebody wants what was there before them too.
 */
export function ledgerScope(screen: Screen): URLSearchParams {
  const scope = scopeAt(screen, screen.steps.length);
  const openings = openingsOf(screen);
  if (openings !== 'all') scope.set('openings', openings);
  return scope;
}

/** What the lines of the ledger that a screen ends in are asked: beside their scope, the part of each that was traced. */
export function linesAsked(screen: Screen): URLSearchParams {
  const asked = ledgerScope(screen);
  const part = partTraced(screen);
  if (part) asked.set('part', part);
  return asked;
}

/** The part of each line that makes up the traced figure; undefined where whole lines do. */
export const partTraced = (screen: Screen): PartOfLines | undefined => {
  const measure = measureAt(screen, screen.steps.length);
  return PARTS_OF_LINES.find((part) => part === measure);
};

/** Whose opening balances the ledger carries that a screen ends in. */
export function openingsOf(screen: Screen): string {
  const depth = screen.steps.length;
  const isLedger = depth > 0 ? screen.steps[depth - 1]?.view === 'lines' : screen.origin === 'lines';
  if (!isLedger) return 'all';
  return screen.options.openings ?? (depth > 0 && beginsAtNothing(measureAt(screen, depth)) ? 'none' : 'all');
}
