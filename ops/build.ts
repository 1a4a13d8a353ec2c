import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { cpSync, existsSync, mkdirSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { SetupError } from './postgres';

const SOURCES = [
  'app',
  'ui',
  'contracts',
  'cases',
  'core',
  'store',
  'exchange',
  'package-lock.json',
  'next.config.ts',
  'tsconfig.json',
  'postcss.config.mjs',
];
const STAMP = '.next/just-thread-stamp';

/** Builds the application for production, unless nothing has changed since it was last built. */
export async function build(say: (text: string) => void): Promise<void> {
  const stamp = sourcesDigest();
  bringPdfAssets();
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === stamp) return;
  say('Building the application …');
  const { code, output } = await run('node', ['node_modules/next/dist/bin/next', 'build']);
  if (code !== 0) throw new SetupError(`the build failed:\n${output}`);
  writeFileSync(STAMP, stamp);
}

/** What pages that show PDF ask for: the worker that reads them, the standard fonts, and tables of characters. */
function bringPdfAssets(): void {
  const from = 'node_modules/pdfjs-dist';
  const to = 'public/pdf';
  const { version } = JSON.parse(readFileSync(join(from, 'package.json'), 'utf8')) as { version: string };
  const mark = join(to, 'version');
  if (existsSync(mark) && readFileSync(mark, 'utf8') === version) return;
  rmSync(to, { recursive: true, force: true });
  mkdirSync(to, { recursive: true });
  for (const folder of ['standard_fonts', 'cmaps', 'wasm'])
    cpSync(join(from, folder), join(to, folder), { recursive: true });
  cpSync(join(from, 'build/pdf.worker.min.mjs'), join(to, 'pdf.worker.min.mjs'));
  writeFileSync(mark, version);
}

/** Runs a program to its end and gives what it printed. */
export function run(
  program: string,
  args: string[],
  env: Record<string, string> = {},
): Promise<{ code: number; output: string }> {
  return new Promise((resolve) => {
    const child = spawn(program, args, { env: { ...process.env, NEXT_TELEMETRY_DISABLED: '1', ...env } });
    let output = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk: Buffer) => (output += chunk));
    child.on('close', (code) => resolve({ code: code ?? 1, output }));
    child.on('error', (error) => resolve({ code: 1, output: error.message }));
  });
}

function sourcesDigest(): string {
  const hash = createHash('sha256');
  const add = (path: string): void => {
    hash.update(path);
    hash.update(readFileSync(path));
  };
  for (const source of SOURCES) {
    if (!existsSync(source)) continue;
    if (!source.includes('.')) for (const file of filesBeneath(source)) add(file);
    else add(source);
  }
  return hash.digest('hex');
}

function filesBeneath(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true })
    .sort((a, b) => (a.name < b.name ? -1 : 1))
    .flatMap((e) =>
      e.isDirectory() ? filesBeneath(join(folder, e.name)) : /\.test\.tsx?$/.test(e.name) ? [] : [join(folder, e.name)],
    );
}
