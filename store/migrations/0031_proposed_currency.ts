import type { Knex } from 'knex';

/** Lines that are proposed may be in the currency of a transaction, with an amount of their own in it. */
export async function up(db: Knex): Promise<void> {
  await db.raw(`
    create or replace function lay_proposed(of_books smallint, of_load integer, of_number text, said text, lines jsonb) returns integer
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
            l.document, l.currency, l.currency_amount, l.description, l.extra
          from jsonb_to_recordset(lines) as l(period smallint, day_period smallint, kind smallint, account integer, line_no integer,
            day date, posting_date date, counterparty integer, d integer[], amount bigint, document text, currency text,
            currency_amount bigint, description text, extra jsonb);
        perform proposed_sums(of_books, made, of_load, 1);
        insert into books_change as c (books, times, rewrites) values (of_books, 1, 0)
          on conflict (books) do update set times = c.times + 1;
        return made;
      end $$;
  `);
}

export async function down(): Promise<void> {
  throw new Error('this migration is not undone; restore a backup instead');
}
