import { buffer } from 'node:stream/consumers';
import ExcelJS from 'exceljs';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { demoInstallation, demoPerson, type Fresh, loadText } from '@/ops/fresh';
import { unsentLetters } from '@/store/mail';
import type { Viewer } from '../asking/viewer';
import { runJobsHere } from '../jobs/runJob';
import { checkRecord } from '../upkeep/readRecord';
import { embedded, endEmbedded, makeEmbed, setEmbedOrigins, showEmbeds } from './embeds';
import { askExport, exportFile, showExport, showExports } from './exports';
import { freeze, showFrozen, showFrozenList } from './frozen';
import { keepOverview, overviewFile } from './overviews';
import { keepPack, packCopyFile, showCopies } from './packs';
import { panelOf } from './panel';
import { dropPaperTemplate, keepPaperTemplate, showPaperTemplates } from './paperTemplates';
import { dropReport, keepReport, reportChanged, seenReport, showReports } from './reports';
import { askSchedules, keepSchedule, runNow, showRuns, showSchedules } from './schedules';

let home: Fresh;
let ines: Viewer;
let tomas: Viewer;
let col: Viewer;
beforeAll(async () => {
  home = await demoInstallation();
  [ines, tomas, col] = (await Promise.all(['ines', 'tomas', 'col'].map((who) => demoPerson(home, who)))) as [
    Viewer,
    Viewer,
    Viewer,
  ];
});
afterAll(() => home?.close());

const EXPENSES = '/sheets?entity=KSF&from=2027.06&to=2027.06&accounts=type expense&by=account';
const report = {
  ...{ folder: 'Month end', path: EXPENSES, page: '/lines?entity=KSF', format: 'csv' as const, how: {}, shared: true },
};
const schedule = {
  ...{ pack: null, report: null, parts: [], formats: ['csv' as const], every: 'daily' as const, day: null, days: [] },
  ...{ time: '07:00', zone: 'UTC', condition: null, paused: false },
};
const letters = () => unsentLetters(home.ctx.write, 100);
const textOf = async (stream: AsyncIterable<Buffer | string>): Promise<string> => {
  let text = '';
  for await (const chunk of stream) text += chunk.toString();
  return text;
};
/** A load that changes one expense account. */
const booked = (n: number, amount: string): Promise<unknown> =>
  loadText(
    home,
    [
      'entry,line,date,account,debit,credit,description',
      `LV-${n},1,2026-09-30,8512,${amount},,Late rates`,
      `LV-${n},2,2026-09-30,8510,,${amount},Late rates`,
    ].join('\n'),
    { kind: 'lines', entity: 'KSF' },
  );

test('a file that is made at length is kept for whoever asked, and for nobody else', async () => {
  const { id } = await askExport(home.ctx, ines, { path: EXPENSES, format: 'csv', heading: 'without' });
  await expect(exportFile(home.ctx, ines, id)).rejects.toThrow('not made yet');
  await runJobsHere(home.ctx);
  const made = await showExport(home.ctx, ines, id);
  expect(made).toMatchObject({ state: 'done', format: 'csv' });
  expect(await textOf((await exportFile(home.ctx, ines, id)).stream)).toContain('8218,Travel');
  await expect(showExport(home.ctx, tomas, id)).rejects.toThrow(`Export ${id}`);
  expect((await showExports(home.ctx, tomas)).rows).toEqual([]);
  await expect(askExport(home.ctx, col, { path: '/lines?entity=NHS', format: 'csv' })).rejects.toThrow();
});

