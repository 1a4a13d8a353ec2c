'use client';

import { openingsOf } from '../address/measures';
import { splitChoices } from '../address/splitNames';
import { useEntities } from '../query/hooks';
import { useKeys } from '../shell/keys';
import { type Groups, isGroups, nextRuns, RUNS, runsOf, withRuns } from './runs';
import type { ScreenProps } from './SheetFrame';
import { ViewSentence } from './ViewSentence';

const OPENINGS: [string, string][] = [
  ['all', 'opening balances carried'],
  ['permanent', 'those of the balance sheet carried'],
  ['none', 'no opening balances'],
];

/** A line each makes no group. */
const APART = ['entry', 'size'];

/** Whether a row of the ledger is a line, or what it is condensed to; and by what lines are in groups. */
export function RunsChoice({ screen, replace }: ScreenProps) {
  const { data } = useEntities();
  const runs = runsOf(screen);
  useKeys({
    l: () => replace(withRuns(screen, nextRuns(runs, 1))),
    L: () => replace(withRuns(screen, nextRuns(runs, -1))),
  });
  const groups: [string, string][] = [
    ['', 'in no groups'],
    ...splitChoices(data?.dimensions).flatMap(([by, name]): [string, string][] =>
      APART.includes(by) ? [] : [[`by:${by}`, `in groups by ${name.toLowerCase()}`]],
    ),
  ];
  return (
    <ViewSentence
      parts={[
        {
          ...{ key: 'runs', label: 'Rows', value: isGroups(runs) ? 'line' : runs },
          onChange: (value) => replace(withRuns(screen, RUNS.find(([key]) => key === value)?.[0] ?? 'line')),
          choices: RUNS.map(([key]): [string, string] => [key, `${key} by ${key}`]),
        },
        {
          ...{ key: 'groups', label: 'Groups', value: isGroups(runs) ? runs : '', choices: groups, usual: '' },
          onChange: (value) => replace(withRuns(screen, (value as Groups) || 'line')),
        },
        {
          ...{ key: 'openings', label: 'Opening balances', value: openingsOf(screen), choices: OPENINGS },
          onChange: (value) => {
            const { openings: _former, ...options } = screen.options;
            const usual = { ...screen, options };
            replace(value === openingsOf(usual) ? usual : { ...screen, options: { ...options, openings: value } });
          },
        },
      ]}
    />
  );
}
