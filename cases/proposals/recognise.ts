import type { Knex } from 'knex';
import { notFound, wrong } from '@/contracts/problem';
import { addDays } from '@/core/dates';
import { add } from '@/core/money';
import { type Booked, countsIn, differsIn, type MatchedField, type ProposedLine } from '@/core/proposedEntry';
import { type Catalogue, type CatalogueEntity, readCatalogue, touchCatalogue } from '@/store/catalogue';
import type { Db } from '@/store/db';
import { findEntry } from '@/store/entries';
import { listEvidence, type ProposedRow } from '@/store/evidence';
import { linesOfEntries, type StoredLine } from '@/store/lines';
import type { LoadRow } from '@/store/loads';
import {
  type BookedAs,
  type Candidate,
  candidatesOf,
  liftProposed,
  periodsBrought,
  updateProposed,
  type WaitedFor,
} from '@/store/proposed';
import { addToRecord } from '@/store/record';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import type { Viewer } from '../asking/viewer';
import { entriesOf, inCurrencyBooked, proposedIn, proposedNumber } from './lines';

/**
 * What was proposed is known again when a later load brings it (BY-19). Only what is the same in every field is taken for
 * booked; where something differs it is told with the fields, and a person says whether that is it.
 */

/** An entry may be booked so many days before or after the one on which it was proposed. */
const DAYS_AROUND = 62;
const EVERY = 100_000;

/** Looks among the lines of a load, in its transaction, for what was proposed and waits. */
export async function recogniseBooked(trx: Knex.Transaction, load: LoadRow): Promise<void> {
  const all = await listEvidence(trx, 'proposed', { subjects: null, entities: null, limit: EVERY, after: 0 });
  const rows = all.filter((row) => countsIn(row.state));
  if (rows.length === 0) return;
  const catalogue = await readCatalogue(trx);
  const entities = [...catalogue.entities.values()];
  let changed = false;
  for (const entity of entities) {
    const own = rows.filter((row) => row.entity === entity.code);
    if (own.length > 0 && (await recogniseIn(trx, load, catalogue, entity, own))) changed = true;
  }
  if (changed) await touchCatalogue(trx);
}

interface Waiting {
  row: ProposedRow;
  /** Its place among the entries of its proposal. */
  at: number;
  number: string;
  lines: ProposedLine[];
}

async function recogniseIn(
  trx: Knex.Transaction,
  load: LoadRow,
  catalogue: Catalogue,
  entity: CatalogueEntity,
  rows: readonly ProposedRow[],
): Promise<boolean> {
  const waiting = rows.flatMap((row): Waiting[] =>
    entriesOf(proposedNumber(row.id), row.lines)
      .map(({ number, lines }, at) => ({ row, at, number, lines }))
      .filter(({ number }) => !row.booked.some((b) => b.number === number && isBooked(b))),
  );
  const waited = waiting.map((w) => waitedFor(entity, w));
  const candidates = await candidatesOf(trx, entity.id, load.id, waited);
  const lines = await linesOfAll(trx, catalogue, load.id, [...new Set(candidates.map((c) => c.entry))]);
  const taken = new Set<number>();
  const found = new Map<ProposedRow, BookedAs[]>();
  const say = ({ row }: Waiting, booked: BookedAs): void => void found.set(row, [...(found.get(row) ?? []), booked]);
  const own = (w: Waiting): Candidate[] => candidates.filter((c) => c.number === w.number && !taken.has(c.entry));
  const fieldsOf = (w: Waiting, c: Candidate): MatchedField[] =>
    differsIn(
      w.lines,
      (lines.get(c.entry) ?? []).map((line) => asBooked(entity, line)),
    );
  // What is the same goes first: an entry that is one proposal is not told as another that differs.
  const open = waiting.filter((w) => {
    const same = own(w).find((c) => fieldsOf(w, c).length === 0);
    if (!same) return true;
    taken.add(same.entry);
    say(w, { number: w.number, load: load.id, entry: same.booked, how: 'as proposed', fields: [] });
    return false;
  });
  const periods = await periodsBrought(trx, entity.id, load.id);
  for (const w of open) {
    const near = own(w)
      .map((c) => ({ ...c, fields: fieldsOf(w, c) }))
      .filter((c) => c.named || !(c.fields.includes('accounts') || c.fields.includes('amounts')))
      .sort((a, b) => Number(b.named) - Number(a.named) || a.fields.length - b.fields.length)[0];
    if (near) {
      taken.add(near.entry);
      say(w, { number: w.number, load: load.id, entry: near.booked, how: 'differs', fields: near.fields });
    } else if (w.row.exported_at !== null && w.lines.some((l) => periods.has(l.period)))
      say(w, { number: w.number, load: load.id, entry: null, how: 'not booked', fields: [] });
  }
  for (const [row, news] of found) await keep(trx, load, row, news);
  return found.size > 0;
}

