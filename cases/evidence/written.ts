import { ProblemError, wrong } from '@/contracts/problem';
import { mentionsIn, plainText, type Quoted, quotesIn, type RichText, withQuotes } from '@/contracts/richText';
import { subjectText } from '@/contracts/subject';
import type { EvidenceKind } from '@/contracts/work';
import { exponentOf, formatAmount } from '@/core/money';
import type { Db } from '@/store/db';
import { type EvidenceRow, insertMentions, type Written } from '@/store/evidence';
import { listPeople, type SeenPerson } from '@/store/people';
import { type Context, known } from '../asking/context';
import { canonicalSubject, maySeeSubject } from '../asking/subjects';
import type { Viewer } from '../asking/viewer';
import { tell } from '../mail/tell';
import { viewerOf } from '../people/viewerOf';
import { type ValueNow, valueNow } from './valueNow';

/** A text as it is kept, and whom it speaks to. */
export interface Text extends Written {
  mentions: number[];
}

/** In plain text somebody is spoken to by @ and their e-mail address. */
const SPOKEN_TO = /(?<![\w.])@([\w.+-]+@[\w-]+(?:\.[\w-]+)+)/g;

/**
 * A text made ready to be kept: whom it speaks to may see what it is about, and every figure that it quotes says what it
 * comes to now. @throws ProblemError
 */
export async function textOf(
  ctx: Context,
  viewer: Viewer,
  body: string | RichText,
  about: Pick<EvidenceRow, 'subject' | 'entities'>,
  /** What it said until now: a figure that it quoted stays what it was when it was quoted. */
  before: RichText | null = null,
): Promise<Text> {
  const people = await listPeople(ctx.write);
  if (typeof body === 'string') {
    const emails = [...body.matchAll(SPOKEN_TO)].map(([, email]) => (email as string).toLowerCase().replace(/\.$/, ''));
    const mentions = people.filter((p) => emails.includes(p.email)).map((p) => p.id);
    await mustSee(ctx, people, mentions, about);
    return { body, content: null, mentions };
  }
  const mentions = mentionsIn(body);
  await mustSee(ctx, people, mentions, about);
  const quotes = new Map<Quoted, Quoted>();
  const held = before === null ? [] : quotesIn(before);
  for (const quote of quotesIn(body))
    quotes.set(quote, held.find((q) => isSameQuote(q, quote)) ?? (await quotedNow(ctx, viewer, quote)));
  const names = new Map(people.map((p) => [p.id, p.name]));
  const content = withNames(
    withQuotes(body, (q) => quotes.get(q) ?? q),
    names,
  );
  const plain = plainText(content);
  if (plain === '') throw wrong('body', 'write something');
  return { body: plain, content, mentions };
}

const isSameQuote = (a: Quoted, b: Quoted): boolean =>
  a.subject === b.subject && a.measure === b.measure && a.load === b.load;

/** What is quoted, in its canonical form, with what it comes to on the newest load. */
async function quotedNow(ctx: Context, viewer: Viewer, quote: Quoted): Promise<Quoted> {
  const { subject } = await canonicalSubject(ctx, viewer, quote.subject);
  const text = subjectText(subject);
  const { newest } = await known(ctx.write);
  const now = await valueNow(ctx, viewer, text, quote.measure ?? 'closing');
  return {
    ...quote,
    subject: text,
    measure: quote.measure ?? 'closing',
    currency: now.currency,
    value: now.value === null ? null : formatAmount(now.value, exponentOf(now.currency)),
    lines: now.lines,
    load: newest,
    now: null,
    moved: false,
  };
}

/** What quotes came to, by load, person and question: a text is read often, and its figures seldom move. */
const QUOTES_KEPT = 5_000;
const quotes = new Map<string, Promise<ValueNow | null>>();

/** A quote with what it comes to on the newest load; null where the reader does not see it. */
async function quoteSeen(ctx: Context, viewer: Viewer, quote: Quoted, newest: number): Promise<Quoted | null> {
  const key = JSON.stringify([ctx.home, newest, viewer, quote.measure, quote.subject]);
  const held =
    quotes.get(key) ??
    canonicalSubject(ctx, viewer, quote.subject).then(
      ({ subject }) =>
        subjectText(subject) === quote.subject ? valueNow(ctx, viewer, quote.subject, quote.measure) : null,
      (error: unknown) => {
        if (error instanceof ProblemError) return null;
        throw error;
      },
    );
  quotes.set(key, held);
  held.catch(() => quotes.delete(key));
  const [oldest] = quotes.keys();
  if (quotes.size > QUOTES_KEPT && oldest !== undefined) quotes.delete(oldest);
  const now = await held;
  if (now === null) return null;
  const value = now.value === null ? null : formatAmount(now.value, exponentOf(now.currency));
  const moved = value !== quote.value || now.lines !== quote.lines;
  return moved ? { ...quote, now: value, moved } : quote;
}

