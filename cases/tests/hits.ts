import type { z } from 'zod';
import type { judgedHitSchema } from '@/contracts/bodies/all';
import { entryPlace } from '@/contracts/places';
import { notFound, ProblemError } from '@/contracts/problem';
import type { QueryOf } from '@/contracts/routes';
import { paramsOf } from '@/contracts/scope';
import { readSubject, subjectText } from '@/contracts/subject';
import { calendar } from '@/core/calendar';
import type { Clause } from '@/core/figure';
import { exponentOf, formatAmount } from '@/core/money';
import { parseSelection } from '@/core/selection';
import { dateText } from '@/core/sentence';
import { isTest, testOf } from '@/core/tests/list';
import type { At, Saying } from '@/core/tests/test';
import { exactly } from '@/core/values';
import type { CatalogueEntity } from '@/store/catalogue';
import { findEntries } from '@/store/entries';
import { readParties } from '@/store/parties';
import * as store from '@/store/testRuns';
import { type Context, known } from '../asking/context';
import { nameOfPeriod } from '../asking/memberNames';
import { onRecord } from '../asking/onRecord';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { spokenAmount } from '../asking/spokenNumbers';
import { figureAt } from '../asking/subjects';
import { maySee, require, type Viewer } from '../asking/viewer';
import { seenPiece } from '../evidence/seenEvidence';
import { entryKey } from '../sheets/readLines';
import { seenEntities } from './runs';

type HitsQuery = QueryOf<'GET /test-runs/{id}/hits'>;

/** A run that the viewer may see, ready to have its hits told. */
async function seenRun(ctx: Context, viewer: Viewer, id: number) {
  const row = await seenPiece(ctx, viewer, 'run', id);
  const subject = readSubject(row.subject);
  if (subject.is !== 'figure') throw notFound(`Run of tests ${id}`);
  const asked = await figureAt(ctx, viewer, subject.address, null);
  return { row, asked };
}

function askedOf(viewer: Viewer, run: number, { test, entity, state, by, key }: HitsQuery): store.HitsAsked {
  const seen = seenEntities(viewer);
  const entities = entity ? entity.filter((e) => maySee(viewer, e)) : seen;
  const [of, own] = key === undefined ? [null, null] : splitKey(key);
  return {
    ...{ run, tests: test ?? null, entities, state },
    of:
      by === undefined || by === 'test' || of === null
        ? null
        : { group: by, entity: of, key: own === '~none' ? null : own },
  };
}

/** A group is named by its company and its key. */
const splitKey = (text: string): [entity: string, key: string] => {
  const at = text.indexOf('/');
  return at < 0 ? ['', text] : [text.slice(0, at), text.slice(at + 1)];
};

/** What a run found: entries that several tests hit first, then the most unusual. @throws ProblemError */
export async function readHits(ctx: Context, viewer: Viewer, id: number, query: HitsQuery) {
  const { asked } = await seenRun(ctx, viewer, id);
  const rows = await store.listHits(ctx.write, askedOf(viewer, id, query), {
    limit: query.limit + 1,
    after: query.after,
  });
  return {
    hits: await shownHits(ctx, asked, rows.slice(0, query.limit)),
    next: rows.length > query.limit ? query.after + query.limit : null,
  };
}

/** What tests found on entries of a company, of runs that the viewer may see, each hit once. */
export async function hitsOn(
  ctx: Context,
  viewer: Viewer,
  { entity, entries, limit }: { entity: string; entries: readonly string[]; limit: number },
) {
  if (entries.length === 0 || !maySee(viewer, entity)) return [];
  const runs = new Map<number, string[]>();
  for (const { run, key } of await store.hitsOnEntries(ctx.write, entity, entries, limit))
    runs.set(run, [...(runs.get(run) ?? []), key]);
  const found = await Promise.all(
    [...runs].map(async ([run, keys]) => {
      const seen = await seenRun(ctx, viewer, run).catch((error: unknown) => {
        if (error instanceof ProblemError) return null; // a run that is not there for the viewer
        throw error;
      });
      return seen === null ? [] : shownHits(ctx, seen.asked, await store.hitsOfKeys(ctx.write, run, keys));
    }),
  );
  return found.flat();
}

