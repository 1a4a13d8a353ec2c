import type { z } from 'zod';
import type { Measure, newPinSchema } from '@/contracts/bodies';
import { forbidden, notFound, ProblemError } from '@/contracts/problem';
import { addOwn, addRetained, type Balance, emptyBalance } from '@/core/balances';
import { type CONTENT_FIELDS, changedFields, figureDigest } from '@/core/digest';
import { add, exponentOf, formatAmount, type Minor, sum } from '@/core/money';
import { total } from '@/store/balances';
import { rowsOf } from '@/store/db';
import { type BearingLine, linesChangedSince, type StoredLine } from '@/store/lines';
import { addToRecord } from '@/store/record';
import type { Context } from '../asking/context';
import { known } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import {
  canonicalSubject,
  figureAt,
  linesOfSubject,
  maySeeSubject,
  readSubject,
  type Subject,
  subjectText,
  withSeenSubject,
} from '../asking/subjects';
import { inkOf, require, type Viewer } from '../asking/viewer';
import { linesOfFigure } from '../balances/linesOfFigure';

/** A figure with more lines than this is too large to be kept as evidence line by line. */
const PIN_LINES_MAX = 300_000;
/** Lines of a drift that are told one by one. */
const DRIFT_LINES_MAX = 500;

interface PinRow {
  id: number;
  subject: string;
  measure: Measure;
  entities: string[];
  address: string;
  sentence: string;
  label: string;
  currency: string;
  value: number;
  lines: number;
  opening: number;
  load: number;
  digest: string;
  person: number;
  name: string;
  role: string;
  created_at: Date;
}

const READ = `select n.*, p.name, p.role from pin n join person p on p.id = n.person where n.removed_at is null`;

/** Keeps a figure, a line or an entry as evidence, frozen with the lines under it (method.md §13). */
export async function pin(ctx: Context, viewer: Viewer, wanted: z.infer<typeof newPinSchema>) {
  require(viewer, 'preparer', 'pin evidence');
  const { subject, entities } = await canonicalSubject(ctx, viewer, wanted.subject);
  const { newest } = await known(ctx.write);
  const frozen = await freeze(ctx, viewer, subject, wanted.measure, newest);
  const id = await ctx.write.transaction(async (trx) => {
    const [row] = (await trx('pin')
      .insert({ ...wanted, ...frozen, subject: subjectText(subject), entities, load: newest, person: viewer.id })
      .returning('id')) as { id: number }[];
    const added = (row as { id: number }).id;
    const { value, lines, digest } = frozen;
    await addToRecord(trx, {
      person: viewer.id,
      personName: viewer.name,
      act: 'pinned',
      subject: subjectText(subject),
      detail: { pin: added, value, lines, digest, load: newest },
    });
    return added;
  });
  return showPin(ctx, viewer, id);
}

/** All pins on what the viewer may see of the entities, each fresh or drifted. */
export async function listPins(ctx: Context, viewer: Viewer, entities: string[]) {
  const rows = await rowsOf<PinRow>(ctx.write, `${READ} and n.entities && ?::text[] order by n.id limit 1000`, [
    entities,
  ]);
  const seen = await withSeenSubject(ctx, viewer, rows);
  return { rows: await Promise.all(seen.map((p) => withState(ctx, viewer, p))) };
}

/** One pin with everything that moved since. */
export async function showPin(ctx: Context, viewer: Viewer, id: number) {
  return withState(ctx, viewer, await pinRow(ctx, viewer, id));
}

/** Takes one's own pin away; the record keeps it. */
export async function removePin(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const row = await pinRow(ctx, viewer, id);
  if (row.person !== viewer.id) throw forbidden(`Only ${row.name} can take this pin away`);
  await ctx.write.transaction(async (trx) => {
    await trx.raw('update pin set removed_at = now() where id = ?', [id]);
    await addToRecord(trx, {
      person: viewer.id,
      personName: viewer.name,
      act: 'took a pin away',
      subject: row.subject,
      detail: { pin: id },
    });
  });
}

