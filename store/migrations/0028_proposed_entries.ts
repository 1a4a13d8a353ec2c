import type { Knex } from 'knex';

/**
 * What should be booked. Lines that are proposed are lines like any other, under a number of their own for each set and
 * company, so that every question is asked of the books with them or without. Whoever answers requests lays them down and
 * lifts them through functions that touch no other books.
 */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    alter table evidence drop constraint evidence_kind_check;
    alter table evidence add constraint evidence_kind_check
      check (kind in ('note', 'pin', 'tick', 'file', 'point', 'question', 'finding', 'sample', 'run', 'expectation', 'proposed'));

    create table proposed_set (
      id integer generated always as identity primary key,
      name text not null unique,
      about text not null default '',
      person integer references person,
      at timestamptz not null default now()
    );
    insert into proposed_set (name, about) values ('corrections', 'What should be booked'), ('~draft', '');

    create table proposed_books (
      set integer not null references proposed_set,
      entity smallint not null references entity,
      books smallint not null unique,
      primary key (set, entity)
    );

    create table proposed (
      id integer generated always as identity primary key,
      set integer not null references proposed_set,
      entity text not null,
      type text not null check (type in ('factual', 'judgemental', 'projected', 'reclassification', 'forecast')),
      title text not null,
      reason text not null,
      -- As they were asked for (core/proposedEntry), amounts in minor units of the books.
      lines jsonb not null,
      state text not null default 'proposed' check (state in ('proposed', 'approved', 'waived', 'retired', 'booked')),
      state_by integer references person,
      state_at timestamptz not null default now(),
      state_reason text not null default '',
      -- What it goes back to: pins, files, findings, hits, samples, lines.
      links text[] not null default '{}',
      -- Entries whose lines count in figures now.
      laid integer[] not null default '{}',
      exported_at timestamptz,
      exported_as text,
      -- What later loads brought that answers it, entry by entry.
      booked jsonb not null default '[]',
      tax_percent text not null default '',
      -- Who changed what it says last: somebody else approves it.
      changed_by integer references person,
      changed_at timestamptz not null default now()
    );
    create index proposed_state on proposed (state);

    create table materiality (
      id integer generated always as identity primary key,
      -- null: of the group.
      entity text,
      year integer not null,
      currency text not null,
      overall bigint not null,
      performance bigint not null,
      trivial bigint not null,
      basis jsonb not null,
      alternatives jsonb not null default '[]',
      reason text not null,
      person integer not null references person,
      at timestamptz not null default now()
    );
    create index materiality_of on materiality (year, entity, id);

    create table proposed_template (
      id integer generated always as identity primary key,
      name text not null unique,
      entity text not null,
      words jsonb not null,
      person integer not null references person,
      at timestamptz not null default now()
    );

    create function open_proposed(of_set integer, of_entity smallint) returns smallint
    language plpgsql security definer set search_path = public, pg_temp as $$
      declare made smallint;
      begin
        select p.books into made from proposed_books p where p.set = of_set and p.entity = of_entity;
        if made is not null then return made; end if;
        perform pg_advisory_xact_lock(hashtext('just-thread proposed books'));
        select p.books into made from proposed_books p where p.set = of_set and p.entity = of_entity;
        if made is not null then return made; end if;
        made := nextval(pg_get_serial_sequence('entity', 'id'));
        insert into proposed_books (set, entity, books) values (of_set, of_entity, made);
        -- A table that is made apart and attached hinders nobody who reads.
        execute format('create table line_e%s (like line including defaults)', made);
        execute format('alter table line attach partition line_e%s for values in (%s)', made, made);
        return made;
      end $$;

    create function proposed_sums(of_books smallint, of_entry integer, of_load integer, sign integer) returns void
    language plpgsql security definer set search_path = public, pg_temp as $$
      begin
        insert into balance_period (entity, account, period, day_period, status, kind, load, count, debit, credit)
          select entity, account, period, day_period, status, kind, of_load, sign * count(*),
            sign * coalesce(sum(amount) filter (where side = 1), 0), sign * coalesce(-sum(amount) filter (where side <> 1), 0)
          from line where entity = of_books and entry = of_entry group by 1, 2, 3, 4, 5, 6;
        insert into balance_day (entity, account, day, period, day_period, status, kind, load, count, debit, credit)
          select entity, account, day, period, day_period, status, kind, of_load, sign * count(*),
            sign * coalesce(sum(amount) filter (where side = 1), 0), sign * coalesce(-sum(amount) filter (where side <> 1), 0)
          from line where entity = of_books and entry = of_entry group by 1, 2, 3, 4, 5, 6, 7;
        insert into balance_member (entity, slot, member, account, period, day_period, status, kind, load, count, debit, credit)
          select entity, s.slot, case s.slot when 1 then d1 when 2 then d2 when 3 then d3 when 4 then d4
              when 5 then d5 when 6 then d6 when 7 then d7 else d8 end, account, period, day_period, status, kind, of_load, sign * count(*),
            sign * coalesce(sum(amount) filter (where side = 1), 0), sign * coalesce(-sum(amount) filter (where side <> 1), 0)
          from line cross join (select slot from dimension) s
          where entity = of_books and entry = of_entry group by 1, 2, 3, 4, 5, 6, 7, 8;
      end $$;

    create function lay_proposed(of_books smallint, of_load integer, of_number text, said text, lines jsonb) returns integer
    language plpgsql security definer set search_path = public, pg_temp as $$
      declare made integer;
      begin
        if not exists (select from proposed_books where books = of_books) then
          raise exception 'books % are not of what is proposed', of_books;
        end if;
        insert into entry (entity, load, number, description) values (of_books, of_load, of_number, said) returning id into made;
        insert into line (entity, period, day_period, status, kind, side, account, entry, line_no, day, posting_date, counterparty,
            d1, d2, d3, d4, d5, d6, d7, d8, load, amount, entry_number, document, currency, currency_amount, description, extra)
          select of_books, l.period, l.day_period, 1, l.kind, case when l.amount < 0 then -1 else 1 end, l.account, made, l.line_no, l.day,
            l.posting_date, l.counterparty, l.d[1], l.d[2], l.d[3], l.d[4], l.d[5], l.d[6], l.d[7], l.d[8], of_load, l.amount, of_number,
            l.document, l.currency, l.amount, l.description, l.extra
          from jsonb_to_recordset(lines) as l(period smallint, day_period smallint, kind smallint, account integer, line_no integer,
            day date, posting_date date, counterparty integer, d integer[], amount bigint, document text, currency text,
            description text, extra jsonb);
        perform proposed_sums(of_books, made, of_load, 1);
        insert into books_change as c (books, times, rewrites) values (of_books, 1, 0)
          on conflict (books) do update set times = c.times + 1;
        return made;
      end $$;

    create function lift_proposed(of_entry integer, of_load integer) returns void
    language plpgsql security definer set search_path = public, pg_temp as $$
      declare of_books smallint;
      begin
        select p.books into of_books from entry e join proposed_books p on p.books = e.entity
          where e.id = of_entry and e.replaced_by = 2147483647 for update of e;
        if of_books is null then return; end if;
        perform proposed_sums(of_books, of_entry, of_load, -1);
        update line set replaced_by = of_load where entity = of_books and entry = of_entry;
        update entry set replaced_by = of_load where id = of_entry;
        update books_change set times = times + 1, rewrites = rewrites + 1 where books = of_books;
      end $$;
    revoke all on function open_proposed(integer, smallint), proposed_sums(smallint, integer, integer, integer),
      lay_proposed(smallint, integer, text, text, jsonb), lift_proposed(integer, integer) from public;
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
