import type { Knex } from 'knex';

/** Who may come in, what they may see, what they noted and kept, and the record of who did what. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create table person (
      id integer generated always as identity primary key,
      email text not null unique,
      name text not null,
      role text not null check (role in ('owner', 'preparer', 'reviewer', 'reader')),
      password_hash text not null,
      created_at timestamptz not null default now()
    );
    create table person_entity (
      person integer not null references person on delete cascade,
      entity smallint not null references entity,
      primary key (person, entity)
    );
    create table session (
      id_hash text primary key,
      person integer not null references person on delete cascade,
      expires_at timestamptz not null
    );
    create table token (
      hash text primary key,
      person integer not null references person on delete cascade,
      created_at timestamptz not null default now()
    );
    create table sign_in_attempt (email text not null, address text not null, at timestamptz not null default now());
    create index sign_in_attempt_at on sign_in_attempt (at);

    create table note (
      id integer generated always as identity primary key,
      subject text not null,
      measure text,
      entities text[] not null,
      address text not null,
      label text not null,
      body text not null,
      person integer not null references person,
      created_at timestamptz not null default now(),
      removed_at timestamptz
    );
    create index note_subject on note (subject);
    create table pin (
      id integer generated always as identity primary key,
      subject text not null,
      measure text not null,
      entities text[] not null,
      address text not null,
      sentence text not null,
      label text not null,
      currency text not null,
      value bigint not null,
      lines integer not null,
      opening bigint not null,
      load integer not null,
      digest text not null,
      person integer not null references person,
      created_at timestamptz not null default now(),
      removed_at timestamptz
    );
    create index pin_subject on pin (subject);

    create table record (
      id integer primary key,
      at timestamptz not null,
      person integer,
      person_name text not null,
      act text not null,
      subject text not null,
      detail jsonb not null,
      previous_hash text not null,
      hash text not null
    );
    create function record_is_final() returns trigger language plpgsql as $$
      begin
        raise exception 'the record of who did what is only ever added to';
      end $$;
    create trigger record_is_final before update or delete or truncate on record
      for each statement execute function record_is_final();
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
