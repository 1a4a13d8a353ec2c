import { createHash } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { ZipArchive } from 'archiver';
import { build } from 'esbuild';
import type { Bundle } from '@/core/bundle';
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
 * A bundle as a ZIP (PKWARE's APPNOTE): the page that shows it and works on it, its lines, figures and files, a list of all
 * of them with their SHA-256, the signature over that list (Ed25519, RFC 8032), and what checks it without us.
 */
export async function writeBundle(
  bundle: Bundle,
  spooled: ReturnType<Spool['end']>,
  more: readonly BundleFile[],
  signer: Signer,
): Promise<Readable> {
  const data = JSON.stringify(bundle);
  return sealed(
    { format: 'just-thread bundle', thread: bundle.thread.name, made: bundle.made },
    [
      { path: 'index.html', content: await pageOf(data, spooled.only) },
      { path: 'bundle.json', content: data },
      { path: 'lines.csv', content: spooled.csv },
      ...spooled.files,
      { path: 'figures.json', content: JSON.stringify(bundle.figures, null, 1) },
      { path: 'verify.mjs', content: readFileSync(ownFile('exchange/bundle/verify.mjs')) },
      ...more,
    ],
    signer,
  );
}

/** Files as a ZIP with the list of them and the signature over it. */
function sealed(said: object, files: readonly BundleFile[], signer: Signer): Readable {
  const manifest = JSON.stringify(
    { ...said, version: 2, files: files.map(({ path, content }) => ({ path, ...digestOf(content) })) },
    null,
    1,
  );
  const zip = new ZipArchive({ zlib: { level: 6 } });
  for (const { path, content } of files) {
    if (isLying(content)) zip.file(content.path, { name: path });
    else zip.append(content, { name: path });
  }
  zip.append(manifest, { name: MANIFEST });
  zip.append(JSON.stringify({ publicKey: signer.publicKey, signature: signer.sign(manifest) }), { name: SIGNATURE });
  void zip.finalize();
  return zip as unknown as Readable;
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
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; script-src 'unsafe-inline' blob: file: 'self'; worker-src blob:; style-src 'unsafe-inline'; img-src data:">
<title>Bundle</title>
<style>${style}</style>
</head>
<body>
<script type="application/json" id="bundle">${inScript(data)}</script>
<script type="text/plain" id="lines">${only === null ? '' : inScript(only)}</script>
<script type="text/plain" id="worker">${inProgram(worker)}</script>
<script>${inProgram(page)}</script>
</body>
</html>
`;
}
