import type { z } from 'zod';
import type { newScheduleSchema, scheduleChangeSchema } from '@/contracts/bodies/all';
import { forbidden, notFound, ProblemError, wrong } from '@/contracts/problem';
import { compareDecimals } from '@/core/values';
import { answering } from '@/store/asking';
import { newestLoad } from '@/store/catalogue';
import type { Db } from '@/store/db';
import { listPeople } from '@/store/people';
import {
  beginRun,
  type Condition,
  changeRun,
  changeSchedule,
  dueSchedules,
  insertSchedule,
  listSchedules,
  type Output,
  readRun,
  readSchedule,
  runsOf,
  type ScheduleRow,
} from '@/store/schedules';
import type { Context } from '../asking/context';
import { given } from '../asking/given';
import { onRecord } from '../asking/onRecord';
import { publicAddress } from '../asking/publicAddress';
import { require, type Viewer } from '../asking/viewer';
import { addJob } from '../jobs/jobs';
import type { Work } from '../jobs/work';
import { post } from '../mail/tell';
import { viewerOfPerson } from '../people/signIn';
import { readFigures } from '../sheets/readFigures';
import { keepMade } from './exports';
import { leafOf } from './leafOf';
import { copiesOf, packFile, packFormat, reportsOf, seenPack } from './packs';
import { seenReport } from './reports';
import { leavingOf, MEDIA, written } from './takeOut';
import { nextOf, type When } from './when';

const RUNS_SHOWN = 60;
/** A letter carries so much; what is larger stays here, and the letter leads to it. */
const ATTACHED_MAX = 8 * 1024 ** 2;

/** Schedules of the viewer, and those that they receive from; owners see all. */
export async function showSchedules(ctx: Context, viewer: Viewer) {
  const rows = (await listSchedules(ctx.write)).filter((row) => concerns(viewer, row));
  const people = await listPeople(ctx.write);
  return { rows: await Promise.all(rows.map((row) => shown(ctx, viewer, row, people))) };
}

/** Has a report or a pack made by itself. @throws ProblemError where it never would be */
export async function keepSchedule(ctx: Context, viewer: Viewer, body: z.infer<typeof newScheduleSchema>) {
  require(viewer, 'preparer', 'have reports made by themselves');
  if ((body.report === null) === (body.pack === null)) throw wrong('report', 'name a report or a pack, one of them');
  if (body.report !== null) await seenReport(ctx, viewer, body.report);
  if (body.pack !== null) {
    mustHave(await seenPack(ctx, viewer, body.pack), body.parts);
    for (const format of body.formats) packFormat(format);
  }
  await knownReceivers(ctx, body.receivers);
  if (body.every === 'condition') await figureOf(ctx, viewer, needed(body.condition));
  const next_at = firstMoment(body, new Date());
  const { load } = await newestLoad(ctx.write);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const made = await insertSchedule(trx, { ...body, person: viewer.id, seen_load: load, next_at });
    await record('had a report made by itself', `schedule ${made}`, { name: body.name, every: body.every });
    return made;
  });
  return shown(ctx, viewer, await seen(ctx, viewer, id));
}

/** @throws ProblemError for a report that is not in the pack */
function mustHave(pack: { name: string; reports: readonly number[] }, parts: readonly number[]): void {
  const odd = parts.find((part) => !pack.reports.includes(part));
  if (odd !== undefined) throw wrong('parts', `report ${odd} is not in “${pack.name}”`);
}

export async function scheduleChanged(
  ctx: Context,
  viewer: Viewer,
  id: number,
  change: z.infer<typeof scheduleChangeSchema>,
) {
  const row = await own(ctx, viewer, id);
  const said = given(change);
  const next = { ...row, ...said } as ScheduleRow;
  if (row.pack !== null) {
    for (const format of next.formats) packFormat(format);
    mustHave(await seenPack(ctx, viewer, row.pack), said.parts ?? []);
  }
  if (said.receivers) await knownReceivers(ctx, said.receivers);
  if (next.every === 'condition') await figureOf(ctx, viewer, needed(next.condition));
  await onRecord(ctx, viewer, async (trx, record) => {
    await changeSchedule(trx, id, { ...said, next_at: firstMoment(next, new Date()) } as Partial<ScheduleRow>);
    await record('changed when a report is made', `schedule ${id}`, { name: next.name, every: next.every });
  });
  return shown(ctx, viewer, await seen(ctx, viewer, id));
}

