import { execFileSync } from 'node:child_process';
import { createWriteStream, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { ZipArchive } from 'archiver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { newFindingSchema } from '@/contracts/bodies/all';
import { type Bundle, type BundledFigure, heldParts, linesOn, PART_LINES, partsOn, performed } from '@/core/bundle';
import { archiveMember, archiveNames } from '@/exchange/archive';
import { linesInPart, Spool } from '@/exchange/bundle/spool';
import { verifyBundle } from '@/exchange/bundle/verifyBundle';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import { checkFiles, unzipped } from '@/ui/offline/checked';
import type { Viewer } from '../asking/viewer';
import { writeFinding } from '../evidence/findings';
import { pin } from '../evidence/pins';
import { saveThread } from '../evidence/threads/keep';
import { bundleOf } from './bundle';

let home: Fresh;
let ines: Viewer;
let made: string;
let first: number;
let inside: Map<string, Buffer>;

const FIGURES = [
  'entity=KSF&from=2027.06&to=2027.06&accounts=6310',
  'entity=KSF&from=2027.04&to=2027.06&accounts=1310',
];

beforeAll(async () => {
  home = await demoInstallation();
  ines = await demoPerson(home, 'ines');
  const step = { address: '/lines', view: 'lines' as const };
  const { id } = await saveThread(home.ctx, ines, {
    name: 'Dry-docking of the quarter </script><script>alert(1)</script>',
    steps: [
      { ...step, label: 'Repairs', subject: `figure:${FIGURES[0]}`, measure: 'movement' },
      { ...step, label: 'Freight customers', subject: `figure:${FIGURES[1]}`, measure: 'closing' },
    ],
  });
  await pin(home.ctx, ines, {
    ...{ subject: `figure:${FIGURES[1]}`, measure: 'debit', address: '/lines', label: 'Charged', thread: id },
  });
  await writeFinding(
    home.ctx,
    ines,
    newFindingSchema.parse({
      ...{ title: 'Booked twice', kind: 'error', cause: 'Two copies.', thread: id },
      subjects: [`figure:${FIGURES[0]}`],
    }),
  );
  first = id;
  made = join(mkdtempSync(join(tmpdir(), 'just-thread-bundle-')), 'thread.zip');
  const { stream } = await bundleOf(home.ctx, ines, [id]);
  await pipeline(stream, createWriteStream(made));
  inside = new Map(
    await Promise.all(
      (await archiveNames(made)).map(async (name): Promise<[string, Buffer]> => {
        const chunks: Buffer[] = [];
        for await (const chunk of await archiveMember(made, name)) chunks.push(chunk as Buffer);
        return [name, Buffer.concat(chunks)];
      }),
    ),
  );
});
afterAll(() => home?.close());

/** The bundle unfolded into a folder, with what somebody did to it. */
function unfolded(change: (files: Map<string, Buffer>) => void = () => {}): {
  folder: string;
  files: Map<string, Buffer>;
} {
  const folder = mkdtempSync(join(tmpdir(), 'just-thread-bundle-'));
  const files = new Map(inside);
  change(files);
  for (const [name, bytes] of files) {
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), bytes);
  }
  return { folder, files };
}

async function packed(files: Map<string, Buffer>): Promise<string> {
  const path = join(mkdtempSync(join(tmpdir(), 'just-thread-bundle-')), 'changed.zip');
  const zip = new ZipArchive({});
  for (const [name, bytes] of files) zip.append(bytes, { name });
  void zip.finalize();
  await pipeline(zip as never, createWriteStream(path));
  return path;
}

/** What the verifier within says, run as a stranger runs it. */
function told(folder: string): { ok: boolean; says: string } {
  try {
    return {
      ok: true,
      says: execFileSync(process.execPath, ['verify.mjs'], { cwd: folder, stdio: 'pipe' }).toString(),
    };
  } catch (error) {
    return { ok: false, says: String((error as { stderr: Buffer }).stderr) };
  }
}

test('a bundle is found as it left, by us and by what is inside it alone', async () => {
  expect(await verifyBundle(made)).toMatchObject({ ok: true, wrong: [], figures: 3 });
  const page = checkFiles(unzipped(new Uint8Array(readFileSync(made))));
  expect(page).toMatchObject({ ok: true, wrong: [], key: (await verifyBundle(made)).key });
  const { ok, says } = told(unfolded().folder);
  expect(says).toContain('3 figures worked out again');
  expect(ok).toBe(true);
  expect(readFileSync('exchange/bundle/verify.mjs', 'utf8').split('\n').length).toBeLessThan(200);
  expect([...inside.keys()].sort()).toEqual([
    'bundle.json',
    'figures.json',
    'index.html',
    'lines.csv',
    'lines/0001.js',
    'manifest.json',
    'record.pdf',
    'signature.json',
    'verify.mjs',
  ]);
});