describe('reports', () => {
  test('are changed by whoever made them, each shape kept, and come back when they were taken away', async () => {
    const kept = await keepReport(home.ctx, tomas, { ...report, name: 'Expenses' });
    await expect(keepReport(home.ctx, tomas, { ...report, name: 'Expenses' })).rejects.toThrow('taken');
    await expect(reportChanged(home.ctx, ines, kept.id, { name: 'Mine' })).rejects.toThrow('Only Tomas Ek');
    const wider = EXPENSES.replace('2027.06&to', '2027.05&to');
    const changed = await reportChanged(home.ctx, tomas, kept.id, { path: wider });
    expect(changed).toMatchObject({ version: 2, path: wider });
    expect(changed.versions.map((v) => v.path)).toEqual([wider, EXPENSES]);
    await dropReport(home.ctx, tomas, kept.id);
    expect((await showReports(home.ctx, tomas)).rows.map((r) => r.id)).not.toContain(kept.id);
    expect(await reportChanged(home.ctx, tomas, kept.id, { restored: true })).toMatchObject({ name: 'Expenses' });
  });
});

describe('a pack', () => {
  test('has a copy for each cost centre with anything booked on it, each of that one alone', async () => {
    const path = '/sheets?entity=KSF&from=2027.06&to=2027.06&accounts=type expense&by=account';
    const costs = await keepReport(home.ctx, ines, { ...report, name: 'Costs of a centre', path, format: 'pdf' });
    const pack = await keepPack(home.ctx, ines, {
      ...{ name: 'Centres', reports: [costs.id], words: null, units: 'dim:costcentre', scope: {}, shared: true },
    });
    const { rows } = await showCopies(home.ctx, ines, pack.id);
    expect(rows.length).toBeGreaterThan(3);
    expect(rows.every((r) => r.put['dim.costcentre']?.length === 1)).toBe(true);
    // A restricted reader has copies of what is theirs to see, and no others.
    const his = await showCopies(home.ctx, col, pack.id);
    const granted = col.members.costcentre ?? [];
    expect(granted.length).toBeGreaterThan(0);
    expect(his.rows.map((r) => r.put['dim.costcentre']?.[0])).toEqual(
      rows.map((r) => r.put['dim.costcentre']?.[0]).filter((centre) => granted.includes(centre as string)),
    );
    const { stream, fileName } = await packCopyFile(home.ctx, ines, pack.id, { format: 'pdf', copy: 0, dims: {} });
    expect((await textOf(stream)).slice(0, 5)).toBe('%PDF-');
    expect(fileName).toMatch(/^centres-.*\.pdf$/);
  });
});

