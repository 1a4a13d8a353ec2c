import type { Entities } from '@/contracts/answers/charts';
import { ATTRIBUTES, lineField } from '@/core/lineFields';

/** What every figure can be split by beside the dimensions, in the words of the screen. */
export const SPLIT_NAMES: Readonly<Record<string, string>> = {
  account: 'Account',
  'account/1': 'Headings, first level',
  'account/2': 'Headings, second level',
  'account/3': 'Headings, third level',
  type: 'Account type',
  entity: 'Company',
  period: 'Period',
  month: 'Month',
  week: 'Week',
  day: 'Day',
  kind: 'Kind of line',
  size: 'Amount band',
  ...Object.fromEntries(ATTRIBUTES.map((name) => [name, lineField(name).split ?? name])),
};

const LEVELS = ['', 'first', 'second', 'third', 'fourth', 'fifth'];

/** Everything that a figure can be split by, with its name: dimensions, and each level of those that have several; then the rest. */
export function splitChoices(dimensions: Entities['dimensions'] | undefined): [by: string, name: string][] {
  return [...(dimensions ?? []).flatMap(ofDimension), ...Object.entries(SPLIT_NAMES)];
}

function ofDimension({ code, name, members }: Entities['dimensions'][number]): [string, string][] {
  const parents = new Map(members.map((m) => [m.code, m.parent]));
  const depthOf = (member: string): number => {
    let depth = 0;
    for (let at: string | null = member; at !== null && depth < LEVELS.length; at = parents.get(at) ?? null) depth += 1;
    return depth;
  };
  const depth = Math.min(LEVELS.length - 1, Math.max(0, ...members.map((m) => depthOf(m.code))));
  const deeper = Array.from({ length: Math.max(0, depth - 1) }, (_, i): [string, string] => [
    `dim:${code}@${i + 2}`,
    `${name}, ${LEVELS[i + 2]} level`,
  ]);
  return [[`dim:${code}`, name], ...deeper];
}

/** A split by its name, whatever it is by. */
export function splitName(by: string, dimensions: Entities['dimensions'] | undefined): string {
  const [, code] = /^dim:([^/@]+)/.exec(by) ?? [];
  return (
    splitChoices(dimensions).find(([key]) => key === by)?.[1] ?? dimensions?.find((d) => d.code === code)?.name ?? by
  );
}