test('its figures are those of the thread, and nothing in it ends the script that holds it', () => {
  const bundle = JSON.parse(inside.get('bundle.json')?.toString() ?? '') as Bundle;
  expect(bundle.figures.map((f) => [f.label, f.measure])).toEqual([
    ['Repairs', 'movement'],
    ['Freight customers', 'closing'],
    ['Charged', 'debit'],
  ]);
  expect(bundle.figures[1]?.value).toBe(64_936_281);
  expect(inside.get('record.pdf')?.subarray(0, 5).toString()).toBe('%PDF-');
  const page = inside.get('index.html')?.toString() ?? '';
  expect(page).not.toContain('<script>alert(1)');
  expect(page.match(/<\/script>/g)).toHaveLength(4);
  expect(page).toContain("default-src 'none'");
});

const text = (files: Map<string, Buffer>, name: string, change: (was: string) => string): void => {
  files.set(name, Buffer.from(change(files.get(name)?.toString() ?? '')));
};

describe('what was done to it is found', () => {
  test.each<[string, (files: Map<string, Buffer>) => void, RegExp]>([
    [
      'an amount of a line',
      (f) => text(f, 'lines.csv', (t) => t.replace(/(\r?\n0,(?:[^,]*,){10})/, '$19')),
      /lines\.csv was changed/,
    ],
    ['a line taken out', (f) => text(f, 'lines.csv', (t) => t.replace(/\n1,.*/, '')), /lines\.csv was changed/],
    [
      'a figure',
      (f) => text(f, 'figures.json', (t) => t.replace('"value": 6', '"value": 7')),
      /figures\.json was changed/,
    ],
    [
      'the record',
      (f) => text(f, 'bundle.json', (t) => t.replace('Dry-docking', 'Wet-docking')),
      /bundle\.json was changed/,
    ],
    ['the page', (f) => text(f, 'index.html', (t) => t.replace('Just Thread', 'Other')), /index\.html was changed/],
    ['the paper', (f) => f.set('record.pdf', Buffer.from('%PDF-')), /record\.pdf was changed/],
    [
      'the verifier',
      (f) => text(f, 'verify.mjs', (t) => t.replace('const wrong = []', 'const wrong = [ ]')),
      /verify\.mjs was changed/,
    ],
    ['a file added', (f) => f.set('files/more.txt', Buffer.from('x')), /more\.txt was added/],
    ['a file taken away', (f) => f.delete('record.pdf'), /record\.pdf is missing/],
    [
      'a file and its digest in the list',
      (f) => {
        f.set('record.pdf', Buffer.from('%PDF-'));
        text(f, 'manifest.json', (t) =>
          t.replace(/("path": "record\.pdf",\s+"sha256": ")[0-9a-f]+/, `$1${'0'.repeat(64)}`),
        );
      },
      /signature does not hold/,
    ],
  ])('%s', async (_, change, says) => {
    const { folder, files } = unfolded(change);
    expect((await verifyBundle(await packed(files))).wrong.join('\n')).toMatch(says);
    const found = told(folder);
    expect(found.ok).toBe(false);
    expect(found.says).toMatch(says);
    // And by the page, from the ZIP that is chosen on it.
    const page = checkFiles(unzipped(new Uint8Array(readFileSync(await packed(files)))));
    expect([page.ok, page.wrong.join('\n')]).toEqual([false, expect.stringMatching(says)]);
  });
});

test('a figure whose lines come to something else is found, whatever is signed', async () => {
  const bundle = JSON.parse(inside.get('bundle.json')?.toString() ?? '') as Bundle;
  const [figure] = bundle.figures;
  if (!figure) throw new Error('there is no figure inside');
  const lines = linesInPart(inside.get(bundle.parts[0]?.file ?? '')?.toString() ?? '');
  const again = (of: BundledFigure) => performed(of, async () => lines);
  expect((await again(figure)).ok).toBe(true);
  expect((await again({ ...figure, value: figure.value + 1 })).ok).toBe(false);
  expect((await again({ ...figure, runs: figure.runs.slice(1) })).ok).toBe(false);
  const line = lines[figure.runs[0]?.[0] ?? 0];
  if (line) line.description = 'another text';
  expect(await again(figure)).toMatchObject({ ok: false, value: figure.value });
});

test('what a figure began with is the sum of the lines before it, which are inside', async () => {
  const bundle = JSON.parse(inside.get('bundle.json')?.toString() ?? '') as Bundle;
  const figure = bundle.figures.find((f) => f.measure === 'closing') as BundledFigure;
  expect(figure.opening).not.toBe(0);
  expect(figure.before?.count).toBeGreaterThan(100);
  const lines = linesInPart(inside.get(bundle.parts[0]?.file ?? '')?.toString() ?? '');
  const partAt = async () => lines;
  expect(await performed(figure, partAt)).toMatchObject({ ok: true, value: figure.value });
  const { total } = await linesOn(figure, { of: 'before', steps: [] }, 5, partAt);
  expect([total.movement, total.count]).toEqual([figure.opening, figure.before?.count]);
  const [first = 0] = figure.before?.opening[0] ?? [];
  const line = lines[first];
  if (line) line.amount = Number(line.amount) + 1;
  expect((await performed(figure, partAt)).ok).toBe(false);
});

test('a finding and its words are inside as a table of their own', () => {
  const { sheets, thread } = JSON.parse(inside.get('bundle.json')?.toString() ?? '') as Bundle;
  expect(thread.gathered.find((g) => g.kind === 'finding')?.sheet).toBe(sheets[0]?.key);
  expect(sheets[0]).toMatchObject({ title: 'Booked twice', rows: expect.arrayContaining([['Cause', 'Two copies.']]) });
});

test('several threads leave as one bundle, in folders of their own, and what was done to any of them is found', async () => {
  const { id: other } = await saveThread(home.ctx, ines, {
    name: 'Freight',
    steps: [
      { address: '/lines', view: 'lines', label: 'Freight', subject: `figure:${FIGURES[1]}`, measure: 'movement' },
    ],
  });
  const file = join(mkdtempSync(join(tmpdir(), 'just-thread-bundle-')), 'folder.zip');
  await pipeline((await bundleOf(home.ctx, ines, [first, other], '2027 Q2')).stream, createWriteStream(file));
  expect(await verifyBundle(file)).toMatchObject({ ok: true, wrong: [], figures: 4 });
  const files = unzipped(new Uint8Array(readFileSync(file)));
  expect(checkFiles(files)).toMatchObject({ ok: true, wrong: [] });
  const folders = [...new Set([...files.keys()].filter((n) => n.includes('/')).map((n) => n.split('/')[0]))];
  expect(folders).toEqual([expect.stringMatching(/^001-/), '002-freight']);
  expect(new TextDecoder().decode(files.get('index.html'))).toContain('002-freight/index.html');
  const folder = mkdtempSync(join(tmpdir(), 'just-thread-bundle-'));
  const write = (name: string, content: Uint8Array | string): void => {
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), content);
  };
  for (const [name, content] of files) write(name, content);
  expect(told(folder)).toMatchObject({ ok: true, says: expect.stringContaining('4 figures worked out again') });
  // One of them by itself, too.
  expect(told(join(folder, '002-freight'))).toMatchObject({ ok: true });
  write(
    '002-freight/lines.csv',
    `${readFileSync(join(folder, '002-freight/lines.csv'), 'utf8').replace(/\n0,/, '\n00,')}`,
  );
  expect(told(folder)).toMatchObject({ ok: false, says: expect.stringContaining('002-freight/lines.csv was changed') });
});

