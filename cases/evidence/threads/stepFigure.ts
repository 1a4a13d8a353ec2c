import type { z } from 'zod';
import type { newStepSchema } from '@/contracts/bodies/all';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { readQuery, type ScopeParams, scopeShape } from '@/contracts/scope';
import { entryIdOf, isWritten, readSubject, subjectText } from '@/contracts/subject';
import { add, exponentOf, formatAmount, type Minor } from '@/core/money';
import { findEntry } from '@/store/entries';
import type * as store from '@/store/threads';
import type { StepRow } from '@/store/threads';
import { type Context, known } from '../../asking/context';
import { canonicalSubject, figureAt, linesOfSubject } from '../../asking/subjects';
import { maySee, type Viewer } from '../../asking/viewer';
import { figureBalance } from '../../balances/accountBalances';
import { valueNow } from '../valueNow';

export type NewStep = z.infer<typeof newStepSchema>;

/** The steps as they are kept: what each is about in its canonical form, and its figure on the newest load. */
export async function withFigures(ctx: Context, viewer: Viewer, steps: NewStep[]): Promise<store.NewStep[]> {
  const { newest } = await known(ctx.write);
  return Promise.all(
    steps.map(async (k) => {
      const { subject, entities } = await canonicalSubject(ctx, viewer, await entrySubject(ctx, viewer, k.subject));
      const bare = {
        address: k.address,
        label: k.label,
        view: k.view,
        split_by: k.by ?? null,
        subject: subjectText(subject),
        entities,
        measure: k.measure ?? null,
        load: newest,
      };
      const figure = k.measure === undefined && subject.is === 'figure' ? null : await figureOf(ctx, viewer, bare, {});
      return {
        ...bare,
        currency: figure?.currency ?? null,
        value: figure?.value ?? null,
        lines: figure?.lines ?? null,
      };
    }),
  );
}

/** A screen knows an entry by its id; evidence names it by the number that it bears. */
async function entrySubject(ctx: Context, viewer: Viewer, subject: string): Promise<string> {
  const id = entryIdOf(subject);
  if (id === null) return subject;
  const head = await findEntry(ctx.read, { id });
  if (!head || !maySee(viewer, head.entity)) throw notFound(`Entry e${id}`);
  return subjectText({ is: 'entry', entity: head.entity, entry: head.number });
}

export interface FigureNow {
  value: Minor | null;
  lines: number;
  currency: string;
  sentence: string;
}

export async function figureOf(
  ctx: Context,
  viewer: Viewer,
  step: Pick<StepRow, 'subject' | 'measure'>,
  put: ScopeChange,
): Promise<FigureNow> {
  const subject = readSubject(step.subject);
  if (isWritten(subject))
    throw wrong('subject', `a step leads to a figure or to what is booked, and not to a ${subject.is}`);
  // A document is worth what its lines debit, whatever window the steps before it are asked for.
  if (subject.is === 'document') return valueNow(ctx, viewer, step.subject, null);
  if (subject.is !== 'figure') {
    const { lines, asked } = await linesOfSubject(ctx, viewer, subject, null);
    const debits = lines.filter((l) => l.side === 'debit').reduce((sum, l) => add(sum, l.amount), 0);
    return { value: debits, lines: lines.length, currency: asked.currency, sentence: asked.sentence };
  }
  const address = changedScope(subject.address, put);
  const load = put.load ? Number(put.load[0]) : null;
  address.delete('load');
  const asked = await figureAt(ctx, viewer, address.toString(), load);
  const whole = await figureBalance(ctx, asked);
  return {
    value: step.measure ? whole[step.measure] : null,
    lines: whole.count,
    currency: asked.currency,
    sentence: asked.sentence,
  };
}

export type ScopeChange = Record<string, string[]>;

/** A figure's address with parameters in place of those of the same name. */
export function changedScope(address: string, put: ScopeChange): URLSearchParams {
  const params = new URLSearchParams(address);
  for (const [name, values] of Object.entries(put)) {
    params.delete(name);
    for (const value of values) params.append(name, value);
  }
  return params;
}

export const paramsOf = (step: StepRow): ScopeParams =>
  readQuery(scopeShape, new URLSearchParams(readFigure(step.subject)));

export const readFigure = (subject: string): string => subject.replace(/^figure:/, '');

export const amountOf = (value: Minor | null, currency: string): string | null =>
  value === null ? null : formatAmount(value, exponentOf(currency));

export const problemText = (error: unknown): string => {
  if (error instanceof ProblemError) return error.errors.map((e) => e.message).join('; ') || error.message;
  throw error;
};

/** Whether a step has another figure now than when it was taken. */
export const hasMoved = (step: Pick<StepRow, 'value' | 'lines'>, now: FigureNow): boolean =>
  now.value !== step.value || (step.lines !== null && now.lines !== step.lines);
