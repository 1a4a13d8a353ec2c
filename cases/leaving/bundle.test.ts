import { execFileSync } from 'node:child_process';
import { createWriteStream, mkdirSync, mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { ZipArchive } from 'archiver';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import type { Bundle } from '@/core/bundle';
import { archiveMember, archiveNames } from '@/exchange/archive';
import { verifyBundle } from '@/exchange/bundle/verifyBundle';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import { checkFiles, unzipped } from '@/ui/offline/checked';
import type { Viewer } from '../asking/viewer';
import { pin } from '../evidence/pins';
import { saveThread } from '../evidence/threads/keep';
import { bundleOf } from './bundle';

let home: Fresh;
let ines: Viewer;
let made: string;
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
  made = join(mkdtempSync(join(tmpdir(), 'just-thread-bundle-')), 'thread.zip');
  const { stream } = await bundleOf(home.ctx, ines, id);
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
  expect(page.match(/<\/script>/g)).toHaveLength(3);
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
  const { performed } = await import('@/core/bundle');
  const [figure] = bundle.figures;
  if (!figure) throw new Error('there is no figure inside');
  expect(performed(bundle, figure).ok).toBe(true);
  expect(performed(bundle, { ...figure, value: figure.value + 1 }).ok).toBe(false);
  const line = bundle.lines[figure.runs[0]?.[0] ?? 0];
  if (line) line.description = 'another text';
  expect(performed(bundle, figure)).toMatchObject({ ok: false, value: figure.value });
});
