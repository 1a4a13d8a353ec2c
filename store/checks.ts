import { type Db, rowsOf } from './db';
import { SUMMARIES } from './layers';
import type { Seal } from './seals';

/** Recomputes every summary, load by load, from the lines themselves, one after the other. */
export async function* faultySummaries(db: Db): AsyncGenerator<{ table: string; faults: number; rows: number }> {
  const slots = await rowsOf<{ slot: number }>(db, 'select slot from dimension order by slot');
  const members = slots.map(
    ({ slot }) => `select l.*, ${Number(slot)}::smallint as slot, d${Number(slot)} as member from layers l`,
  );
  for (const [table, keys] of SUMMARIES) {
    if (table === 'balance_member' && members.length === 0) continue;
    const source = table === 'balance_member' ? `(${members.join(' union all ')})` : 'layers';
    const [row] = await rowsOf<{ faults: number; rows: number }>(
      db,
      `with layers as (
         select *, load as layer, 1 as times from line
         union all
         select *, replaced_by, -1 from line where replaced_by <> 2147483647),
       truth as (
         select ${keys}, layer as load, sum(times) as count, sum(case when side = 1 then times * amount else 0 end) as debit,
           sum(case when side = 1 then 0 else -times * amount end) as credit
         from ${source} s group by ${keys}, layer),
       kept as (select ${keys}, load, sum(count) as count, sum(debit) as debit, sum(credit) as credit from ${table} group by ${keys}, load)
       select (select count(*) from kept)::integer as rows, count(*)::integer as faults from (
         select ${keys}, load, coalesce(t.count, 0) - coalesce(k.count, 0) as count,
           coalesce(t.debit, 0) - coalesce(k.debit, 0) as debit, coalesce(t.credit, 0) - coalesce(k.credit, 0) as credit
         from truth t full join kept k using (${keys}, load)) d
       where count <> 0 or debit <> 0 or credit <> 0`,
    );
    yield { table, faults: row?.faults ?? 0, rows: row?.rows ?? 0 };
  }
}

/** How many entries have visible lines that do not sum to nothing. */
export async function unbalancedEntries(db: Db): Promise<number> {
  const [row] = await rowsOf<{ n: number }>(
    db,
    `select count(*)::integer as n from (
       select entry from line where replaced_by = 2147483647 group by entity, entry having sum(amount) <> 0) e`,
  );
  return row?.n ?? 0;
}

/** What the record says that loads were sealed with. */
export const sealsOnRecord = (db: Db): Promise<{ subject: string; detail: { seals: Omit<Seal, 'load'>[] } }[]> =>
  rowsOf(db, `select subject, detail from record where act = 'sealed a load' order by id`);

/** Loads that count and are not on record with their file, and those on record that are not there; beside how many count. */
export async function loadsUnlikeRecord(db: Db): Promise<{ all: number; unlike: string[] }> {
  const unlike = await rowsOf<{ subject: string }>(
    db,
    `select coalesce(r.subject, 'load ' || l.id) as subject
     from (select subject, detail->>'digest' as digest, detail->>'kind' as kind from record where act = 'loaded') r
     full join (select * from load where status = 'loaded') l on r.subject = 'load ' || l.id
     where r.subject is null or l.id is null or r.digest <> l.file_digest or r.kind <> l.kind`,
  );
  const [row] = await rowsOf<{ n: number }>(db, `select count(*)::integer as n from load where status = 'loaded'`);
  return { all: row?.n ?? 0, unlike: unlike.map((r) => r.subject) };
}

/** Digests by which the files of loads, or of documents, are kept. */
export const fileDigests = async (db: Db, of: 'loads' | 'documents' | 'evidence'): Promise<string[]> =>
  (
    await rowsOf<{ digest: string }>(
      db,
      {
        loads: 'select distinct file_digest as digest from load',
        documents: 'select distinct digest from attachment',
        evidence: 'select distinct digest from file',
      }[of],
    )
  ).map((r) => r.digest);

export interface KeptPin {
  id: number;
  value: number;
  lines: number;
  digest: string;
}