describe('schedules', () => {
  test('make once what was missed, for each receiver as they may see it, and send it', async () => {
    const kept = await keepReport(home.ctx, ines, { ...report, name: 'Daily expenses' });
    const { id } = await keepSchedule(home.ctx, ines, {
      ...{ ...schedule, name: 'Every morning', report: kept.id, receivers: [tomas.id, col.id] },
    });
    const before = (await letters()).length;
    // Three mornings were missed while nobody was there.
    const later = new Date(Date.now() + 3.5 * 24 * 3_600_000);
    await askSchedules(home.ctx, later);
    await askSchedules(home.ctx, later);
    await runJobsHere(home.ctx);
    const { rows } = await showRuns(home.ctx, ines, id);
    expect(rows).toHaveLength(1);
    expect(rows[0]).toMatchObject({ state: 'done', reason: '' });
    const sent = (await letters()).slice(before);
    expect(sent.map((l) => l.receiver).sort()).toEqual(['col@kestrel.example', 'tomas@kestrel.example']);
    expect(sent.every((l) => l.files?.length === 1)).toBe(true);
    const ofEach = await Promise.all(
      [tomas, col].map(async (viewer) => {
        const [file] = (await showExports(home.ctx, viewer)).rows;
        return textOf((await exportFile(home.ctx, viewer, file?.id ?? 0)).stream);
      }),
    );
    // Col sees the lines of his cost centres, Tomas all: each has the sheet of their own question.
    expect(ofEach[0]).not.toBe(ofEach[1]);
    expect(ofEach[1]).toContain('cost centre Deck or');
    const again = await showSchedules(home.ctx, ines);
    expect(new Date(again.rows.find((r) => r.id === id)?.nextAt ?? 0).getTime()).toBeGreaterThan(later.getTime());
    // A receiver is told of what they receive, and not who else does.
    const [his] = (await showRuns(home.ctx, col, id)).rows;
    expect(his?.outputs.map((o) => o.name)).toEqual([col.name]);
  });

  test('send of a pack the reports that are chosen', async () => {
    const [one, other] = await Promise.all(
      ['first', 'second'].map((n) => keepReport(home.ctx, ines, { ...report, name: `Of a pack, ${n}` })),
    );
    const [a, b] = [one?.id ?? 0, other?.id ?? 0];
    const pack = await keepPack(home.ctx, ines, {
      ...{ name: 'Two of them', words: null, units: null, scope: {}, shared: true, reports: [a, b] },
    });
    const wanted = { ...schedule, name: 'A part', pack: pack.id, formats: ['xlsx' as const], receivers: [ines.id] };
    await expect(keepSchedule(home.ctx, ines, { ...wanted, parts: [b + 1] })).rejects.toMatchObject({ status: 422 });
    const { id } = await keepSchedule(home.ctx, ines, { ...wanted, parts: [b] });
    await runNow(home.ctx, ines, id);
    await runJobsHere(home.ctx);
    const [file] = (await showExports(home.ctx, ines)).rows;
    const book = new ExcelJS.Workbook();
    await book.xlsx.load((await buffer((await exportFile(home.ctx, ines, file?.id ?? 0)).stream)) as never);
    expect(book.worksheets).toHaveLength(1);
  });

  test('fail for whom there is nothing to see, and say so to whoever set them', async () => {
    const others = await keepReport(home.ctx, ines, {
      ...{ ...report, name: 'Of another company', path: '/trial-balance?entity=NHS', shared: true },
    });
    const { id } = await keepSchedule(home.ctx, ines, {
      ...{ ...schedule, name: 'To a reader of one company', report: others.id, receivers: [col.id] },
    });
    const before = (await letters()).length;
    await runNow(home.ctx, ines, id);
    await runJobsHere(home.ctx);
    expect((await showRuns(home.ctx, ines, id)).rows[0]).toMatchObject({ state: 'failed' });
    const sent = (await letters()).slice(before);
    expect(sent.map((l) => [l.receiver, l.files?.length])).toEqual([['ines@kestrel.example', 0]]);
  });

  test('look at each load once, and at a condition when it comes true', async () => {
    const kept = await keepReport(home.ctx, ines, { ...report, name: 'On loads' });
    const onLoad = await keepSchedule(home.ctx, ines, {
      ...{ ...schedule, name: 'Each load', report: kept.id, receivers: [ines.id], every: 'load' },
    });
    const scope = 'entity=KSF&from=2027.06&to=2027.06&accounts=8512';
    const now = 5_000;
    const onTravel = await keepSchedule(home.ctx, ines, {
      ...{ ...schedule, name: 'Rates', report: kept.id, receivers: [ines.id], every: 'condition' },
      condition: { scope, measure: 'movement', is: 'above', amount: String(now) },
    });
    const runs = async (id: number): Promise<number> => (await showRuns(home.ctx, ines, id)).rows.length;
    await askSchedules(home.ctx);
    expect([await runs(onLoad.id), await runs(onTravel.id)]).toEqual([0, 0]);
    await booked(1, '10.00');
    await askSchedules(home.ctx);
    await askSchedules(home.ctx);
    expect([await runs(onLoad.id), await runs(onTravel.id)]).toEqual([1, 0]);
    await booked(2, '6000.00');
    await askSchedules(home.ctx);
    expect([await runs(onLoad.id), await runs(onTravel.id)]).toEqual([2, 1]);
    // It is true already: nothing came true.
    await booked(3, '1.00');
    await askSchedules(home.ctx);
    expect([await runs(onLoad.id), await runs(onTravel.id)]).toEqual([3, 1]);
    await runJobsHere(home.ctx);
  });
});

