import type { z } from 'zod';
import type { movedEntrySchema, newProposedSchema, proposedChangeSchema } from '@/contracts/bodies/all';
import { conflict, forbidden, wrong } from '@/contracts/problem';
import { figureSubject, subjectText } from '@/contracts/subject';
import { periodText } from '@/core/calendar';
import { countsIn, type ProposedLine, type ProposedState } from '@/core/proposedEntry';
import { touchCatalogue } from '@/store/catalogue';
import type { Db } from '@/store/db';
import type { ProposedRow } from '@/store/evidence';
import { liftProposed, updateProposed } from '@/store/proposed';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { canonicalSubject } from '../asking/subjects';
import { require, type Viewer } from '../asking/viewer';
import { aboutOf, keepEvidence } from '../evidence/about';
import { type EvidenceParams, seenEvidence, seenPiece } from '../evidence/seenEvidence';
import { heldOpen } from '../evidence/threads/words';
import { begunBy } from '../jobs/jobs';
import { askCopies } from '../loads/copyLines';
import { mayApprove } from './approval';
import { draftLines } from './draft';
import { type BooksProposedIn, faultsIn, lay, linesWanted, mustStand, proposedIn, proposedNumber } from './lines';
import { acceptedAs } from './recognise';
import { setNumber } from './sets';
import { linesOutside, shownProposed } from './shown';

/** What should be booked: proposed, approved by another, left or taken back. Nothing booked is ever changed. */

type Wanted = z.infer<typeof newProposedSchema>;

/** Proposes an entry. @throws ProblemError with everything that stands against it */
export async function propose(ctx: Context, viewer: Viewer, wanted: Wanted) {
  require(viewer, 'preparer', 'propose an entry');
  const books = await proposedIn(ctx, viewer, wanted.entity);
  return keep(ctx, viewer, books, wanted, linesWanted(books, wanted));
}

/** Proposes lines, or all lines of a figure, where they belong. @throws ProblemError */
export async function proposeMoved(ctx: Context, viewer: Viewer, wanted: z.infer<typeof movedEntrySchema>) {
  require(viewer, 'preparer', 'propose an entry');
  const { scope, lines: named, to, ...rest } = wanted;
  const inTime = to.date !== undefined || to.period !== undefined;
  const { books, lines } = await draftLines(ctx, viewer, {
    ...{ scope, lines: named, make: { by: 'move', to } },
    ...{ on: 'own-days', date: undefined },
  });
  const [first] = lines;
  if (!first) throw wrong('to', inTime ? 'they are on that day already' : 'they are there already');
  return keep(
    ctx,
    viewer,
    books,
    {
      ...rest,
      ...{ entity: books.entity.code, date: first.date, links: named ?? [], taxPercent: '', address: '', label: '' },
      ...(scope === undefined ? {} : { subject: `figure:${scope}` }),
    },
    lines,
  );
}

type Kept = Pick<
  Wanted,
  'kind' | 'title' | 'reason' | 'set' | 'links' | 'taxPercent' | 'address' | 'label' | 'thread'
> & {
  subject?: string | undefined;
};

/** Keeps a proposal of lines that stand. @throws ProblemError with everything that stands against them */
async function keep(ctx: Context, viewer: Viewer, books: BooksProposedIn, wanted: Kept, lines: ProposedLine[]) {
  mustStand(await faultsIn(ctx, viewer, books, lines));
  const [id = 0] = await keepProposed(ctx, viewer, books, [{ wanted, lines }]);
  return showProposed(ctx, viewer, id);
}

/** Keeps proposals that stand, all of them or none. @returns their numbers @throws ProblemError */
export async function keepProposed(
  ctx: Context,
  viewer: Viewer,
  books: BooksProposedIn,
  all: readonly { wanted: Kept; lines: ProposedLine[] }[],
): Promise<number[]> {
  const kept = await Promise.all(
    all.map(async ({ wanted, lines }) => {
      const subject = wanted.subject ?? wanted.links[0] ?? subjectOf(books, lines);
      const about = await aboutOf(ctx, viewer, {
        subject,
        address: wanted.address,
        label: wanted.label || wanted.title || wanted.reason.slice(0, 200),
        thread: wanted.thread,
      });
      const own = {
        ...{ entity: books.entity.code, type: wanted.kind, title: wanted.title, reason: wanted.reason },
        ...{ links: await seenLinks(ctx, viewer, wanted.links), tax_percent: wanted.taxPercent },
        set: await setNumber(ctx.write, wanted.set),
      };
      return { about: { ...about, entities: [books.entity.code] }, own, said: saidOf(wanted), lines };
    }),
  );
  return onRecord(ctx, viewer, async (trx, record) => {
    const ids: number[] = [];
    for (const { about, own, said, lines } of kept) {
      const id = await keepEvidence(trx, 'proposed', about, { ...own, lines: JSON.stringify(lines) });
      await layDown(trx, books, { id, set: own.set, said, lines });
      await record('proposed an entry', about.subject, { proposed: id, ...own, lines });
      ids.push(id);
    }
    await counted(trx, viewer);
    return ids;
  });
}