/** Pins as they are kept, and as the record says that they were pinned. */
export async function pinsAndRecord(db: Db): Promise<{ kept: KeptPin[]; onRecord: Map<number, Omit<KeptPin, 'id'>> }> {
  const kept = await rowsOf<KeptPin>(db, 'select id, value, lines, digest from pin order by id');
  const acts = await rowsOf<{ detail: Omit<KeptPin, 'id'> & { pin: number } }>(
    db,
    `select detail from record where act = 'pinned'`,
  );
  return { kept, onRecord: new Map(acts.map(({ detail }) => [detail.pin, detail])) };
}

/** What the record says of steps: what each froze, and its words each time that they were changed. */
export const stepsOnRecord = (
  db: Db,
): Promise<
  {
    detail: {
      kept?: Record<string, { digest: string; label: string }>;
      step?: number;
      /** What a step was called on the record before. */
      knot?: number;
      label?: string;
      note?: string;
    };
  }[]
> =>
  rowsOf(
    db,
    `select detail from record where act in ('saved a thread', 'went on with a thread', 'annotated a step', 'rolled a thread forward') order by id`,
  );

/** Notes that do not say what the record says was written, or changed, last; beside how many there are. */
export async function notesUnlikeRecord(db: Db): Promise<{ all: number; unlike: number[] }> {
  const unlike = await rowsOf<{ id: number }>(
    db,
    `select coalesce(n.id, r.note) as id
     from (select n.id, n.body, n.content, e.person, e.subject from note n join evidence e on e.kind = 'note' and e.id = n.id) n
       full join (select distinct on (note) *
                  from (select (detail->>'note')::integer as note, id, detail, person, subject from record
                        where act in ('wrote a note', 'changed a note')) r
                  order by note, id desc) r on r.note = n.id
     where n.id is null or r.id is null or r.detail->>'body' <> n.body or r.person <> n.person or r.subject <> n.subject
       or r.detail->'content' is distinct from n.content`,
  );
  const [row] = await rowsOf<{ n: number }>(db, 'select count(*)::integer as n from note');
  return { all: row?.n ?? 0, unlike: unlike.map((r) => r.id) };
}

/** Ticks, attached files and signatures that are not as the record says that they were made; beside how many there are. */
export async function evidenceUnlikeRecord(db: Db): Promise<{ all: number; unlike: string[] }> {
  const unlike = await rowsOf<{ name: string }>(
    db,
    `select coalesce('tick ' || t.id, 'tick ' || r.id) as name
     from (select t.*, e.subject from tick t join evidence e on e.kind = 'tick' and e.id = t.id) t
       full join (select (p->>'tick')::integer as id, p, d.detail->>'mark' as mark
                  from record d cross join jsonb_array_elements(d.detail->'put') p where d.act = 'ticked') r on r.id = t.id
     where t.id is null or r.id is null or t.mark <> r.mark or t.subject <> r.p->>'subject'
       or t.lines <> (r.p->>'lines')::integer or t.value is distinct from (r.p->>'value')::bigint
       or t.digest is distinct from r.p->>'digest'
     union all
     select 'file ' || coalesce(f.id, r.id) from file f
       full join (select (detail->>'file')::integer as id, detail from record where act = 'attached a file') r on r.id = f.id
     where f.id is null or r.id is null or f.digest <> r.detail->>'digest' or f.name <> r.detail->>'name'
     union all
     select 'signature ' || coalesce(s.id, r.id) from sign_off s
       full join (select (detail->>'signOff')::integer as id, detail, person, subject, act from record
                  where act in ('signed a thread as preparer', 'signed a thread as reviewer')) r on r.id = s.id
     where s.id is null or r.id is null or s.digest <> r.detail->>'digest' or s.person <> r.person
       or 'thread ' || s.thread <> r.subject or 'signed a thread as ' || s.signed_as <> r.act
       or encode(sha256(convert_to(s.content, 'UTF8')), 'hex') <> s.digest`,
  );
  const [row] = await rowsOf<{ n: number }>(
    db,
    'select ((select count(*) from tick) + (select count(*) from file) + (select count(*) from sign_off))::integer as n',
  );
  return { all: row?.n ?? 0, unlike: unlike.map((r) => r.name) };
}
