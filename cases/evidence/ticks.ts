import type { z } from 'zod';
import { type newTicksSchema, TICKED_MAX, type tickMarksSchema } from '@/contracts/bodies/all';
import { wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import type { Measure } from '@/contracts/traced';
import { FIRST_TICK_MARKS, type TickMark } from '@/contracts/work';
import { add, formatAmount } from '@/core/money';
import type { Db } from '@/store/db';
import { insertManyEvidence, keepMoved, movedKept, type TickRow, tickedLines, ticksUnmoved } from '@/store/evidence';
import { keepSetting, readSetting } from '@/store/settings';
import { shareOfLines } from '@/store/ticked';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { resolveFigure } from '../asking/resolveFigure';
import { require, type Viewer } from '../asking/viewer';
import { aboutOf, shownAbout } from './about';
import { EVERYTHING } from './everything';
import { type EvidenceParams, seenEvidence } from './seenEvidence';
import { takeAway } from './takeAway';
import { heldOpen } from './threads/words';
import { goneIsNull, valueNow } from './valueNow';

const SETTING = 'tick-marks';

/** The marks of the installation, with what each means; those that are no longer given are among them. */
export async function tickMarks(ctx: Context): Promise<{ marks: TickMark[] }> {
  const kept = await readSetting<{ marks: TickMark[] }>(ctx.write, SETTING);
  return { marks: kept?.marks ?? [...FIRST_TICK_MARKS] };
}

/** Changes the legend. A mark that was given keeps its code: it may be retired, and not be made another. @throws ProblemError */
export async function keepTickMarks(ctx: Context, viewer: Viewer, { marks }: z.infer<typeof tickMarksSchema>) {
  require(viewer, 'owner', 'change the legend of tick marks');
  const before = (await tickMarks(ctx)).marks;
  const gone = before.filter((b) => !marks.some((m) => m.code === b.code));
  if (gone.length > 0)
    throw wrong(
      'marks',
      `a mark that may have been given stays in the legend; retire ${gone.map((m) => `“${m.meaning}”`).join(', ')} instead`,
    );
  await onRecord(ctx, viewer, async (trx, record) => {
    await keepSetting(trx, SETTING, { marks }, viewer.name);
    await record('changed the legend of ticks', 'setting tick-marks', { marks, before });
  });
  return { marks };
}

/** So many are worked out at once: lines and entries are looked up together, of figures each is a question of its own. */
const atOnce = (subjects: readonly string[]): number =>
  subjects.every((subject) => /^(line|entry):/.test(subject)) ? TICKED_MAX : 16;

/** Ticks figures, lines, entries or documents, all with one mark; what has that mark of the viewer's already is left as it is. */
export async function tick(ctx: Context, viewer: Viewer, wanted: z.input<typeof newTicksSchema>) {
  require(viewer, 'preparer', 'tick');
  const mark = (await tickMarks(ctx)).marks.find((m) => m.code === wanted.mark);
  if (!mark || mark.retired)
    throw wrong(
      'mark',
      mark
        ? `“${mark.meaning}” is no longer given; choose another mark`
        : `there is no mark “${wanted.mark}” in the legend`,
    );
  const measure = wanted.measure ?? null;
  const found = await inTurns(wanted.subjects, atOnce(wanted.subjects), async (subject, at) => {
    const about = await aboutOf(ctx, viewer, {
      ...{ subject, measure, address: wanted.address ?? '', thread: wanted.thread ?? null },
      label: wanted.labels?.[at] ?? '',
    });
    return { about, now: await valueNow(ctx, viewer, about.subject, measure ?? 'closing') };
  });
  const held = await seenEvidence(ctx, viewer, 'tick', { subject: found.map((f) => f.about.subject), limit: 50_000 });
  const mine = new Map(
    held.rows
      .filter((t) => t.person === viewer.id && t.mark === mark.code && t.measure === measure)
      .map((t) => [t.subject, t.id]),
  );
  const states = await movedTicks(ctx, viewer, held.rows);
  const ids = await onRecord(ctx, viewer, async (trx, record) => {
    const isFresh = ({ about }: (typeof found)[number]): boolean => {
      const there = mine.get(about.subject);
      return there !== undefined && !states.get(there);
    };
    const wanting = found.filter((f) => !isFresh(f));
    await heldOpen(trx, wanted.thread ?? null);
    const added = await insertManyEvidence(
      trx,
      'tick',
      wanting.map(({ about, now: { value, lines, digest } }) => ({
        about,
        own: { mark: mark.code, value, lines, digest },
      })),
    );
    const put = wanting.map(({ about, now: { value, lines, digest } }, i) => ({
      ...{ tick: added[i] as number, subject: about.subject, value, lines, digest },
    }));
    const all = [...added, ...found.filter(isFresh).flatMap((f) => mine.get(f.about.subject) ?? [])];
    if (put.length > 0)
      await record('ticked', put.length === 1 ? (put[0]?.subject as string) : `${put.length} subjects`, {
        mark: mark.code,
        meaning: mark.meaning,
        put,
      });
    return all;
  });
  const { rows } = await seenEvidence(ctx, viewer, 'tick', {
    subject: found.map((f) => f.about.subject),
    limit: 50_000,
  });
  const wantedIds = new Set(ids);
  return {
    rows: await shownTicks(
      ctx,
      viewer,
      rows.filter((t) => wantedIds.has(t.id)),
    ),
  };
}

/** Ticks on what the viewer may see, each fresh or drifted. */
export async function listTicks(ctx: Context, viewer: Viewer, params: EvidenceParams) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'tick', params);
  return { rows: await shownTicks(ctx, viewer, rows), next };
}

