import type { z } from 'zod';
import type { newPinSchema } from '@/contracts/bodies/all';
import { ProblemError, wrong } from '@/contracts/problem';
import { isWritten, readSubject, type Subject } from '@/contracts/subject';
import type { Measure } from '@/contracts/traced';
import { DIGEST_VERSION, type DigestVersion, figureDigest } from '@/core/digest';
import { add, exponentOf, formatAmount, sum } from '@/core/money';
import { everyPin, type Frozen, type PinRow } from '@/store/evidence';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { spokenCount } from '../asking/spokenNumbers';
import { addressOfPinned, figureAt, linesOfSubject } from '../asking/subjects';
import { require, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { linesOfFigure } from '../balances/linesOfFigure';
import { aboutOf, keepEvidence, shownAbout } from './about';
import { type DriftNow, driftsOfPins } from './drift';
import { type EvidenceParams, seenEvidence, seenPiece } from './seenEvidence';
import { takeAway } from './takeAway';

/** A figure with more lines than this is too large to be kept as evidence line by line. */
const PIN_LINES_MAX = 300_000;
/** Keeps a figure, a line or an entry as evidence, frozen with the lines under it (method.md §13). */
export async function pin(
  ctx: Context,
  viewer: Viewer,
  wanted: z.input<typeof newPinSchema> & { address: string; label: string },
) {
  require(viewer, 'preparer', 'pin evidence');
  const about = await aboutOf(ctx, viewer, wanted);
  const subject = readSubject(about.subject);
  if (isWritten(subject)) throw wrong('subject', `a ${subject.is} has no lines to be frozen; pin a figure of it`);
  // A document is worth what its lines debit, as an entry is.
  const measure = subject.is === 'document' ? 'debit' : (wanted.measure ?? 'closing');
  const frozen = await freeze(ctx, viewer, subject, measure, about.load, DIGEST_VERSION);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const added = await keepEvidence(trx, 'pin', { ...about, measure }, frozen);
    const { value, lines, digest, digest_version } = frozen;
    await record('pinned', about.subject, { pin: added, value, lines, digest, digest_version, load: about.load });
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
  const row = await seenPiece(ctx, viewer, 'pin', id);
  return shownPin(row, viewer, (await driftsOfPins(ctx, viewer, [row])).get(id) as DriftNow);
}

/** Takes one's own pin away; the record keeps it. */
export const removePin = (ctx: Context, viewer: Viewer, id: number): Promise<void> =>
  takeAway(ctx, viewer, 'pin', id, 'took a pin away');

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

async function freeze(
  ctx: Context,
  viewer: Viewer,
  subject: Subject,
  measure: Measure,
  load: number,
  version: DigestVersion,
): Promise<Frozen> {
  if (subject.is === 'line' || subject.is === 'entry') {
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
  const asked = await figureAt(ctx, viewer, addressOfPinned(subject), load);
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
    ...shownAbout(row, viewer),
    measure: row.measure as Measure,
    sentence: row.sentence,
    currency: row.currency,
    value: formatAmount(row.value, digits),
    lines: row.lines,
    load: row.load,
    digest: row.digest,
    digestVersion: row.digest_version,
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