const saidOf = ({ title, reason }: { title: string; reason: string }): string => title || reason.slice(0, 200);

/** The first account of an entry in its period, where nothing else says what it is about. */
const subjectOf = ({ entity }: BooksProposedIn, [first]: readonly ProposedLine[]): string => {
  const period = first ? periodText(first.period) : '';
  return figureSubject(
    new URLSearchParams({
      entity: entity.code,
      accounts: first?.account ?? '',
      from: period,
      to: period,
      status: 'all',
    }),
  );
};

/** What it goes back to, in its canonical form. @throws ProblemError for what is not there for the viewer */
const seenLinks = (ctx: Context, viewer: Viewer, links: readonly string[]): Promise<string[]> =>
  Promise.all(links.map(async (text) => subjectText((await canonicalSubject(ctx, viewer, text)).subject)));

type Trx = Parameters<Parameters<typeof onRecord>[2]>[0];
interface Counting {
  id: number;
  set: number;
  said: string;
  lines: readonly ProposedLine[];
}

/** Lays the lines of a proposal down among those that count. */
async function layDown(trx: Trx, books: BooksProposedIn, { id, set, said, lines }: Counting): Promise<void> {
  await updateProposed(trx, id, { laid: await lay(trx, books, set, { number: proposedNumber(id), said, lines }) });
}

/** Says that other lines count now. */
async function counted(trx: Trx, viewer: Viewer): Promise<void> {
  await touchCatalogue(trx);
  await askCopies(trx, begunBy(viewer));
}

/** Has the lines of a proposal count from now on. */
async function counts(trx: Trx, viewer: Viewer, books: BooksProposedIn, of: Counting): Promise<void> {
  await layDown(trx, books, of);
  await counted(trx, viewer);
}

/** Has the lines of a proposal count no more. */
export async function countsNoMore(trx: Db, row: Pick<ProposedRow, 'id' | 'laid'>, load: number): Promise<void> {
  await liftProposed(trx, row.laid, load);
  await updateProposed(trx, row.id, { laid: [] });
  await touchCatalogue(trx);
}

export const showProposed = async (ctx: Context, viewer: Viewer, id: number) =>
  shownProposed(ctx, viewer, await seenPiece(ctx, viewer, 'proposed', id));

/** Entries that are proposed on what the viewer may see. */
export async function listProposed(
  ctx: Context,
  viewer: Viewer,
  { state, set, ...params }: EvidenceParams & { state?: ProposedState[] | undefined; set?: string[] | undefined },
) {
  const { rows, next } = await seenEvidence(ctx, viewer, 'proposed', params, { ofAll: true });
  const wanted = rows.filter(
    (row) => (state === undefined || state.includes(row.state)) && (set === undefined || set.includes(row.set_name)),
  );
  return { rows: await Promise.all(wanted.map((row) => shownProposed(ctx, viewer, row))), next };
}

/** Changes what an entry says, or how far it has come. @throws ProblemError */
export async function changeProposed(
  ctx: Context,
  viewer: Viewer,
  id: number,
  change: z.infer<typeof proposedChangeSchema>,
) {
  require(viewer, 'preparer', 'change a proposed entry');
  const row = await seenPiece(ctx, viewer, 'proposed', id);
  await mustSeeAll(ctx, viewer, row);
  const { state, stateReason = '', booked, ...words } = change;
  if (Object.values(words).some((value) => value !== undefined)) await changeWords(ctx, viewer, row, words);
  if (booked !== undefined && state !== 'booked')
    throw wrong('booked', 'say that it is booked, with the entry that is it');
  if (state === undefined || state === row.state) return showProposed(ctx, viewer, id);
  if (state === 'booked') await acceptedAs(ctx, viewer, row, booked);
  else await moveOn(ctx, viewer, id, state, stateReason);
  return showProposed(ctx, viewer, id);
}