const isBooked = ({ how }: BookedAs): boolean => how === 'as proposed' || how === 'accepted';

/** The largest of its amounts, and when it may be booked. */
function waitedFor(entity: CatalogueEntity, { number, lines }: Waiting): WaitedFor {
  const sums = new Map<string, number>();
  for (const line of lines) sums.set(line.account, add(sums.get(line.account) ?? 0, line.amount));
  const [account, amount] = [...sums].sort(([, a], [, b]) => Math.abs(b) - Math.abs(a))[0] as [string, number];
  const day = lines[0]?.date ?? '';
  return {
    ...{ number, account: entity.accounts.get(account)?.id ?? 0, amount },
    ...{ from: addDays(day, -DAYS_AROUND), to: addDays(day, DAYS_AROUND) },
  };
}

async function linesOfAll(
  trx: Db,
  catalogue: Catalogue,
  load: number,
  entries: number[],
): Promise<Map<number, StoredLine[]>> {
  const found = new Map<number, StoredLine[]>();
  if (entries.length === 0) return found;
  for (const line of await linesOfEntries(trx, { catalogue }, entries, load))
    found.set(line.entryId, [...(found.get(line.entryId) ?? []), line]);
  return found;
}

const asBooked = (entity: CatalogueEntity, line: StoredLine): Booked => ({
  ...{ account: line.account, amount: line.amount, date: line.postingDate, period: line.period },
  ...{
    counterparty: line.counterparty,
    taxCode: line.taxCode === null ? null : String(line.taxCode),
    dims: line.members,
  },
  inCurrency: inCurrencyBooked(line, { entity }),
});

/** Puts what answers a proposal with it; what is booked counts no more beside what is booked, from a load on. */
async function answer(
  trx: Db,
  row: ProposedRow,
  news: readonly BookedAs[],
  { load, person }: { load: number; person: number | null },
): Promise<void> {
  const booked = [...row.booked.filter((b) => !news.some((n) => n.number === b.number)), ...news];
  const numbers = entriesOf(proposedNumber(row.id), row.lines).map((e) => e.number);
  const isOne = (some: readonly BookedAs[], number: string): boolean =>
    some.some((b) => b.number === number && isBooked(b));
  await liftProposed(
    trx,
    numbers.flatMap((number, at) => (isOne(news, number) ? (row.laid[at] ?? []) : [])),
    load,
  );
  await updateProposed(trx, row.id, {
    booked,
    ...(numbers.every((number) => isOne(booked, number))
      ? { state: 'booked' as const, state_by: person, state_reason: '', laid: [] }
      : {}),
  });
}

/** Keeps what a load brought of a proposal. */
async function keep(trx: Knex.Transaction, load: LoadRow, row: ProposedRow, news: readonly BookedAs[]): Promise<void> {
  await answer(trx, row, news, { load: load.id, person: null });
  await addToRecord(trx, {
    ...{ person: load.person, personName: load.person_name, act: 'found what was proposed in a load' as const },
    ...{ subject: row.subject, detail: { proposed: row.id, load: load.id, booked: news } },
  });
}

/** Takes an entry of the ledger for the proposed one, though it differs. @throws ProblemError */
export async function acceptedAs(
  ctx: Context,
  viewer: Viewer,
  row: ProposedRow,
  number: string | undefined,
): Promise<void> {
  if (number === undefined) throw wrong('booked', 'name the entry of the ledger that it is');
  const { entity, names } = await proposedIn(ctx, viewer, row.entity);
  const head = await findEntry(ctx.read, { entity: entity.code, number, asOf: names.newest });
  const lines = head && (await linesOfAll(ctx.read, names.catalogue, names.newest, [head.id])).get(head.id);
  if (!head || !lines?.every((l) => l.books === entity.id)) throw notFound(`Entry ${number}`);
  const days = entriesOf(proposedNumber(row.id), row.lines);
  const open = days.filter((d) => !row.booked.some((b) => b.number === d.number && isBooked(b)));
  // Of several days it is the one that it is most like.
  const [best] = open
    .map((d) => ({
      number: d.number,
      fields: differsIn(
        d.lines,
        lines.map((line) => asBooked(entity, line)),
      ),
    }))
    .sort((a, b) => a.fields.length - b.fields.length);
  if (!best) throw wrong('booked', `${proposedNumber(row.id)} is booked already`);
  const one: BookedAs = { ...best, load: head.load, entry: number, how: 'accepted' };
  await onRecord(ctx, viewer, async (trx, record) => {
    await answer(trx, row, [one], { load: names.newest, person: viewer.id });
    await touchCatalogue(trx);
    await record('took an entry for what was proposed', row.subject, { proposed: row.id, booked: one });
  });
}