/** Takes one's own tick away; the record keeps it. */
export const removeTick = (ctx: Context, viewer: Viewer, id: number): Promise<void> =>
  takeAway(ctx, viewer, 'tick', id, 'took a tick away', ({ mark }) => ({ mark }));

/** How many of a figure's lines are ticked, and how much of their amount, whatever their side. */
export async function tickedShare(ctx: Context, viewer: Viewer, params: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, params);
  const ticked = await tickedLines(ctx.write, asked.figure.entities);
  const { db, question } = await asked.ask(ctx, []);
  const share = await shareOfLines(db, question, ticked);
  return {
    lines: share.lines,
    ticked: share.ticked,
    amount: formatAmount(share.amount, asked.digits),
    tickedAmount: formatAmount(share.tickedAmount, asked.digits),
  };
}

async function shownTicks(ctx: Context, viewer: Viewer, rows: readonly TickRow[]) {
  const [{ marks }, moved] = await Promise.all([tickMarks(ctx), movedTicks(ctx, viewer, rows)]);
  const markOf = new Map(marks.map((m) => [m.code, m]));
  return rows.map((t) => ({
    ...shownAbout(t, viewer),
    mark: t.mark,
    shape: markOf.get(t.mark)?.shape ?? ('hook' as const),
    meaning: markOf.get(t.mark)?.meaning ?? t.mark,
    state: moved.get(t.id) ? ('drifted' as const) : ('fresh' as const),
  }));
}

/** Whether what each tick stands on is another by now. It is worked out once for every load, and kept. */
export async function movedTicks(
  ctx: Context,
  viewer: Viewer,
  rows: readonly TickRow[],
): Promise<Map<number, boolean>> {
  const { newest } = await known(ctx.read);
  const older = rows.filter((t) => t.load < newest);
  const kept = await movedKept(
    ctx.write,
    'tick',
    older.map((t) => t.id),
    newest,
  );
  const unknown = older.filter((t) => !kept.has(t.id));
  const together = atOnce(unknown.map((t) => t.subject));
  const found = await inTurns(unknown, together, (t) => movedOf(ctx, viewer, t));
  return new Map([...kept, ...unknown.map((t, i): [number, boolean] => [t.id, found[i] as boolean])]);
}

const BATCH = 500;

/** Works out and keeps what a load did to every tick; for the job that looks at pins. @returns how many moved */
export async function keepMovedTicks(ctx: Context, db: Db, load: number): Promise<number> {
  let moved = 0;
  for (let rows = await ticksUnmoved(db, load, BATCH); rows.length > 0; rows = await ticksUnmoved(db, load, BATCH)) {
    const found = await inTurns(rows, 4, async (t) => ({ id: t.id, moved: await movedOf(ctx, EVERYTHING, t) }));
    await keepMoved(db, 'tick', load, found);
    moved += found.filter((f) => f.moved).length;
  }
  return moved;
}

async function movedOf(ctx: Context, viewer: Viewer, t: TickRow): Promise<boolean> {
  const now = await goneIsNull(valueNow(ctx, viewer, t.subject, (t.measure as Measure | null) ?? 'closing'));
  if (now === null) return true;
  return t.digest !== null
    ? now.digest !== t.digest
    : add(now.value ?? 0, -(t.value ?? 0)) !== 0 || now.lines !== t.lines;
}

/** The same for each, so many at once. */
async function inTurns<Of, Found>(
  all: readonly Of[],
  atOnce: number,
  work: (one: Of, at: number) => Promise<Found>,
): Promise<Found[]> {
  const found: Found[] = [];
  for (let at = 0; at < all.length; at += atOnce)
    found.push(...(await Promise.all(all.slice(at, at + atOnce).map((one, i) => work(one, at + i)))));
  return found;
}