/** Whoever sees a part of an entry changes nothing of the whole. */
async function mustSeeAll(ctx: Context, viewer: Viewer, row: ProposedRow): Promise<void> {
  const books = await proposedIn(ctx, viewer, row.entity);
  if (linesOutside(viewer, books, row.lines) > 0)
    throw forbidden(`Lines of ${proposedNumber(row.id)} lie outside of what you may see`);
}

const ACT = {
  approved: 'approved a proposed entry',
  waived: 'left a misstatement uncorrected',
  retired: 'took a proposed entry back',
  proposed: 'proposed an entry again',
} as const;

async function moveOn(
  ctx: Context,
  viewer: Viewer,
  id: number,
  state: keyof typeof ACT,
  reason: string,
): Promise<void> {
  const row = await seenPiece(ctx, viewer, 'proposed', id);
  if (row.state === 'booked' && state !== 'proposed')
    throw conflict(`${proposedNumber(id)} is booked; propose it again first`);
  if (state === 'approved' && row.state !== 'proposed')
    throw conflict(`${proposedNumber(id)} is ${row.state}; propose it again first`);
  if (state === 'approved' && !mayApprove(viewer, row))
    throw forbidden(`${proposedNumber(id)} is approved by somebody else than who proposed it`);
  if ((state === 'waived' || state === 'retired') && reason === '')
    throw wrong('stateReason', state === 'waived' ? 'say why it is left uncorrected' : 'say why it is taken back');
  const books = await proposedIn(ctx, viewer, row.entity);
  await onRecord(ctx, viewer, async (trx, record) => {
    await updateProposed(trx, id, { state, state_by: viewer.id, state_reason: reason });
    if (countsIn(row.state) && !countsIn(state)) await countsNoMore(trx, row, books.names.newest);
    if (!countsIn(row.state) && countsIn(state)) {
      await updateProposed(trx, id, { booked: [] });
      await counts(trx, viewer, books, { id, set: row.set, said: saidOf(row), lines: row.lines });
    }
    await record(ACT[state], row.subject, { proposed: id, reason, before: row.state });
  });
}

type Words = Omit<z.infer<typeof proposedChangeSchema>, 'state' | 'stateReason' | 'booked'>;

/** Changes what it says, while nobody has approved it. */
async function changeWords(ctx: Context, viewer: Viewer, row: ProposedRow, words: Words): Promise<void> {
  if (row.state !== 'proposed')
    throw conflict(`${proposedNumber(row.id)} is ${row.state}; what it says is changed once it is proposed again`);
  const books = await proposedIn(ctx, viewer, row.entity);
  const lines = newLines(books, row, words);
  if (lines) mustStand(await faultsIn(ctx, viewer, books, lines));
  const set = words.set === undefined ? row.set : await setNumber(ctx.write, words.set);
  const kept = {
    ...(words.kind === undefined ? {} : { type: words.kind }),
    ...(words.title === undefined ? {} : { title: words.title }),
    ...(words.reason === undefined ? {} : { reason: words.reason }),
    ...(words.links === undefined ? {} : { links: await seenLinks(ctx, viewer, words.links) }),
    ...(words.taxPercent === undefined ? {} : { tax_percent: words.taxPercent }),
    ...(lines === null ? {} : { lines }),
    set,
    changed_by: viewer.id,
  };
  await onRecord(ctx, viewer, async (trx, record) => {
    await heldOpen(trx, row.thread);
    await updateProposed(trx, row.id, kept);
    const said = saidOf({ title: words.title ?? row.title, reason: words.reason ?? row.reason });
    if (lines !== null || set !== row.set || said !== saidOf(row)) {
      await liftProposed(trx, row.laid, books.names.newest);
      await counts(trx, viewer, books, { id: row.id, set, said, lines: lines ?? row.lines });
    }
    const before = Object.fromEntries(Object.keys(kept).map((name) => [name, row[name as keyof ProposedRow]]));
    await record('changed a proposed entry', row.subject, { proposed: row.id, ...kept, before });
  });
}

/** The lines as they are changed; null where they are not. */
function newLines(books: BooksProposedIn, row: ProposedRow, words: Words): ProposedLine[] | null {
  if (words.lines === undefined && words.date === undefined && words.period === undefined) return null;
  if (words.lines === undefined) throw wrong('lines', 'with another day come the lines that are on it');
  return linesWanted(books, {
    date: words.date ?? row.lines[0]?.date ?? '',
    period: words.period,
    lines: words.lines,
    turnsAround: words.turnsAround,
  });
}
