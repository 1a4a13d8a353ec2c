import { entryPlace } from '@/contracts/places';
import { lineSubject, subjectText } from '@/contracts/subject';
import { folded } from '@/core/folded';
import { exponentOf, formatAmount } from '@/core/money';
import { hasEach, isWhole, type Sought, soughtIn, wordsAlone } from '@/core/searchWords';
import { dateText } from '@/core/sentence';
import { exactly } from '@/core/values';
import type { CatalogueEntity } from '@/store/catalogue';
import type { Db } from '@/store/db';
import { linesOfKeys, type StoredLine } from '@/store/lines';
import type { Question } from '@/store/question';
import {
  documentsSought,
  evidenceFilesSought,
  type FoundKey,
  filesSought,
  LINE_WORDS,
  type LineSearch,
  lineSearch,
} from '@/store/search';
import { bearingCount } from '@/store/weight';
import type { Context, Known } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import { withSeenSubject } from '../asking/subjects';
import { seesWhole, type Viewer } from '../asking/viewer';
import { entryKey } from '../sheets/readLines';
import { BARE, COUNTED_MAX, counted, detailOf, type Found, type FoundOfKind, fitting, inverse, ranked } from './hits';

/** More lines than these are looked through by their copies alone. */
const LOOKED_THROUGH_MAX = 200_000;

/** The lines of one company that the viewer may see, as they are searched. */
export interface Books {
  entity: CatalogueEntity;
  db: Db;
  question: Question;
  /** By all that is sought. */
  search: LineSearch;
  /** By its words alone, for what has no amount and no day of its own; null where one of them is none. */
  byWords: LineSearch | null;
  /** Whether the lines can be searched: those that are many are by their copies alone. */
  covered: boolean;
}

const NONE: LineSearch = { keys: async () => [] };

/** Looks through the lines of companies for what is sought, once for all kinds of what is found in them. */
export async function booksSearched(
  ctx: Context,
  viewer: Viewer,
  { extents }: Known,
  entities: readonly CatalogueEntity[],
  sought: readonly Sought[],
): Promise<Books[]> {
  const plain = sought.every(({ amounts, days }) => amounts.length === 0 && days === null);
  const words = sought.every(({ text }) => text !== null) ? wordsAlone(sought) : null;
  return Promise.all(
    entities
      .filter((e) => extents.has(e.code))
      .map(async (entity) => {
        const asked = await resolveFigure(ctx, viewer, {
          ...{ entity: [entity.code], dims: {}, window: 'everything', status: 'all', heavy: 'run' },
        });
        const { db, question } = await asked.ask(ctx, []);
        const covered =
          question.columns !== undefined ||
          (await bearingCount(ctx.read, asked.questionToWeigh())) <= LOOKED_THROUGH_MAX;
        if (!covered) return { entity, db, question, search: NONE, byWords: NONE, covered };
        const search = lineSearch(db, question, soughtIn(sought, exponentOf(entity.currency)));
        const byWords = words && (plain ? search : lineSearch(db, question, words));
        return { entity, db, question, search, byWords, covered };
      }),
  );
}

interface Keys extends Books {
  keys: readonly FoundKey[];
}

const keysOf = (books: readonly Books[], ask: (books: Books) => Promise<FoundKey[]>): Promise<Keys[]> =>
  Promise.all(books.map(async (one) => ({ ...one, keys: await ask(one) })));

/**
 * Journal lines by what they and their entries say, by numbers, amounts and days; the newest first.
 * @param many how many are read to be shown
 */
export async function linesFound(books: Promise<Books[]>, many: number): Promise<FoundOfKind> {
  const all = await keysOf(await books, ({ search }) => search.keys(LINE_WORDS, COUNTED_MAX + 1));
  const newest = all
    .flatMap(({ keys }, i) => keys.map((key) => ({ key, i })))
    .sort((a, b) =>
      a.key.day < b.key.day
        ? 1
        : a.key.day > b.key.day
          ? -1
          : a.key.entry - b.key.entry || a.key.line_no - b.key.line_no,
    );
  const shown = newest.slice(0, many);
  const found: Found[] = [];
  for (const [i, { db, question, entity }] of all.entries()) {
    const own = shown.filter((one) => one.i === i).map(({ key }) => key);
    for (const line of await linesOfKeys(db, question, own)) found.push(lineHit(line, entity));
  }
  found.sort((a, b) => (a.order < b.order ? -1 : 1));
  const count = newest.length;
  return {
    kind: 'line',
    found,
    ...counted(count),
    ...missingOf(all),
  };
}

