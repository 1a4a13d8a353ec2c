import { entryOnScreen, subjectText } from '@/contracts/subject';
import { type KeptView, MEASURES, type Measure } from '@/contracts/traced';
import { backTo, changedScope, readScreen, type Screen, type Step, scopeAt, screenPath } from '../address/address';
import { measureAt } from '../address/measures';
import { firstSheet } from '../address/places';

/** What a thread keeps of one step. */
export interface WayStep {
  address: string;
  label: string;
  view: KeptView;
  by?: string;
  subject: string;
  measure?: Measure;
}

/** The way to a screen, from its first sheet on, as it is kept. */
export function wayOf(whole: Screen): WayStep[] {
  const screen = unkept(whole);
  return [
    {
      address: screenPath(backTo(screen, 0)),
      label: firstSheet(screen),
      view: 'sheet',
      subject: wholeFigure(scopeAt(screen, 0)),
    },
    ...screen.steps.map((step, i): WayStep => {
      const isEntry = step.view === 'entry';
      return {
        address: screenPath(backTo(screen, i + 1)),
        label: step.label,
        view: step.view,
        ...(step.by ? { by: step.by } : {}),
        subject: isEntry ? entryOnScreen(step.entry ?? '') : wholeFigure(scopeAt(screen, i + 1)),
        ...(step.view === 'split' || step.view === 'lines' ? { measure: measureOf(screen, i + 1) } : {}),
      };
    }),
  ];
}

/** A step keeps its whole figure, as of the load that it was asked of. */
const wholeFigure = (scope: URLSearchParams): string => subjectText({ is: 'figure', address: scope.toString() });

/** A thread keeps what its lines come to; a part of each line it cannot ask for again. */
const measureOf = (screen: Screen, depth: number): Measure => {
  const traced = measureAt(screen, depth);
  return MEASURES.find((measure) => measure === traced) ?? 'movement';
};

/** The screen without the thread that it is kept in, so that the same place has one address. */
export function unkept(screen: Screen): Screen {
  const { thread: _thread, sort: _sort, ...options } = screen.options;
  return { ...screen, options };
}

/** A kept address as a screen. */
export function screenOf(address: string): Screen {
  const [path = '', query = ''] = address.split('?');
  const origin = path.slice(1);
  return readScreen(
    origin === 'statements' || origin === 'lines' || origin === 'hits' ? origin : 'trial-balance',
    new URLSearchParams(query),
  );
}

/** The steps of a saved way taken from another figure: the first from that figure, the rest as they were. Null if it has none to take. */
export function asIn(
  screen: Screen,
  address: string,
  from: Pick<Step, 'label' | 'row' | 'column' | 'put'>,
): Screen | null {
  const steps = screenOf(address).steps.filter((s) => s.view === 'split' || s.view === 'lines');
  const first = steps[0];
  if (!first || steps.every((s) => s.view === 'lines')) return null;
  return { ...screen, steps: [...screen.steps, { ...first, ...from }, ...steps.slice(1)] };
}

/** A kept address asked for something else; a step's own choice gives way where it is of the same kind. */
export function replayedAddress(address: string, put: Record<string, string[]>): string {
  const screen = screenOf(address);
  const scope = new URLSearchParams(screen.scope);
  changedScope(scope, put);
  const replaced = (held: Record<string, string[]>): Record<string, string[]> =>
    Object.fromEntries(Object.entries(held).map(([name, values]) => [name, put[name] ?? values]));
  const steps = screen.steps.map((s) => ({
    ...s,
    put: replaced(s.put),
    ...(s.only ? { only: replaced(s.only) } : {}),
  }));
  return screenPath({ ...screen, scope, steps });
}
