import fc from 'fast-check';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { searchShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { demoInstallation, demoPerson, type Fresh } from '@/ops/fresh';
import { rowsOf } from '@/store/db';
import { known } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { search } from './search';

// What is found in the demo world equals what a look through everything finds that the viewer may see. The look through
// is written apart from the search: it knows neither its index nor its way of reading words.

let fresh: Fresh;
let viewers: Viewer[];

interface Line {
  entity: string;
  entry: string;
  line: number;
  texts: string[];
  number: string;
  document: string | null;
  account: string;
  cost: string | null;
  amount: number;
  /** Its texts, and the number of its entry, in plain letters, put together once. */
  plain: string[];
  plainNumber: string;
}
let lines: Line[];
let costs: Map<string, string | null>;

beforeAll(async () => {
  fresh = await demoInstallation();
  const as = (who: string): Promise<Viewer> => demoPerson(fresh, who);
  viewers = [
    fresh.owner,
    await as('col'),
    { ...fresh.owner, role: 'preparer', entities: ['STL'] },
    { ...fresh.owner, role: 'reader', entities: ['KSF'], accounts: '6000 to 6999' },
  ];
  const { catalogue } = await known(fresh.ctx.read);
  const { slot } = catalogue.dimensions.get('costcentre') as { slot: number };
  lines = await rowsOf<Line>(
    fresh.ctx.work,
    `select n.code as entity, e.number as entry, l.line_no as line, array_remove(array[l.description, e.description, e.number, l.document], null) as texts,
       e.number, l.document, a.code as account, m.code as cost, abs(l.amount) as amount
     from line l join entry e on e.id = l.entry join entity n on n.id = l.entity join account a on a.id = l.account
     left join member m on m.id = l.d${slot} where l.replaced_by = 2147483647`,
  );
  for (const line of lines) {
    line.plain = line.texts.map(plain);
    line.plainNumber = plain(line.number);
  }
  costs = new Map([...(catalogue.trees.get('costcentre') ?? new Map()).values()].map((m) => [m.code, m.parent]));
}, 120_000);
afterAll(() => fresh?.close());

const PLAIN: Record<string, string> = { ø: 'o', æ: 'ae', ß: 'ss', å: 'a' };
const plain = (text: string): string =>
  [...text.toLowerCase().normalize('NFC')].map((c) => PLAIN[c] ?? c.normalize('NFD').replace(/\p{M}/gu, '')).join('');
/** Whether a text has a word, both in plain letters. */
const has = (text: string, word: string): boolean =>
  word.length > 1 ? text.includes(word) : text.split(/[^\p{L}\p{N}]+/u).includes(word);

function sees(viewer: Viewer, line: Line): boolean {
  if (viewer.entities && !viewer.entities.includes(line.entity)) return false;
  const granted = viewer.members.costcentre;
  if (granted) {
    let at = line.cost;
    while (at !== null && !granted.includes(at)) at = costs.get(at) ?? null;
    if (at === null) return false;
  }
  return viewer.accounts === null || (line.account >= '6000' && line.account <= '6999');
}

const ask = (viewer: Viewer, q: string, more = '') =>
  search(fresh.ctx, viewer, readQuery(searchShape, new URLSearchParams(`q=${encodeURIComponent(q)}&limit=200${more}`)));

/** Parts of words that the world has, whole words, several of them, numbers, and what it does not have. */
const typed = () => {
  const { length } = lines;
  const part = fc
    .tuple(fc.nat(length - 1), fc.nat(3), fc.nat(30), fc.integer({ min: 1, max: 9 }))
    .map(([at, of, from, many]) => {
      const texts = lines[at]?.texts ?? [];
      const text = (texts[of % texts.length] ?? 'x').replace(/["\s]/g, ' ');
      const word =
        text
          .slice(from % Math.max(1, text.length))
          .split(' ')
          .find(Boolean) ?? 'zz';
      return word.slice(0, many);
    })
    // What reads as a number or a day is tried below.
    .filter((word) => (!/^[<>=\d]/.test(word) && !/^(\d|[a-z]{3,9})/i.test(word) === false) || /[a-z]/i.test(word));
  return fc.array(part, { minLength: 1, maxLength: 2 }).map((words) => words.join(' '));
};

const isWords = (q: string): boolean => q.split(' ').every((w) => !/^[\d<>=]/.test(w));

async function agrees(q: string, viewer: Viewer): Promise<void> {
  const words = q.split(' ').filter(Boolean).map(plain);
  const answer = await ask(viewer, q, '&kind=line&kind=entry&kind=document');
  const wanted = lines.filter((l) => sees(viewer, l) && words.every((w) => l.plain.some((t) => has(t, w))));
  expect({ q, count: answer.counts.line?.count ?? 0 }).toEqual({ q, count: Math.min(1_000, wanted.length) });
  expect(answer.counts.line?.capped ?? false).toBe(wanted.length > 1_000);
  const shown = answer.hits.filter((h) => h.kind === 'line').map((h) => h.subject);
  const all = new Set(wanted.map((l) => `line:${l.entity}/${l.entry}/${l.line}`));
  expect(shown.filter((subject) => !all.has(subject as string))).toEqual([]);
  if (wanted.length <= 200) expect(new Set(shown)).toEqual(all);
  const entries = new Set(
    lines
      .filter((l) => sees(viewer, l) && words.every((w) => has(l.plainNumber, w)))
      .map((l) => `entry:${l.entity}/${l.entry}`),
  );
  expect(answer.counts.entry?.count ?? 0).toBe(Math.min(1_000, entries.size));
  const foreign = answer.hits.filter((hit) => hit.kind === 'entry' && !entries.has(hit.subject as string));
  expect(foreign).toEqual([]);
}

const holds = (): Promise<void> =>
  fc.assert(
    fc.asyncProperty(typed(), fc.nat(3), async (q, who) => {
      fc.pre(isWords(q) && !/\b(19|20|21)\d\d\b/.test(q));
      await agrees(q, viewers[who] as Viewer);
    }),
    { numRuns: 7 },
  );

test(
  'lines and entries found by the database are all that a look through all lines finds, whoever looks',
  holds,
  240_000,
);

test('and by the copies of lines too, with signs at the ends of words', async () => {
  // The same world, with the same people in it.
  await fresh.close();
  fresh = await demoInstallation({ copied: true });
  for (const q of ['F-', '-ksf', 'ki-ksf-']) await agrees(q, fresh.owner);
  // Words that very many texts have, two of them, and with ones that few or no lines have.
  for (const q of [
    'ksf ts',
    'ts- fi-',
    'ksf pi-',
    'ksf pump',
    'pump ksf seals',
    'ksf maren',
    'ts maren',
    'ksf zz',
    'pi- ksf nhs',
  ])
    for (const viewer of viewers) await agrees(q, viewer);
  await holds();
}, 240_000);

test('an amount is found however it is written, over and under it, and with words', async () => {
  const find = async (q: string): Promise<number> => (await ask(fresh.owner, q, '&kind=line')).counts.line?.count ?? 0;
  const are = (fits: (line: Line) => boolean): number => Math.min(1_000, lines.filter(fits).length);
  const exact = are((l) => l.amount === 41_020_000);
  expect(exact).toBeGreaterThan(0);
  for (const q of ['=410200', '410,200.00', '410.200,00'])
    expect({ q, found: await find(q) }).toEqual({ q, found: exact });
  // Amounts are of each company's own books, in its smallest units: all three have two decimals.
  expect(await find('>400000')).toBe(are((l) => l.amount > 40_000_000));
  expect(await find('400000..410200')).toBe(are((l) => l.amount >= 40_000_000 && l.amount <= 41_020_000));
  expect(await find('ksf 410200')).toBe(are((l) => l.amount === 41_020_000 && l.plain.some((t) => has(t, 'ksf'))));
  expect(await find('maren >100000')).toBe(are((l) => l.amount > 10_000_000 && l.plain.some((t) => has(t, 'maren'))));
});

test('a phrase in quotes is found whole, a word in any case, a name without its marks', async () => {
  const exact = await ask(fresh.owner, '"dry-docking"', '&kind=account');
  expect(exact.hits.map((h) => h.label)).toContain('6320 Dry-docking');
  expect((await ask(fresh.owner, '"ry-docking"', '&kind=account')).hits).toEqual([]);
  const [first] = (await ask(fresh.owner, '6320')).hits.filter((h) => h.kind === 'account');
  expect(first?.label).toBe('6320 Dry-docking');
  expect(first?.marks.label).toEqual([[0, 4]]);
});

test('the places, what people wrote, parties, documents and files are found, each with the way to it', async () => {
  const { hits } = await ask(fresh.owner, 'go to trial balance of Sound Terminals, June');
  expect(hits[0]).toMatchObject({ kind: 'page', address: '/trial-balance?entity=STL&from=2027.03&to=2027.03' });
  const kinds = async (q: string): Promise<Set<string>> => new Set((await ask(fresh.owner, q)).hits.map((h) => h.kind));
  expect(await kinds('maren')).toContain('member');
  expect(await kinds('slip')).toContain('party');
  expect(await kinds('fuel')).toContain('statement');
  expect(await kinds('ines')).toContain('person');
  const [known] = await rowsOf<{ number: string }>(
    fresh.ctx.work,
    'select number from document order by number limit 1',
  );
  const [document] = (await ask(fresh.owner, known?.number ?? '', '&kind=document')).hits;
  expect(document?.address).toMatch(`/documents/${known?.number}`);
});

test('who sees a part finds no documents, files, people or parties outside of it', async () => {
  const col = viewers[1] as Viewer;
  for (const q of ['a', 'e', 'invoice', 'ticket', 'ines', 'NHS', '1']) {
    const answer = await ask(col, q);
    for (const kind of ['file', 'person', 'load'] as const) expect(answer.counts[kind]).toBeUndefined();
    for (const hit of answer.hits) expect(hit.entity === null || hit.entity === 'KSF').toBe(true);
  }
  await expect(ask(col, 'a', '&entity=STL')).rejects.toThrow(/STL/);
});
