import type { Schedule } from '@/contracts/answers/leaving';
import type { PanelKind } from '@/contracts/panels';
import type { Every } from '@/contracts/schedules';

/** Lists that a change to what leaves touches. */
export const TOUCHES = ['/reports', '/packs', '/schedules', '/exports', '/frozen'];

export const EVERY_WORD: Record<Every, string> = {
  once: 'once',
  daily: 'each day',
  weekly: 'each week',
  monthly: 'each month',
  load: 'with each load',
  condition: 'when a figure comes to it',
};

export const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;

const listed = (words: readonly string[]): string =>
  words.length < 2 ? (words[0] ?? '') : `${words.slice(0, -1).join(', ')} and ${words.at(-1)}`;

/** When something is made, in a sentence's words: "each Monday and Friday at 07:00, Europe/London". */
export function whenWords({ every, day, days, time, zone, condition }: Schedule): string {
  const clock = `at ${time}, ${zone}`;
  switch (every) {
    case 'once':
      return `once on ${day ?? ''} ${clock}`;
    case 'daily':
      return `each day ${clock}`;
    case 'weekly':
      return `each ${listed((days.length > 0 ? days : [1]).map((d) => WEEKDAYS[d - 1] ?? ''))} ${clock}`;
    case 'monthly':
      return `on the ${listed((days.length > 0 ? days : [1]).map((d) => (d === 0 ? 'last day' : `${d}.`)))} of each month ${clock}`;
    case 'load':
      return 'with each load';
    case 'condition':
      return condition
        ? `when the ${condition.measure} comes to be ${condition.is} ${condition.amount}`
        : 'when a figure comes to it';
  }
}

export const STATE_WORD: Record<string, string> = {
  waiting: 'waits',
  'under way': 'is being made',
  done: 'made',
  failed: 'failed',
  refused: 'refused',
  cancelled: 'stopped',
  'put aside': 'put aside',
};

export const PANEL_WORD: Record<PanelKind, string> = { figure: 'one figure', table: 'a table', picture: 'a picture' };
