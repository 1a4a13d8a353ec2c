import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
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
  if (existsSync(STAMP) && readFileSync(STAMP, 'utf8') === stamp) return;
  say('Building the application …');
  const { code, output } = await run('node', ['node_modules/next/dist/bin/next', 'build']);
  if (code !== 0) throw new SetupError(`the build failed:\n${output}`);
  writeFileSync(STAMP, stamp);
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
