import type { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { readSubject, subjectKey } from '@/contracts/subject';
import { type Bundle, type BundledFigure, type BundledLine, MEASURED, type Measured } from '@/core/bundle';
import { figureDigest } from '@/core/digest';
import type { Leaf, LeafRow } from '@/core/leaf';
import { exponentOf } from '@/core/money';
import { type BundleFile, writeBundle } from '@/exchange/bundle/writeBundle';
import { signerOf } from '@/exchange/signing';
import type { StoredLine } from '@/store/lines';
import { readLoad } from '@/store/loads';
import { readHead } from '@/store/record';
import { type Context, known } from '../asking/context';
import { headName } from '../asking/onRecord';
import { publicAddress } from '../asking/publicAddress';
import { spokenCount } from '../asking/spokenNumbers';
import { figureAt, linesOfSubject } from '../asking/subjects';
import { knownMembers, seesWhole, type Viewer } from '../asking/viewer';
import { figureTotal } from '../balances/accountBalances';
import { linesOfFigure } from '../balances/linesOfFigure';
import { listFiles } from '../evidence/files';
import { listPins } from '../evidence/pins';
import { seen } from '../evidence/threads/seenThreads';
import { showThread } from '../evidence/threads/shown';
import { textColumn } from './parts';
import { fileNameOf, leavingOf, onPaper } from './takeOut';

/** So many lines the page of a bundle holds and works on; a figure of more is told, and its lines leave by themselves. */
const LINES_MAX = 100_000;
const EVERY = 10_000;

/** The bundle of a thread, as its maker may see it. @throws ProblemError 404 */
export async function bundleOf(
  ctx: Context,
  viewer: Viewer,
  thread: number,
): Promise<{ stream: Readable; fileName: string; mediaType: string }> {
  const shown = await showThread(ctx, viewer, thread);
  const inside = new Inside(ctx, viewer);
  const steps: Bundle['thread']['steps'] = [];
  for (const step of (await seen(ctx, viewer, thread)).steps) {
    const { id, parent, label, note, person_name: by } = step;
    const figure = await inside.add(`step ${id}`, label, step.subject, step.measure, step.load);
    steps.push({ id, parent, label, note, by, at: step.created_at.toISOString(), figure });
  }
  const pins = (await listPins(ctx, viewer, { thread, limit: EVERY })).rows;
  const gathered: Bundle['thread']['gathered'] = [];
  for (const piece of shown.gathered) {
    const pin = piece.kind === 'pin' ? pins.find((p) => p.id === piece.id) : undefined;
    const figure = pin ? await inside.add(`pin ${pin.id}`, pin.label, pin.subject, pin.measure, pin.load) : null;
    gathered.push({
      ...{
        kind: piece.kind,
        label: piece.label,
        says: piece.says,
        by: piece.by,
        at: piece.at,
        state: piece.state,
        figure,
      },
    });
  }
  const files = await attached(ctx, viewer, thread, inside.leftOut);
  const head = headName(await readHead(ctx.read));
  if (!seesWhole(viewer))
    inside.leftOut.push(
      'What lies outside of what its maker may see: it was made by somebody who sees a part of the books.',
    );
  const bundle: Bundle = {
    version: 1,
    thread: {
      ...{ name: shown.name, reference: shown.reference, purpose: shown.purpose, result: shown.result },
      ...{ conclusion: shown.conclusion, state: shown.state, steps, gathered },
      signOffs: shown.signOffs.map((s) => ({
        ...{ as: s.as, by: s.by, at: s.at, digest: s.digest },
        ended: s.ended ? `${s.ended.by}, ${s.ended.reason}` : null,
      })),
    },
    figures: inside.figures,
    lines: inside.lines,
    ...(await inside.names()),
    files: files.map((f) => ({ path: f.path, name: f.name, label: f.label, by: f.by })),
    made: { by: viewer.name, at: new Date().toISOString(), record: head, source: publicAddress(`/threads/${thread}`) },
    leftOut: inside.leftOut,
  };
  const paper = await buffer(await recordOnPaper(ctx, viewer, bundle, head));
  const stream = await writeBundle(
    bundle,
    [{ path: 'record.pdf', content: paper }, ...files.map(({ path, content }): BundleFile => ({ path, content }))],
    signerOf(ctx.home),
  );
  return { stream, fileName: `${fileNameOf(shown.name)}-${head}.zip`, mediaType: 'application/zip' };
}

/** What is inside: each line once, each figure by the runs of its lines. */
class Inside {
  readonly figures: BundledFigure[] = [];
  readonly lines: BundledLine[] = [];
  readonly leftOut: string[] = [];
  private readonly at = new Map<string, number>();
  private readonly keys = new Map<string, string>();
  private readonly loads = new Set<number>();

  constructor(
    private readonly ctx: Context,
    private readonly viewer: Viewer,
  ) {}

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
    const { opening, roll, lines, sentence, currency, load: asOf } = found;
    if (lines === null || this.lines.length + lines.length > LINES_MAX) {
      this.leftOut.push(
        `The lines of “${label}”: with them the page would hold more than ${spokenCount(LINES_MAX)}; its ledger can be taken out as a file.`,
      );
      return null;
    }
    const digest = figureDigest(opening);
    for (const line of lines) digest.update(line);
    const figure: BundledFigure = {
      ...{ key, label, sentence, currency, load: asOf, opening, roll, measure: wanted },
      ...{
        digits: exponentOf(currency),
        count: lines.length,
        digest: digest.hex(),
        runs: this.runsOf(lines),
        value: 0,
      },
    };
    figure.value = found.value(wanted);
    this.figures.push(figure);
    this.keys.set(same, key);
    return key;
  }

  private async figure(address: string, load: number | null) {
    const asked = await figureAt(this.ctx, this.viewer, address, load);
    if (asked.translates) return null;
    const whole = await figureTotal(this.ctx, asked);
    const { sentence, currency, asOf } = asked;
    let lines: StoredLine[] | null = [];
    if (whole.count + this.lines.length > LINES_MAX) lines = null;
    else for await (const line of linesOfFigure(this.ctx.work, asked)) lines.push(line);
    return {
      ...{ opening: whole.opening, roll: whole.roll, lines, sentence, currency, load: asOf },
      value: (measure: Measured) => whole[measure],
    };
  }

  private async entered(subject: Parameters<typeof linesOfSubject>[2]) {
    const { lines, asked } = await linesOfSubject(this.ctx, this.viewer, subject, null);
    const { sentence, currency, asOf } = asked;
    const of = (side: string): number =>
      lines.reduce((all, l) => (l.side === side ? all + Math.abs(l.amount) : all), 0);
    const values = {
      opening: 0,
      debit: of('debit'),
      credit: of('credit'),
      movement: of('debit') - of('credit'),
      closing: of('debit') - of('credit'),
    };
    return {
      opening: 0,
      roll: 0,
      lines,
      sentence,
      currency,
      load: asOf,
      value: (measure: Measured) => values[measure],
    };
  }

  private runsOf(lines: readonly StoredLine[]): [number, number][] {
    const runs: [number, number][] = [];
    for (const line of lines) {
      const at = this.placeOf(line);
      const last = runs.at(-1);
      if (last && last[1] === at - 1) last[1] = at;
      else runs.push([at, at]);
    }
    return runs;
  }

  private placeOf(line: StoredLine): number {
    const held = this.at.get(line.id);
    if (held !== undefined) return held;
    const { id: _id, entryId: _entry, books: _books, replacedBy: _replaced, extra: _extra, ...rest } = line;
    this.lines.push(rest);
    this.loads.add(line.load);
    this.at.set(line.id, this.lines.length - 1);
    return this.lines.length - 1;
  }

  /** Names of what the lines are booked on, as far as the maker may know them. */
  async names(): Promise<Pick<Bundle, 'accounts' | 'dimensions' | 'loads'>> {
    const { catalogue } = await known(this.ctx.read);
    const accounts: Bundle['accounts'] = {};
    const members = new Map<string, Set<string>>();
    for (const { entity, account, members: of } of this.lines) {
      const books = catalogue.entities.get(String(entity));
      accounts[String(entity)] = {
        ...accounts[String(entity)],
        [String(account)]: books?.accounts.get(String(account))?.name ?? '',
      };
      for (const [dim, code] of Object.entries(of)) members.set(dim, (members.get(dim) ?? new Set()).add(code));
    }
    const dimensions = [...catalogue.dimensions.values()].flatMap(({ code, name, tree }) => {
      const used = members.get(code);
      const seen = knownMembers(this.viewer, code, tree);
      return used
        ? [
            {
              ...{ code, name },
              members: Object.fromEntries(
                [...used].filter((m) => seen === null || seen.has(m)).map((m) => [m, tree.get(m)?.name ?? m]),
              ),
            },
          ]
        : [];
    });
    const loads = await Promise.all([...this.loads].sort((a, b) => a - b).map((load) => readLoad(this.ctx.read, load)));
    return {
      ...{ accounts, dimensions },
      loads: loads.flatMap((l) => (l ? [{ load: l.id, file: l.file_name, sha256: l.file_digest || null }] : [])),
    };
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
