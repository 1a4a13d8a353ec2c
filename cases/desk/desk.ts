import type { z } from 'zod';
import type { deskSeenSchema } from '@/contracts/bodies/all';
import { placeOfSubject } from '@/contracts/places';
import { add, exponentOf, formatAmount } from '@/core/money';
import { countsIn } from '@/core/proposedEntry';
import { dateText } from '@/core/sentence';
import {
  driftsOf,
  findingsOwned,
  listEvidence,
  mentionSeen,
  mentionsOf,
  movedKept,
  movedTicksOf,
  openPoints,
  questionsFor,
  readEvidence,
} from '@/store/evidence';
import { listLoads } from '@/store/loads';
import { keepPreference, preferencesOf } from '@/store/preferences';
import { countNew, runsByThemselves } from '@/store/testRuns';
import { type Context, known } from '../asking/context';
import { maySeeSubject, withSeenSubject } from '../asking/subjects';
import { isAtLeast, maySeeBooks, type Viewer } from '../asking/viewer';
import { driftsOfPins } from '../evidence/drift';
import { listThreads } from '../evidence/threads/shown';
import { shownText } from '../evidence/written';
import { showKeptScopes } from '../people/keptScopes';
import { mayApprove } from '../proposals/approval';
import { proposedNumber } from '../proposals/lines';

const DAY_MS = 86_400_000;
const LOOKED = 'desk';
interface Looked {
  load: number;
  at: string;
}
/** So much is told one by one. */
const LOADS_TOLD = 50;
const TICKS_TOLD = 100;
const EVERY = { subjects: null, entities: null, limit: 100_000, after: 0 };

const ageOf = (since: Date): number => Math.max(0, Math.floor((Date.now() - since.getTime()) / DAY_MS));

/** What waits for the viewer, what moved since they last looked, their threads, and how far the team is. */
export async function desk(ctx: Context, viewer: Viewer) {
  const threads = (await listThreads(ctx, viewer)).rows;
  const [waiting, moved, scopes] = await Promise.all([
    waitingFor(ctx, viewer, threads),
    movedSince(ctx, viewer, threads),
    showKeptScopes(ctx, viewer),
  ]);
  return {
    waiting,
    ...moved,
    threads: threads
      .filter((t) => t.mine && t.state !== 'signed')
      .map(({ id, name, reference, state, openPoints, moved: steps, changed }) => ({
        ...{ id, name, reference, state, openPoints, changed },
        moved: steps,
      })),
    scopes: scopes.rows
      .filter((s) => s.mine || s.atHand)
      .map((s) => ({ name: s.name, place: `/${s.place}?${s.query}` })),
    progress: progressOf(threads),
  };
}

type Threads = Awaited<ReturnType<typeof listThreads>>['rows'];

function progressOf(threads: Threads) {
  const folders = new Map<string, Threads>();
  for (const t of threads) folders.set(t.folder, [...(folders.get(t.folder) ?? []), t]);
  const sum = (of: Threads, count: (t: Threads[number]) => number): number => of.reduce((all, t) => all + count(t), 0);
  return [...folders]
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([folder, its]) => ({
      folder,
      threads: its.length,
      open: its.filter((t) => t.state === 'open' || t.state === 'changed').length,
      prepared: its.filter((t) => t.state === 'prepared').length,
      signed: its.filter((t) => t.state === 'signed').length,
      openPoints: sum(its, (t) => t.openPoints),
      moved: sum(its, (t) => t.moved),
    }));
}

