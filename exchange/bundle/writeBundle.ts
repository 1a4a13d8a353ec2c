import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { ZipArchive } from 'archiver';
import { build } from 'esbuild';
import type { Bundle } from '@/core/bundle';
import { inPage, wholePage } from '../page';
import type { Signer } from '../signing';
import type { Lying, Spool } from './spool';

const isLying = (content: BundleFile['content']): content is Lying =>
  typeof content === 'object' && !Buffer.isBuffer(content);

/** A file that goes into a bundle. */
export interface BundleFile {
  path: string;
  /** What it holds, or where it lies. */
  content: string | Buffer | Lying;
}

export const MANIFEST = 'manifest.json';
export const SIGNATURE = 'signature.json';
const PAGE_FOLDER = 'ui/offline';

/**
 * A bundle of a thread: the page that shows it and works on it, its lines, figures and files, a list of all of them with
 * their SHA-256, the signature over that list (Ed25519, RFC 8032), and what checks it without us.
 */
export async function bundleFiles(
  bundle: Bundle,
  spooled: ReturnType<Spool['end']>,
  more: readonly BundleFile[],
  signer: Signer,
): Promise<BundleFile[]> {
  const data = JSON.stringify(bundle);
  return sealed(
    { format: 'just-thread bundle', thread: bundle.thread.name, made: bundle.made },
    [
      { path: 'index.html', content: await pageOf(data, spooled.only) },
      { path: 'bundle.json', content: data },
      { path: 'lines.csv', content: spooled.csv },
      ...spooled.files,
      { path: 'figures.json', content: JSON.stringify(bundle.figures, null, 1) },
      verifier(),
      ...more,
    ],
    signer,
  );
}

/** A thread within a bundle of several: what its bundle holds, in a folder of its own. */
export interface BundledInFolder {
  folder: string;
  thread: Bundle['thread'];
  files: readonly BundleFile[];
}

/** Bundles of several threads as one, with a page that leads to each, and a list of everything that is signed once more. */
export function folderFiles(
  name: string,
  made: Bundle['made'],
  threads: readonly BundledInFolder[],
  signer: Signer,
): BundleFile[] {
  return sealed(
    { format: 'just-thread bundle of threads', name, threads: threads.map((t) => t.folder), made },
    [
      { path: 'index.html', content: contentsPage(name, made, threads) },
      verifier(),
      ...threads.flatMap(({ folder, files }) => files.map((f) => ({ ...f, path: `${folder}/${f.path}` }))),
    ],
    signer,
  );
}

const verifier = (): BundleFile => ({
  path: 'verify.mjs',
  content: readFileSync(ownFile('exchange/bundle/verify.mjs')),
});

/** Files with the list of them and the signature over it. */
function sealed(said: object, files: readonly BundleFile[], signer: Signer): BundleFile[] {
  const manifest = JSON.stringify(
    { ...said, version: 2, files: files.map(({ path, content }) => ({ path, ...digestOf(content) })) },
    null,
    1,
  );
  const signed = JSON.stringify({ publicKey: signer.publicKey, signature: signer.sign(manifest) });
  return [...files, { path: MANIFEST, content: manifest }, { path: SIGNATURE, content: signed }];
}

/** Files as a ZIP (PKWARE's APPNOTE). */
export function zipOf(files: readonly BundleFile[]): Readable {
  const zip = new ZipArchive({ zlib: { level: 6 } });
  for (const { path, content } of files) {
    if (isLying(content)) zip.file(content.path, { name: path });
    else zip.append(content, { name: path });
  }
  void zip.finalize();
  return zip as unknown as Readable;
}

/** A page that leads to the threads that are inside. */
function contentsPage(name: string, made: Bundle['made'], threads: readonly BundledInFolder[]): string {
  const rows = threads.map(
    ({ folder, thread }) =>
      `<tr><td>${inPage(thread.reference)}</td><td><a href="${folder}/index.html">${inPage(thread.name)}</a></td><td>${inPage(thread.state)}</td><td>${inPage(thread.conclusion)}</td></tr>`,
  );
  return wholePage({
    ...{ lang: 'en', title: name, style: readFileSync(ownFile(`${PAGE_FOLDER}/style.css`), 'utf8') },
    policy: "default-src 'none'; style-src 'unsafe-inline'",
    body: `<header><h1>Just Thread<span class="dot">.</span></h1></header>
<main>
<h2>${inPage(name)}</h2>
<p class="soft">${inPage(`${threads.length} threads; made by ${made.by}, ${made.at.slice(0, 10)}; ${made.record}`)}</p>
<table><thead><tr><th scope="col">Ref.</th><th scope="col">Thread</th><th scope="col">State</th><th scope="col">Conclusion</th></tr></thead><tbody>${rows.join('')}</tbody></table>
<p class="soft">Whether all of it is as it left tells <code>node verify.mjs</code> in this folder, which needs nothing else.</p>
</main>`,
  });
}

const ownFile = (path: string): string => join(/* turbopackIgnore: true */ process.cwd(), path);

function digestOf(content: BundleFile['content']): { sha256: string; bytes: number } {
  if (isLying(content)) return { sha256: content.sha256, bytes: content.bytes };
  const bytes = Buffer.from(content);
  return { sha256: createHash('sha256').update(bytes).digest('hex'), bytes: bytes.length };
}

let made: Promise<{ page: string; worker: string; style: string }> | null = null;

/** The page and what works beside it, each one script without anything from elsewhere; made once a process. */
function scripts(): Promise<{ page: string; worker: string; style: string }> {
  const script = async (name: string): Promise<string> => {
    const { outputFiles } = await build({
      entryPoints: [ownFile(`${PAGE_FOLDER}/${name}.ts`)],
      ...{ bundle: true, write: false, minify: true, format: 'iife', target: 'es2022', platform: 'browser' },
      tsconfig: ownFile('tsconfig.json'),
      legalComments: 'none',
      logLevel: 'silent',
    });
    return outputFiles[0]?.text ?? '';
  };
  made ??= Promise.all([script('page'), script('worker')])
    .then(([page, worker]) => ({ page, worker, style: readFileSync(ownFile(`${PAGE_FOLDER}/style.css`), 'utf8') }))
    .catch((error: Error) => {
      made = null;
      throw error;
    });
  return made;
}

/** A text within a script element, which nothing in it ends (HTML, restrictions for contents of script elements). */
const inScript = (text: string): string => text.replaceAll('<', '\\u003c');
const inProgram = (text: string): string => text.replace(/<\/(script)/gi, '<\\/$1').replaceAll('<!--', '<\\!--');

/** @param only the lines, where they are few enough to be within the page */
async function pageOf(data: string, only: string | null): Promise<string> {
  const { page, worker, style } = await scripts();
  return wholePage({
    ...{ lang: 'en', title: 'Bundle', style },
    policy:
      "default-src 'none'; script-src 'unsafe-inline' blob: file: 'self'; worker-src blob:; style-src 'unsafe-inline'; img-src data:",
    body: `<script type="application/json" id="bundle">${inScript(data)}</script>
<script type="text/plain" id="lines">${only === null ? '' : inScript(only)}</script>
<script type="text/plain" id="worker">${inProgram(worker)}</script>
<script>${inProgram(page)}</script>`,
  });
}
