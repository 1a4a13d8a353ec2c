import type { z } from 'zod';
import type { knotChangeSchema, Measure, newKnotSchema, newThreadSchema, threadChangeSchema } from '@/contracts/bodies';
import { forbidden, notFound, ProblemError, wrong } from '@/contracts/problem';
import { readQuery, type ScopeParams, scopeShape } from '@/contracts/scope';
import { sha256Text } from '@/core/digest';
import { add, exponentOf, formatAmount, type Minor, parseAmount } from '@/core/money';
import type { Db } from '@/store/db';
import { findEntry } from '@/store/entries';
import { type FormerWords, formerWords, keepFormer } from '@/store/formerWords';
import { addToRecord } from '@/store/record';
import type { KnotRow, ThreadRow } from '@/store/threads';
import * as store from '@/store/threads';
import { figureBalance } from './accountBalances';
import { type Context, known } from './context';
import { readSheet } from './readSheet';
import { figureAt, linesOfSubject, readSubject, settleSubject, subjectText, withSeenSubject } from './subjects';
import { maySee, require, type Viewer } from './viewer';

export type WantedKnot = z.infer<typeof newKnotSchema>;

/** Saves a way as a thread of its own. @returns the thread and the ids of its knots along the way */
export async function saveThread(ctx: Context, viewer: Viewer, { name, knots }: z.infer<typeof newThreadSchema>) {
  require(viewer, 'preparer', 'save a thread');
  const way = await settled(ctx, viewer, knots);
  return ctx.write.transaction(async (trx) => {
    const id = await store.insertThread(trx, name, viewer.id);
    const ids = await store.addWay(trx, id, way, viewer.id);
    await addToRecord(trx, recorded(viewer, 'saved a thread', id, { name, knots: ids.length, kept: await onRecord(trx, id, ids, []) }));
    return { id, knots: ids };
  });
}

/** Adds a way to a thread: what they share is kept once, and where they part the thread forks. */
export async function addToThread(ctx: Context, viewer: Viewer, id: number, knots: WantedKnot[]) {
  require(viewer, 'preparer', 'go on with a thread');
  mustBeOpen((await seen(ctx, viewer, id)).thread);
  const way = await settled(ctx, viewer, knots);
  return ctx.write.transaction(async (trx) => {
    const before = (await store.knotsOf(trx, [id])).map((k) => k.id);
    const ids = await store.addWay(trx, id, way, viewer.id);
    await store.updateThread(trx, id, {});
    await addToRecord(trx, recorded(viewer, 'went on with a thread', id, { knots: ids, kept: await onRecord(trx, id, ids, before) }));
    return { id, knots: ids };
  });
}

/** What a step froze: its figure, and what it was asked of. Its words may be changed, and are on record each time. */
export const knotDigest = (
  k: Pick<KnotRow, 'thread' | 'parent' | 'address' | 'view' | 'split_by' | 'subject' | 'measure' | 'currency' | 'value' | 'lines' | 'load'>,
): string => sha256Text(JSON.stringify([k.thread, k.parent, k.address, k.view, k.split_by, k.subject, k.measure, k.currency, k.value, k.lines, k.load]));

/** Steps that were added, as the record keeps them. */
async function onRecord(trx: Db, thread: number, ids: readonly number[], before: readonly number[]) {
  const added = (await store.knotsOf(trx, [thread])).filter((k) => ids.includes(k.id) && !before.includes(k.id));
  return Object.fromEntries(added.map((k) => [k.id, { digest: knotDigest(k), label: k.label }]));
}

/** All threads of which the viewer may see every figure. */
export async function listThreads(ctx: Context, viewer: Viewer) {
  return {
    rows: (await allSeen(ctx, viewer)).map(({ thread, knots }) => ({
      ...shownThread(thread, viewer),
      knots: knots.length,
      entities: [...new Set(knots.flatMap((k) => k.entities))],
      address: knots.at(-1)?.address ?? null,
    })),
  };
}

