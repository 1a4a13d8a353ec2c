import type { Judgement } from '@/contracts/work';
import type { Kept } from '@/core/tests/list';
import type { At, Part } from '@/core/tests/test';
import { type Db, rowsOf } from './db';
import type { Counted } from './tests/facts';

/** Runs of tests for what is unusual, what they found, and how it was judged. */

/** What a test came to. */
export interface Result {
  test: string;
  count: number;
  /** Hits that are kept, the most unusual ones. */
  kept: number;
  /** Σ of amounts without signs, by company. */
  amounts: Record<string, number>;
  /** Why it was not looked at; null: it was. */
  notLookedAt: string | null;
  ms: number;
}

export interface RunWords {
  title: string;
  tests: string[];
  params: Record<string, Record<string, Kept>>;
  /** By test the settings it ran with; amounts by company. */
  ran_with: Record<string, Record<string, Kept>> | null;
  population: (Counted & { currency: string; ties: boolean })[] | null;
  results: Result[] | null;
  job: number | null;
  by_itself: boolean;
  finished_at: Date | null;
}

export interface HitRow {
  run: number;
  no: number;
  key: string;
  test: string;
  entity: string;
  at: At;
  parts: Record<string, Part>;
  amount: number;
  degree: number;
  rarity: number;
  size: number;
  score: number;
  lines: number;
  sum: number;
  seal: string;
  /** Numbers of the entries behind it, where several are its point. */
  entries: string[];
  entry: string | null;
  account: string | null;
  party: string | null;
  person: string | null;
  day: string | null;
  journal: string | null;
}

/** A hit with what was said of it while its lines were as they are, and what has hits like it ignored. */
export interface JudgedHit extends HitRow {
  judgement: Judgement | null;
  note: string | null;
  judged_by: string | null;
  judged_at: Date | null;
  ignored: number | null;
  /** The tests that hit the same entry. */
  others: string[];
  /** Score of the entry in all of them. */
  together: number;
}

export const setJob = (db: Db, id: number, job: number): Promise<number> => db('run').where({ id }).update({ job });

const INSERTED_AT_ONCE = 250;

/** Keeps what a run found, whole; what an earlier try left goes. */
export async function keepResults(
  db: Db,
  id: number,
  { ran_with, population, results }: Pick<RunWords, 'ran_with' | 'population' | 'results'>,
  hits: readonly Omit<HitRow, 'run' | 'no'>[],
): Promise<void> {
  await db('hit').where({ run: id }).delete();
  for (let at = 0; at < hits.length; at += INSERTED_AT_ONCE)
    await db('hit').insert(
      hits.slice(at, at + INSERTED_AT_ONCE).map((hit, i) => ({
        ...hit,
        ...{ run: id, no: at + i + 1, at: JSON.stringify(hit.at), parts: JSON.stringify(hit.parts) },
      })),
    );
  await db('run')
    .where({ id })
    .update({
      ran_with: JSON.stringify(ran_with),
      population: JSON.stringify(population),
      results: JSON.stringify(results),
      finished_at: new Date(),
    });
}

/** What the hits of a run are put together by. */
export const HIT_GROUPS = ['test', 'entry', 'account', 'person', 'party', 'day'] as const;
export type HitGroup = (typeof HIT_GROUPS)[number];

export interface HitsAsked {
  run: number;
  tests: readonly string[] | null;
  entities: readonly string[] | null;
  state: 'open' | 'judged' | 'ignored' | 'all';
  /** Only those of one group. */
  of: { group: HitGroup; entity: string; key: string | null } | null;
}

/** Hits with what was said of them, as a table expression `h`. */
function judgedHits({ run, tests, entities, state, of }: HitsAsked): { sql: string; bindings: unknown[] } {
  const bindings: unknown[] = [run];
  const where: string[] = [];
  if (tests) {
    where.push('h.test = any(?)');
    bindings.push([...tests]);
  }
  if (entities) {
    where.push('h.entity = any(?)');
    bindings.push([...entities]);
  }
  if (state === 'open') where.push(`coalesce(h.judgement, 'open') = 'open' and h.ignored is null`);
  if (state === 'judged') where.push(`h.judgement <> 'open'`);
  if (state === 'ignored') where.push('h.ignored is not null');
  if (of) {
    where.push(`h.entity = ? and h.${of.group}${of.group === 'day' ? '::text' : ''} is not distinct from ?`);
    bindings.push(of.entity, of.key);
  }
  return {
    sql: `(
      select h.*, j.judgement, j.note, p.name as judged_by, j.made_at as judged_at,
        (select min(g.id) from ignored g where g.revoked_at is null and g.test = h.test and g.entity = h.entity
          and jsonb_strip_nulls(jsonb_build_object('account', h.account, 'party', h.party, 'person', h.person, 'journal', h.journal)) @> g.alike) as ignored,
        case when h.entry is null then array[h.test] else array_agg(h.test) over same end as others,
        case when h.entry is null then h.score else sum(h.score) over same end as together
      from hit h
      left join lateral (select * from judgement j where j.key = h.key and j.seal = h.seal order by j.id desc limit 1) j on true
      left join person p on p.id = j.person
      where h.run = ?
      window same as (partition by h.entity, h.entry)
    ) h ${where.length > 0 ? `where ${where.join(' and ')}` : ''}`,
    bindings,
  };
}