test('very many lines lie in parts, of which a few at a time are at hand', async () => {
  const many = 2 * PART_LINES + 5;
  const spool = new Spool([]);
  const line = (n: number) =>
    ({ ...LINE, entry: `J-${n % 7}`, amount: n % 2 === 0 ? n : -n, side: n % 2 === 0 ? 'debit' : 'credit' }) as never;
  for (let n = 0; n < many; n += 1) spool.add(line(n), { accountName: '', partyName: '', digits: 2 });
  const { parts, files, only, csv } = spool.end();
  expect([parts.map((p) => p.count), only]).toEqual([[PART_LINES, PART_LINES, 5], null]);
  expect(readFileSync(csv.path, 'utf8').trimEnd().split('\n')).toHaveLength(many + 1);
  let read = 0;
  const partAt = heldParts(async (at) => {
    read += 1;
    return linesInPart(readFileSync(files[at]?.content.path ?? '', 'utf8'));
  });
  const figure = { runs: [[PART_LINES - 2, 2 * PART_LINES + 1]], before: null } as unknown as BundledFigure;
  const way = { of: 'lines', steps: [] } as const;
  const { lines, total } = await linesOn(figure, way, 3, partAt);
  expect(lines.map((l) => l.amount)).toEqual([PART_LINES - 2, -(PART_LINES - 1), PART_LINES]);
  expect(total.count).toBe(PART_LINES + 4);
  const split = await partsOn(figure, way, 'entry', partAt);
  expect(split.reduce((all, p) => all + p.movement, 0)).toBe(total.movement);
  expect([split.length, read]).toEqual([7, 3]);
  spool.clear();
});

const LINE = { entity: 'ONE', line: 1, account: '1', postingDate: '2026-04-01', period: 2701, members: {}, load: 1 };