/** The same put together, the most unusual first. @throws ProblemError */
export async function readGroups(ctx: Context, viewer: Viewer, id: number, query: HitsQuery) {
  const { asked } = await seenRun(ctx, viewer, id);
  const by = query.by ?? 'entry';
  const rows = await store.groupHits(ctx.write, askedOf(viewer, id, { ...query, key: undefined }), by, query.limit);
  const names = await namesOf(
    ctx,
    asked,
    rows.flatMap((r) => (by === 'party' && r.key !== null ? [r.key] : [])),
  );
  const label = ({ entity, key }: store.GroupRow): string => {
    if (key === null) return 'none';
    if (by === 'test') return isTest(key) ? testOf(key).name : key;
    if (by === 'account') return names.of(entity).account(key);
    if (by === 'party') return names.of(entity).party(key);
    return by === 'day' ? dateText(key) : key;
  };
  const tops = await store.hitsOfKeys(
    ctx.write,
    id,
    rows.map((r) => r.top),
  );
  const shown = new Map((await shownHits(ctx, asked, tops)).map((hit) => [hit.key, hit]));
  return {
    rows: rows.map((row) => ({
      ...{ entity: row.entity, key: row.key, label: label(row), hits: row.hits, score: row.score },
      reason: shown.get(row.top)?.reason ?? '',
      address: shown.get(row.top)?.address ?? '',
      tests: row.tests.flatMap((code) => (isTest(code) ? [testOf(code).name] : [])),
    })),
  };
}

/** Says what a hit is: it stays said of it in later runs until one of its lines changes. @throws ProblemError */
export async function judgeHit(
  ctx: Context,
  viewer: Viewer,
  { run, key }: { run: number; key: string },
  { judgement, note }: z.infer<typeof judgedHitSchema>,
) {
  require(viewer, 'preparer', 'judge what a test found');
  const { asked } = await seenRun(ctx, viewer, run);
  const hit = await store.hitOfKey(ctx.write, run, key);
  if (!hit || !maySee(viewer, hit.entity)) throw notFound(`Hit ${key}`);
  await onRecord(ctx, viewer, async (trx, record) => {
    const { test, entity, seal } = hit;
    await store.insertJudgement(trx, { ...{ test, key, entity, seal, judgement, note }, person: viewer.id });
    await record('judged what a test found', subjectOf(hit) ?? `run ${run}`, {
      ...{ run, key, test, judgement, note, before: hit.judgement },
    });
  });
  const [shown] = await shownHits(ctx, asked, [(await store.hitOfKey(ctx.write, run, key)) as store.JudgedHit]);
  return shown as NonNullable<typeof shown>;
}

const COMPARED_MAX = 1_000;

/** What a run found that an earlier one did not, and the other way. @throws ProblemError */
export async function comparedRuns(ctx: Context, viewer: Viewer, later: number, earlier: number) {
  const { asked } = await seenRun(ctx, viewer, later);
  await seenRun(ctx, viewer, earlier);
  const rows = await store.compareRuns(ctx.write, { earlier, later, entities: seenEntities(viewer) }, COMPARED_MAX);
  const none = { judgement: null, note: null, judged_by: null, judged_at: null, ignored: null };
  const hits = await shownHits(
    ctx,
    asked,
    rows.map((row) => ({ ...row, ...none, others: [row.test], together: row.score })),
  );
  return { with: earlier, rows: rows.map((row, i) => ({ change: row.change, hit: hits[i] as (typeof hits)[number] })) };
}

/** Names in which hits are said, by company. */
async function namesOf(ctx: Context, asked: ResolvedFigure, parties: readonly string[]) {
  const { catalogue } = await known(ctx.read);
  const found = new Map((await readParties(ctx.read, [...new Set(parties)])).map((p) => [p.code, p.name]));
  const sayings = new Map<string, Saying>();
  const sayingOf = (entity: CatalogueEntity): Saying => {
    const cal = calendar(entity.calendar);
    const digits = exponentOf(entity.currency);
    return {
      money: (amount) => spokenAmount(amount, digits),
      account: (code) => `${code} ${entity.accounts.get(code)?.name ?? ''}`.trim(),
      party: (code) => (found.has(code) && found.get(code) !== code ? `${found.get(code)} (${code})` : code),
      day: dateText,
      period: (ordinal) => nameOfPeriod(cal, ordinal),
      dimension: (code) => catalogue.dimensions.get(code)?.name.toLowerCase() ?? code,
    };
  };
  return {
    of: (code: string): Saying => {
      const held = sayings.get(code);
      if (held) return held;
      const entity = asked.entities.find((e) => e.code === code) ?? (catalogue.entities.get(code) as CatalogueEntity);
      const made = sayingOf(entity);
      sayings.set(code, made);
      return made;
    },
  };
}