test('a frozen copy says what it said, what moved since, and is for whoever may ask the same', async () => {
  const { id, digest } = await freeze(home.ctx, ines, { path: EXPENSES });
  const was = await showFrozen(home.ctx, ines, id);
  expect(was.since).toMatchObject({ moved: [], all: 0 });
  await booked(4, '111.00');
  const now = await showFrozen(home.ctx, ines, id);
  expect({ ...now, since: null }).toEqual({ ...was, since: null });
  expect(now.digest).toBe(digest);
  const moved = now.since?.moved.filter((m) => m.column === 'Debit') ?? [];
  expect(moved.map((m) => m.row)).toEqual(['8512 Currency differences']);
  expect(now.since?.load).toBeGreaterThan(was.load);
  // Col would see a part of it.
  await expect(showFrozen(home.ctx, col, id)).rejects.toThrow('This frozen copy');
  expect((await showFrozenList(home.ctx, col)).rows).toEqual([]);
  expect((await showFrozenList(home.ctx, tomas)).rows.map((r) => r.id)).toEqual([id]);
});

test('a frozen list is for whoever sees the books whole: its address does not say as whose it was asked', async () => {
  const { id } = await freeze(home.ctx, ines, { path: '/misstatements?entity=KSF' });
  expect((await showFrozen(home.ctx, tomas, id)).title).toBe('Summary of misstatements');
  await expect(showFrozen(home.ctx, col, id)).rejects.toThrow('This frozen copy');
});

test('a page of panels leaves whole on paper, and is frozen whole with what moved in any of its sheets', async () => {
  const [costs, income] = await Promise.all(
    (['expense', 'income'] as const).map((type) =>
      keepReport(home.ctx, ines, { ...report, name: `All ${type}`, path: EXPENSES.replace('expense', type) }),
    ),
  );
  const panel = { kind: 'table' as const, x: 0, w: 6, h: 4 };
  const page = await keepOverview(home.ctx, ines, {
    ...{ name: 'Month', scope: {}, shared: true },
    panels: [
      { ...panel, key: 'b', report: income?.id ?? 0, y: 4 },
      { ...panel, key: 'a', report: costs?.id ?? 0, y: 0 },
    ],
  });
  const path = `/overviews/${page.id}?entity=KSF`;
  const { id } = await freeze(home.ctx, ines, { path });
  const was = await showFrozen(home.ctx, ines, id);
  expect([was.title, was.sheets.map((s) => s.title), was.since?.all]).toEqual([
    'Month',
    ['All expense', 'All income'],
    0,
  ]);
  await booked(5, '222.00');
  const now = await showFrozen(home.ctx, ines, id);
  expect(now.sheets).toEqual(was.sheets);
  expect(now.since?.moved.map((m) => m.row)).toContain('All expense: 8512 Currency differences');
  await expect(showFrozen(home.ctx, col, id)).rejects.toThrow('This frozen copy');
  const { stream } = await overviewFile(home.ctx, ines, page.id, { format: 'pdf', window: 'latest-period', dims: {} });
  const pdf = await getDocument({ data: new Uint8Array(await buffer(stream)), verbosity: 0 }).promise;
  const text: string[] = [];
  for (let i = 1; i <= pdf.numPages; i += 1)
    for (const item of (await (await pdf.getPage(i)).getTextContent()).items) if ('str' in item) text.push(item.str);
  for (const says of ['Month', 'All expense', 'All income', 'Currency differences'])
    expect(text.some((t) => t.includes(says))).toBe(true);
});

