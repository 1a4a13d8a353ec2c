import { afterAll, beforeAll, expect, test } from 'vitest';
import { linesShape, statementShape, totalsShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { readLines } from '../sheets/readLines';
import { readTotals } from '../sheets/readTotals';
import { readStatement } from './readStatement';

// Whatever figure of a statement is entered, what it leads to comes to that figure, by the measure that it says.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
});
afterAll(() => fresh?.close());

const BOOKS = 'entity=KSF&from=2027.04&to=2027.06';
const minor = (text: string | null | undefined): number => Math.round(Number(text) * 100);

const statement = async (code: string, more = '') =>
  readStatement(fresh.ctx, fresh.owner, code, readQuery(statementShape, new URLSearchParams(`${BOOKS}${more}`)));

type Narrowed = Record<string, string | string[]>;

/** The scope with what a column and a row put in place of it. */
function scopeOf(more: string, ...puts: Narrowed[]): URLSearchParams {
  const scope = new URLSearchParams(BOOKS);
  for (const entity of new URLSearchParams(more).getAll('entity')) scope.append('entity', entity);
  for (const put of puts)
    for (const [name, values] of Object.entries(put)) {
      scope.delete(name);
      for (const value of [values].flat()) if (value !== '') scope.append(name, value);
    }
  return scope;
}

async function traced(scope: URLSearchParams, measure: string): Promise<number> {
  const asked = new URLSearchParams(scope);
  if (measure === 'allotted' || measure === 'tax') asked.set('part', measure);
  const totals = await readTotals(fresh.ctx, fresh.owner, readQuery(totalsShape, asked));
  return minor(asked.has('part') ? totals.part : totals.total[measure as 'movement']);
}

test.each([
  ['income', '&column=ytd&column=year-before&open=all', 40],
  ['balance', '&column=last-year&open=all', 60],
  ['cashflow', '', 15],
  ['tax', '', 6],
  ['income', '&entity=STL&eliminated=yes&across=entity', 20],
  ['balance', '&entity=STL&eliminated=yes&across=entity', 20],
  ['position', '&by=dim:fund', 10],
  ['position', '&by=dim:project', 10],
])('every figure of %s%s is what it leads to', async (code, more, least) => {
  const found = await statement(code, more);
  let held = 0;
  for (const row of found.rows)
    for (const column of found.columns) {
      const measure = column.measure ?? row.measure;
      const made = column.key !== 'window' && Object.keys(column.scope).length === 0;
      if (!row.refine || !measure || made) continue;
      const at = await traced(scopeOf(more, column.scope, row.refine), measure);
      expect([row.key, column.key, Math.abs(at)]).toEqual([
        row.key,
        column.key,
        Math.abs(minor(row.values[column.key])),
      ]);
      if (at !== 0) held += 1;
    }
  expect(held).toBeGreaterThan(least);
});

test('the parts of the lines that a row of the cash flow leads to come to that row', async () => {
  const { rows } = await statement('cashflow');
  const parts = rows.filter((r) => r.kind === 'account').slice(0, 12);
  expect(parts.length).toBeGreaterThan(8);
  for (const row of parts) {
    const scope = scopeOf('', row.refine ?? {});
    scope.set('part', 'allotted');
    scope.set('limit', '1000');
    let sum = 0;
    let total: string | null | undefined;
    for (let after: string | null = ''; after !== null; ) {
      if (after) scope.set('after', after);
      const page: Awaited<ReturnType<typeof readLines>> = await readLines(
        fresh.ctx,
        fresh.owner,
        readQuery(linesShape, scope),
      );
      sum = page.rows.reduce((all, line) => all + minor(line.part), sum);
      total = page.part;
      after = page.next;
    }
    expect([row.label, sum, minor(total)]).toEqual([row.label, minor(row.values.window), minor(row.values.window)]);
  }
});

test('companies side by side add up to the group, with their dealings or without them', async () => {
  for (const more of ['', '&eliminated=yes']) {
    const { rows } = await statement('income', `&entity=STL&across=entity${more}`);
    const sums = rows.map(({ key, values }) => {
      const { window, ...companies } = values;
      return [key, minor(window), Object.values(companies).reduce((sum, value) => sum + minor(value), 0)];
    });
    expect(sums.map(([key, , together]) => [key, together])).toEqual(sums.map(([key, whole]) => [key, whole]));
  }
  await expect(statement('income', '&entity=STL&eliminated=yes&across=dim:costcentre')).rejects.toThrow(
    'companies stand side by side, nothing else',
  );
});

test('a part is asked of what it is a part of', async () => {
  const ask = (query: string) =>
    readTotals(fresh.ctx, fresh.owner, readQuery(totalsShape, new URLSearchParams(`${BOOKS}&${query}`)));
  await expect(ask('part=allotted')).rejects.toThrow('lines are allotted to accounts on the other side; name some');
  await expect(ask('part=tax')).rejects.toThrow('the tax is of lines with a tax code; name one');
});