export async function dropSchedule(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const row = await own(ctx, viewer, id);
  await onRecord(ctx, viewer, async (trx, record) => {
    await changeSchedule(trx, id, { removed_at: new Date() });
    await record('ended a schedule', `schedule ${id}`, { name: row.name });
  });
}

/** Has it made now, beside its own moments. */
export async function runNow(ctx: Context, viewer: Viewer, id: number) {
  const row = await own(ctx, viewer, id);
  const run = await ctx.write.transaction((trx) => begin(trx, row, `by hand ${new Date().toISOString()}`));
  return { id: run as number };
}

/** What was made, newest first: of one's own schedules everything, of others what one received. */
export async function showRuns(ctx: Context, viewer: Viewer, id: number) {
  const row = await seen(ctx, viewer, id);
  const all = row.person === viewer.id || viewer.role === 'owner';
  const runs = await runsOf(ctx.write, id, RUNS_SHOWN);
  return {
    rows: runs.map((run) => ({
      id: run.id,
      for: run.for_what,
      state: run.state,
      reason: run.reason,
      at: run.at.toISOString(),
      endedAt: run.ended_at?.toISOString() ?? null,
      outputs: run.outputs
        .filter((o) => all || o.person === viewer.id)
        .map(({ person, ...o }) => ({ ...o, mine: person === viewer.id })),
    })),
  };
}

/**
 * Begins what has fallen due: moments that have come, of which several missed are made once; new loads; conditions that
 * have come true since the load before. Each is begun once, whichever worker asks.
 */
export async function askSchedules(ctx: Context, now = new Date()): Promise<void> {
  const { load } = await newestLoad(ctx.work);
  for (const row of await dueSchedules(ctx.work, now, load)) {
    try {
      await dueNow(ctx, row, now, load);
    } catch (error) {
      if (!(error instanceof ProblemError)) throw error;
      await failed(ctx, row, `load ${load}`, error.message);
      await changeSchedule(ctx.work, row.id, { seen_load: load });
    }
  }
}

async function dueNow(ctx: Context, row: ScheduleRow, now: Date, load: number): Promise<void> {
  if (row.every === 'load') {
    await ctx.work.transaction(async (trx) => {
      await begin(trx, row, `load ${load}`);
      await changeSchedule(trx, row.id, { seen_load: load });
    });
    return;
  }
  if (row.every === 'condition') {
    const holds = await isTrue(ctx, row);
    await ctx.work.transaction(async (trx) => {
      if (holds && row.held !== true) await begin(trx, row, `load ${load}, when it came true`);
      await changeSchedule(trx, row.id, { seen_load: load, held: holds });
    });
    return;
  }
  const at = row.next_at as Date;
  await ctx.work.transaction(async (trx) => {
    await begin(trx, row, at.toISOString());
    await changeSchedule(trx, row.id, { next_at: row.every === 'once' ? null : nextOf(row, now) });
  });
}

async function begin(trx: Db, row: ScheduleRow, forWhat: string): Promise<number | null> {
  const run = await beginRun(trx, row.id, forWhat);
  if (run === null) return null;
  await addJob(trx, {
    ...{ kind: 'schedule', subject: `schedule ${row.id}`, label: row.name },
    ...{ person: row.person, person_name: row.person_name, entities: null },
    input: { run },
  });
  return run;
}

/** The work of a run: for each receiver the files as they may see them, kept for them and sent to them. */
export async function runSchedule({ ctx, job, tell }: Work): Promise<{ message: string }> {
  const run = await readRun(ctx.work, (job.input as { run: number }).run);
  const row = run && (await readSchedule(ctx.work, run.schedule));
  if (!run || !row) return { message: 'it is not wanted any more' };
  await changeRun(ctx.work, run.id, { state: 'under way' });
  const outputs: Output[] = [];
  for (const [i, person] of row.receivers.entries()) {
    await tell(i / row.receivers.length, `${i} of ${row.receivers.length} receivers`);
    const made = await forReceiver(ctx, row, person);
    outputs.push(...made.map((m) => m.output));
    await changeRun(ctx.work, run.id, { outputs });
    await send(ctx, row, person, made);
  }
  const problems = outputs.filter((o) => o.problem !== null);
  const reason = [...new Set(problems.map((o) => `${o.name}: ${o.problem}`))].join('; ');
  const state = problems.length === outputs.length ? 'failed' : 'done';
  await changeRun(ctx.work, run.id, { state, reason, outputs, ended_at: new Date() });
  if (problems.length > 0) await tellMaker(ctx, row, reason);
  return { message: `${outputs.length - problems.length} made${reason ? `; ${reason}` : ''}` };
}

