import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { addToRecord } from '@/store/record';
import { walkAnchored } from './readRecord';

// BY-12: whoever owns the database may do to the record whatever they like; the chain, with what was anchored outside, tells.

let fresh: Fresh;
const ENTRIES = 24;
beforeAll(async () => {
  fresh = await freshInstallation();
  for (let i = 0; i < ENTRIES; i++)
    await fresh.ctx.write.transaction((trx) =>
      addToRecord(trx, {
        ...{ person: fresh.owner.id, personName: fresh.owner.name, act: 'wrote a note' },
        ...{
          subject: `figure:entity=ONE&accounts=${i % 5}`,
          detail: { note: i, body: `note ${i}`, of: { deep: i % 3 } },
        },
      }),
    );
  // Whoever owns the database takes its own guard away first.
  await fresh.superuser.raw('alter table record disable trigger all');
  await fresh.superuser.raw('create table record_as_it_was as table record');
});
afterAll(() => fresh?.close());

const FIELDS = ['person_name', 'act', 'subject', 'detail', 'at', 'person', 'hash', 'previous_hash'] as const;

/** What is done to the record by hand; rows by their place, so that any number fits. */
const tampering = fc.oneof(
  fc.record({ is: fc.constant('change' as const), row: fc.nat(), field: fc.constantFrom(...FIELDS) }),
  fc.record({ is: fc.constant('remove' as const), row: fc.nat() }),
  fc.record({ is: fc.constant('cut' as const), row: fc.nat() }),
  fc.record({ is: fc.constant('insert' as const), row: fc.nat() }),
  fc.record({ is: fc.constant('swap' as const), row: fc.nat(), other: fc.nat() }),
);
type Tampering = typeof tampering extends fc.Arbitrary<infer Of> ? Of : never;

async function tamper(how: Tampering): Promise<void> {
  const db = fresh.superuser;
  const ids = ((await db('record').orderBy('id').select('id')) as { id: number }[]).map((r) => r.id);
  const id = ids[how.row % ids.length] as number;
  switch (how.is) {
    case 'change': {
      const row = await db('record').where({ id }).first();
      const other: Record<(typeof FIELDS)[number], unknown> = {
        ...{ person_name: `${row.person_name} `, act: 'signed in', subject: `${row.subject}0` },
        ...{ detail: JSON.stringify({ ...row.detail, more: 1 }), at: new Date(row.at.getTime() + 1) },
        ...{ person: null, hash: 'f'.repeat(64), previous_hash: 'e'.repeat(64) },
      };
      // What has none cannot have none instead.
      if (how.field === 'person' && row.person === null)
        return void (await db('record').where({ id }).update({ subject: 'x' }));
      if (how.field === 'act' && row.act === 'signed in')
        return void (await db('record').where({ id }).update({ subject: 'x' }));
      await db('record')
        .where({ id })
        .update({ [how.field]: other[how.field] });
      return;
    }
    case 'remove':
      await db('record').where({ id }).delete();
      return;
    case 'cut':
      await db('record').where('id', '>=', id).delete();
      return;
    case 'insert': {
      const row = await db('record').where({ id }).first();
      await db.raw('update record set id = -(id + 1) where id > ?', [id]);
      await db.raw('update record set id = -id where id < 0');
      await db('record').insert({ ...row, id: id + 1, detail: JSON.stringify(row.detail), subject: 'slipped in' });
      return;
    }
    case 'swap': {
      const other = ids[how.other % ids.length] as number;
      const [one, two] = [await db('record').where({ id }).first(), await db('record').where({ id: other }).first()];
      if (id === other) return void (await db('record').where({ id }).delete());
      await db('record')
        .where({ id })
        .update({ subject: two.subject, detail: JSON.stringify(two.detail) });
      await db('record')
        .where({ id: other })
        .update({ subject: one.subject, detail: JSON.stringify(one.detail) });
    }
  }
}

test('nothing can be changed, taken out, slipped in, exchanged or cut off unseen', async () => {
  const { ctx, superuser } = fresh;
  const whole = await walkAnchored(ctx, ctx.read);
  expect(whole).toMatchObject({ brokenAt: null, unanchored: false });
  await fc.assert(
    fc.asyncProperty(fc.array(tampering, { minLength: 1, maxLength: 3 }), async (acts) => {
      for (const act of acts) {
        const { n } = (await superuser('record').count('* as n').first()) as { n: number };
        if (Number(n) > 0) await tamper(act);
      }
      const { rows } = (await superuser.raw(
        '(table record except table record_as_it_was) union all (table record_as_it_was except table record)',
      )) as { rows: unknown[] };
      const { brokenAt } = await walkAnchored(ctx, ctx.read);
      await superuser.raw('truncate record');
      await superuser.raw('insert into record table record_as_it_was');
      // Several acts may undo each other; then it is as it was.
      expect(brokenAt === null).toBe(rows.length === 0);
    }),
    { numRuns: 40 },
  );
  expect(await walkAnchored(ctx, ctx.read)).toMatchObject({ brokenAt: null, number: whole.number });
}, 120_000);