/** Books with very many lines are looked through by copies of them, which a job makes after each load. */
function missingOf(all: readonly Keys[]): { missing?: string[] } {
  const missing = all.filter(({ covered }) => !covered);
  return missing.length === 0
    ? {}
    : {
        missing: missing.map(({ entity }) => `lines of ${entity.name}, which are being made ready after the last load`),
      };
}

function lineHit(line: StoredLine, entity: CatalogueEntity): Found {
  const said = [...new Set([line.description, line.entryDescription].filter(Boolean))];
  const account = entity.accounts.get(line.account);
  return {
    label: said.join(' — ') || line.entry,
    detail: detailOf(
      dateText(line.postingDate),
      `${line.account} ${account?.name ?? ''}`.trim(),
      line.entry,
      line.document ?? '',
      entity.name,
    ),
    entity: entity.code,
    amount: { amount: formatAmount(line.amount, exponentOf(entity.currency)), currency: entity.currency },
    subject: lineSubject({ entity: line.entity, entry: line.entry, line: line.line }),
    address: entryPlace(entity.code, line.entry, entryKey(line.entryId), line.id),
    put: { entry: [exactly(line.entry)] },
    own: [],
    // The newest first.
    order: `${inverse(line.day)} ${line.entry} ${String(line.line).padStart(6, '0')}`,
  };
}

/** Entries by their number. */
export async function entriesFound(
  books: Promise<Books[]>,
  sought: readonly Sought[],
  many: number,
): Promise<FoundOfKind> {
  const all = await keysOf(
    await books,
    async ({ byWords }) => byWords?.keys(['entry_number'], COUNTED_MAX + 1, 'entry_number') ?? [],
  );
  const found = await Promise.all(
    all.map(async ({ db, question, keys, entity }) => {
      const best = await bestRead(db, question, keys, sought, many);
      return best.map(
        (line): Found => ({
          ...BARE,
          label: line.entry,
          detail: detailOf(
            dateText(line.postingDate),
            line.entryDescription || line.description,
            line.journal ?? '',
            entity.name,
          ),
          entity: entity.code,
          subject: subjectText({ is: 'entry', entity: entity.code, entry: line.entry }),
          address: entryPlace(entity.code, line.entry, entryKey(line.entryId)),
          put: { entry: [exactly(line.entry)] },
          own: [line.entry],
          order: line.entry,
        }),
      );
    }),
  );
  const count = all.reduce((n, { keys }) => n + keys.length, 0);
  return {
    ...ranked('entry', found.flat(), sought),
    ...counted(count),
  };
}

/** The lines of those keys whose text fits best, as many as are shown. */
async function bestRead(
  db: Keys['db'],
  question: Keys['question'],
  keys: readonly FoundKey[],
  sought: readonly Sought[],
  many: number,
): Promise<StoredLine[]> {
  const typed = sought.flatMap(({ text }) => text ?? []).join(' ');
  const far = (own: string): number => (own === typed ? 0 : own.startsWith(typed) ? 1 : 2);
  const best = keys
    .map((key) => ({ key, own: folded(key.own ?? '') }))
    .sort((a, b) => far(a.own) - far(b.own) || (a.own < b.own ? -1 : 1))
    .slice(0, many);
  return linesOfKeys(
    db,
    question,
    best.map(({ key }) => key),
  );
}

/**
 * Documents by number, kind, party and what they say, by amount and day; and such as only lines name, by their number. The
 * former are of whole books.
 */
export async function documentsFound(
  ctx: Context,
  viewer: Viewer,
  {
    known,
    entities,
    sought,
    many,
  }: { known: Known; entities: readonly CatalogueEntity[]; sought: readonly Sought[]; many: number },
  books: Promise<Books[]>,
): Promise<FoundOfKind> {
  const delivered = seesWhole(viewer)
    ? (
        await Promise.all(
          entities.map(async (entity) =>
            (
              await documentsOf(ctx, known, entity, sought)
            ).map(
              (d): Found => ({
                label: `${d.number} ${d.description}`.trim(),
                detail: detailOf(d.type, dateText(d.date), d.party_name ?? d.party ?? '', entity.name),
                entity: entity.code,
                amount: { amount: formatAmount(d.amount, exponentOf(d.currency)), currency: d.currency },
                subject: null,
                address: `/documents/${encodeURIComponent(d.number)}?${new URLSearchParams({ entity: entity.code })}`,
                put: { document: [exactly(d.number)] },
                own: [d.number],
                order: `${inverse(d.date)} ${d.number}`,
              }),
            ),
          ),
        )
      ).flat()
    : [];
  const named: Found[] = [];
  let count = delivered.length;
  const held = new Set(delivered.map((d) => `${d.entity} ${d.own[0]}`));
  const all = await keysOf(
    await books,
    async ({ byWords }) => byWords?.keys(['document'], COUNTED_MAX + 1, 'document') ?? [],
  );
  for (const { db, question, keys, entity } of all) {
    const others = keys.filter((key) => !held.has(`${entity.code} ${key.own}`));
    count += others.length;
    for (const line of await bestRead(db, question, others, sought, many)) {
      const number = line.document ?? '';
      named.push({
        ...BARE,
        label: number,
        detail: detailOf(
          'named by lines',
          dateText(line.postingDate),
          line.counterpartyName ?? line.counterparty ?? '',
          entity.name,
        ),
        entity: entity.code,
        address: `/lines?${new URLSearchParams({ entity: entity.code, window: 'everything', status: 'all', document: exactly(number) })}`,
        put: { document: [exactly(number)] },
        own: [number],
        order: `${inverse(line.day)} ${number}`,
      });
    }
  }
  return {
    ...ranked('document', [...delivered, ...named], sought),
    ...counted(count),
  };
}