async function waitingFor(ctx: Context, viewer: Viewer, threads: Threads) {
  const mine = new Set(threads.filter((t) => t.mine).map((t) => t.id));
  const [questions, points, findings, proposed, mentions] = await Promise.all([
    questionsFor(ctx.write, viewer.id),
    openPoints(ctx.write),
    findingsOwned(ctx.write, viewer.id),
    listEvidence(ctx.write, 'proposed', EVERY),
    mentionsOf(ctx.write, viewer.id),
  ]);
  const seenOnly = <Row extends { subject: string; entities: string[] }>(rows: Row[]): Promise<Row[]> =>
    withSeenSubject(ctx, viewer, rows);
  const today = ctx.today();
  const asked = await seenOnly(questions);
  // Points wait for whoever made what they were raised on, and, once answered, for whoever raised them.
  const raised = await seenOnly(
    points.filter((p) => p.state === 'open' && p.person !== viewer.id && p.thread !== null && mine.has(p.thread)),
  );
  const answered = await seenOnly(points.filter((p) => p.state === 'answered' && p.person === viewer.id));
  const owned = await seenOnly(findings);
  // Reviewers and owners approve what others propose; who proposed it says whether what came otherwise is it.
  const toApprove = await seenOnly(proposed.filter((p) => isAtLeast(viewer, 'reviewer') && mayApprove(viewer, p)));
  const otherwise = await seenOnly(
    proposed.filter((p) => p.person === viewer.id && countsIn(p.state) && p.booked.some((b) => b.how === 'differs')),
  );
  const about = (row: { address: string; subject: string }): string => row.address || placeOfSubject(row.subject);
  const found = [
    ...(await Promise.all(
      asked.map(async (q) => ({
        ...{ kind: 'question' as const, id: q.id, by: q.name, at: q.changed_at, place: `/desk/questions/${q.id}` },
        ...{ says: `asks about ${q.label}`, body: (await shownText(ctx, viewer, q)).body, seen: null, due: null },
      })),
    )),
    ...raised.map((p) => ({
      ...{ kind: 'point' as const, id: p.id, by: p.name, at: p.changed_at, place: `/threads/points?id=${p.id}` },
      ...{ says: `raised a point on ${p.label}`, body: p.body, seen: null, due: null },
    })),
    ...answered.map((p) => ({
      ...{ kind: 'point' as const, id: p.id, by: p.name, at: p.changed_at, place: `/threads/points?id=${p.id}` },
      ...{ says: `your point on ${p.label} is answered`, body: p.body, seen: null, due: null },
    })),
    ...threads
      .filter((t) => t.state === 'prepared' && t.reviewer?.id === viewer.id)
      .map((t) => ({
        ...{ kind: 'review' as const, id: t.id, by: t.by, at: new Date(t.changed), place: `/threads/${t.id}` },
        ...{
          says: `signed “${t.reference ? `${t.reference} ` : ''}${t.name}”, to be reviewed`,
          body: '',
          seen: null,
          due: null,
        },
      })),
    ...toApprove.map((p) => ({
      ...{ kind: 'proposed' as const, id: p.id, by: p.name, at: p.changed_at, place: `/proposals/${p.id}` },
      ...{ says: `proposed ${proposedNumber(p.id)}, to be approved`, body: p.title || p.reason, seen: null, due: null },
    })),
    ...otherwise.map((p) => ({
      ...{ kind: 'proposed' as const, id: p.id, by: p.name, at: p.changed_at, place: `/proposals/${p.id}` },
      says: `${proposedNumber(p.id)} may be booked otherwise`,
      ...{ body: p.title || p.reason, seen: null, due: null },
    })),
    ...owned.map((f) => ({
      ...{ kind: 'finding' as const, id: f.id, by: f.name, at: f.changed_at, place: `/findings/${f.id}` },
      ...{
        says: `gave you a finding${f.due ? `, due ${dateText(f.due)}` : ''}`,
        body: f.title,
        seen: null,
        due: f.due,
      },
    })),
  ];
  const spoken = await Promise.all(
    mentions.map(async ({ kind, id, made_at }) => {
      const row = await readEvidence(ctx.write, kind, id);
      if (!row || !(await maySeeSubject(ctx, viewer, row))) return null;
      // A point that was answered is told as a point.
      if (kind === 'point' && answered.some((p) => p.id === id)) return null;
      const body = 'body' in row ? (await shownText(ctx, viewer, row)).body : '';
      const isAnswer = (kind === 'question' && row.person === viewer.id) || ('of_kind' in row && row.of_kind !== null);
      return {
        ...{ kind: isAnswer ? ('answer' as const) : ('mention' as const), id, at: made_at, seen: kind, due: null },
        by: kind === 'question' && isAnswer && 'receiver_name' in row ? row.receiver_name : row.name,
        says: isAnswer ? `answered about ${row.label}` : `speaks to you about ${row.label}`,
        body,
        place: kind === 'question' ? `/desk/questions/${id}` : about(row),
      };
    }),
  );
  return [...found, ...spoken.filter((s) => s !== null)]
    .map(({ at, due, ...row }) => ({
      ...row,
      at: at.toISOString(),
      age: ageOf(at),
      late: due !== null && due < today,
    }))
    .sort((a, b) => Number(b.late) - Number(a.late) || (a.at < b.at ? -1 : 1));
}

