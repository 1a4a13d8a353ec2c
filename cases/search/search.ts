import type { HitKind } from '@/contracts/answers/search';
import { notFound, wrong } from '@/contracts/problem';
import { readSearch, type Sought } from '@/core/searchWords';
import type { CatalogueEntity } from '@/store/catalogue';
import { type Context, type Known, known } from '../asking/context';
import { maySee, type Viewer } from '../asking/viewer';
import { type FoundOfKind, ranked, shownHit } from './hits';
import { type Books, booksSearched, documentsFound, entriesFound, filesFound, linesFound } from './inBooks';
import { accountsFound, membersFound, partiesFound } from './inCatalogue';
import {
  findingsFound,
  loadsFound,
  notesFound,
  peopleFound,
  proposedFound,
  scopesFound,
  statementsFound,
  threadsFound,
  unlessRefused,
} from './inWork';
import { placesFound } from './places';

interface SearchParams {
  q: string;
  kind?: HitKind[] | undefined;
  entity?: string[] | undefined;
  limit: number;
  after: number;
}

interface Asked {
  ctx: Context;
  viewer: Viewer;
  known: Known;
  entities: readonly CatalogueEntity[];
  typed: string;
  sought: readonly Sought[];
  /** How many of a kind are read to be shown. */
  many: number;
  /** The lines of the companies as they are searched; looked through when they are first asked for. */
  books(): Promise<Books[]>;
}

/** Who finds what of each kind. Every one of them looks only at what the viewer may see. */
const FINDERS: Record<HitKind, (asked: Asked) => FoundOfKind | Promise<FoundOfKind>> = {
  page: ({ viewer, known, entities, typed, sought }) => placesFound(viewer, known, entities, typed, sought),
  account: ({ viewer, entities, sought }) => accountsFound(viewer, entities, sought),
  member: ({ viewer, known, entities, sought }) => membersFound(viewer, known, entities, sought),
  party: ({ ctx, viewer, entities, sought }) => partiesFound(ctx, viewer, entities, sought),
  entry: ({ books, sought, many }) => entriesFound(books(), sought, many),
  document: ({ ctx, viewer, books, ...asked }) => documentsFound(ctx, viewer, asked, books()),
  line: ({ books, many }) => linesFound(books(), many),
  statement: ({ ctx, viewer, entities, sought }) => statementsFound(ctx, viewer, entities, sought),
  thread: ({ ctx, viewer, sought }) => threadsFound(ctx, viewer, sought),
  scope: ({ ctx, viewer, sought }) => scopesFound(ctx, viewer, sought),
  note: ({ ctx, viewer, entities, sought }) => notesFound(ctx, viewer, entities, sought),
  finding: ({ ctx, viewer, entities, sought }) => findingsFound(ctx, viewer, entities, sought),
  proposed: ({ ctx, viewer, entities, sought }) => proposedFound(ctx, viewer, entities, sought),
  file: ({ ctx, viewer, entities, sought }) => filesFound(ctx, viewer, entities, sought),
  load: ({ ctx, viewer, sought }) => loadsFound(ctx, viewer, sought),
  person: ({ ctx, viewer, sought }) => peopleFound(ctx, viewer, sought),
};

const KINDS = Object.keys(FINDERS) as HitKind[];

/**
 * Everything that a few words find, by kind, the best first: places, accounts, parties, entries, documents, lines, and
 * what people have written and kept. Nothing outside of the viewer's grant is found or counted.
 * @throws ProblemError for a company that the viewer may not see
 */
export async function search(ctx: Context, viewer: Viewer, { q, kind, entity, limit, after }: SearchParams) {
  const names = await known(ctx.read);
  const all = [...names.catalogue.entities.values()].filter((e) => maySee(viewer, e.code));
  for (const code of entity ?? []) if (!all.some((e) => e.code === code)) throw notFound(`Entity ${code}`);
  const entities = entity ? all.filter((e) => entity.includes(e.code)) : all;
  const sought = readSearch(q, ctx.today());
  if (sought.length === 0) throw wrong('q', 'type what is looked for');
  const kinds = kind ?? KINDS;
  if (after > 0 && kinds.length !== 1) throw wrong('after', 'further pages are of one kind; name it with kind');
  let books: Promise<Books[]> | null = null;
  const asked: Asked = {
    ...{ ctx, viewer, known: names, entities, typed: q, sought, many: after + limit },
    books: () => (books ??= booksSearched(ctx, viewer, names, entities, sought)),
  };
  const found = await Promise.all(
    kinds.map((one) => unlessRefused(async () => FINDERS[one](asked), ranked(one, [], sought))),
  );
  const missing = [...new Set(found.flatMap((one) => one.missing ?? []))];
  const shown = found.flatMap((one) =>
    one.found.slice(after, after + limit).map((hit) => shownHit(one.kind, hit, sought)),
  );
  const [only] = found.length === 1 ? found : [];
  return {
    hits: shown,
    counts: Object.fromEntries(
      found.flatMap(({ kind: of, count, capped }) => (count > 0 ? [[of, { count, capped }]] : [])),
    ),
    next: only && only.count > after + limit ? after + limit : null,
    ...(missing.length > 0 ? { missing } : {}),
  };
}