async function documentsOf(ctx: Context, { newest }: Known, entity: CatalogueEntity, sought: readonly Sought[]) {
  const inBooks = soughtIn(sought, exponentOf(entity.currency));
  const some = await documentsSought(ctx.read, entity.id, inBooks, newest, COUNTED_MAX + 1);
  // The database does not know of every letter whether it is one: what is to stand whole is looked at once more.
  if (!sought.some(isWhole)) return some;
  return some.filter(({ number, type, description, party, party_name, amount, date }) =>
    hasEach(
      { texts: [number, type, description, party ?? '', party_name ?? ''].map(folded), amount, day: date },
      inBooks,
    ),
  );
}

/** Letters that are shown on either side of what was found inside of a file. */
const AROUND = 60;

/** Files attached to documents, by their name and by what they say inside; they are of whole books. */
export async function filesFound(
  ctx: Context,
  viewer: Viewer,
  entities: readonly CatalogueEntity[],
  sought: readonly Sought[],
): Promise<FoundOfKind> {
  const evidence = await evidenceFilesFound(ctx, viewer, entities, sought);
  if (!seesWhole(viewer)) return ranked('file', evidence, sought);
  const some = await filesSought(
    ctx.read,
    entities.map((e) => e.id),
    wordsAlone(sought),
    COUNTED_MAX + 1,
  );
  const codes = new Map(entities.map((e) => [e.id, e]));
  const found = fitting(some, sought, (f) => [f.name, f.body]).map((f): Found => {
    const entity = codes.get(f.entity);
    const inName = fitting([f.name], sought, (name) => [name]).length > 0;
    return {
      ...BARE,
      label: f.name,
      detail: detailOf(`attached to ${f.document}`, inName ? '' : passage(f.body, sought), entity?.name ?? ''),
      entity: entity?.code ?? null,
      address: `/documents/${encodeURIComponent(f.document)}?${new URLSearchParams({ entity: entity?.code ?? '' })}`,
      put: { document: [exactly(f.document)] },
      own: [f.name],
      order: f.name,
    };
  });
  return ranked('file', [...found, ...evidence], sought);
}

/** Files of evidence on what the viewer may see, by their name or what they say. */
async function evidenceFilesFound(
  ctx: Context,
  viewer: Viewer,
  entities: readonly CatalogueEntity[],
  sought: readonly Sought[],
): Promise<Found[]> {
  const within = new Set(entities.map((e) => e.code));
  const some = (await evidenceFilesSought(ctx.write, wordsAlone(sought), COUNTED_MAX + 1)).filter((f) =>
    f.entities.every((e) => within.has(e)),
  );
  const seen = await withSeenSubject(ctx, viewer, some);
  return fitting(seen, sought, (f) => [f.name, f.body]).map((f): Found => {
    const inName = fitting([f.name], sought, (name) => [name]).length > 0;
    return {
      ...BARE,
      label: f.name,
      detail: detailOf(`attached to ${f.label}`, inName ? '' : passage(f.body, sought), f.by),
      subject: f.subject,
      address: f.address,
      own: [f.name],
      order: f.name,
    };
  });
}

/** What stands around the first word that was found inside of a file. */
function passage(body: string, sought: readonly Sought[]): string {
  const plain = body.replace(/\s+/g, ' ');
  const at = Math.min(
    ...sought.map(({ text }) => (text === null ? -1 : folded(plain).indexOf(text))).filter((place) => place >= 0),
  );
  if (!Number.isFinite(at)) return '';
  const from = Math.max(0, at - AROUND);
  return `${from > 0 ? '… ' : ''}${plain.slice(from, at + 2 * AROUND)}${at + 2 * AROUND < plain.length ? ' …' : ''}`;
}
