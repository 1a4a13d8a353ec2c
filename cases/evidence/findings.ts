import type { z } from 'zod';
import type { findingChangeSchema, newFindingSchema } from '@/contracts/bodies/all';
import { wrong } from '@/contracts/problem';
import { subjectText } from '@/contracts/subject';
import type { Measure } from '@/contracts/traced';
import { FINDING_WORDS } from '@/contracts/work';
import { add, exponentOf, formatAmount } from '@/core/money';
import { type FindingRow, type FindingWords, updateFinding } from '@/store/evidence';
import { keepFormer } from '@/store/formerWords';
import { type Context, known } from '../asking/context';
import { given } from '../asking/given';
import { onRecord } from '../asking/onRecord';
import { canonicalSubject, maySeeSubject } from '../asking/subjects';
import { require, type Viewer } from '../asking/viewer';
import { tell } from '../mail/tell';
import { colleagueOf } from '../people/colleagues';
import { aboutOf, keepEvidence, shownAbout } from './about';
import { isIn } from './points';
import { type EvidenceParams, seenEvidence, seenPiece } from './seenEvidence';
import { heldOpen } from './threads/words';
import { valueNow } from './valueNow';
import { mustSeeIt, shownWords, wordsOf } from './written';

const formerSubject = (id: number): string => `finding ${id}`;

type Amount = { subject: string; measure?: Measure | undefined } | null | undefined;

/** The figure that a finding comes to, as it is on the newest load. */
async function amountOf(ctx: Context, viewer: Viewer, amount: Amount) {
  if (!amount)
    return { amount_subject: null, amount_measure: null, amount_load: null, currency: null, value: null, lines: null };
  const measure = amount.measure ?? 'closing';
  const subject = subjectText((await canonicalSubject(ctx, viewer, amount.subject)).subject);
  const { newest } = await known(ctx.write);
  const { currency, value, lines } = await valueNow(ctx, viewer, subject, measure);
  return { amount_subject: subject, amount_measure: measure, amount_load: newest, currency, value, lines };
}

/** Writes down what was found, on one thing or several. @throws ProblemError */
export async function writeFinding(ctx: Context, viewer: Viewer, wanted: z.infer<typeof newFindingSchema>) {
  require(viewer, 'preparer', 'write down a finding');
  const { subjects, title, kind, amount, owner, due, address, thread } = wanted;
  const abouts = await Promise.all(
    subjects.map((subject) => aboutOf(ctx, viewer, { subject, address, label: title, thread })),
  );
  const [first] = abouts;
  if (!first) throw wrong('subjects', 'say what it is about');
  const about = { ...first, entities: [...new Set(abouts.flatMap((a) => a.entities))] };
  await mustBeHere(ctx, owner, about);
  const words: FindingWords = {
    ...{ title, type: kind, state: 'open', owner, due },
    ...{ cause: '', effect: '', recommendation: '', ...(await wordsOf(ctx, viewer, FINDING_WORDS, wanted)) },
    subjects: abouts.map((a) => a.subject),
    ...(await amountOf(ctx, viewer, amount)),
  };
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const added = await keepEvidence(trx, 'finding', about, words);
    await record('wrote a finding', about.subject, { finding: added, ...words });
    if (owner !== null) await tell(trx, viewer, [owner], { what: 'gave you a finding', place: `/findings/${added}` });
    return added;
  });
  return showFinding(ctx, viewer, id);
}

async function mustBeHere(ctx: Context, owner: number | null, about: { subject: string; entities: string[] }) {
  if (owner === null) return;
  await mustSeeIt(ctx, await colleagueOf(ctx, owner, 'owner'), about);
}

/** Changes what a finding says or how far it is; what it said before is kept. @throws ProblemError */
export async function changeFinding(
  ctx: Context,
  viewer: Viewer,
  id: number,
  { kind, amount, ...change }: z.infer<typeof findingChangeSchema>,
) {
  require(viewer, 'preparer', 'change a finding');
  const row = await seenPiece(ctx, viewer, 'finding', id);
  if (change.owner !== undefined) await mustBeHere(ctx, change.owner, row);
  const { cause, effect, recommendation, ...plain } = change;
  const said = await wordsOf(ctx, viewer, FINDING_WORDS, { cause, effect, recommendation }, row.written);
  const words: Partial<FindingWords> = {
    ...given(plain),
    ...said,
    ...(kind === undefined ? {} : { type: kind }),
    ...(amount === undefined ? {} : await amountOf(ctx, viewer, amount)),
  };
  const before = Object.fromEntries(
    Object.keys(words)
      .filter((name) => name !== 'written')
      .map((name) => [name, String(row[name as keyof FindingRow] ?? '')]),
  );
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, row.thread);
    await keepFormer(trx, formerSubject(id), before, viewer.id);
    await updateFinding(trx, id, words);
    await record('changed a finding', row.subject, { finding: id, ...words, before });
    if (change.owner && change.owner !== row.owner)
      await tell(trx, viewer, [change.owner], {
        what: 'gave you a finding',
        place: `/findings/${id}`,
      });
  });
  return showFinding(ctx, viewer, id);
}

/** Findings on what the viewer may see, with what those that are not done with come to. */
export async function listFindings(
  ctx: Context,
  viewer: Viewer,
  { state, ...params }: EvidenceParams & { state?: string | undefined },
) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'finding', params, { ofAll: true });
  const shown = await Promise.all(rows.filter((f) => isIn(f.state, state)).map((f) => shownFinding(ctx, viewer, f)));
  const sums = new Map<string, { value: number; count: number }>();
  for (const [i, f] of rows.filter((row) => isIn(row.state, state)).entries()) {
    if (f.currency === null || f.value === null || shown[i]?.amount === null) continue;
    if (f.state !== 'open' && f.state !== 'agreed') continue;
    const held = sums.get(f.currency) ?? { value: 0, count: 0 };
    sums.set(f.currency, { value: add(held.value, f.value), count: held.count + 1 });
  }
  return {
    rows: shown,
    sums: [...sums].map(([currency, { value, count }]) => ({
      currency,
      value: formatAmount(value, exponentOf(currency)),
      count,
    })),
    next,
  };
}

export const showFinding = async (ctx: Context, viewer: Viewer, id: number) =>
  shownFinding(ctx, viewer, await seenPiece(ctx, viewer, 'finding', id));

/** A finding as its reader may see it: of what it is about only what they see, and its amount only where they see that. */
async function shownFinding(ctx: Context, viewer: Viewer, f: FindingRow) {
  const { entities } = f;
  const seen = await Promise.all(f.subjects.map((subject) => maySeeSubject(ctx, viewer, { subject, entities })));
  const amount =
    f.amount_subject !== null &&
    f.value !== null &&
    f.currency !== null &&
    (await maySeeSubject(ctx, viewer, { subject: f.amount_subject, entities }))
      ? {
          subject: f.amount_subject,
          measure: f.amount_measure ?? 'closing',
          currency: f.currency,
          value: formatAmount(f.value, exponentOf(f.currency)),
          lines: f.lines ?? 0,
          load: f.amount_load ?? f.load,
        }
      : null;
  return {
    ...shownAbout(f, viewer),
    title: f.title,
    kind: f.type,
    state: f.state,
    subjects: f.subjects.filter((_, i) => seen[i]),
    amount,
    ...(await shownWords(ctx, viewer, FINDING_WORDS, f)),
    owner: f.owner === null ? null : { id: f.owner, name: f.owner_name ?? '' },
    due: f.due,
    changed: f.changed_at.toISOString(),
  };
}