/** Hits of a run: those of entries that several tests hit first, then the most unusual. */
export function listHits(
  db: Db,
  asked: HitsAsked,
  { limit, after }: { limit: number; after: number },
): Promise<JudgedHit[]> {
  const { sql, bindings } = judgedHits(asked);
  return rowsOf(
    db,
    `select h.*, h.day::text as day from ${sql} order by h.together desc, h.entity, h.entry, h.score desc, h.no limit ? offset ?`,
    [...bindings, limit, after],
  );
}

export async function hitsOfKeys(db: Db, run: number, keys: readonly string[]): Promise<JudgedHit[]> {
  const { sql, bindings } = judgedHits({ run, tests: null, entities: null, state: 'all', of: null });
  return rowsOf<JudgedHit>(db, `select h.*, h.day::text as day from ${sql} where h.key = any(?::text[])`, [
    ...bindings,
    [...keys],
  ]);
}

/** What tests found on entries, each hit in the newest run that has it. */
export const hitsOnEntries = (
  db: Db,
  entity: string,
  entries: readonly string[],
  limit: number,
): Promise<{ run: number; key: string }[]> =>
  rowsOf(
    db,
    `select max(h.run) as run, h.key from hit h join evidence n on n.id = h.run and n.removed_at is null
     where h.entity = ? and (h.entry = any(?::text[]) or h.entries && ?::text[])
     group by h.key order by 1 desc, 2 limit ?`,
    [entity, entries, entries, limit],
  );

export const hitOfKey = async (db: Db, run: number, key: string): Promise<JudgedHit | null> =>
  (await hitsOfKeys(db, run, [key]))[0] ?? null;

export interface GroupRow {
  entity: string;
  key: string | null;
  hits: number;
  tests: string[];
  score: number;
  amount: number;
  /** Its most unusual hit. */
  top: string;
}

/** How the hits of a run are spread over tests, accounts, people and so on; the most unusual together first. */
export function groupHits(db: Db, asked: HitsAsked, group: HitGroup, limit: number): Promise<GroupRow[]> {
  const { sql, bindings } = judgedHits(asked);
  return rowsOf(
    db,
    `select ${group === 'test' ? `'' as entity` : 'h.entity'}, h.${group}${group === 'day' ? '::text' : ''} as key, count(*)::integer as hits, array_agg(distinct h.test) as tests,
       ${group === 'entry' ? 'sum' : 'max'}(h.score) as score, sum(abs(h.amount))::bigint as amount, (array_agg(h.key order by h.score desc, h.no))[1] as top
     from (select * from ${sql}) h ${group === 'entry' ? 'where h.entry is not null' : ''} group by 1, 2 order by ${group === 'test' ? 'score' : 'count(distinct h.test) desc, score'} desc, 1, 2 limit ?`,
    [...bindings, limit],
  );
}

/** How many hits of each test are judged, ignored and open. */
export function countHits(
  db: Db,
  run: number,
  entities: readonly string[] | null,
): Promise<{ test: string; hits: number; judged: number; ignored: number }[]> {
  const { sql, bindings } = judgedHits({ run, tests: null, entities, state: 'all', of: null });
  return rowsOf(
    db,
    `select h.test, count(*)::integer as hits, count(*) filter (where coalesce(h.judgement, 'open') <> 'open')::integer as judged,
       count(*) filter (where h.ignored is not null)::integer as ignored
     from ${sql} group by h.test`,
    bindings,
  );
}

/** What two runs found differently: new, gone, and the same with other lines behind it. */
export function compareRuns(
  db: Db,
  { earlier, later, entities }: { earlier: number; later: number; entities: readonly string[] | null },
  limit: number,
): Promise<(HitRow & { change: 'new' | 'gone' | 'changed' })[]> {
  return rowsOf(
    db,
    `select x.*, x.day::text as day from (
       select l.*, case when e.key is null then 'new' else 'changed' end as change
       from hit l left join hit e on e.run = ? and e.key = l.key where l.run = ? and (e.key is null or e.seal <> l.seal or e.amount <> l.amount)
       union all
       select e.*, 'gone' from hit e left join hit l on l.run = ? and l.key = e.key where e.run = ? and l.key is null
     ) x where ?::text[] is null or x.entity = any(?::text[]) order by x.score desc, x.key limit ?`,
    [earlier, later, later, earlier, entities as string[] | null, entities as string[] | null, limit],
  );
}

