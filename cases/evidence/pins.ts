import type { z } from 'zod';
import type { newPinSchema } from '@/contracts/bodies';
import { forbidden, notFound, ProblemError } from '@/contracts/problem';
import { readSubject, type Subject, subjectText } from '@/contracts/subject';
import type { Measure } from '@/contracts/traced';
import { DIGEST_VERSION, type DigestVersion, figureDigest } from '@/core/digest';
import { add, exponentOf, formatAmount, sum } from '@/core/money';
import { everyPin, type Frozen, insertEvidence, type PinRow, readEvidence, removeEvidence } from '@/store/evidence';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { spokenCount } from '../asking/spokenNumbers';
import { canonicalSubject, figureAt, linesOfSubject, maySeeSubject } from '../asking/subjects';
import { inkOf, require, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { linesOfFigure } from '../balances/linesOfFigure';
import { type DriftNow, driftsOfPins } from './drift';
import { type EvidenceParams, seenEvidence } from './seenEvidence';

/** A figure with more lines than this is too large to be kept as evidence line by line. */
const PIN_LINES_MAX = 300_000;
/** Keeps a figure, a line or an entry as evidence, frozen with the lines under it (method.md §13). */
export async function pin(ctx: Context, viewer: Viewer, wanted: z.infer<typeof newPinSchema>) {
  require(viewer, 'preparer', 'pin evidence');
  const { subject: about, entities } = await canonicalSubject(ctx, viewer, wanted.subject);
  const { newest } = await known(ctx.write);
  const frozen = await freeze(ctx, viewer, about, wanted.measure, newest, DIGEST_VERSION);
  const subject = subjectText(about);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const by = { person: viewer.id, role: viewer.role };
    const added = await insertEvidence(trx, 'pin', { ...wanted, subject, entities, load: newest, ...by }, frozen);
    const { value, lines, digest, digest_version } = frozen;
    await record('pinned', subject, { pin: added, value, lines, digest, digest_version, load: newest });
    return added;
  });
  return showPin(ctx, viewer, id);
}

/** Pins on what the viewer may see, of some subjects or entities, each fresh or drifted. */
export async function listPins(ctx: Context, viewer: Viewer, params: EvidenceParams) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'pin', params);
  const drifts = await driftsOfPins(ctx, viewer, rows);
  return { rows: rows.map((p) => shownPin(p, viewer, drifts.get(p.id) as DriftNow)), next };
}

/** One pin with everything that moved since. */
export async function showPin(ctx: Context, viewer: Viewer, id: number) {
  const row = await pinRow(ctx, viewer, id);
  return shownPin(row, viewer, (await driftsOfPins(ctx, viewer, [row])).get(id) as DriftNow);
}

/** Takes one's own pin away; the record keeps it. */
export async function removePin(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const row = await pinRow(ctx, viewer, id);
  if (row.person !== viewer.id) throw forbidden(`Only ${row.name} can remove this pin`);
  await onRecord(ctx, viewer, async (trx, record) => {
    await removeEvidence(trx, 'pin', id);
    await record('took a pin away', row.subject, { pin: id });
  });
}

/** Pins whose frozen lines no longer give the digest that was kept: none, unless the store was tampered with. */
export async function brokenPins(ctx: Context, viewer: Viewer): Promise<number[]> {
  const broken: number[] = [];
  for (const row of await everyPin(ctx.work)) {
    const frozen = await freeze(
      ctx,
      viewer,
      readSubject(row.subject),
      row.measure as Measure,
      row.load,
      row.digest_version as DigestVersion,
    );
    if (frozen.digest !== row.digest || frozen.value !== row.value) broken.push(row.id);
  }
  return broken;
}

async function pinRow(ctx: Context, viewer: Viewer, id: number): Promise<PinRow> {
  const row = await readEvidence(ctx.write, 'pin', id);
  if (!row || !(await maySeeSubject(ctx, viewer, row))) throw notFound(`Pin ${id}`);
  return row;
}

async function freeze(
  ctx: Context,
  viewer: Viewer,
  subject: Subject,
  measure: Measure,
  load: number,
  version: DigestVersion,
): Promise<Frozen> {
  if (subject.is !== 'figure') {
    const { lines, asked } = await linesOfSubject(ctx, viewer, subject, load);
    const digest = figureDigest(0, version);
    for (const line of lines) digest.update(line);
    const side = subject.is === 'entry' ? lines.filter((l) => l.side === 'debit') : lines;
    const value = sum(side.map((l) => l.amount));
    return {
      value,
      lines: lines.length,
      opening: 0,
      digest: digest.hex(),
      digest_version: version,
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
  const whole = await figureTotal(ctx, asked);
  if (whole.count > PIN_LINES_MAX) {
    throw new ProblemError(
      422,
      `This figure has ${spokenCount(whole.count)} lines; at most ${spokenCount(PIN_LINES_MAX)} can be pinned at once. Narrow it first`,
    );
  }
  const digest = figureDigest(whole.opening, version);
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
    digest_version: version,
    currency: asked.currency,
    sentence: asked.sentence,
  };
}

function shownPin(row: PinRow, viewer: Viewer, { value, drift, more }: DriftNow) {
  const digits = exponentOf(row.currency);
  return {
    id: row.id,
    subject: row.subject,
    measure: row.measure as Measure,
    address: row.address,
    sentence: row.sentence,
    label: row.label,
    currency: row.currency,
    value: formatAmount(row.value, digits),
    lines: row.lines,
    load: row.load,
    digest: row.digest,
    digestVersion: row.digest_version,
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