interface Made {
  output: Output;
  file: { name: string; digest: string; bytes: number } | null;
}

async function forReceiver(ctx: Context, row: ScheduleRow, person: number): Promise<Made[]> {
  const made: Made[] = [];
  const name = (await listPeople(ctx.work)).find((p) => p.id === person)?.name ?? `person ${person}`;
  const refused = (title: string, format: Output['format'], error: unknown): void => {
    if (!(error instanceof ProblemError)) throw error;
    const problem = error.errors.map((e) => e.message).join('; ') || error.message;
    made.push({ output: { person, name, title, format, export: null, problem }, file: null });
  };
  let viewer: Viewer;
  try {
    viewer = await viewerOfPerson(ctx, person);
  } catch (error) {
    for (const format of row.formats) refused(row.name, format, error);
    return made;
  }
  const asking = { id: `schedule ${row.id}`, signal: new AbortController().signal, person: viewer.email };
  await answering(asking, async () => {
    for (const format of row.formats) {
      try {
        for (const { title, path, stream } of await filesOf(ctx, viewer, row, format)) {
          const kept = await keepMade(ctx, person, { title, path, format, how: {} }, await stream(), MEDIA[format]);
          const { id, fileName, digest, bytes } = kept;
          made.push({
            output: { person, name, title, format, export: id, problem: null },
            file: { name: fileName, digest, bytes },
          });
        }
      } catch (error) {
        refused(row.name, format, error);
      }
    }
  });
  return made;
}

/**
 * What a run makes for somebody in a format: the report, or each copy of the pack. Which reports these are is the choice of
 * whoever sends them; what they hold is what their receiver may see.
 */
async function filesOf(ctx: Context, viewer: Viewer, row: ScheduleRow, format: Output['format']) {
  const sender = await viewerOfPerson(ctx, row.person);
  if (row.report !== null) {
    const report = await seenReport(ctx, sender, row.report);
    const title = report.how.title ?? report.name;
    const leaving = await leavingOf(ctx, viewer, report.how, `schedule ${row.id}`);
    const stream = async () =>
      written({ ...(await leafOf(ctx, viewer, report.path)), address: report.page, title }, format, leaving);
    return [{ title, path: report.path, stream }];
  }
  const pack = await seenPack(ctx, sender, row.pack as number);
  const all = await reportsOf(ctx, sender, pack);
  // What left the pack since is not missed; where nothing of it is left, all of the pack is what was meant.
  const some = all.filter((r) => row.parts.includes(r.id));
  const reports = some.length > 0 ? some : all;
  const copies = await copiesOf(ctx, viewer, pack, reports);
  if (copies.length === 0)
    throw new ProblemError(422, 'Nothing was booked on any unit that you see, so there is no copy');
  return copies.map((copy) => ({
    title: copy.title,
    path: `/packs/${pack.id}`,
    stream: () => packFile(ctx, viewer, pack, reports, copy, packFormat(format)),
  }));
}

/** A letter with what was made; what is too large for one stays here. Nobody is sent what is not theirs to see. */
async function send(ctx: Context, row: ScheduleRow, person: number, made: readonly Made[]): Promise<void> {
  const files = made.flatMap((m) => (m.file ? [m.file] : []));
  const receiver = (await listPeople(ctx.work)).find((p) => p.id === person);
  if (files.length === 0 || !receiver || receiver.suspended_at) return;
  let room = ATTACHED_MAX;
  const attached = files.filter((file) => {
    if (file.bytes > room) return false;
    room -= file.bytes;
    return true;
  });
  const left = files.length - attached.length;
  await ctx.work.transaction((trx) =>
    post(trx, [
      {
        receiver: receiver.email,
        subject: row.name,
        body: `${made.flatMap((m) => (m.output.problem === null ? [`${m.output.title} (${m.output.format})`] : [])).join('\n')}\n\n${
          left > 0 ? `${left} of these are too large for a letter.\n` : ''
        }All of it is kept for you here: ${publicAddress('/reports/files')}\n\nSent for ${row.person_name} by the schedule “${row.name}”. What it holds is what you may see.\n`,
        files: attached.map(({ name, digest }) => ({ name, digest })),
      },
    ]),
  );
}