async function shownHits(ctx: Context, asked: ResolvedFigure, rows: readonly store.JudgedHit[]) {
  const names = await namesOf(
    ctx,
    asked,
    rows.flatMap((r) =>
      [r.at.party, r.at.other, r.party, typeof r.parts.party === 'string' ? r.parts.party : undefined].filter(
        (c) => typeof c === 'string',
      ),
    ),
  );
  const ids = await entryIds(ctx, asked, rows);
  return rows.map((row) => {
    const entity = asked.entities.find((e) => e.code === row.entity);
    const currency = entity?.currency ?? asked.currency;
    const say = names.of(row.entity);
    const test = isTest(row.test) ? testOf(row.test) : null;
    return {
      ...{ key: row.key, no: row.no, test: row.test, name: test?.name ?? row.test, entity: row.entity },
      what: whatOf(row.at, say),
      reason: test?.reason({ at: row.at, amount: row.amount, parts: row.parts }, say) ?? '',
      ...{ amount: formatAmount(row.amount, exponentOf(currency)), currency, score: row.score },
      parts: { rarity: row.rarity, size: row.size, degree: row.degree },
      lines: row.lines,
      subject: subjectOf(row),
      address: placeOf(asked, row, ids),
      entry: row.entry,
      entries: row.entries.flatMap((number) => {
        const id = ids.get(`${row.entity}/${number}`);
        return id === undefined ? [] : [{ number, id }];
      }),
      others: [...new Set(row.others)].flatMap((code) =>
        isTest(code) && code !== row.test ? [testOf(code).name] : [],
      ),
      ...{
        together: row.together,
        account: row.account,
        party: row.party,
        person: row.person,
        journal: row.journal,
        day: row.day,
      },
      judgement:
        row.judgement === null
          ? null
          : {
              judgement: row.judgement,
              note: row.note ?? '',
              by: row.judged_by ?? '',
              at: (row.judged_at as Date).toISOString(),
            },
      ignored: row.ignored,
    };
  });
}

/** What a hit is about, in words. */
function whatOf(at: At, say: Saying): string {
  const parts = [
    at.entry,
    at.document === undefined ? undefined : `document ${at.document}`,
    at.series,
    at.account === undefined ? undefined : say.account(at.account),
    at.party === undefined ? undefined : say.party(at.party),
    at.person,
    at.period === undefined ? undefined : say.period(at.period),
  ];
  return parts.filter((part) => part !== undefined).join(' · ');
}

const subjectOf = ({ entity, at }: Pick<store.HitRow, 'entity' | 'at'>): string | null =>
  at.entry !== undefined
    ? subjectText({ is: 'entry', entity, entry: at.entry })
    : at.document !== undefined
      ? subjectText({ is: 'document', entity, number: at.document })
      : null;

/** Entries by company and number, as screens know them. */
async function entryIds(
  ctx: Context,
  asked: ResolvedFigure,
  rows: readonly store.HitRow[],
): Promise<Map<string, string>> {
  const ids = new Map<string, string>();
  for (const { code } of asked.entities) {
    const numbers = [
      ...new Set(rows.flatMap((r) => (r.entity === code ? [...(r.at.entry ? [r.at.entry] : []), ...r.entries] : []))),
    ];
    if (numbers.length === 0) continue;
    const found = await findEntries(ctx.read, { entity: code, numbers, asOf: asked.asOf });
    for (const [number, { id }] of found) ids.set(`${code}/${number}`, entryKey(id));
  }
  return ids;
}

/** The screen with the lines behind a hit: its entry, or its scope with what it has of its own. */
function placeOf(
  asked: ResolvedFigure,
  { entity, at, entries }: Pick<store.HitRow, 'entity' | 'at' | 'entries'>,
  ids: ReadonlyMap<string, string>,
): string {
  const own = asked.entities.find((e) => e.code === entity);
  const digits = exponentOf(own?.currency ?? asked.currency);
  if (entries.length > 1) {
    // Those before the window are behind it as much as those within.
    const { figure } = asked;
    const where: Clause[] = [{ on: 'entry', any: entries.map(exactly) }];
    const window = { ...figure.window, fromFirst: true as const };
    return `/lines?${paramsOf({ ...figure, entities: [entity], accounts: null, window, where }, digits)}`;
  }
  const id = ids.get(`${entity}/${at.entry}`);
  if (at.entry !== undefined && id !== undefined) return entryPlace(entity, at.entry, id);
  const { figure } = asked;
  const where: Clause[] = [
    ...figure.where,
    ...(at.party === undefined
      ? []
      : [{ on: 'counterparty' as const, any: [exactly(at.party), ...(at.other ? [exactly(at.other)] : [])] }]),
    ...(at.person === undefined ? [] : [{ on: 'postedBy' as const, any: [exactly(at.person)] }]),
    ...(at.document === undefined ? [] : [{ on: 'document' as const, any: [exactly(at.document)] }]),
  ];
  const window = at.period === undefined ? figure.window : { by: 'period' as const, from: at.period, to: at.period };
  const accounts = at.account === undefined ? figure.accounts : parseSelection(at.account);
  return `/lines?${paramsOf({ ...figure, entities: [entity], accounts, window, where }, digits)}`;
}
