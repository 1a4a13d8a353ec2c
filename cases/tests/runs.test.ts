import { rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { newFindingSchema, newProposedSchema } from '@/contracts/bodies/all';
import { hitsShape } from '@/contracts/questions';
import { readQuery } from '@/contracts/scope';
import { TEST_CODES, type TestCode } from '@/core/tests/list';
import { demoInstallation, demoPerson, type Fresh, freshInstallation } from '@/ops/fresh';
import { readJob } from '@/store/jobs';
import type { Viewer } from '../asking/viewer';
import { addEntity } from '../charts/entities';
import { desk } from '../desk/desk';
import { writeFinding } from '../evidence/findings';
import { pin } from '../evidence/pins';
import { cancelJob } from '../jobs/jobs';
import { runJob, runJobsHere } from '../jobs/runJob';
import { loadFile } from '../loads/loading/runLoads';
import { propose } from '../proposals/propose';
import { restsOn } from '../proposals/restsOn';
import { askScheduledTests, beginningOf } from './byThemselves';
import { comparedRuns, judgeHit, readGroups, readHits } from './hits';
import { ignoreAlike, ignoreNoLonger } from './ignored';
import { beginRun, listRuns, removeRun, showRun } from './runs';
import { setByThemselves } from './tests';

const asked = (query = '') => readQuery(hitsShape, new URLSearchParams(query));
const wanted = (scope: string, tests?: string[]) => ({ scope, address: '', thread: null, ...(tests ? { tests } : {}) });

describe('the demo world', () => {
  let fresh: Fresh;
  let tomas: Viewer;
  let run: number;
  beforeAll(async () => {
    fresh = await demoInstallation();
    tomas = await demoPerson(fresh, 'tomas');
    const scope = 'entity=KSF&entity=STL&entity=NHS&window=everything&in=GBP';
    run = (await beginRun(fresh.ctx, tomas, wanted(scope))).id;
    await runJobsHere(fresh.ctx);
  });
  afterAll(() => fresh?.close());

  test('all of it is looked at, of each company in its own currency, as the trial balance has it', async () => {
    const shown = await showRun(fresh.ctx, tomas, run);
    expect(shown).toMatchObject({ state: 'done', title: 'All tests', byItself: false });
    expect(shown.population.map((p) => [p.entity, p.currency, p.tie])).toEqual([
      ['KSF', 'GBP', true],
      ['STL', 'GBP', true],
      ['NHS', 'NOK', true],
    ]);
    for (const p of shown.population) expect(p.debit).toBe(p.credit);
    expect(shown.results.map((r) => r.code)).toEqual(TEST_CODES);
    expect(shown.results.filter((r) => r.notLookedAt !== null)).toEqual([]);
  });

  // Where each planted story stands among the hits of a test, the most unusual first, with the settings that the ledger
  // itself proposes. Not of them: 2, 4, 10, 12, 13 and 17 are of figures, members and papers, which no test here looks at.
  const STORIES: [story: number, test: TestCode, what: RegExp, rank: number][] = [
    [1, 'twice', /NS-20631 and NS-2063I/, 1],
    [3, 'wrong-side', /^1410 Insurance prepaid/, 1],
    [5, 'suspense', /^2990 /, 4],
    [6, 'rare-person', /rquill/, 2],
    [6, 'reversed-soon', /rquill/, 1],
    [7, 'dated-ahead', /11 Jun 2027/, 1],
    [7, 'outside-period', /11 Jun 2027/, 1],
    [7, 'out-of-order', /PI-KSF-02539/, 3],
    [8, 'missing-month', /Harbour dues|Berthing dues/, 1],
    [9, 'not-reversed', /Winter lay-up/, 1],
    [11, 'gaps', /FI-00871/, 12],
    [14, 'changed-lines', /taken away/, 1],
    [15, 'dormant', /^2992 /, 12],
    [16, 'parties-alike', /Sound Hydraulic Services/, 1],
  ];
  test.each(STORIES)('story %i is found by “%s”', async (_story, code, what, rank) => {
    const { hits } = await readHits(fresh.ctx, tomas, run, asked(`test=${code}&limit=1000`));
    const order = [...hits].sort((a, b) => b.score - a.score);
    const at = order.findIndex((h) => what.test(h.reason));
    expect([code, at + 1, at >= 0 && at < rank]).toEqual([code, at + 1, true]);
  });

  test('an entry that several tests hit comes first, with all of its reasons; each hit leads to its lines', async () => {
    const { hits, next } = await readHits(fresh.ctx, tomas, run, asked('limit=50'));
    const [first] = hits;
    expect(first).toMatchObject({ entity: 'KSF', entry: 'JE-KSF-90606', subject: 'entry:KSF/JE-KSF-90606' });
    expect(first?.others.length).toBeGreaterThanOrEqual(4);
    expect(first?.address).toMatch(/^\/lines\?entity=KSF.*step=/);
    expect(next).toBe(50);
    for (const h of hits) expect(h.score).toBeCloseTo(h.parts.rarity + h.parts.size + h.parts.degree, 6);
    const { rows } = await readGroups(fresh.ctx, tomas, run, asked('by=entry&limit=5'));
    expect(rows[0]).toMatchObject({ key: 'JE-KSF-90606', entity: 'KSF' });
    const own = await readHits(fresh.ctx, tomas, run, asked('by=entry&key=KSF/JE-KSF-90606'));
    expect(own.hits.length).toBe(rows[0]?.hits);
  });

  test('what tests found and people kept about an entry stands with what is proposed for it', async () => {
    const subject = 'entry:KSF/JE-KSF-90606';
    const about = { subject, address: '', label: 'the Saturday entry', thread: null };
    await pin(fresh.ctx, tomas, { ...about, measure: 'movement' });
    const finding = newFindingSchema.parse({ title: 'Posted on a Saturday', kind: 'control', subjects: [subject] });
    const { id } = await writeFinding(fresh.ctx, tomas, finding);
    const made = await propose(
      fresh.ctx,
      tomas,
      newProposedSchema.parse({
        ...{ entity: 'KSF', date: '2026-08-31', kind: 'factual', reason: 'It has no document.' },
        links: ['line:KSF/JE-KSF-90606/1'],
        lines: [
          { account: '4410', amount: '250000.00' },
          { account: '1311', amount: '-250000.00' },
        ],
      }),
    );
    const { rows } = await restsOn(fresh.ctx, tomas, made.id);
    expect(rows.filter((r) => r.is !== 'hit')).toEqual([
      { is: 'pin', label: 'the Saturday entry', by: 'Tomas Ek', address: expect.stringContaining('JE-KSF-90606') },
      { is: 'finding', label: 'Posted on a Saturday', by: 'Tomas Ek', address: `/findings/${id}` },
    ]);
    const own = await readHits(fresh.ctx, tomas, run, asked('by=entry&key=KSF/JE-KSF-90606&limit=1000'));
    const hits = rows.flatMap((r) => (r.is === 'hit' ? [r.label] : []));
    expect(hits).toEqual(expect.arrayContaining(own.hits.map((h) => h.reason)));
    expect(hits.length).toBeGreaterThanOrEqual(4);
    const col = await demoPerson(fresh, 'col');
    await expect(restsOn(fresh.ctx, col, made.id)).rejects.toMatchObject({ status: 404 });
  });

  test('hits that are like one are ignored in every run, until that is taken back', async () => {
    const of = async (state: string) =>
      (await readHits(fresh.ctx, tomas, run, asked(`test=reversed-soon&state=${state}&limit=1000`))).hits;
    const open = await of('open');
    const [hit] = open;
    const ownJournal = open.filter((h) => h.entity === hit?.entity && h.journal === hit.journal).length;
    expect(ownJournal).toBeGreaterThan(0);
    const { rows } = await ignoreAlike(fresh.ctx, tomas, {
      ...{ run, key: hit?.key as string, alike: ['journal'], why: 'each month end' },
    });
    expect(rows[0]).toMatchObject({ alike: [{ word: 'journal', value: hit?.journal }], revoked: null });
    expect((await of('open')).length).toBe(open.length - ownJournal);
    expect((await of('ignored')).length).toBe(ownJournal);
    await ignoreNoLonger(fresh.ctx, tomas, rows[0]?.id as number);
    expect((await of('open')).length).toBe(open.length);
  });

  test('a reader of two cost centres runs none and sees none; settings that make no sense are refused by name', async () => {
    const col = await demoPerson(fresh, 'col');
    await expect(beginRun(fresh.ctx, col, wanted('entity=KSF'))).rejects.toMatchObject({ status: 403 });
    expect((await listRuns(fresh.ctx, col, { limit: 100 })).rows).toEqual([]);
    await expect(showRun(fresh.ctx, col, run)).rejects.toMatchObject({ status: 404 });
    await expect(readHits(fresh.ctx, col, run, asked())).rejects.toMatchObject({ status: 404 });
    const refused = (parameters: object) =>
      beginRun(fresh.ctx, tomas, { ...wanted('entity=KSF'), parameters } as never).catch(
        (e: { errors: unknown }) => e.errors,
      );
    expect(await refused({ large: { from: 'much' } })).toMatchObject([{ path: 'parameters.large.from' }]);
    expect(await refused({ twice: { days: 4_000 } })).toMatchObject([{ path: 'parameters.twice.days' }]);
    expect(await refused({ twice: { weeks: 2 } })).toMatchObject([{ path: 'parameters.twice.weeks' }]);
    await expect(beginRun(fresh.ctx, tomas, wanted('entity=KSF', ['luck']))).rejects.toMatchObject({ status: 422 });
  });

  test('of a part of entries, and of days, some tests say that they do not look', async () => {
    const { id } = await beginRun(
      fresh.ctx,
      tomas,
      wanted('entity=KSF&from=2026-07-03&to=2026-09-20&accounts=6*', ['unbalanced', 'changed', 'round']),
    );
    await runJobsHere(fresh.ctx);
    const { results, population } = await showRun(fresh.ctx, tomas, id);
    expect(results.map((r) => [r.code, r.notLookedAt?.slice(0, 24) ?? null])).toEqual([
      ['unbalanced', 'it looks at whole entrie'],
      ['changed', 'it holds whole periods a'],
      ['round', null],
    ]);
    expect(population[0]?.tie).toBe(true);
    await removeRun(fresh.ctx, tomas, id);
    await expect(showRun(fresh.ctx, tomas, id)).rejects.toMatchObject({ status: 404 });
    await expect(readHits(fresh.ctx, tomas, id, asked())).rejects.toMatchObject({ status: 404 });
  });

  test('a run that is asked to stop stops, and leaves nothing; one that was begun is done whole by whoever takes it up', async () => {
    const { id } = await beginRun(fresh.ctx, tomas, wanted('entity=KSF', ['round']));
    const job = (await showRun(fresh.ctx, tomas, id)).job as number;
    await cancelJob(fresh.ctx, tomas, job);
    await runJob(fresh.ctx, job);
    expect((await readJob(fresh.ctx.work, job))?.state).toBe('cancelled');
    expect(await showRun(fresh.ctx, tomas, id)).toMatchObject({ state: 'cancelled', results: [], population: [] });
  });
});

describe('a judgement', () => {
  let fresh: Fresh;
  beforeAll(async () => {
    fresh = await freshInstallation();
    const calendar = { kind: 'monthly', start: '01', adjustmentPeriods: 1 } as const;
    await addEntity(fresh.ctx, fresh.owner, {
      ...{ code: 'ONE', name: 'One', currency: 'GBP', calendar, yearEnd: 'derived', retainedEarnings: '300' },
    });
    await load('chart', 'accounts', ['code,name,type', '100,Bank,asset', '300,Retained,equity', '400,Sales,income']);
    await load('march', 'lines', march('first'));
  });
  afterAll(() => fresh?.close());

  const march = (said: string): string[] => [
    'entity,entry,line,date,account,amount,description,posted_by',
    ...['A', 'B', 'C'].flatMap((e, i) => [
      `ONE,${e},1,2026-03-0${i + 2},100,${5_000 + i},${e === 'B' ? said : 'rent'},ann`,
      `ONE,${e},2,2026-03-0${i + 2},400,-${5_000 + i},${e === 'B' ? said : 'rent'},ann`,
    ]),
  ];
  async function load(name: string, kind: 'lines' | 'accounts', rows: string[], more = {}): Promise<void> {
    const path = join(fresh.env.JUST_THREAD_HOME as string, `${name}.csv`);
    writeFileSync(path, `${rows.join('\n')}\n`);
    const done = await loadFile(fresh.ctx, fresh.owner, path, { kind, format: 'csv', entity: 'ONE', ...more });
    expect(done.problems).toEqual([]);
    rmSync(path);
  }
  const large = async (): Promise<number> => {
    const { id } = await beginRun(fresh.ctx, fresh.owner, {
      ...wanted('entity=ONE&window=everything', ['large']),
      parameters: { large: { from: '100.00' } },
    });
    await runJobsHere(fresh.ctx);
    return id;
  };
  const judged = async (run: number) =>
    Object.fromEntries(
      (await readHits(fresh.ctx, fresh.owner, run, asked())).hits.map((h) => [h.entry, h.judgement?.judgement ?? null]),
    );

  test('stays said in later runs until a line behind it changes; runs are held against each other', async () => {
    const first = await large();
    const { hits } = await readHits(fresh.ctx, fresh.owner, first, asked());
    const keyOf = (entry: string): string => hits.find((h) => h.entry === entry)?.key as string;
    expect(hits.map((h) => h.entry).sort()).toEqual(['A', 'B', 'C']);
    for (const [entry, judgement] of [
      ['A', 'explained'],
      ['B', 'explained'],
      ['C', 'finding'],
    ] as const)
      await judgeHit(fresh.ctx, fresh.owner, { run: first, key: keyOf(entry) }, { judgement, note: 'as agreed' });
    expect(await judged(first)).toEqual({ A: 'explained', B: 'explained', C: 'finding' });
    // The same again: nothing is new, and all stays said.
    const second = await large();
    expect(await judged(second)).toEqual({ A: 'explained', B: 'explained', C: 'finding' });
    expect((await comparedRuns(fresh.ctx, fresh.owner, second, first)).rows).toEqual([]);
    // A line of B says something else, C is gone, D is new.
    const restated = [
      ...march('second').filter((row) => !row.startsWith('ONE,C')),
      'ONE,D,1,2026-03-09,100,700,x,ann',
      'ONE,D,2,2026-03-09,400,-700,x,ann',
    ];
    await load('restated', 'lines', restated, { replaces: '2026.03' });
    await runJobsHere(fresh.ctx);
    const third = await large();
    expect(await judged(third)).toEqual({ A: 'explained', B: null, D: null });
    const { rows } = await comparedRuns(fresh.ctx, fresh.owner, third, second);
    expect(Object.fromEntries(rows.map((r) => [r.hit.entry, r.change]))).toEqual({ B: 'changed', C: 'gone', D: 'new' });
    // What was said is opened again.
    await judgeHit(fresh.ctx, fresh.owner, { run: third, key: keyOf('A') }, { judgement: 'open', note: '' });
    expect(
      (await readHits(fresh.ctx, fresh.owner, third, asked('state=open'))).hits.map((h) => h.entry).sort(),
    ).toEqual(['A', 'B', 'D']);
  });

  test('a set of tests runs by itself after each load, and whoever set it is told of what is new', async () => {
    await setByThemselves(fresh.ctx, fresh.owner, {
      ...{ tests: ['large', 'twice'], scope: 'entity=ONE&window=everything', when: 'load' },
    });
    for (const [i, day] of ['11', '12'].entries()) {
      const rows = [`ONE,N${i},1,2026-04-${day},100,90000,x,bo`, `ONE,N${i},2,2026-04-${day},400,-90000,x,bo`];
      await load(`april-${i}`, 'lines', ['entity,entry,line,date,account,amount,description,posted_by', ...rows]);
      await runJobsHere(fresh.ctx);
    }
    const own = (await listRuns(fresh.ctx, fresh.owner, { limit: 100 })).rows.filter((r) => r.byItself);
    expect(own.map((r) => [r.state, r.tests])).toEqual([
      ['done', ['large', 'twice']],
      ['done', ['large', 'twice']],
    ]);
    const { moved } = await desk(fresh.ctx, fresh.owner);
    expect(moved.filter((m) => m.kind === 'tests').map((m) => m.says)).toEqual(['tests: 1 new hit after load 5']);
    await setByThemselves(fresh.ctx, fresh.owner, null);
    expect((await listRuns(fresh.ctx, fresh.owner, { limit: 100 })).rows.length).toBe(5);
  });

  test('where nobody said anything a first look is made of what each load brought, and the one before last goes', async () => {
    await setByThemselves(fresh.ctx, fresh.owner, { firstLook: true });
    const looks = async () =>
      (await listRuns(fresh.ctx, fresh.owner, { limit: 100 })).rows.filter((r) => r.title.startsWith('First look'));
    for (const day of ['21', '22', '23']) {
      const rows = [`ONE,L${day},1,2026-05-${day},100,1200,x,bo`, `ONE,L${day},2,2026-05-${day},400,-1200,x,bo`];
      await load(`may-${day}`, 'lines', ['entity,entry,line,date,account,amount,description,posted_by', ...rows]);
      await runJobsHere(fresh.ctx);
    }
    const [newest, before, ...others] = await looks();
    expect(others).toEqual([]);
    expect(newest).toMatchObject({ state: 'done', tests: TEST_CODES, byItself: true });
    expect(newest?.load).toBeGreaterThan(before?.load as number);
    expect(newest?.title).toBe(`First look after load ${newest?.load}`);
  });

  test('tests of each week run once in it', async () => {
    await setByThemselves(fresh.ctx, fresh.owner, {
      ...{ tests: ['large'], scope: 'entity=ONE&window=everything', when: 'week' },
    });
    const weekly = async () =>
      (await listRuns(fresh.ctx, fresh.owner, { limit: 100 })).rows.filter((r) => r.title === 'Tests of the week');
    const next = new Date(Date.now() + 8 * 86_400_000);
    // This week has had a look already.
    await askScheduledTests(fresh.ctx);
    await runJobsHere(fresh.ctx);
    expect(await weekly()).toEqual([]);
    await askScheduledTests(fresh.ctx, next);
    await runJobsHere(fresh.ctx);
    expect(await weekly()).toMatchObject([{ state: 'done', tests: ['large'], byItself: true }]);
    expect(beginningOf('week', new Date('2026-11-29T23:00:00Z')).toISOString()).toBe('2026-11-23T00:00:00.000Z');
    expect(beginningOf('month', new Date('2026-11-29T23:00:00Z')).toISOString()).toBe('2026-11-01T00:00:00.000Z');
    await setByThemselves(fresh.ctx, fresh.owner, null);
  });
});
