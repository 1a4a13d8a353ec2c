import type { z } from 'zod';
import type { rollForwardSchema } from '@/contracts/bodies/all';
import { readSubject, subjectText } from '@/contracts/subject';
import type { Db } from '@/store/db';
import { keepSharing, readSharing } from '@/store/sharing';
import type { StepRow } from '@/store/threads';
import * as store from '@/store/threads';
import type { Context } from '../../asking/context';
import { onRecord } from '../../asking/onRecord';
import { require, type Viewer } from '../../asking/viewer';
import { changeForStep } from './replay';
import { seen } from './seenThreads';
import { changedScope, problemText, readFigure, type ScopeChange, withFigures } from './stepFigure';
import { stepDigest, threadSubject } from './words';

/**
 * Begins the threads of another window from these: the same purpose, assertions and steps, asked for that window, with
 * nothing concluded. What was concluded before is at hand through the thread that each comes from.
 */
export async function rollForward(ctx: Context, viewer: Viewer, wanted: z.input<typeof rollForwardSchema>) {
  require(viewer, 'preparer', 'roll threads forward');
  const put: ScopeChange = { from: [wanted.from], to: [wanted.to], window: [] };
  const begun: { from: number; id: number; name: string; problems: string[] }[] = [];
  for (const from of wanted.threads) {
    const { thread, steps } = await seen(ctx, viewer, from);
    const problems: string[] = [];
    const ways: { step: StepRow; kept: store.NewStep; note: string }[] = [];
    for (const step of steps) {
      if (step.parent !== null && !ways.some((w) => w.step.id === step.parent)) continue;
      const change = changeForStep(step, steps, put);
      const about = readSubject(step.subject);
      if (about.is !== 'figure') {
        problems.push(`${step.label}: is of its own period; trace it again from the lines`);
        continue;
      }
      const found = await withFigures(ctx, viewer, [
        {
          ...{ address: inWindow(step.address, change), label: step.label, view: step.view },
          subject: subjectText({ is: 'figure', address: changedScope(readFigure(step.subject), change).toString() }),
          ...(step.split_by === null ? {} : { by: step.split_by }),
          ...(step.measure === null ? {} : { measure: step.measure }),
        },
      ]).catch(problemText);
      if (typeof found === 'string') problems.push(`${step.label}: ${found}`);
      else ways.push({ step, kept: found[0] as store.NewStep, note: step.note });
    }
    const id = await onRecord(ctx, viewer, async (trx, record) => {
      const { name, reference, purpose, assertions, reviewer } = thread;
      const folder = wanted.folder || thread.folder;
      const more = { reference, purpose, assertions, reviewer, folder, rolled_from: from };
      const made = await store.insertThread(trx, name, viewer.id, more);
      await sharedAlike(trx, thread, made, viewer.id);
      const kept = await keepWays(trx, made, ways, viewer.id);
      await record('rolled a thread forward', threadSubject(made), {
        name,
        from,
        window: `${wanted.from} to ${wanted.to}`,
        kept,
        problems,
      });
      return made;
    });
    begun.push({ from, id, name: thread.name, problems });
  }
  return { threads: begun };
}

/** Who may do what stays as it was said of the thread before; whoever made that one may share this one as well. */
async function sharedAlike(trx: Db, from: store.ThreadRow, made: number, by: number): Promise<void> {
  const said = await readSharing(trx, 'thread', [from.id]);
  if (said.length === 0) return;
  const rows = said.filter((s) => s.person !== by).map(({ person, may }) => ({ person, may }));
  if (from.person !== by) rows.push({ person: from.person, may: 'share' });
  await keepSharing(trx, 'thread', made, rows);
}

/** Keeps steps in the shape of the tree that they come from. @returns what each froze, for the record */
async function keepWays(
  trx: Db,
  thread: number,
  ways: readonly { step: StepRow; kept: store.NewStep }[],
  person: number,
) {
  const ids = new Map<number, number>();
  for (const { step, kept } of ways) {
    const id = await store.insertStep(
      trx,
      thread,
      step.parent === null ? null : (ids.get(step.parent) as number),
      kept,
      person,
    );
    ids.set(step.id, id);
  }
  const added = await store.stepsOf(trx, [thread]);
  return Object.fromEntries(added.map((k) => [k.id, { digest: stepDigest(k), label: k.label }]));
}

/** The address of a screen in another window. */
function inWindow(address: string, change: ScopeChange): string {
  const [path = '', query = ''] = address.split('?');
  return `${path}?${changedScope(query, change)}`;
}