/** One thread with its knots: the figures as they were when the steps were taken, and as they are now. */
export async function showThread(ctx: Context, viewer: Viewer, id: number) {
  const { thread, knots } = await seen(ctx, viewer, id);
  const former = await formerWords(ctx.write, [threadSubject(id), ...knots.map((k) => knotSubject(k.id))]);
  const shown = await Promise.all(
    knots.map(async (k) => {
      const now = await figureOf(ctx, viewer, k, {}).catch(problemText);
      return {
        ...shownKnot(k),
        mine: k.person === viewer.id,
        former: shownFormer(former, knotSubject(k.id)),
        ...(typeof now === 'string' ? { now: null, problem: now } : { now: amountOf(now.value, now.currency), sentence: now.sentence }),
        ...movedOf(k, now),
      };
    }),
  );
  return { ...shownThread(thread, viewer), former: shownFormer(former, threadSubject(id)), knots: shown };
}

const threadSubject = (id: number): string => `thread ${id}`;
const knotSubject = (id: number): string => `step ${id}`;

const shownFormer = (former: readonly FormerWords[], subject: string) =>
  former.filter((f) => f.subject === subject).map((f) => ({ words: f.words, by: f.person_name, at: f.at.toISOString() }));

/** What is concluded is closed to everybody, whoever wrote it, until it is opened again. */
function mustBeOpen(thread: ThreadRow): void {
  if (thread.state === 'concluded') throw new ProblemError(409, `“${thread.name}” is concluded; open it again to change it`);
}

export async function changeThread(ctx: Context, viewer: Viewer, id: number, change: z.infer<typeof threadChangeSchema>) {
  const { thread } = await own(ctx, viewer, id);
  const renamed = change.name !== undefined && change.name !== thread.name;
  if (renamed && change.state !== 'open') mustBeOpen(thread);
  await ctx.write.transaction(async (trx) => {
    if (renamed) await keepFormer(trx, threadSubject(id), { name: thread.name }, viewer.id);
    await store.updateThread(trx, id, change);
    const act =
      change.state === undefined || change.state === thread.state
        ? 'renamed a thread'
        : change.state === 'open'
          ? 'opened a thread again'
          : 'concluded a thread';
    await addToRecord(trx, recorded(viewer, act, id, change));
  });
  return showThread(ctx, viewer, id);
}

export async function removeThread(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const { thread } = await own(ctx, viewer, id);
  mustBeOpen(thread);
  await ctx.write.transaction(async (trx) => {
    await store.updateThread(trx, id, { removed_at: new Date() });
    await addToRecord(trx, recorded(viewer, 'took a thread away', id, { name: thread.name }));
  });
}

/** Renames or annotates one's own step; what it said before is kept, and shown with it. */
export async function changeKnot(ctx: Context, viewer: Viewer, id: number, knot: number, change: z.infer<typeof knotChangeSchema>) {
  require(viewer, 'preparer', 'annotate a thread');
  const { thread, knots } = await knotOf(ctx, viewer, id, knot);
  mustBeOpen(thread);
  const step = knots.find((k) => k.id === knot) as KnotRow;
  if (step.person !== viewer.id) throw forbidden(`These are ${step.person_name}’s words; only they change them. Add a step of your own, or a note`);
  const before = { label: step.label, note: step.note };
  const changed = (change.label ?? step.label) !== step.label || (change.note ?? step.note) !== step.note;
  if (changed) {
    await ctx.write.transaction(async (trx) => {
      await keepFormer(trx, knotSubject(knot), before, viewer.id);
      await store.updateKnot(trx, knot, change);
      await store.updateThread(trx, id, {});
      await addToRecord(trx, recorded(viewer, 'annotated a step', id, { knot, ...change, before }));
    });
  }
  return showThread(ctx, viewer, id);
}

/** Takes a dead end away: a step of one's own with all that was traced from it, as long as that is one's own as well. */
export async function removeKnot(ctx: Context, viewer: Viewer, id: number, knot: number) {
  require(viewer, 'preparer', 'shorten a thread');
  const { thread, knots } = await knotOf(ctx, viewer, id, knot);
  mustBeOpen(thread);
  if (knots.filter((k) => k.parent === null).length === 1 && knots.find((k) => k.id === knot)?.parent === null) {
    throw new ProblemError(409, 'A thread keeps its first sheet; take the whole thread away instead');
  }
  const other = [knot, ...below(knot, knots)].map((k) => knots.find((row) => row.id === k) as KnotRow).find((k) => k.person !== viewer.id);
  if (other) throw forbidden(`The step “${other.label}” is ${other.person_name}’s; only they take it away`);
  await ctx.write.transaction(async (trx) => {
    const removed = await store.removeKnots(trx, knot);
    await store.updateThread(trx, id, {});
    await addToRecord(trx, recorded(viewer, 'took steps away', id, { knot, removed }));
  });
  return showThread(ctx, viewer, id);
}

