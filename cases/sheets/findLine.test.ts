import { afterAll, beforeAll, expect, test } from 'vitest';
import { findLineShape, linesShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { findLine } from './findLine';
import { readLines } from './readLines';

// Whatever is found in a ledger is what a look through all of its lines finds, forwards and backwards, from any row; with
// the copies by columns and without them.

let fresh: Fresh;
beforeAll(async () => {
  fresh = await demoInstallation();
});
afterAll(() => fresh?.close());

const find = (scope: string, text: string, more = '') =>
  findLine(
    fresh.ctx,
    fresh.owner,
    readQuery(findLineShape, new URLSearchParams(`${scope}&find=${encodeURIComponent(text)}${more}`)),
  );

async function allLines(scope: string) {
  const rows: Awaited<ReturnType<typeof readLines>>['rows'] = [];
  for (let after: string | null = ''; after !== null; ) {
    const query = new URLSearchParams(`${scope}&limit=1000${after ? `&after=${after}` : ''}`);
    const page = await readLines(fresh.ctx, fresh.owner, readQuery(linesShape, query));
    rows.push(...page.rows);
    after = page.next;
  }
  return rows;
}

const SCOPES = [
  'entity=KSF&accounts=6310&window=everything',
  'entity=KSF&entity=STL&accounts=15*,2110&from=2026-04-10&to=2026-09-17',
];

test.each(['from the database', 'from the copies'])('every line that fits is found in its row, %s', async (from) => {
  if (from === 'from the copies') {
    await fresh.close();
    fresh = await demoInstallation({ copied: true });
  }
  // Without copies of the larger one alone: it takes longer.
  for (const scope of from === 'from the copies' ? SCOPES : SCOPES.slice(1)) {
    const lines = await allLines(scope);
    expect(lines.length).toBeGreaterThan(500);
    for (const text of ['bearing', 'RECEIVED from s']) {
      const fits = lines.flatMap((l, i) =>
        `${l.description}\u0001${l.entryDescription}`.toLowerCase().includes(text.toLowerCase()) ? [i] : [],
      );
      const rows = [undefined, lines.length >> 1, lines.length - 1, ...fits.slice(1, 2)];
      for (const at of rows)
        for (const way of ['next', 'previous'] as const) {
          const row =
            fits.length === 0
              ? null
              : way === 'next'
                ? (fits.find((i) => at === undefined || i > at) ?? fits[0])
                : (fits.findLast((i) => at !== undefined && i < at) ?? fits.at(-1));
          expect([text, at, way, await find(scope, text, `${at === undefined ? '' : `&at=${at}`}&way=${way}`)]).toEqual(
            [
              text,
              at,
              way,
              row == null
                ? { at: null, number: null, of: 0 }
                : { at: row, number: fits.indexOf(row) + 1, of: fits.length },
            ],
          );
        }
    }
  }
});

test('what no description has is looked for in the numbers of entries, and then of documents', async () => {
  const [scope = ''] = SCOPES;
  const lines = await allLines(scope);
  const [entry, document] = [
    lines.findIndex((l) => l.entry === 'PI-KSF-90307'),
    lines.findIndex((l) => l.document === 'HMW-5518'),
  ];
  expect(entry).toBeGreaterThan(0);
  expect(await find(scope, 'pi-ksf-90307')).toEqual({ at: entry, number: 1, of: 1 });
  expect(await find(scope, 'HMW-5518')).toEqual({ at: document, number: 1, of: 1 });
  expect(await find(scope, 'no line says this')).toEqual({ at: null, number: null, of: 0 });
});
