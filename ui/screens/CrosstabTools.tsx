'use client';

import type { SplitSheet } from '@/contracts/answers/sheets';
import { Choice } from './Choice';
import { CrosstabLayout, type Layout, LEVELS_MAX } from './CrosstabLayout';
import { Pick } from './Pick';
import type { Shading } from './shading';

export interface CrosstabShape extends Layout {
  /** A column that is split further, as member|split; empty for none. */
  open: string;
}

interface Props {
  layout: Layout;
  /** All that a figure can be split by, in words. */
  choices: [string, string][];
  nameOf(level: string): string;
  columns: SplitSheet['columns'];
  open: string;
  onChange(shape: CrosstabShape): void;
  /** null where only one measure adds up. */
  measure: 'movement' | 'closing' | null;
  onMeasure(measure: 'movement' | 'closing'): void;
  /** null where nothing is across. */
  shading: Shading | null;
  onShading(shading: Shading): void;
}

/** By what rows and columns are split, which column further, what the cells show. */
export function CrosstabTools({
  layout,
  choices,
  nameOf,
  columns,
  open,
  onChange,
  measure,
  onMeasure,
  shading,
  onShading,
}: Props) {
  const { rows, across } = layout;
  const [opened = '', into = ''] = open.split('|');
  const free = (own: string): [string, string][] =>
    choices.filter(([key]) => key === own || ![...rows, across].includes(key));
  const put = (next: Layout): void => onChange({ ...next, open });
  const setLevel = (at: number, to: string): void =>
    put({ rows: [...rows.slice(0, at), ...(to ? [to, ...rows.slice(at + 1).filter((l) => l !== to)] : [])], across });
  const apart = free(into).filter(([key]) => key !== across);
  return (
    <>
      <CrosstabLayout layout={layout} choices={withAll([...rows, across, into], choices, nameOf)} onChange={put} />
      {rows.map((level, at) => (
        <Pick
          key={level}
          label={at === 0 ? 'Split by' : 'then by'}
          value={level}
          choices={[...(at === 0 ? [] : NOTHING('nothing more')), ...withAll([level], free(level), nameOf)]}
          onChange={(to) => setLevel(at, to)}
        />
      ))}
      {rows.length < LEVELS_MAX && (
        <Pick
          label="then by"
          value=""
          choices={[...NOTHING('nothing more'), ...free('')]}
          onChange={(to) => to && put({ rows: [...rows, to], across })}
        />
      )}
      <Pick
        label="across"
        value={across}
        choices={[...NOTHING('nothing'), ...withAll([across], free(across), nameOf)]}
        onChange={(to) => put({ rows, across: to })}
      />
      {across && columns.length > 1 && (
        <Pick
          label="open column"
          value={opened}
          choices={[
            ...NOTHING('none'),
            ...columns.flatMap((c): [string, string][] => (c.within === null ? [[c.member, c.name]] : [])),
          ]}
          onChange={(to) => onChange({ ...layout, open: to ? `${to}|${into || finer(across, apart)}` : '' })}
        />
      )}
      {opened && (
        <Pick
          label="into"
          value={into}
          choices={withAll([into], apart, nameOf)}
          onChange={(to) => onChange({ ...layout, open: `${opened}|${to}` })}
        />
      )}
      {measure && (
        <Choice
          label="Shows"
          value={measure}
          onChange={(v) => onMeasure(v === 'closing' ? 'closing' : 'movement')}
          choices={[
            ['movement', 'movement'],
            ['closing', 'closing'],
          ]}
        />
      )}
      {shading && (
        <Choice
          label="Shading"
          value={shading}
          onChange={(v) => onShading(v === 'size' || v === 'change' ? v : 'no')}
          choices={[
            ['no', 'off'],
            ['size', 'by size'],
            ['change', 'by change'],
          ]}
        />
      )}
    </>
  );
}

const NOTHING = (word: string): [string, string][] => [['', word]];

/** What a column is most likely wanted split into: time into less time, else the first thing there is. */
const finer = (across: string, choices: [string, string][]): string =>
  ['period', 'month'].includes(across) ? 'week' : across === 'week' ? 'day' : (choices[0]?.[0] ?? 'account');

/** The choices with those that are set, though they be branches of a tree that are not offered themselves. */
function withAll(
  own: readonly string[],
  choices: [string, string][],
  nameOf: (level: string) => string,
): [string, string][] {
  const missing = own.filter((level) => level !== '' && !choices.some(([key]) => key === level));
  return [
    ...missing.map((level): [string, string] => [
      level,
      `${nameOf(level).toLowerCase()}, ${level.split('/')[1] ?? ''}`,
    ]),
    ...choices,
  ];
}