/** Whoever set a schedule is told where it failed for somebody. */
async function tellMaker(ctx: Context, row: ScheduleRow, reason: string): Promise<void> {
  const maker = (await listPeople(ctx.work)).find((p) => p.id === row.person);
  if (!maker || maker.suspended_at) return;
  const body = `${reason}\n\n${publicAddress('/reports/schedules')}\n`;
  await ctx.work.transaction((trx) =>
    post(trx, [{ receiver: maker.email, subject: `Not all of “${row.name}” could be made`, body }]),
  );
}

async function failed(ctx: Context, row: ScheduleRow, forWhat: string, reason: string): Promise<void> {
  const run = await beginRun(ctx.work, row.id, forWhat);
  if (run === null) return;
  await changeRun(ctx.work, run, { state: 'failed', reason, ended_at: new Date() });
  await tellMaker(ctx, row, reason);
}

/** Whether the condition holds, as whoever set it sees its figure. */
async function isTrue(ctx: Context, row: ScheduleRow): Promise<boolean> {
  const viewer = await viewerOfPerson(ctx, row.person);
  const condition = needed(row.condition);
  const now = compareDecimals(await figureOf(ctx, viewer, condition), condition.amount);
  return condition.is === 'above' ? now > 0 : now < 0;
}

async function figureOf(ctx: Context, viewer: Viewer, { scope, measure }: Condition): Promise<string> {
  const [figure] = (await readFigures(ctx, viewer, [{ scope, measure }])).figures;
  if (!figure?.value) throw wrong('condition', `the figure of the condition cannot be told: ${figure?.error ?? ''}`);
  return figure.value;
}

function needed(condition: Condition | null): Condition {
  if (!condition) throw wrong('condition', 'say which figure is to become what');
  return condition;
}

function firstMoment(when: When & { paused: boolean }, now: Date): Date | null {
  const next = nextOf(when, now);
  const looks = when.every === 'load' || when.every === 'condition';
  if (next === null && !looks)
    throw wrong('day', when.every === 'once' ? 'name a day and a time that are still to come' : 'this never falls due');
  return next;
}

async function knownReceivers(ctx: Context, receivers: readonly number[]): Promise<void> {
  const people = await listPeople(ctx.write);
  for (const id of receivers)
    if (!people.some((p) => p.id === id && p.suspended_at === null))
      throw wrong('receivers', 'one of them is not here');
}

const concerns = (viewer: Viewer, row: ScheduleRow): boolean =>
  row.person === viewer.id || viewer.role === 'owner' || row.receivers.includes(viewer.id);

async function seen(ctx: Context, viewer: Viewer, id: number): Promise<ScheduleRow> {
  const row = await readSchedule(ctx.write, id);
  if (!row || !concerns(viewer, row)) throw notFound(`Schedule ${id}`);
  return row;
}

async function own(ctx: Context, viewer: Viewer, id: number): Promise<ScheduleRow> {
  const row = await seen(ctx, viewer, id);
  if (row.person !== viewer.id && viewer.role !== 'owner')
    throw forbidden(`Only ${row.person_name} or an owner can change “${row.name}”`);
  return row;
}

async function shown(ctx: Context, viewer: Viewer, row: ScheduleRow, known?: readonly { id: number; name: string }[]) {
  const mine = row.person === viewer.id;
  const [last] = await runsOf(ctx.write, row.id, 1);
  const people = known ?? (await listPeople(ctx.write));
  return {
    id: row.id,
    name: row.name,
    report: row.report,
    pack: row.pack,
    parts: row.parts,
    formats: row.formats,
    // Who else receives it is told to whoever sends it.
    receivers: row.receivers
      .filter((id) => mine || viewer.role === 'owner' || id === viewer.id)
      .map((id) => ({ id, name: people.find((p) => p.id === id)?.name ?? '' })),
    every: row.every,
    day: row.day,
    days: row.days,
    time: row.time,
    zone: row.zone,
    condition: mine ? row.condition : null,
    paused: row.paused,
    nextAt: row.next_at?.toISOString() ?? null,
    last: last
      ? {
          id: last.id,
          state: last.state,
          reason: mine || viewer.role === 'owner' ? last.reason : '',
          at: last.at.toISOString(),
        }
      : null,
    mine,
    by: row.person_name,
  };
}
