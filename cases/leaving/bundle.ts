import type { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { notFound } from '@/contracts/problem';
import { hitsShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { readSubject, subjectKey } from '@/contracts/subject';
import { addOwn, addRetained, type Balance, emptyBalance } from '@/core/balances';
import { type Bundle, type BundledFigure, type BundledSheet, MEASURED, type Measured } from '@/core/bundle';
import { figureDigest } from '@/core/digest';
import { type Leaf, type LeafRow, onFile, plainCells } from '@/core/leaf';
import { exponentOf } from '@/core/money';
import { Spool } from '@/exchange/bundle/spool';
import { type BundledInFolder, type BundleFile, bundleFiles, folderFiles, zipOf } from '@/exchange/bundle/writeBundle';
import { signerOf } from '@/exchange/signing';
import type { Catalogue } from '@/store/catalogue';
import type { StoredLine } from '@/store/lines';
import { readLoad } from '@/store/loads';
import { readHead } from '@/store/record';
import { type Context, known } from '../asking/context';
import { headName } from '../asking/onRecord';
import { publicAddress } from '../asking/publicAddress';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { spokenCount } from '../asking/spokenNumbers';
import { figureAt, linesOfSubject } from '../asking/subjects';
import { knownMembers, seesWhole, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { countBearingOn, linesBearingOn, linesOfFigure } from '../balances/linesOfFigure';
import { listFiles } from '../evidence/files';
import { showFinding } from '../evidence/findings';
import { listPins } from '../evidence/pins';
import { seen } from '../evidence/threads/seenThreads';
import { showThread } from '../evidence/threads/shown';
import { showSample } from '../samples/samples';
import { hitsLeaf } from './listLeaves';
import { textColumn } from './parts';
import { fileNameOf, leavingOf, onPaper } from './takeOut';

/** So many lines a bundle holds; a figure of more is told, and its lines leave by themselves. */
const LINES_MAX = 2_000_000;
/** So many rows of a table are inside. */
const ROWS_MAX = 1_000;
const EVERY = 10_000;

/**
 * The bundle of a thread, or of several in folders of their own, as its maker may see them.
 * @param name of several; one bears its own
 * @throws ProblemError 404
 */
export async function bundleOf(
  ctx: Context,
  viewer: Viewer,
  threads: readonly number[],
  name = '',
): Promise<{ stream: Readable; fileName: string; mediaType: string }> {
  const spools: Spool[] = [];
  const clear = (): void => {
    for (const spool of spools) spool.clear();
  };
  try {
    const made: { bundle: Bundle; files: BundleFile[] }[] = [];
    for (const thread of threads) made.push(await threadFiles(ctx, viewer, thread, spools));
    const [first, another] = made;
    if (!first) throw notFound('A thread');
    const { record } = first.bundle.made;
    const about = { ...first.bundle.made, source: publicAddress('/threads') };
    const files = another ? folderFiles(name, about, inFolders(made), signerOf(ctx.home)) : first.files;
    const stream = zipOf(files);
    stream.once('close', clear);
    const fileName = `${fileNameOf(another ? name : first.bundle.thread.name)}-${record}.zip`;
    return { stream, fileName, mediaType: 'application/zip' };
  } catch (error) {
    clear();
    throw error;
  }
}

/** Each thread in a folder that is called after it. */
const inFolders = (made: readonly { bundle: Bundle; files: BundleFile[] }[]): BundledInFolder[] =>
  made.map(({ bundle: { thread }, files }, i) => ({
    folder: `${String(i + 1).padStart(3, '0')}-${fileNameOf(`${thread.reference} ${thread.name}`.trim())}`,
    ...{ thread, files },
  }));

async function threadFiles(
  ctx: Context,
  viewer: Viewer,
  thread: number,
  spools: Spool[],
): Promise<{ bundle: Bundle; files: BundleFile[] }> {
  const shown = await showThread(ctx, viewer, thread);
  const { catalogue } = await known(ctx.read);
  const inside = new Inside(ctx, viewer, catalogue);
  spools.push(inside.spool);
  const steps: Bundle['thread']['steps'] = [];
  for (const step of (await seen(ctx, viewer, thread)).steps) {
    const { id, parent, label, note, person_name: by } = step;
    const figure = await inside.add(`step ${id}`, label, step.subject, step.measure, step.load);
    steps.push({ id, parent, label, note, by, at: step.created_at.toISOString(), figure });
  }
  const pins = (await listPins(ctx, viewer, { thread, limit: EVERY })).rows;
  const gathered: Bundle['thread']['gathered'] = [];
  const sheets: BundledSheet[] = [];
  for (const piece of shown.gathered) {
    const pin = piece.kind === 'pin' ? pins.find((p) => p.id === piece.id) : undefined;
    const figure = pin ? await inside.add(`pin ${pin.id}`, pin.label, pin.subject, pin.measure, pin.load) : null;
    const sheet = await sheetOf(ctx, viewer, piece);
    if (sheet) sheets.push(sheet);
    const { kind, label, says, by, at, state } = piece;
    gathered.push({ kind, label, says, by, at, state, figure, sheet: sheet?.key ?? null });
  }
  const files = await attached(ctx, viewer, thread, inside.leftOut);
  const head = headName(await readHead(ctx.read));
  if (!seesWhole(viewer))
    inside.leftOut.push(
      'What lies outside of what its maker may see: it was made by somebody who sees a part of the books.',
    );
  const spooled = inside.spool.end();
  const bundle: Bundle = {
    version: 2,
    thread: {
      ...{ name: shown.name, reference: shown.reference, purpose: shown.purpose, result: shown.result },
      ...{ conclusion: shown.conclusion, state: shown.state, steps, gathered },
      signOffs: shown.signOffs.map((s) => ({
        ...{ as: s.as, by: s.by, at: s.at, digest: s.digest },
        ended: s.ended ? `${s.ended.by}, ${s.ended.reason}` : null,
      })),
    },
    figures: inside.figures,
    sheets,
    ...{ lines: inside.spool.lines, parts: spooled.parts },
    ...(await inside.names()),
    files: files.map((f) => ({ path: f.path, name: f.name, label: f.label, by: f.by })),
    made: { by: viewer.name, at: new Date().toISOString(), record: head, source: publicAddress(`/threads/${thread}`) },
    leftOut: inside.leftOut,
  };
  const paper = await buffer(await recordOnPaper(ctx, viewer, bundle, head));
  const made = await bundleFiles(
    bundle,
    spooled,
    [{ path: 'record.pdf', content: paper }, ...files.map(({ path, content }): BundleFile => ({ path, content }))],
    signerOf(ctx.home),
  );
  return { bundle, files: made };
}

/** What a piece that was gathered is in full, where it is more than a line: a finding, a sample, what tests found. */
async function sheetOf(
  ctx: Context,
  viewer: Viewer,
  { kind, id, label }: { kind: string; id: number; label: string },
): Promise<BundledSheet | null> {
  const key = `${kind} ${id}`;
  if (kind === 'run')
    return leafSheet(key, await hitsLeaf(ctx, viewer, id, readQuery(hitsShape, new URLSearchParams())));
  if (kind === 'sample') return sampleSheet(key, label, await showSample(ctx, viewer, id));
  if (kind !== 'finding') return null;
  const f = await showFinding(ctx, viewer, id);
  const said: [string, string][] = [
    ['Kind', f.kind],
    ['State', f.state],
    ...(f.amount ? [['Amount', `${f.amount.currency} ${f.amount.value}`] as [string, string]] : []),
    ['Cause', f.cause],
    ['Effect', f.effect],
    ['Recommendation', f.recommendation],
    ...(f.owner ? [['Owner', f.owner.name] as [string, string]] : []),
    ...(f.due ? [['Due', f.due] as [string, string]] : []),
  ];
  return {
    ...{ key, title: f.title, note: `by ${f.by}` },
    heads: ['', ''].map((head) => ({ label: head, figures: false })),
    rows: said.filter(([, text]) => text !== ''),
  };
}

async function leafSheet(key: string, whole: Leaf): Promise<BundledSheet> {
  const leaf = onFile(whole);
  const rows: string[][] = [];
  let count = 0;
  for await (const row of leaf.rows) {
    count += 1;
    const cells = plainCells(leaf.columns, row.cells);
    if (rows.length < ROWS_MAX) rows.push(leaf.columns.map((c) => cells[c.key] ?? ''));
  }
  return {
    ...{ key, title: leaf.title, rows },
    heads: leaf.columns.map((c) => ({ label: c.label, figures: c.is !== 'text' && c.is !== 'date' })),
    note: count > rows.length ? `${spokenCount(count - rows.length)} more are not inside` : leaf.sentence,
  };
}

/** The items of a sample with what was found of each. */
function sampleSheet(key: string, title: string, sample: Awaited<ReturnType<typeof showSample>>): BundledSheet {
  const { items, attributes } = sample;
  return {
    ...{ key, title },
    heads: [
      ...['No', 'Item', 'Day'].map((label) => ({ label, figures: false })),
      ...['Booked', 'Found'].map((label) => ({ label, figures: true })),
      ...[...attributes, 'What was looked at', 'By'].map((label) => ({ label, figures: false })),
    ],
    rows: items.map((i) => [
      ...[String(i.no), `${i.label}${i.replaces === null ? '' : ` (in place of ${i.replaces}: ${i.why})`}`, i.day],
      ...[i.amount, i.found ?? ''],
      ...attributes.map((name) => (i.attributes[name] === undefined ? '' : i.attributes[name] ? 'yes' : 'no')),
      ...[i.note, i.by ?? ''],
    ]),
    note: `${items.filter((i) => i.found !== null).length} of ${items.length} items are looked at`,
  };
}

/** What is inside: each line once, on disk, and each figure by the runs of its lines. */
class Inside {
  readonly figures: BundledFigure[] = [];
  readonly leftOut: string[] = [];
  readonly spool: Spool;
  /** Numbers of lines by entry and line. */
  private readonly at = new Map<number, number>();
  private readonly keys = new Map<string, string>();
  private readonly loads = new Set<number>();
  private readonly booked = new Map<string, Set<string>>();
  private readonly parties = new Map<string, string>();
  private readonly members = new Map<string, Set<string>>();

  constructor(
    private readonly ctx: Context,
    private readonly viewer: Viewer,
    private readonly catalogue: Catalogue,
  ) {
    this.spool = new Spool([...catalogue.dimensions.keys()]);
  }

  /** @returns the key of the figure; null where it is not inside */
  async add(
    key: string,
    label: string,
    subject: string,
    measure: string | null,
    load: number | null,
  ): Promise<string | null> {
    const read = readSubject(subject);
    const wanted: Measured = MEASURED.find((m) => m === measure) ?? 'movement';
    const same = `${subjectKey(subject)} ${wanted} ${load ?? ''}`;
    const held = this.keys.get(same);
    if (held !== undefined) return held;
    const found =
      read.is === 'figure'
        ? await this.figure(read.address, load)
        : read.is === 'line' || read.is === 'entry'
          ? await this.entered(read)
          : null;
    if (found === null) return null;
    const { whole, lines, sentence, currency, load: asOf } = found;
    if (lines === null) {
      this.leftOut.push(
        `The lines of “${label}”: with them the bundle would hold more than ${spokenCount(LINES_MAX)}; its ledger can be taken out as a file.`,
      );
      return null;
    }
    const { opening, roll } = whole;
    const digest = figureDigest(opening);
    const runs = new Numbered();
    for await (const line of lines) {
      digest.update(line);
      runs.add(this.numberOf(line));
    }
    const before = await found.before();
    if (before === null && (opening !== 0 || roll !== 0))
      this.leftOut.push(`The lines before “${label}”: what it began with is stated and not worked out.`);
    this.figures.push({
      ...{ key, label, sentence, currency, load: asOf, opening, roll, measure: wanted, before },
      ...{ digits: exponentOf(currency), count: runs.count, digest: digest.hex(), runs: runs.runs },
      value: whole[wanted],
    });
    this.keys.set(same, key);
    return key;
  }

  private async figure(address: string, load: number | null) {
    const asked = await figureAt(this.ctx, this.viewer, address, load);
    if (asked.translates) return null;
    const whole = await figureTotal(this.ctx, asked);
    const { sentence, currency, asOf } = asked;
    const fits = whole.count + this.spool.lines <= LINES_MAX;
    return {
      ...{ whole, sentence, currency, load: asOf },
      lines: fits ? linesOfFigure(this.ctx.work, asked) : null,
      before: () => this.before(asked, whole),
    };
  }

  /** The lines of which an opening, and what years that ended rolled, are the sums; null where they are too many. */
  private async before(asked: ResolvedFigure, whole: Balance): Promise<BundledFigure['before']> {
    if (whole.opening === 0 && whole.roll === 0) return null;
    if (this.spool.lines + (await countBearingOn(this.ctx.work, asked)) > LINES_MAX) return null;
    const [opening, rolledIn, rolledOut] = [new Numbered(), new Numbered(), new Numbered()];
    const books = new Map(asked.books.map((e) => [e.entity.code, e]));
    for await (const { line, part, own, temporary } of linesBearingOn(this.ctx.work, asked)) {
      const e = books.get(line.entity);
      const sum = { part, own, temporary, rolls: e?.rolls ?? false, debit: line.amount, credit: 0, count: 1 };
      const alone = emptyBalance();
      if (own) addOwn(alone, sum);
      if (e?.retained) addRetained(alone, sum);
      if (alone.opening === 0 && alone.roll === 0) continue;
      const number = this.numberOf(line);
      if (alone.opening !== 0) opening.add(number);
      if (alone.roll !== 0) (alone.roll === line.amount ? rolledIn : rolledOut).add(number);
    }
    const count = opening.count + rolledIn.count + rolledOut.count;
    return { opening: opening.runs, rolledIn: rolledIn.runs, rolledOut: rolledOut.runs, count };
  }

  private async entered(subject: Parameters<typeof linesOfSubject>[2]) {
    const { lines, asked } = await linesOfSubject(this.ctx, this.viewer, subject, null);
    const { sentence, currency, asOf } = asked;
    const of = (side: string): number =>
      lines.reduce((all, l) => (l.side === side ? all + Math.abs(l.amount) : all), 0);
    const movement = of('debit') - of('credit');
    const whole = { ...emptyBalance(), debit: of('debit'), credit: of('credit'), movement, closing: movement };
    return { whole, sentence, currency, load: asOf, lines, before: async () => null };
  }

  private numberOf(line: StoredLine): number {
    const id = line.entryId * LINES_OF_ENTRY + line.line;
    const held = this.at.get(id);
    if (held !== undefined) return held;
    const {
      id: _id,
      entryId: _entry,
      books: _books,
      replacedBy: _replaced,
      extra: _extra,
      counterpartyName,
      ...rest
    } = line;
    const entity = this.catalogue.entities.get(line.entity);
    const accounts = this.booked.get(line.entity) ?? new Set<string>();
    this.booked.set(line.entity, accounts.add(line.account));
    if (line.counterparty !== null) this.parties.set(line.counterparty, counterpartyName ?? line.counterparty);
    for (const [dim, code] of Object.entries(line.members))
      this.members.set(dim, (this.members.get(dim) ?? new Set()).add(code));
    this.loads.add(line.load);
    const number = this.spool.add(rest, {
      accountName: entity?.accounts.get(line.account)?.name ?? '',
      partyName: counterpartyName ?? '',
      digits: exponentOf(entity?.currency ?? ''),
    });
    this.at.set(id, number);
    return number;
  }

  /** Names of what the lines are booked on, as far as the maker may know them. */
  async names(): Promise<Pick<Bundle, 'accounts' | 'parties' | 'dimensions' | 'loads'>> {
    const { entities, dimensions: all } = this.catalogue;
    const accounts = Object.fromEntries(
      [...this.booked].map(([entity, codes]) => [
        entity,
        Object.fromEntries([...codes].map((code) => [code, entities.get(entity)?.accounts.get(code)?.name ?? ''])),
      ]),
    );
    const dimensions = [...all.values()].flatMap(({ code, name, tree }) => {
      const used = this.members.get(code);
      const known = knownMembers(this.viewer, code, tree);
      if (!used) return [];
      const members = [...used].filter((m) => known === null || known.has(m));
      return [{ code, name, members: Object.fromEntries(members.map((m) => [m, tree.get(m)?.name ?? m])) }];
    });
    const loads = await Promise.all([...this.loads].sort((a, b) => a - b).map((load) => readLoad(this.ctx.read, load)));
    return {
      ...{ accounts, dimensions, parties: Object.fromEntries(this.parties) },
      loads: loads.flatMap((l) => (l ? [{ load: l.id, file: l.file_name, sha256: l.file_digest || null }] : [])),
    };
  }
}

/** No entry has as many lines. */
const LINES_OF_ENTRY = 10_000_000;

/** Numbers of lines as they come, those that follow one another as one run. */
class Numbered {
  readonly runs: [number, number][] = [];
  count = 0;

  add(number: number): void {
    const last = this.runs.at(-1);
    if (last && last[1] === number - 1) last[1] = number;
    else this.runs.push([number, number]);
    this.count += 1;
  }
}

async function attached(ctx: Context, viewer: Viewer, thread: number, leftOut: string[]) {
  const { rows } = await listFiles(ctx, viewer, { thread, limit: EVERY });
  const found = await Promise.all(
    rows.map(async ({ digest, name, label, by, bytes }) => {
      const at = await ctx.files.pathOf(digest);
      if (at === null) {
        leftOut.push(`The file “${name}”, which is not there any more.`);
        return [];
      }
      const path = `files/${digest.slice(0, 12)}-${name.replace(/[^\p{L}\p{N}._-]+/gu, '-').slice(-80)}`;
      return [{ path, name, label, by, content: { path: at, sha256: digest, bytes } }];
    }),
  );
  // The same file on two rows is inside once.
  return [...new Map(found.flat().map((f) => [f.path, f])).values()];
}

/** The record of work typeset: what was to be done, what was found, each step and what was gathered, who signed. */
async function recordOnPaper(
  ctx: Context,
  viewer: Viewer,
  { thread, figures }: Bundle,
  head: string,
): Promise<Readable> {
  const byKey = new Map(figures.map((f) => [f.key, f]));
  const row = (key: string, cells: LeafRow['cells']): LeafRow => ({
    ...{ key, depth: 0, look: 'plain', counts: false, sums: null, cells, subject: null, behind: null },
  });
  const amountsOf = (figure: string | null): LeafRow['cells'] => {
    const found = figure === null ? undefined : byKey.get(figure);
    return found
      ? {
          currency: found.currency,
          amount: { is: 'amount', amount: found.value },
          lines: { is: 'count', count: found.count },
        }
      : {};
  };
  const digits = figures[0]?.digits ?? 2;
  const tail: Leaf['columns'] = [
    textColumn('currency', '', 5),
    { ...textColumn('amount', 'Figure', 16), is: 'amount', digits },
    { ...textColumn('lines', 'Lines', 7), is: 'count' },
    textColumn('by', 'By', 16),
    textColumn('at', 'On', 11),
  ];
  const leaf = (title: string, columns: Leaf['columns'], rows: LeafRow[]): Leaf => ({
    ...{ title, sentence: `${thread.reference} ${thread.name}`.trim(), facts: [], columns, rows, total: null },
    ...{ proofs: () => [], address: null },
  });
  const leaves = [
    leaf(
      'Steps',
      [textColumn('name', 'Step', 40), textColumn('description', 'Note', 40), ...tail],
      thread.steps.map((s) =>
        row(String(s.id), {
          name: s.label,
          description: s.note,
          by: s.by,
          at: s.at.slice(0, 10),
          ...amountsOf(s.figure),
        }),
      ),
    ),
    leaf(
      'Gathered',
      [
        textColumn('kind', 'Kind', 10),
        textColumn('name', 'On', 34),
        textColumn('description', 'What it says', 40),
        ...tail,
      ],
      thread.gathered.map((g, i) =>
        row(String(i), {
          ...{ kind: g.kind, name: g.label, description: g.says, by: g.by, at: g.at.slice(0, 10) },
          ...amountsOf(g.figure),
        }),
      ),
    ),
  ].filter((l) => (l.rows as LeafRow[]).length > 0);
  const said = (name: string, text: string): string[] => (text ? [`${name}: ${text}`] : []);
  return onPaper(leaves, await leavingOf(ctx, viewer, {}, head), {
    title: thread.name,
    about: `${thread.reference ? `${thread.reference}, ` : ''}${thread.state}`,
    paragraphs: [
      ...said('Purpose', thread.purpose),
      ...said('Result', thread.result),
      ...said('Conclusion', thread.conclusion),
      ...thread.signOffs.map(
        (s) =>
          `Signed as ${s.as} by ${s.by} on ${s.at.slice(0, 10)}${s.ended ? ` (ended: ${s.ended})` : ''}; digest ${s.digest.slice(0, 16)}`,
      ),
    ],
  });
}
