import type { Knex } from 'knex';

/** The entry and the line that a subject names. */
const ENTRY = `case when n.subject like 'line:%' then substring(n.subject from '^line:[^/]+/(.+)/[0-9]+$')
  when n.subject like 'entry:%' then substring(n.subject from '^entry:[^/]+/(.+)$') end`;
const LINE = `case when n.subject like 'line:%' then substring(n.subject from '/([0-9]+)$')::integer end`;

/**
 * One store of evidence: what every note and pin has is in one table, by kind; what only one of them has stays with it.
 * The role is the one that the person had when they wrote it; of what was written before, the one they have now.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table evidence (
      kind text not null check (kind in ('note', 'pin')),
      id integer not null,
      subject text not null,
      entities text[] not null,
      entry text,
      line integer,
      measure text,
      address text not null,
      label text not null,
      load integer not null,
      person integer not null references person,
      role text not null,
      created_at timestamptz not null default now(),
      removed_at timestamptz,
      primary key (kind, id)
    );
    insert into evidence (kind, id, subject, entities, entry, line, measure, address, label, load, person, role, created_at, removed_at)
      select 'note', n.id, n.subject, n.entities,
        ${ENTRY}, ${LINE}, n.measure, n.address, n.label,
        coalesce((select max(l.id) from load l where l.status = 'loaded' and l.finished_at <= n.created_at), 0),
        n.person, p.role, n.created_at, n.removed_at
      from note n join person p on p.id = n.person;
    insert into evidence (kind, id, subject, entities, entry, line, measure, address, label, load, person, role, created_at, removed_at)
      select 'pin', n.id, n.subject, n.entities,
        ${ENTRY}, ${LINE}, n.measure, n.address, n.label, n.load, n.person, p.role, n.created_at, n.removed_at
      from pin n join person p on p.id = n.person;
    create index evidence_subject on evidence (subject) where removed_at is null;
    create index evidence_entities on evidence using gin (entities) where removed_at is null;
    create index evidence_entry on evidence (entry) where removed_at is null and entry is not null;

    alter table note drop column subject, drop column measure, drop column entities, drop column address,
      drop column label, drop column person, drop column created_at, drop column removed_at;
    alter table pin drop column subject, drop column measure, drop column entities, drop column address,
      drop column label, drop column load, drop column person, drop column created_at, drop column removed_at,
      add column digest_version smallint not null default 1;
    alter table pin alter column digest_version drop default;

    create table pin_drift (
      pin integer not null references pin,
      load integer not null,
      value bigint,
      lines jsonb not null,
      more boolean not null,
      primary key (pin, load)
    );
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
