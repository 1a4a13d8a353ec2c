import type { Screen, Step } from '../address/address';

/** What one row of a ledger stands for. */
export const RUNS = [
  ['line', 'lines'],
  ['entry', 'entries'],
  ['day', 'days'],
  ['week', 'weeks'],
  ['month', 'months'],
] as const;
/** Lines may also be in groups, each with its own balances: by:account, by:counterparty, by:dim:vessel … */
export type Groups = `by:${string}`;
export type Runs = (typeof RUNS)[number][0] | Groups;

/** The next coarser way to condense a ledger, or the finer one, round and round; groups are left for lines. */
export function nextRuns(runs: Runs, by: 1 | -1): Runs {
  const at = RUNS.findIndex(([key]) => key === runs);
  return RUNS[at < 0 ? 0 : (at + by + RUNS.length) % RUNS.length]?.[0] ?? 'line';
}

export const isGroups = (runs: Runs): runs is Groups => runs.startsWith('by:');

function known(word: string | undefined): Runs {
  // As addresses named it before there were other groups than accounts.
  if (word === 'account') return 'by:account';
  return word?.startsWith('by:') ? (word as Groups) : (RUNS.find(([key]) => key === word)?.[0] ?? 'line');
}

/** As the step to the ledger has it, or the first sheet where the ledger is that. */
export const runsOf = ({ steps, options }: Screen): Runs =>
  known(steps.length > 0 ? steps[steps.length - 1]?.runs : options.runs);

export function withRuns(screen: Screen, runs: Runs): Screen {
  const { sort: _sort, ...options } = screen.options;
  const turned = <Held extends { runs?: string }>({ runs: _former, ...bare }: Held) =>
    runs === 'line' ? bare : { ...bare, runs };
  const last = screen.steps.length - 1;
  if (last < 0) return { ...screen, options: turned(options) as Screen['options'] };
  return { ...screen, options, steps: screen.steps.map((step, i) => (i === last ? (turned(step) as Step) : step)) };
}
