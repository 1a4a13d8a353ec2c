import { ProblemError, wrong } from '@/contracts/problem';
import { isWritten, readSubject } from '@/contracts/subject';
import type { Measure } from '@/contracts/traced';
import { figureDigest, sha256Text } from '@/core/digest';
import { type Minor, sum } from '@/core/money';
import type { Context } from '../asking/context';
import { documentOf, figureAt, linesOfSubject } from '../asking/subjects';
import type { Viewer } from '../asking/viewer';
import { figureBalance } from '../balances/accountBalances';

/** What something of the books comes to now. */
export interface ValueNow {
  value: Minor | null;
  lines: number;
  currency: string;
  /** Over all that its lines say, and of a document its own head; null of a figure, which is told by its value and lines. */
  digest: string | null;
  sentence: string;
}

/**
 * What a figure, a line, an entry or a document comes to on the newest load: a line by its amount, an entry and a document
 * by their debits. @throws ProblemError where it is not there, or outside of what the viewer may see
 */
export async function valueNow(ctx: Context, viewer: Viewer, text: string, measure: Measure | null): Promise<ValueNow> {
  const subject = readSubject(text);
  if (isWritten(subject)) throw wrong('subject', `a ${subject.is} has no amount; name a figure, a line or a document`);
  if (subject.is === 'figure') {
    const asked = await figureAt(ctx, viewer, subject.address, null);
    const whole = await figureBalance(ctx, asked);
    const value = measure === null ? null : whole[measure];
    return { value, lines: whole.count, currency: asked.currency, digest: null, sentence: asked.sentence };
  }
  if (subject.is === 'document') {
    const { document, lines, asked } = await documentOf(ctx, viewer, subject);
    const head = document && [document.type, document.date, document.due_date, document.currency, document.amount];
    const digest = sha256Text(JSON.stringify([head, lines.count, lines.debit, lines.credit]));
    return { value: lines.debit, lines: lines.count, currency: asked.currency, digest, sentence: asked.sentence };
  }
  const { lines, asked } = await linesOfSubject(ctx, viewer, subject, null);
  const digest = figureDigest(0);
  for (const line of lines) digest.update(line);
  const meant = subject.is === 'entry' ? lines.filter((l) => l.side === 'debit') : lines;
  return {
    value: sum(meant.map((l) => l.amount)),
    lines: lines.length,
    currency: asked.currency,
    digest: digest.hex(),
    sentence: asked.sentence,
  };
}

/** Null for what is not there any more. */
export const goneIsNull = <Found>(found: Promise<Found>): Promise<Found | null> =>
  found.catch((error: unknown) => {
    if (error instanceof ProblemError && (error.status === 404 || error.status === 422)) return null;
    throw error;
  });