/** People bear the names that they have, whatever was sent. */
function withNames(doc: RichText, names: ReadonlyMap<number, string>): RichText {
  return JSON.parse(JSON.stringify(doc), (_, value: unknown) => {
    const node = value as { type?: unknown; attrs?: { person: number } } | null;
    return node !== null && typeof node === 'object' && node.type === 'mention' && node.attrs
      ? { ...node, attrs: { person: node.attrs.person, name: names.get(node.attrs.person) ?? '' } }
      : value;
  }) as RichText;
}

/** @throws ProblemError where somebody who is spoken to would not find what it is about */
async function mustSee(
  ctx: Context,
  people: readonly SeenPerson[],
  mentions: readonly number[],
  about: Pick<EvidenceRow, 'subject' | 'entities'>,
): Promise<void> {
  for (const id of mentions) {
    const person = people.find((p) => p.id === id && p.suspended_at === null);
    if (!person) throw wrong('body', 'one of those you speak to is not here any more; take them out');
    await mustSeeIt(ctx, person, about);
  }
}

/** @throws ProblemError */
export async function mustSeeIt(
  ctx: Context,
  person: SeenPerson,
  about: Pick<EvidenceRow, 'subject' | 'entities'>,
): Promise<void> {
  if (await maySeeSubject(ctx, viewerOf(person), about)) return;
  throw new ProblemError(
    422,
    `${person.name} does not see what this is about, and would not find it; ask somebody else, or an owner to grant it`,
  );
}

/** Those who are spoken to find it on their desk, and are told by mail. */
export async function keepMentions(
  trx: Db,
  kind: EvidenceKind,
  id: number,
  { mentions }: Text,
  label: string,
  by: Viewer,
): Promise<void> {
  const others = await insertMentions(
    trx,
    kind,
    id,
    mentions.filter((person) => person !== by.id),
  );
  await tell(trx, by, others, { what: `spoke to you about ${label}`, place: '/desk' });
}

/**
 * A text as its reader may see it: a figure that moved says so, and of one that lies outside of what they may see nothing
 * is told.
 */
export async function shownText(ctx: Context, viewer: Viewer, { body, content }: Written): Promise<Written> {
  if (content === null || quotesIn(content).length === 0) return { body, content };
  const { newest } = await known(ctx.read);
  const seen = new Map<Quoted, Quoted | null>();
  for (const quote of quotesIn(content)) seen.set(quote, await quoteSeen(ctx, viewer, quote, newest));
  const shown = withQuotes(content, (quote) => seen.get(quote) ?? { ...quote, ...HIDDEN });
  return { body: plainText(shown), content: shown };
}

/** Words of a thread or a finding, by their names. */
export type Words<Name extends string> = Partial<Record<Name, string>> & {
  /** Those that have more in them than plain words. */
  written: Partial<Record<Name, RichText>>;
};

/**
 * Words that are changed, ready to be kept: plain, and as they were written where there is more in them, such as a figure
 * that is quoted. Nobody is spoken to in them. @throws ProblemError
 */
export async function wordsOf<Name extends string>(
  ctx: Context,
  viewer: Viewer,
  names: readonly Name[],
  given: Partial<Record<Name, string | RichText | undefined>>,
  before: Partial<Record<Name, RichText>> = {},
): Promise<Words<Name>> {
  const words: Record<string, string> = {};
  const written: Partial<Record<Name, RichText>> = { ...before };
  for (const name of names) {
    const value = given[name];
    if (value === undefined) continue;
    delete written[name];
    if (typeof value === 'string') {
      words[name] = value;
      continue;
    }
    if (mentionsIn(value).length > 0)
      throw wrong(name, 'nobody is told of what stands here; speak to people in a note, or ask them a question');
    const { body, content } = await textOf(ctx, viewer, value, { subject: '', entities: [] }, before[name] ?? null);
    words[name] = body;
    if (content) written[name] = content;
  }
  return { ...(words as Partial<Record<Name, string>>), written };
}

/** The same as their reader may see them. */
export async function shownWords<Name extends string>(
  ctx: Context,
  viewer: Viewer,
  names: readonly Name[],
  row: Record<Name, string> & { written: Partial<Record<Name, RichText>> },
): Promise<Record<Name, string> & { written: Partial<Record<Name, RichText>> }> {
  const shown = { written: {} } as Record<Name, string> & { written: Partial<Record<Name, RichText>> };
  for (const name of names) {
    const { body, content } = await shownText(ctx, viewer, { body: row[name], content: row.written[name] ?? null });
    Object.assign(shown, { [name]: body });
    if (content) shown.written[name] = content;
  }
  return shown;
}

const HIDDEN: Partial<Quoted> = {
  ...{ subject: 'hidden', label: 'a figure outside of what you see', address: '' },
  ...{ value: null, currency: null, lines: null, now: null, moved: false },
};