/** Pins whose frozen lines no longer give the digest that was kept: none, unless the store was tampered with. */
export async function brokenPins(ctx: Context, viewer: Viewer): Promise<number[]> {
  const broken: number[] = [];
  for (const row of await rowsOf<PinRow>(ctx.work, `${READ} order by n.id`)) {
    const frozen = await freeze(ctx, viewer, readSubject(row.subject), row.measure, row.load);
    if (frozen.digest !== row.digest || frozen.value !== row.value) broken.push(row.id);
  }
  return broken;
}

async function pinRow(ctx: Context, viewer: Viewer, id: number): Promise<PinRow> {
  const [row] = await rowsOf<PinRow>(ctx.write, `${READ} and n.id = ?`, [id]);
  if (!row || !(await maySeeSubject(ctx, viewer, row))) throw notFound(`Pin ${id}`);
  return row;
}

async function freeze(ctx: Context, viewer: Viewer, subject: Subject, measure: Measure, load: number) {
  if (subject.is !== 'figure') {
    const { lines, asked } = await linesOfSubject(ctx, viewer, subject, load);
    const digest = figureDigest(0);
    for (const line of lines) digest.update(line);
    const side = subject.is === 'entry' ? lines.filter((l) => l.side === 'debit') : lines;
    const value = sum(side.map((l) => l.amount));
    return {
      value,
      lines: lines.length,
      opening: 0,
      digest: digest.hex(),
      currency: asked.currency,
      sentence: asked.sentence,
    };
  }
  const asked = await figureAt(ctx, viewer, subject.address, load);
  if (asked.translates)
    throw new ProblemError(
      422,
      'A translated figure moves with its rates; split it by entity and account, and pin it in the books of a company',
    );
  const { total: whole } = await total(ctx.read, asked.question);
  if (whole.count > PIN_LINES_MAX) {
    throw new ProblemError(
      422,
      `This figure has ${whole.count} lines; at most ${PIN_LINES_MAX} can be pinned at once. Narrow it first`,
    );
  }
  const digest = figureDigest(whole.opening);
  let count = 0;
  for await (const line of linesOfFigure(ctx.read, asked)) {
    digest.update(line);
    count += 1;
  }
  return {
    value: whole[measure],
    lines: count,
    opening: whole.opening,
    digest: digest.hex(),
    currency: asked.currency,
    sentence: asked.sentence,
  };
}

async function withState(ctx: Context, viewer: Viewer, row: PinRow) {
  const digits = exponentOf(row.currency);
  const { value, drift, more } = await driftOf(ctx, viewer, row);
  return {
    id: row.id,
    subject: row.subject,
    measure: row.measure,
    address: row.address,
    sentence: row.sentence,
    label: row.label,
    currency: row.currency,
    value: formatAmount(row.value, digits),
    lines: row.lines,
    load: row.load,
    digest: row.digest,
    by: row.name,
    ink: inkOf(row.role),
    mine: row.person === viewer.id,
    at: row.created_at.toISOString(),
    state: drift.length === 0 ? ('fresh' as const) : ('drifted' as const),
    now: value === null ? null : formatAmount(value, digits),
    change: value === null ? null : formatAmount(add(value, -row.value), digits),
    drift: drift.map((d) => ({
      ...d,
      effect: formatAmount(d.effect, digits),
      amount: formatAmount(d.amount, digits),
      before: d.before === null ? null : formatAmount(d.before, digits),
    })),
    driftMore: more,
    /** The changed lines' effects add up to the change of the value. */
    driftTies: value === null || more || sum(drift.map((d) => d.effect)) === value - row.value,
  };
}

interface Drift {
  change: 'added' | 'changed' | 'removed';
  entity: string;
  entry: string;
  line: number;
  date: string;
  description: string;
  amount: Minor;
  before: Minor | null;
  fields: string[];
  effect: Minor;
}

