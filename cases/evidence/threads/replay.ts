import { wrong } from '@/contracts/problem';
import { readQuery, scopeShape } from '@/contracts/scope';
import { add } from '@/core/money';
import { amountIn, countIn } from '@/core/sheet';
import type { StepRow } from '@/store/threads';
import type { Context } from '../../asking/context';
import type { Viewer } from '../../asking/viewer';
import { brokenDown } from '../../sheets/readSheet';
import { seen } from './seenThreads';
import { shownStep } from './shown';
import { amountOf, changedScope, figureOf, paramsOf, problemText, readFigure, type ScopeChange } from './stepFigure';

export interface Replay {
  from?: string | undefined;
  to?: string | undefined;
  window?: string | undefined;
  entity?: string[] | undefined;
  load?: number | undefined;
  member?: string | undefined;
}

/**
 * The same steps asked for another window, unit, entity or load. Each step has its figure as kept and as asked now;
 * where a step cannot be taken there, it says why, and what hangs below it is still tried.
 */
export async function replayThread(ctx: Context, viewer: Viewer, id: number, wanted: Replay) {
  const { thread, steps } = await seen(ctx, viewer, id);
  const put = scopeChangeOf(wanted);
  if (Object.keys(put).length === 0)
    throw wrong('from', 'say what the steps are walked again for: a window, an entity, a member or a load');
  const replayed = await Promise.all(
    steps.map(async (k) => {
      const kept = shownStep(k);
      if (k.view === 'entry')
        return {
          ...kept,
          now: null,
          change: null,
          problem: 'an entry is the entry that it is; trace it again from the lines',
        };
      const now = await figureOf(ctx, viewer, k, changeForStep(k, steps, put)).catch(problemText);
      if (typeof now === 'string') return { ...kept, now: null, change: null, problem: now };
      const members =
        k.view === 'split' && k.split_by
          ? await memberChange(ctx, viewer, k, changeForStep(k, steps, put)).catch(() => null)
          : null;
      const change =
        k.value === null || now.value === null || now.currency !== k.currency
          ? null
          : amountOf(add(now.value, -k.value), now.currency);
      return {
        ...kept,
        now: amountOf(now.value, now.currency),
        nowLines: now.lines,
        nowCurrency: now.currency,
        change,
        sentence: now.sentence,
        ...(now.lines === 0 && k.measure ? { empty: 'nothing was booked here' } : {}),
        ...(members ? { members } : {}),
      };
    }),
  );
  return { id, name: thread.name, put, steps: replayed };
}

function scopeChangeOf(wanted: Replay): ScopeChange {
  const put: ScopeChange = {};
  for (const name of ['from', 'to', 'window'] as const) if (wanted[name]) put[name] = [wanted[name] as string];
  if (wanted.window && (wanted.from || wanted.to)) throw wrong('window', 'name a window or its ends, not both');
  if (wanted.window) Object.assign(put, { from: [], to: [] });
  if (wanted.entity) put.entity = wanted.entity;
  if (wanted.load) put.load = [String(wanted.load)];
  if (wanted.member) {
    const [, dim, member] = /^([^:]+):(.+)$/.exec(wanted.member) ?? [];
    if (!dim || !member) throw wrong('member', 'write the dimension and the member as vessel:MAREN');
    put[`dim.${dim}`] = [member];
  }
  return put;
}

/** A step that was taken into another window than the first sheet's keeps its own. */
export function changeForStep(step: StepRow, steps: readonly StepRow[], put: ScopeChange): ScopeChange {
  const ends = (k: StepRow): string => {
    const params = new URLSearchParams(k.subject.replace(/^figure:/, ''));
    return `${params.get('from')}|${params.get('to')}`;
  };
  let first = step;
  for (let up = steps.find((k) => k.id === first.parent); up; up = steps.find((k) => k.id === first.parent)) first = up;
  if (ends(first) === ends(step)) return put;
  const { from: _from, to: _to, window: _window, ...rest } = put;
  return rest;
}

/** Which members of a split vanished, and which appeared. */
async function memberChange(ctx: Context, viewer: Viewer, step: StepRow, put: ScopeChange) {
  const by = (step.split_by as string).split('|').slice(0, 1);
  const params = changedScope(readFigure(step.subject), put);
  const [then, now] = await Promise.all([
    brokenDown(ctx, viewer, { ...paramsOf(step), by }),
    brokenDown(ctx, viewer, { ...readQuery(scopeShape, params), by }),
  ]);
  const active = (rows: typeof then.rows) =>
    rows.filter(({ cells }) => countIn(cells) > 0 || amountIn(cells, 'closing') !== 0);
  const names = (rows: typeof then.rows, others: typeof then.rows): string[] => {
    const there = new Set(active(others).map((r) => r.member));
    return active(rows).flatMap((r) => (there.has(r.member) ? [] : [r.label]));
  };
  return { vanished: names(then.rows, now.rows), appeared: names(now.rows, then.rows) };
}
