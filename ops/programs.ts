import { mkdirSync, renameSync } from 'node:fs';
import { resolve } from 'node:path';

/** Programs that run beside one another, each a file of this folder. */
const NAMES = ['web', 'worker', 'hand'] as const;
export type ProgramName = (typeof NAMES)[number];

const FOLDER = '.programs';

/** What is run of a program. */
export const programFile = (name: ProgramName): string => resolve(FOLDER, `${name}.mjs`);

let made: Promise<void> | null = null;

/**
 * Makes each program one file, once a process: read module by module with its types a program takes twice as long to
 * start, and the processes that do jobs are started again and again.
 */
export function makePrograms(): Promise<void> {
  made ??= make().catch((error: Error) => {
    made = null;
    throw error;
  });
  return made;
}

async function make(): Promise<void> {
  // The programs name one another from here, and need no maker of programs.
  const { build } = await import('esbuild');
  mkdirSync(FOLDER, { recursive: true });
  const own = (name: string): string => resolve(FOLDER, `${name}.${process.pid}.mjs`);
  await build({
    entryPoints: NAMES.map((name) => ({ in: `ops/${name}.ts`, out: `${name}.${process.pid}` })),
    outdir: FOLDER,
    outExtension: { '.js': '.mjs' },
    bundle: true,
    packages: 'external',
    platform: 'node',
    format: 'esm',
    target: 'node20',
    logLevel: 'silent',
  });
  // Whoever starts one meanwhile reads it whole.
  for (const name of NAMES) renameSync(own(name), programFile(name));
}