/** What loads did since the viewer last said that they saw it: to their pins, their ticks and their threads. */
async function movedSince(ctx: Context, viewer: Viewer, threads: Threads) {
  const { newest } = await known(ctx.write);
  const looked = (await preferencesOf<Looked>(ctx.write, viewer.id)).find((p) => p.name === LOOKED)?.value ?? null;
  const since = looked?.load ?? 0;
  const lookedAt = looked?.at ?? null;
  if (newest <= since) return { moved: [], lookedAt };
  const [loads, tests, pins, ticks] = await Promise.all([
    listLoads(ctx.write, LOADS_TOLD, null),
    newHitsAfterLoads(ctx, viewer, since),
    listEvidence(ctx.write, 'pin', { ...EVERY, person: viewer.id }),
    movedTicksOf(ctx.write, viewer.id, newest, TICKS_TOLD),
  ]);
  const own = await withSeenSubject(ctx, viewer, pins);
  const [drifts, before] = await Promise.all([
    driftsOfPins(ctx, viewer, own),
    driftsOf(
      ctx.write,
      own.map((p) => p.id),
      since,
    ),
  ]);
  const then_ = new Map(before.map((d) => [d.pin, d]));
  const drifted = own.filter((p) => {
    const now = drifts.get(p.id);
    const then = then_.get(p.id);
    return now && now.drift.length > 0 && !(then && then.value === now.value && then.lines.length === now.drift.length);
  });
  // What moved before the viewer last looked has been told.
  const told = await movedKept(
    ctx.write,
    'tick',
    ticks.map((t) => t.id),
    since,
  );
  const movedOfMine = (await withSeenSubject(ctx, viewer, ticks)).filter((t) => !told.get(t.id));
  return {
    lookedAt,
    moved: [
      ...loads
        .filter((l) => l.status === 'loaded' && l.id > since && maySeeBooks(viewer, l.entity_code))
        .map((l) => ({
          ...{ kind: 'load' as const, says: `load ${l.id}: ${l.file_name}`, change: null, place: `/loads?id=${l.id}` },
          at: l.finished_at?.toISOString() ?? null,
        })),
      ...tests,
      ...drifted.map((p) => {
        const now = drifts.get(p.id)?.value ?? null;
        return {
          ...{ kind: 'pin' as const, says: `pin: ${p.label}${now === null ? ', gone' : ''}`, at: null },
          change:
            now === null
              ? null
              : { currency: p.currency, value: formatAmount(add(now, -p.value), exponentOf(p.currency)) },
          place: p.address || placeOfSubject(p.subject),
        };
      }),
      ...movedOfMine.map((t) => ({
        ...{ kind: 'tick' as const, says: `tick: ${t.label}`, change: null, at: null },
        place: t.address || placeOfSubject(t.subject),
      })),
      ...threads
        .filter((t) => t.moved > 0 && (t.mine || t.signedBy.includes(viewer.name)))
        .map((t) => ({
          ...{ kind: 'thread' as const, change: null, at: null, place: `/threads/${t.id}` },
          says: `thread: ${t.name}, ${t.moved} ${t.moved === 1 ? 'figure' : 'figures'}`,
        })),
    ],
  };
}

/** What tests that run by themselves found anew after loads since one. */
async function newHitsAfterLoads(ctx: Context, viewer: Viewer, since: number) {
  const runs = await withSeenSubject(ctx, viewer, await runsByThemselves(ctx.write, since));
  const told = await Promise.all(
    runs.map(async (run) => {
      const fresh = (await countNew(ctx.write, run, viewer.entities)) ?? 0;
      if (fresh === 0) return [];
      return [
        {
          ...{ kind: 'tests' as const, change: null, place: `/tests/${run.id}`, at: run.finished_at.toISOString() },
          says: `tests: ${fresh} new ${fresh === 1 ? 'hit' : 'hits'} after load ${run.load}`,
        },
      ];
    }),
  );
  return told.flat();
}

/** Says that something was seen: a mention, an answer, or all that moved until now. */
export async function seenOnDesk(ctx: Context, viewer: Viewer, what: z.infer<typeof deskSeenSchema>): Promise<void> {
  if ('kind' in what) {
    await mentionSeen(ctx.write, what.kind, what.id, viewer.id);
    return;
  }
  const { newest } = await known(ctx.write);
  await keepPreference(ctx.write, viewer.id, LOOKED, { load: newest, at: new Date().toISOString() } satisfies Looked);
}