const below = (knot: number, knots: readonly KnotRow[]): number[] => knots.filter((k) => k.parent === knot).flatMap((k) => [k.id, ...below(k.id, knots)]);

export interface Replay {
  from?: string | undefined;
  to?: string | undefined;
  window?: string | undefined;
  entity?: string[] | undefined;
  load?: number | undefined;
  member?: string | undefined;
}

/**
 * The same steps asked for another window, unit, entity or load. Each knot has its figure as kept and as asked now;
 * where a step cannot be taken there, it says why, and what hangs below it is still tried.
 */
export async function replayThread(ctx: Context, viewer: Viewer, id: number, wanted: Replay) {
  const { thread, knots } = await seen(ctx, viewer, id);
  const put = putOf(wanted);
  if (Object.keys(put).length === 0) throw wrong('from', 'say what the steps are walked again for: a window, an entity, a member or a load');
  const replayed = await Promise.all(
    knots.map(async (k) => {
      const kept = shownKnot(k);
      if (k.view === 'entry') return { ...kept, now: null, change: null, problem: 'an entry is the entry that it is; trace it again from the lines' };
      const now = await figureOf(ctx, viewer, k, putFor(k, knots, put)).catch(problemText);
      if (typeof now === 'string') return { ...kept, now: null, change: null, problem: now };
      const members = k.view === 'split' && k.split_by ? await memberChange(ctx, viewer, k, putFor(k, knots, put)).catch(() => null) : null;
      const change = k.value === null || now.value === null || now.currency !== k.currency ? null : amountOf(add(now.value, -k.value), now.currency);
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
  return { id, name: thread.name, put, knots: replayed };
}

/** A thread's figures, once for every member of a dimension (or entity) in which anything was booked, new members included. */
export async function fanOut(ctx: Context, viewer: Viewer, id: number, by: string) {
  const { thread, knots } = await seen(ctx, viewer, id);
  const figures = knots.filter((k) => k.measure !== null && k.view !== 'entry');
  if (figures.length === 0) throw new ProblemError(422, 'This thread has no step with a figure yet; trace one first');
  const { catalogue } = await known(ctx.read);
  const parents = new Set<string>();
  if (by.startsWith('dim:')) for (const m of catalogue.trees.get(by.slice(4))?.values() ?? []) if (m.parent) parents.add(m.parent);
  const members = new Map<string, { member: string; name: string; cells: (string | null)[] }>();
  const columns = await Promise.all(
    figures.map(async (k, at) => {
      const params = paramsOf(k);
      const measure = k.measure as Exclude<Measure, 'roll'>;
      let sum: Minor = 0;
      let digits = 2;
      const walk = async (split: string): Promise<void> => {
        const sheet = await readSheet(ctx, viewer, { ...params, by: [split] });
        digits = exponentOf(sheet.currency);
        for (const row of sheet.rows) {
          if (parents.has(row.member) && !split.endsWith(`/${row.member}`)) {
            await walk(`${by}/${row.member}`);
            continue;
          }
          // What lies directly on a parent, or under no member, has the same key under every one.
          const key = row.member.startsWith('~') ? `${split} ${row.member}` : row.member;
          const held = members.get(key) ?? { member: key, name: row.name, cells: figures.map(() => null) };
          members.set(key, held);
          held.cells[at] = row[measure];
          sum = add(sum, parseAmount(row[measure], digits));
        }
      };
      await walk(by);
      const { value, currency } = await figureOf(ctx, viewer, k, {});
      return {
        knot: k.id,
        label: k.label,
        measure,
        currency,
        total: amountOf(value, currency),
        tie: { ok: sum === value, offBy: formatAmount(add(sum, -(value ?? 0)), digits) },
      };
    }),
  );
  return { id, name: thread.name, by, columns, rows: [...members.values()].sort((a, b) => (a.member < b.member ? -1 : 1)) };
}

/** Threads one of whose figures `touches` says yes to. */
export async function threadsTouched(ctx: Context, viewer: Viewer, entities: string[], touches: (subject: string) => Promise<boolean>) {
  const found: { id: number; name: string; by: string; state: ThreadRow['state']; steps: string[] }[] = [];
  for (const { thread: t, knots: its } of await allSeen(ctx, viewer)) {
    if (!its.some((k) => k.entities.some((e) => entities.includes(e)))) continue;
    const steps: string[] = [];
    for (const k of its) if ((k.measure || k.view === 'entry') && (await touches(k.subject).catch(() => false))) steps.push(k.label);
    if (steps.length > 0) found.push({ id: t.id, name: t.name, by: t.person_name, state: t.state, steps });
  }
  return found;
}

/** The knots as they are kept: what each is about in its canonical form, and its figure on the newest load. */
async function settled(ctx: Context, viewer: Viewer, knots: WantedKnot[]): Promise<store.NewKnot[]> {
  const { newest } = await known(ctx.write);
  return Promise.all(
    knots.map(async (k) => {
      const { subject, entities } = await settleSubject(ctx, viewer, await entrySubject(ctx, viewer, k.subject));
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
      return { ...bare, currency: figure?.currency ?? null, value: figure?.value ?? null, lines: figure?.lines ?? null };
    }),
  );
}

/** A screen knows an entry by its id; evidence names it by the number that it bears. */
async function entrySubject(ctx: Context, viewer: Viewer, subject: string): Promise<string> {
  const [, id] = /^entry:e(\d+)$/.exec(subject) ?? [];
  if (!id) return subject;
  const head = await findEntry(ctx.read, { id: Number(id) });
  if (!head || !maySee(viewer, head.entity)) throw notFound(`Entry e${id}`);
  return subjectText({ is: 'entry', entity: head.entity, entry: head.number });
}

interface FigureNow {
  value: Minor | null;
  lines: number;
  currency: string;
  sentence: string;
}

async function figureOf(ctx: Context, viewer: Viewer, knot: Pick<KnotRow, 'subject' | 'measure'>, put: Put): Promise<FigureNow> {
  const subject = readSubject(knot.subject);
  if (subject.is !== 'figure') {
    const { lines, asked } = await linesOfSubject(ctx, viewer, subject, null);
    const debits = lines.filter((l) => l.side === 'debit').reduce((sum, l) => add(sum, l.amount), 0);
    return { value: debits, lines: lines.length, currency: asked.currency, sentence: asked.sentence };
  }
  const address = withPut(subject.address, put);
  const load = put.load ? Number(put.load[0]) : null;
  address.delete('load');
  const asked = await figureAt(ctx, viewer, address.toString(), load);
  const whole = await figureBalance(ctx, asked);
  return { value: knot.measure ? whole[knot.measure] : null, lines: whole.count, currency: asked.currency, sentence: asked.sentence };
}

type Put = Record<string, string[]>;

/** A figure's address with parameters in place of those of the same name. */
function withPut(address: string, put: Put): URLSearchParams {
  const params = new URLSearchParams(address);
  for (const [name, values] of Object.entries(put)) {
    params.delete(name);
    for (const value of values) params.append(name, value);
  }
  return params;
}

function putOf(wanted: Replay): Put {
  const put: Put = {};
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
function putFor(knot: KnotRow, knots: readonly KnotRow[], put: Put): Put {
  const ends = (k: KnotRow): string => {
    const params = new URLSearchParams(k.subject.replace(/^figure:/, ''));
    return `${params.get('from')}|${params.get('to')}`;
  };
  let first = knot;
  for (let up = knots.find((k) => k.id === first.parent); up; up = knots.find((k) => k.id === first.parent)) first = up;
  if (ends(first) === ends(knot)) return put;
  const { from: _from, to: _to, window: _window, ...rest } = put;
  return rest;
}

const paramsOf = (knot: KnotRow): ScopeParams => readQuery(scopeShape, new URLSearchParams(readFigure(knot.subject)));
const readFigure = (subject: string): string => subject.replace(/^figure:/, '');

/** Which members of a split vanished, and which appeared. */
async function memberChange(ctx: Context, viewer: Viewer, knot: KnotRow, put: Put) {
  const by = (knot.split_by as string).split('|').slice(0, 1);
  const params = withPut(readFigure(knot.subject), put);
  const [then, now] = await Promise.all([readSheet(ctx, viewer, { ...paramsOf(knot), by }), readSheet(ctx, viewer, { ...readQuery(scopeShape, params), by })]);
  const active = (rows: typeof then.rows) => rows.filter((r) => r.count > 0 || !/^-?0*\.?0*$/.test(r.closing));
  const names = (rows: typeof then.rows, others: typeof then.rows): string[] => {
    const there = new Set(active(others).map((r) => r.member));
    return active(rows).flatMap((r) => (there.has(r.member) ? [] : [r.name]));
  };
  return { vanished: names(then.rows, now.rows), appeared: names(now.rows, then.rows) };
}

const amountOf = (value: Minor | null, currency: string): string | null => (value === null ? null : formatAmount(value, exponentOf(currency)));

const movedOf = (knot: KnotRow, now: FigureNow | string): { moved: boolean } => ({
  moved: typeof now !== 'string' && (now.value !== knot.value || (knot.lines !== null && now.lines !== knot.lines)),
});

const problemText = (error: unknown): string => {
  if (error instanceof ProblemError) return error.errors.map((e) => e.message).join('; ') || error.message;
  throw error;
};

const shownThread = (t: ThreadRow, viewer: Viewer) => ({
  ...{ id: t.id, name: t.name, state: t.state, by: t.person_name, mine: t.person === viewer.id },
  ...{ at: t.created_at.toISOString(), changed: t.changed_at.toISOString() },
});

const shownKnot = (k: KnotRow) => ({
  ...{ id: k.id, parent: k.parent, address: k.address, label: k.label, view: k.view, by: k.split_by, measure: k.measure, note: k.note, load: k.load },
  ...{
    currency: k.currency,
    value: k.currency === null ? null : amountOf(k.value, k.currency),
    lines: k.lines,
    who: k.person_name,
    at: k.created_at.toISOString(),
  },
});

/** Every thread of which the viewer may see every figure, with its knots. */
async function allSeen(ctx: Context, viewer: Viewer): Promise<{ thread: ThreadRow; knots: KnotRow[] }[]> {
  const threads = await store.listThreads(ctx.write);
  const knots = new Map<number, KnotRow[]>(threads.map((t) => [t.id, []]));
  for (const k of await store.knotsOf(ctx.write, [...knots.keys()])) knots.get(k.thread)?.push(k);
  const all = threads.map((thread) => ({ thread, knots: knots.get(thread.id) ?? [] }));
  const visible = await Promise.all(all.map((t) => maySeeAll(ctx, viewer, t.knots)));
  return all.filter((_, i) => visible[i]);
}

const maySeeAll = async (ctx: Context, viewer: Viewer, knots: readonly KnotRow[]): Promise<boolean> =>
  (await withSeenSubject(ctx, viewer, knots)).length === knots.length;

/** A thread of which anything is outside the viewer's grant is not there for them. */
async function seen(ctx: Context, viewer: Viewer, id: number): Promise<{ thread: ThreadRow; knots: KnotRow[] }> {
  const thread = await store.readThread(ctx.write, id);
  const knots = thread ? await store.knotsOf(ctx.write, [id]) : [];
  if (!thread || !(await maySeeAll(ctx, viewer, knots))) throw notFound(`Thread ${id}`);
  return { thread, knots };
}

async function own(ctx: Context, viewer: Viewer, id: number) {
  require(viewer, 'preparer', 'change a thread');
  const found = await seen(ctx, viewer, id);
  if (found.thread.person !== viewer.id) throw forbidden(`Only ${found.thread.person_name} can rename this thread, conclude it or take it away`);
  return found;
}

async function knotOf(ctx: Context, viewer: Viewer, id: number, knot: number) {
  const found = await seen(ctx, viewer, id);
  if (!found.knots.some((k) => k.id === knot)) throw notFound(`Step ${knot} of thread ${id}`);
  return found;
}

const recorded = (viewer: Viewer, act: string, thread: number, detail: object) => ({
  ...{ person: viewer.id, personName: viewer.name, act, subject: `thread ${thread}` },
  detail: { ...detail } as Record<string, unknown>,
});