export const insertJudgement = (
  db: Db,
  judged: {
    test: string;
    key: string;
    entity: string;
    seal: string;
    judgement: Judgement;
    note: string;
    person: number;
  },
): Promise<unknown> => db('judgement').insert(judged);

export interface IgnoredRow {
  id: number;
  test: string;
  entity: string;
  alike: Partial<Record<'account' | 'party' | 'person' | 'journal', string>>;
  why: string;
  person: string;
  made_at: Date;
  revoked_by: string | null;
  revoked_at: Date | null;
}

export const listIgnored = (db: Db): Promise<IgnoredRow[]> =>
  rowsOf(
    db,
    `select g.id, g.test, g.entity, g.alike, g.why, p.name as person, g.made_at, r.name as revoked_by, g.revoked_at
     from ignored g join person p on p.id = g.person left join person r on r.id = g.revoked_by order by g.id desc`,
  );

export async function insertIgnored(
  db: Db,
  rule: Pick<IgnoredRow, 'test' | 'entity' | 'alike' | 'why'> & { person: number },
): Promise<number> {
  const [added] = await db('ignored')
    .insert({ ...rule, alike: JSON.stringify(rule.alike) })
    .returning('id');
  return (added as { id: number }).id;
}

export const revokeIgnored = (db: Db, id: number, person: number): Promise<number> =>
  db('ignored').where({ id, revoked_at: null }).update({ revoked_by: person, revoked_at: new Date() });

/** The newest run of the same figure before another, or of two that nobody began the one before, that came to its end. */
export async function runBefore(db: Db, id: number, subject: string): Promise<number | null> {
  const [row] = await rowsOf<{ id: number }>(
    db,
    `select n.id from evidence n join run r on r.id = n.id
     where n.kind = 'run' and n.removed_at is null and (n.subject = ? or (r.by_itself and (select t.by_itself from run t where t.id = ?))) and n.id < ? and r.finished_at is not null order by n.id desc limit 1`,
    [subject, id, id],
  );
  return row?.id ?? null;
}

/** So many new hits are counted. */
const NEW_COUNTED = 10_000;

/** How many hits of a run are new or changed since the one before it; null: there is none before. */
export async function countNew(
  db: Db,
  { id, subject }: { id: number; subject: string },
  entities: readonly string[] | null,
): Promise<number | null> {
  const earlier = await runBefore(db, id, subject);
  if (earlier === null) return null;
  const compared = await compareRuns(db, { earlier, later: id, entities }, NEW_COUNTED);
  return compared.filter((hit) => hit.change !== 'gone').length;
}

/** Runs that nobody began, done after loads since one. */
export const runsByThemselves = (
  db: Db,
  since: number,
): Promise<{ id: number; subject: string; entities: string[]; load: number; finished_at: Date }[]> =>
  rowsOf(
    db,
    `select n.id, n.subject, n.entities, n.load, r.finished_at from evidence n join run r on r.id = n.id
     where n.kind = 'run' and n.removed_at is null and r.by_itself and r.finished_at is not null and n.load > ? order by n.id desc limit 10`,
    [since],
  );

/** When the newest run that nobody began was begun; null: there is none. */
export const newestByItself = async (db: Db): Promise<Date | null> =>
  (
    await rowsOf<{ at: Date | null }>(
      db,
      `select max(n.created_at) as at from evidence n join run r on r.id = n.id where n.kind = 'run' and r.by_itself`,
    )
  )[0]?.at ?? null;

/**
 * Lets go of runs that nobody began and no thread gathers, older than the one before the newest: the newest is held
 * against that one. What was said of their hits stays said.
 */
export async function forgetOlder(
  db: Db,
  { id, entities }: { id: number; entities: readonly string[] },
): Promise<void> {
  const old = await rowsOf<{ id: number }>(
    db,
    `select n.id from evidence n join run r on r.id = n.id
     where n.kind = 'run' and n.removed_at is null and r.by_itself and r.finished_at is not null and n.thread is null and n.id < ? and n.entities = ?::text[]
     order by n.id desc offset 1`,
    [id, [...entities]],
  );
  const ids = old.map((o) => o.id);
  if (ids.length === 0) return;
  await db('hit').whereIn('run', ids).delete();
  await db('evidence').where({ kind: 'run' }).whereIn('id', ids).update({ removed_at: new Date() });
}

/** Companies whose entries loads brought, from one load on. */
export const companiesSince = async (db: Db, load: number): Promise<number[]> =>
  (await rowsOf<{ entity: number }>(db, 'select distinct entity from entry where load >= ?', [load])).map(
    (r) => r.entity,
  );
