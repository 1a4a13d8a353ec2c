'use client';

import { RUNS, runsOf, withRuns } from './runs';
import type { ScreenProps } from './SheetFrame';
import { Choice } from './TrialBalanceScreen';

/** Whether a row of the ledger is a line, or what it is condensed to. */
export function RunsChoice({ screen, replace }: ScreenProps) {
  return (
    <Choice
      label="Rows"
      value={runsOf(screen)}
      onChange={(value) => replace(withRuns(screen, RUNS.find(([key]) => key === value)?.[0] ?? 'line'))}
      choices={RUNS.map(([key, name]): [string, string] => [key, name])}
    />
  );
}
