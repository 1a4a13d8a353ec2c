import { spawnSync } from 'node:child_process';
import { rmSync, writeFileSync } from 'node:fs';
import { expect, test } from 'vitest';
import { brokenIn, brokenRules, RULES, type Rule } from './houseRules';

const rule = (name: string): Rule => RULES.find((r) => r.name === name) as Rule;
const planted: [rule: string, file: string, text: string][] = [
  ['SQL outside store', 'cases/x.ts', "import { type Db, rowsOf } from '@/store/db';"],
  ['SQL outside store', 'cases/x.ts', "await trx.raw('vacuum')"],
  ['SQL outside store', 'cases/x.ts', "await ctx.write('note').insert(x)"],
  ['SQL outside store', 'demo/x.ts', 'const q = `select * from line where true`;'],
  ['SQL outside store', 'app/x.ts', "const q = 'insert into note values (1)';"],
  ['answers typed by hand', 'ui/x.ts', "ask<{ id: number }>('GET /x')"],
  ['answers typed by hand', 'cases/x.ts', 'const rows: object[] = [];'],
  ['printed amounts read back', 'cases/sheets/x.ts', 'parseAmount(row.closing, digits)'],
  ['ties of a number with itself', 'cases/x.ts', 'tieOf(whole, whole, digits)'],
  ['ties of a number with itself', 'cases/x.ts', "tie: { ok: true, offBy: '0.00' }"],
  ['figures resolved past the grant', 'cases/sheets/x.ts', 'ResolvedFigure.seenBy(viewer, figure, known, currency)'],
  ['figures asked without being weighed', 'cases/sheets/x.ts', 'total(ctx.read, asked.unweighed)'],
];

test('each rule sees what is planted against it, and nothing where it is as it should be', () => {
  for (const [name, file, text] of planted) expect([text, brokenIn(rule(name), file, text).length]).toEqual([text, 1]);
  expect(brokenIn(rule('SQL outside store'), 'store/x.ts', 'select * from line')).toEqual([]);
  expect(brokenIn(rule('printed amounts read back'), 'cases/loads/x.ts', 'parseAmount(cell, 2)')).toEqual([]);
  expect(brokenIn(rule('ties of a number with itself'), 'cases/x.ts', 'tieOf(whole, again, digits)')).toEqual([]);
  expect(new Set(planted.map(([name]) => name)).size).toBe(RULES.length);
});

test('no rule is broken in the tree', () => {
  expect(brokenRules().map((b) => `${b.rule.name}: ${b.file}:${b.line} ${b.text}`)).toEqual([]);
});

test('an import that goes the wrong way is seen', () => {
  const file = 'core/planted.ts';
  writeFileSync(file, "import '@/store/db';\n");
  try {
    const cruiser = 'node_modules/dependency-cruiser/bin/dependency-cruise.mjs';
    const { status, stdout } = spawnSync('node', [cruiser, '--config', '.dependency-cruiser.cjs', file], {
      encoding: 'utf8',
    });
    expect([status === 0, stdout]).toEqual([false, expect.stringMatching(/core-imports-only-nothing/)]);
  } finally {
    rmSync(file);
  }
});
