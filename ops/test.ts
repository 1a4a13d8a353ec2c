import { readFileSync, rmSync } from 'node:fs';
import { basename, join } from 'node:path';
import { build, run } from './build';
import { forgetDemo } from './fresh';
import { temporaryHome } from './installation';
import { startPostgres } from './postgres';

interface Count {
  passed: number;
  failed: number;
}

/**
 * Runs every check: format and lint, layering, types, unit and store tests, browser journeys. The store tests and the
 * journeys have a PostgreSQL server of their own on a free port.
 * @returns the exit code; the last line printed is "N passed, N failed"
 */
export async function test(say: (text: string) => void): Promise<number> {
  const count: Count = { passed: 0, failed: 0 };
  const home = temporaryHome('test');
  try {
    // None of them waits for another, and most keep one core at a time.
    await Promise.all([build(say), ...CHECKS.map(([what, args]) => check(what, args, count, say))]);
    const server = await startPostgres(home, false);
    try {
      await vitest(server.url, home, count, say);
      await playwright(server.url, home, count, say);
    } finally {
      server.stop();
    }
  } finally {
    rmSync(home, { recursive: true, force: true });
    forgetDemo(basename(home));
  }
  process.stdout.write(`${count.passed} passed, ${count.failed} failed\n`);
  return count.failed === 0 ? 0 : 1;
}

const LAYERS = ['app', 'ui', 'contracts', 'cases', 'core', 'store', 'exchange', 'standins', 'demo', 'ops'];
const CHECKS: [string, string[]][] = [
  ['format and lint', ['node_modules/@biomejs/biome/bin/biome', 'check', '--error-on-warnings', '.']],
  [
    'layering',
    ['node_modules/dependency-cruiser/bin/dependency-cruise.mjs', '--config', '.dependency-cruiser.cjs', ...LAYERS],
  ],
  // Without what a build writes meanwhile.
  ['types', ['node_modules/@typescript/native/bin/tsc', '--noEmit', '-p', 'tsconfig.check.json']],
  ['nothing unused', ['node_modules/knip/bin/knip.js']],
];

async function check(what: string, args: string[], count: Count, say: (text: string) => void): Promise<void> {
  const started = Date.now();
  const { code, output } = await run('node', args);
  if (code === 0) count.passed += 1;
  else count.failed += 1;
  say(`${code === 0 ? '✓' : '✗'} ${what} (${seconds(started)})`);
  if (code !== 0) say(output.slice(-8_000));
}

async function vitest(url: string, home: string, count: Count, say: (text: string) => void): Promise<void> {
  const report = join(home, 'vitest.json');
  const started = Date.now();
  const { output } = await run(
    'node',
    ['node_modules/vitest/vitest.mjs', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${report}`],
    {
      DATABASE_URL: url,
      JUST_THREAD_HOME: home,
      JUST_THREAD_TEST_RUN: basename(home),
    },
  );
  const { numPassedTests = 0, numFailedTests = 0, success = false } = readReport(report);
  add(count, numPassedTests, numFailedTests, success);
  say(
    `${success ? '✓' : '✗'} unit and store: ${numPassedTests} passed, ${numFailedTests} failed (${seconds(started)})`,
  );
  if (!success) say(output.slice(-12_000));
}

async function playwright(url: string, home: string, count: Count, say: (text: string) => void): Promise<void> {
  const report = join(home, 'playwright.json');
  const started = Date.now();
  const { output } = await run('node', ['node_modules/@playwright/test/cli.js', 'test'], {
    DATABASE_URL: url,
    JUST_THREAD_HOME: home,
    JUST_THREAD_TEST_RUN: basename(home),
    PLAYWRIGHT_JSON_OUTPUT_NAME: report,
  });
  const { stats } = readReport(report);
  const passed = stats?.expected ?? 0;
  const failed = (stats?.unexpected ?? 0) + (stats?.flaky ?? 0);
  add(count, passed, failed, stats !== undefined && failed === 0 && passed > 0);
  say(`${failed === 0 && passed > 0 ? '✓' : '✗'} journeys: ${passed} passed, ${failed} failed (${seconds(started)})`);
  if (failed > 0 || passed === 0) say(output.slice(-12_000));
}

/** A run that broke down without naming a failed test counts as one failure. */
function add(count: Count, passed: number, failed: number, sound: boolean): void {
  count.passed += passed;
  count.failed += sound ? failed : Math.max(1, failed);
}

interface Report {
  numPassedTests?: number;
  numFailedTests?: number;
  success?: boolean;
  stats?: { expected: number; unexpected: number; flaky: number };
}

function readReport(path: string): Report {
  try {
    return JSON.parse(readFileSync(path, 'utf8')) as Report;
  } catch {
    return {};
  }
}

const seconds = (started: number): string => `${Math.round((Date.now() - started) / 1000)} s`;