/** What loads since did to the lines under a pin, line by line. */
async function driftOf(
  ctx: Context,
  viewer: Viewer,
  row: PinRow,
): Promise<{ value: Minor | null; drift: Drift[]; more: boolean }> {
  const { newest } = await known(ctx.read);
  if (newest === row.load) return { value: row.value, drift: [], more: false };
  const subject = readSubject(row.subject);
  if (subject.is !== 'figure') return driftOfLines(ctx, viewer, row, subject);
  const asked = await figureAt(ctx, viewer, subject.address, null);
  const [{ total: whole }, changed] = await Promise.all([
    total(ctx.read, asked.question),
    linesChangedSince(ctx.read, asked.question, row.load, 4 * DRIFT_LINES_MAX + 1),
  ]);
  const pairs = new Map<string, { before: BearingLine | null; after: BearingLine | null }>();
  for (const line of changed) {
    const key = keyOf(line.line);
    const pair = pairs.get(key) ?? { before: null, after: null };
    pairs.set(key, line.added ? { ...pair, after: line } : { ...pair, before: line });
  }
  const effect = (line: BearingLine | null): Minor => (line === null ? 0 : effectOf(line, asked, row.measure));
  const all = [...pairs.values()]
    .map(({ before, after }) =>
      driftOfPair(
        before?.line ?? null,
        after?.line ?? null,
        add(effect(after), -effect(before)),
        inWindow(before) || inWindow(after),
      ),
    )
    .filter((d) => d !== null);
  const more = changed.length > 4 * DRIFT_LINES_MAX || all.length > DRIFT_LINES_MAX;
  return { value: whole[row.measure], drift: all.slice(0, DRIFT_LINES_MAX), more };
}

const inWindow = (line: BearingLine | null): boolean => line !== null && line.own && line.part >= 2;

async function driftOfLines(ctx: Context, viewer: Viewer, row: PinRow, subject: Exclude<Subject, { is: 'figure' }>) {
  const { lines: before } = await linesOfSubject(ctx, viewer, subject, row.load);
  const after = await linesOfSubject(ctx, viewer, subject, null).then(
    ({ lines }) => lines,
    (error: unknown) => {
      if (error instanceof ProblemError && error.status === 404) return [];
      throw error;
    },
  );
  const effect = (line: StoredLine | undefined): Minor =>
    line === undefined || (subject.is === 'entry' && line.side !== 'debit') ? 0 : line.amount;
  const keys = [...new Set([...before, ...after].map(keyOf))];
  const drift = keys
    .map((key) => {
      const old = before.find((l) => keyOf(l) === key);
      const now = after.find((l) => keyOf(l) === key);
      return driftOfPair(old ?? null, now ?? null, add(effect(now), -effect(old)), true);
    })
    .filter((d) => d !== null);
  const value = after.length === 0 ? null : sum(after.map((l) => effect(l)));
  return { value, drift, more: false };
}

const keyOf = (l: StoredLine): string => `${l.entity}|${l.entry}|${l.line}`;

/** Null where content is the same, or where a line outside the window had no effect on the measure. */
function driftOfPair(
  before: StoredLine | null,
  after: StoredLine | null,
  effect: Minor,
  inside: boolean,
): Drift | null {
  const shown = after ?? before;
  if (shown === null || (effect === 0 && !inside)) return null;
  const fields = before && after ? changedFields(before, after) : [];
  if (before && after && fields.length === 0) return null;
  return {
    change: before === null ? 'added' : after === null ? 'removed' : 'changed',
    entity: shown.entity,
    entry: shown.entry,
    line: shown.line,
    date: shown.postingDate,
    description: shown.description,
    amount: shown.amount,
    before: before && after ? before.amount : null,
    fields: fields.map((f) => FIELD_WORD[f] ?? f),
    effect,
  };
}

const FIELD_WORD: Partial<Record<(typeof CONTENT_FIELDS)[number], string>> = {
  postingDate: 'date',
  entryDescription: 'entry description',
  currencyAmount: 'currency amount',
  postedBy: 'posted by',
  dims: 'dimensions',
};

function effectOf({ line, part, own, temporary }: BearingLine, { question }: ResolvedFigure, measure: Measure): Minor {
  const entity = question.entities.find((e) => e.entity.code === line.entity);
  const debit = line.side === 'debit' ? line.amount : 0;
  const credit = line.side === 'credit' ? 0 - line.amount : 0;
  const part_ = { part, own, temporary, rolls: entity?.rolls ?? false, debit, credit, count: 1 };
  const balance: Balance = emptyBalance();
  if (own) addOwn(balance, part_);
  if (entity?.retained) addRetained(balance, part_);
  return balance[measure];
}