describe('a panel on a page elsewhere', () => {
  const of = async (address: string, locale = 'en'): Promise<string> =>
    (await embedded(home.ctx, address.split('/embed/')[1] ?? '', locale)).html;
  const gone = { status: 404 };

  test('is shown under a signed address that ends, to pages that an owner named, as its maker may see it', async () => {
    const kept = await keepReport(home.ctx, tomas, { ...report, name: 'Costs <b>&amp;' });
    const wanted = { report: kept.id, kind: 'table' as const, days: 30, scope: {} };
    await expect(makeEmbed(home.ctx, tomas, wanted)).rejects.toMatchObject({ status: 409 });
    await expect(setEmbedOrigins(home.ctx, tomas, { origins: ['https://a.example'] })).rejects.toMatchObject({
      status: 403,
    });
    await setEmbedOrigins(home.ctx, ines, { origins: ['https://intranet.example'] });
    await expect(makeEmbed(home.ctx, col, wanted)).rejects.toMatchObject({ status: 403 });
    const made = await makeEmbed(home.ctx, tomas, wanted);
    // What was done is on record, and the record holds.
    expect(await checkRecord(home.ctx, ines)).toMatchObject({ ok: true });
    const html = await of(made.address);
    const sheet = await showPanelOf(kept.id);
    expect(html).toContain('Costs &lt;b&gt;&amp;amp;');
    expect(html).not.toMatch(/<script|<b>|javascript:/);
    for (const { cells } of sheet.rows) expect(html).toContain(String(cells.name));
    expect(html).toContain(
      new Intl.NumberFormat('en', { minimumFractionDigits: 2 }).format(Number(sheet.total?.closing)),
    );
    expect(await of(made.address, 'de')).toContain(
      new Intl.NumberFormat('de', { minimumFractionDigits: 2 }).format(Number(sheet.total?.closing)),
    );
    // One figure with its course, and the rows drawn.
    for (const kind of ['figure', 'picture'] as const)
      expect(await of((await makeEmbed(home.ctx, tomas, { ...wanted, kind })).address)).toContain('<svg');

    const [id = '', until = '', signature = ''] = (made.address.split('/embed/')[1] ?? '').split('.');
    for (const other of [
      `${Number(id) + 1}.${until}.${signature}`,
      `${id}.${Number(until) + 86_400}.${signature}`,
      `${id}.${until}.${signature.startsWith('A') ? 'B' : 'A'}${signature.slice(1)}`,
      `${id}.${until}`,
      '../../etc',
    ])
      await expect(of(`/embed/${other}`)).rejects.toMatchObject(gone);
    expect((await showEmbeds(home.ctx, tomas)).rows.find((r) => r.id === made.id)).toMatchObject({
      looks: 2,
      state: 'open',
    });
    expect((await showEmbeds(home.ctx, col)).rows).toEqual([]);

    await expect(endEmbedded(home.ctx, col, made.id)).rejects.toMatchObject({ status: 403 });
    await endEmbedded(home.ctx, ines, made.id);
    await expect(of(made.address)).rejects.toMatchObject(gone);
    const another = await makeEmbed(home.ctx, tomas, wanted);
    await home.ctx.write('person').where({ id: tomas.id }).update({ suspended_at: new Date() });
    await expect(of(another.address)).rejects.toMatchObject(gone);
    await home.ctx.write('person').where({ id: tomas.id }).update({ suspended_at: null });
    await setEmbedOrigins(home.ctx, ines, { origins: [] });
    await expect(of(another.address)).rejects.toMatchObject(gone);
  });

  const showPanelOf = async (id: number) =>
    panelOf(home.ctx, tomas, { report: await seenReport(home.ctx, tomas, id), kind: 'table', put: {} });
});

test('a way in which sheets leave is kept under a name for everybody, and goes with whoever kept it or an owner', async () => {
  const house = { name: 'House style', format: 'pdf' as const, how: { paper: 'a3' as const, footer: 'Kestrel' } };
  await expect(keepPaperTemplate(home.ctx, col, house)).rejects.toMatchObject({ status: 403 });
  await keepPaperTemplate(home.ctx, tomas, house);
  await expect(keepPaperTemplate(home.ctx, ines, { ...house, name: 'HOUSE style' })).rejects.toMatchObject({
    status: 409,
  });
  const [row] = (await showPaperTemplates(home.ctx, col)).rows;
  expect(row).toMatchObject({ ...house, by: 'Tomas Ek', mayRemove: false });
  await expect(dropPaperTemplate(home.ctx, col, row?.id ?? 0)).rejects.toMatchObject({ status: 403 });
  await dropPaperTemplate(home.ctx, ines, row?.id ?? 0);
  expect((await showPaperTemplates(home.ctx, tomas)).rows).toEqual([]);
});
