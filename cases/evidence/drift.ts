import { ProblemError } from '@/contracts/problem';
import { type EnteredSubject, readSubject } from '@/contracts/subject';
import type { Measure } from '@/contracts/traced';
import { addOwn, addRetained, type Balance, emptyBalance } from '@/core/balances';
import { changedFields } from '@/core/digest';
import { lineField } from '@/core/lineFields';
import { add, type Minor, sum } from '@/core/money';
import { driftsOf, keepDrift, type PinRow, pinsWithoutDrift } from '@/store/evidence';
import { type BearingLine, linesChangedSince, type StoredLine } from '@/store/lines';
import { type Context, known } from '../asking/context';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { addressOfPinned, figureAt, linesOfSubject } from '../asking/subjects';
import type { Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { EVERYTHING } from './everything';
import { keepMovedSteps } from './threads/movedSteps';
import { keepMovedTicks } from './ticks';

/** Lines of a drift that are told one by one. */
const DRIFT_LINES_MAX = 500;

/** A line that later loads added, changed or took away under a pin, and what that does to the pin's value. */
export interface Drift {
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

export interface DriftNow {
  /** The pin's figure as of the newest load; null where its line or entry is gone. */
  value: Minor | null;
  drift: Drift[];
  /** There are more changed lines than are told one by one. */
  more: boolean;
}

/**
 * What loads since did to the lines under each pin. It is worked out once for every load, by a job right after it, and
 * kept; what the job has not come to yet is worked out here.
 */
export async function driftsOfPins(
  ctx: Context,
  viewer: Viewer,
  pins: readonly PinRow[],
): Promise<Map<number, DriftNow>> {
  const { newest } = await known(ctx.read);
  const kept = new Map(
    (
      await driftsOf(
        ctx.write,
        pins.map((p) => p.id),
        newest,
      )
    ).map((d) => [d.pin, d]),
  );
  const found = await Promise.all(
    pins.map(async (pin): Promise<[number, DriftNow]> => {
      if (pin.load === newest) return [pin.id, { value: pin.value, drift: [], more: false }];
      const held = kept.get(pin.id);
      if (held) return [pin.id, { value: held.value, drift: held.lines as Drift[], more: held.more }];
      return [pin.id, await workedOut(ctx, viewer, pin)];
    }),
  );
  return new Map(found);
}

/** Works out and keeps what a load did to every pin. @returns a sentence for those who look at the job */
export async function keepDrifts(
  ctx: Context,
  load: number,
  progress: (share: number) => Promise<void>,
): Promise<{ message?: string }> {
  const { newest } = await known(ctx.work);
  if (newest !== load) return { message: 'a newer load has come; its own job looks at the pins' };
  const pins = await pinsWithoutDrift(ctx.work, load);
  // Nobody waits for a job: no figure is too heavy for it.
  const whole = { ...ctx, read: ctx.work, heavyLines: Number.POSITIVE_INFINITY };
  let drifted = 0;
  for (const [i, pin] of pins.entries()) {
    const { value, drift, more } = await workedOut(whole, EVERYTHING, pin);
    await keepDrift(ctx.work, { pin: pin.id, load, value, lines: drift, more });
    if (drift.length > 0) drifted += 1;
    await progress((i + 1) / pins.length);
  }
  const ticks = await keepMovedTicks(whole, ctx.work, load);
  await keepMovedSteps(whole, load);
  return { message: `${drifted} of ${pins.length} pins moved, and what ${ticks} ticks stand on` };
}

/** What loads since did to the lines under a pin, line by line. */
async function workedOut(ctx: Context, viewer: Viewer, row: PinRow): Promise<DriftNow> {
  const subject = readSubject(row.subject);
  if (subject.is === 'line' || subject.is === 'entry') return driftOfLines(ctx, viewer, row, subject);
  const asked = await figureAt(ctx, viewer, addressOfPinned(subject), null);
  const [whole, changed] = await Promise.all([
    figureTotal(ctx, asked),
    linesChangedSince(ctx.read, asked.unweighed, row.load, 4 * DRIFT_LINES_MAX + 1),
  ]);
  const pairs = new Map<string, { before: BearingLine | null; after: BearingLine | null }>();
  for (const line of changed) {
    const key = keyOf(line.line);
    const pair = pairs.get(key) ?? { before: null, after: null };
    pairs.set(key, line.added ? { ...pair, after: line } : { ...pair, before: line });
  }
  const effect = (line: BearingLine | null): Minor =>
    line === null ? 0 : effectOf(line, asked, row.measure as Measure);
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
  return { value: whole[row.measure as Measure], drift: all.slice(0, DRIFT_LINES_MAX), more };
}

const inWindow = (line: BearingLine | null): boolean => line !== null && line.own && line.part >= 2;

async function driftOfLines(ctx: Context, viewer: Viewer, row: PinRow, subject: EnteredSubject) {
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
    fields: fields.map((name) => lineField(name).word),
    effect,
  };
}

function effectOf({ line, part, own, temporary }: BearingLine, { books }: ResolvedFigure, measure: Measure): Minor {
  const entity = books.find((e) => e.entity.code === line.entity);
  const debit = line.side === 'debit' ? line.amount : 0;
  const credit = line.side === 'credit' ? 0 - line.amount : 0;
  const part_ = { part, own, temporary, rolls: entity?.rolls ?? false, debit, credit, count: 1 };
  const balance: Balance = emptyBalance();
  if (own) addOwn(balance, part_);
  if (entity?.retained) addRetained(balance, part_);
  return balance[measure];
}
