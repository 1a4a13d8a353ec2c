import { writeFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import ExcelJS from 'exceljs';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { newFindingSchema } from '@/contracts/bodies/all';
import { type Quoted, quotesIn, type RichText } from '@/contracts/richText';
import { readQuery, scopeShape } from '@/contracts/scope';
import { demoInstallation, type Fresh, loadText } from '@/ops/fresh';
import { findEntry } from '@/store/entries';
import { looked, writeLooks } from '../asking/looked';
import { figureAt } from '../asking/subjects';
import type { Viewer } from '../asking/viewer';
import { desk, seenOnDesk } from '../desk/desk';
import { workDone } from '../desk/workDone';
import { exportData } from '../exports/exportData';
import { runJobsHere } from '../jobs/runJob';
import { signIn, viewerOfSession } from '../people/signIn';
import { readLines } from '../sheets/readLines';
import { readTotals } from '../sheets/readTotals';
import { crossRefer, listReferences } from './crossReferences';
import { attach, keepEvidenceFile, listFiles, readEvidenceFile } from './files';
import { changeFinding, listFindings, writeFinding } from './findings';
import { history } from './history';
import { changeNote, listNotes, removeNote, writeNote } from './notes';
import { pin } from './pins';
import { changePoint, raisePoint } from './points';
import { answerQuestion, askColleague, listQuestions } from './questions';
import { saveThread } from './threads/keep';
import { listThreads, showThread } from './threads/shown';
import { keepTickMarks, listTicks, tick, tickedShare, tickMarks } from './ticks';

// Evidence over the demo world: what is written, ticked, asked, found and attached, by whom, and who sees it.

let fresh: Fresh;
let ines: Viewer;
let tomas: Viewer;
let priya: Viewer;
let col: Viewer;
beforeAll(async () => {
  fresh = await demoInstallation();
  const as = async (who: string) =>
    (await viewerOfSession(
      fresh.ctx,
      await signIn(fresh.ctx, `${who}@kestrel.example`, 'harrowick-quay', { address: '127.0.0.1', agent: '' }),
    )) as Viewer;
  [ines, tomas, priya, col] = [await as('ines'), await as('tomas'), await as('priya'), await as('col')];
});
afterAll(() => fresh?.close());

const DOCKING = 'figure:entity=KSF&from=2027.04&to=2027.06&accounts=6320';
const at = (subject: string, label = 'Dry-docking') => ({ subject, address: '/lines', label });
const quoting = (subject: string): RichText => ({
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: 'It comes to ' },
        {
          type: 'quoted',
          attrs: {
            ...{ subject, measure: 'movement', label: 'Dry-docking', address: '/lines' },
            // Whatever is sent here is not believed.
            ...{ currency: 'GBP', value: '1.00', lines: 1, load: 1, now: '2.00', moved: true },
          },
        },
      ],
    },
  ],
});

describe('notes', () => {
  test('are answered, changed with what they said before kept, and speak to people, who find it on their desk and in a letter', async () => {
    const { ctx } = fresh;
    const sentBefore = (await fresh.superuser('mail').max('id as last').first())?.last ?? 0;
    const note = await writeNote(ctx, tomas, { ...at(DOCKING), body: 'Is this one yard? @priya@kestrel.example.' });
    const answer = await writeNote(ctx, priya, { body: 'Two yards.', replyTo: note.id });
    expect(answer).toMatchObject({ subject: note.subject, replyTo: note.id, ink: 'reviewer' });
    // An answer to an answer stands under the same note.
    expect(await writeNote(ctx, ines, { body: 'Agreed.', replyTo: answer.id })).toMatchObject({ replyTo: note.id });
    await expect(changeNote(ctx, ines, note.id, { body: 'mine' })).rejects.toMatchObject({ status: 403 });
    expect(await changeNote(ctx, tomas, note.id, { body: 'Two yards, then.' })).toMatchObject({ edits: 1 });
    const record = await fresh.superuser('record').where({ act: 'changed a note' }).first();
    expect(record.detail).toMatchObject({ note: note.id, before: 'Is this one yard? @priya@kestrel.example.' });
    expect((await desk(ctx, priya)).waiting).toContainEqual(
      expect.objectContaining({ kind: 'mention', by: tomas.name, says: 'speaks to you about Dry-docking' }),
    );
    expect((await desk(ctx, tomas)).waiting.filter((w) => w.kind === 'answer').length).toBeGreaterThan(0);
    await seenOnDesk(ctx, priya, { kind: 'note', id: note.id });
    expect((await desk(ctx, priya)).waiting.filter((w) => w.kind === 'mention')).toEqual([]);
    const letters = await fresh.superuser('mail').where('id', '>', sentBefore).orderBy('id');
    expect(letters[0]).toMatchObject({
      receiver: 'priya@kestrel.example',
      subject: 'Tomas Ek spoke to you about Dry-docking',
    });
    // A letter lies open on its way: it does not say what was written.
    expect(letters.some((l) => String(l.body).includes('yard'))).toBe(false);
    await removeNote(ctx, tomas, note.id);
    expect(await changeNote(ctx, tomas, note.id, null)).toMatchObject({ body: 'Two yards, then.' });
  });

  test('quote figures as they are, whoever sent what; and show none to who may not see it', async () => {
    const { ctx } = fresh;
    const whole = await writeNote(ctx, ines, { ...at(DOCKING), body: quoting(DOCKING) });
    const attrs = quotesIn(whole.content as RichText)[0] as Quoted;
    expect(attrs.value).not.toBe('1.00');
    expect(Number(attrs.value)).toBeGreaterThan(1_000);
    // The text that is searched names the figure, and never says what it came to.
    expect(whole.body).toBe('It comes to [Dry-docking]');
    const mine = 'figure:entity=KSF&from=2027.04&to=2027.06&accounts=6210';
    const partial: Viewer = { ...col, members: {}, accounts: '6210' };
    await writeNote(ctx, ines, { ...at(mine, 'Wages'), body: quoting(DOCKING) });
    const { rows } = await listNotes(ctx, partial, { subject: [mine], limit: 10 });
    expect(JSON.stringify(rows)).not.toContain(String(attrs.value));
    expect(rows[0]?.body).toBe('It comes to [a figure outside of what you see]');
    // Whoever would not find it is not spoken to.
    await expect(writeNote(ctx, ines, { ...at(DOCKING), body: 'Look, @col@kestrel.example' })).rejects.toMatchObject({
      status: 422,
      message: expect.stringMatching(/does not see what this is about/),
    });
  });
});

describe('ticks', () => {
  const LINES = 'entity=KSF&from=2027.06&to=2027.06&accounts=6310';
  const SCOPE = { entity: ['KSF'], from: '2027.06', to: '2027.06', accounts: '6310', dims: {} };
  test('stand on lines all at once, are counted with their amount, and say when what they stand on has moved', async () => {
    const { ctx, superuser } = fresh;
    const share = await tickedShare(ctx, tomas, {
      entity: ['KSF'],
      from: '2027.06',
      to: '2027.06',
      accounts: '6310',
      dims: {},
    });
    expect(share.lines).toBeGreaterThan(3);
    expect(share).toMatchObject({ ticked: 0, tickedAmount: '0.00' });
    const { rows } = await readLines(ctx, tomas, {
      entity: ['KSF'],
      from: '2027.06',
      to: '2027.06',
      accounts: '6310',
      dims: {},
      limit: 500,
      sort: 'date',
    } as never);
    const subjects = rows.slice(0, 3).map((l) => `line:${l.entity}/${l.entry}/${l.line}`);
    const put = await tick(ctx, tomas, { subjects, mark: 'agreed-to-document' });
    expect(put.rows.map((t) => [t.meaning, t.state])).toEqual(new Array(3).fill(['agreed to the document', 'fresh']));
    // The same tick twice is one tick.
    expect((await tick(ctx, tomas, { subjects, mark: 'agreed-to-document' })).rows.map((t) => t.id)).toEqual(
      put.rows.map((t) => t.id),
    );
    const amounts = rows.slice(0, 3).map((l) => Math.abs(Math.round(Number(l.amount) * 100)));
    expect(
      await tickedShare(ctx, tomas, { entity: ['KSF'], from: '2027.06', to: '2027.06', accounts: '6310', dims: {} }),
    ).toEqual({ ...share, ticked: 3, tickedAmount: (amounts.reduce((a, b) => a + b, 0) / 100).toFixed(2) });
    // What is ticked and what is not are together all of it, and each is a question like any other.
    const part = async (ticked: 'yes' | 'no') => (await readTotals(ctx, tomas, { ...SCOPE, ticked })).total;
    const [every, yes, no] = [(await readTotals(ctx, tomas, SCOPE)).total, await part('yes'), await part('no')];
    expect([yes.count, no.count]).toEqual([3, every.count - 3]);
    expect(Number(yes.movement) + Number(no.movement)).toBeCloseTo(Number(every.movement), 6);
    expect(
      (await readLines(ctx, tomas, { ...SCOPE, ticked: 'no', limit: 500, sort: 'date' } as never)).rows,
    ).toHaveLength(every.count - 3);
    // Another period has none of them.
    expect(
      await tickedShare(ctx, tomas, { entity: ['KSF'], from: '2027.05', to: '2027.05', accounts: '6310', dims: {} }),
    ).toMatchObject({ ticked: 0 });
    const whole = `figure:${LINES}`;
    const cast = await tick(ctx, priya, { subjects: [whole], mark: 'cast', measure: 'movement' });
    await loadText(
      fresh,
      'entry,line,date,account,debit,credit,description,dim:vessel\nX-TICK,1,2026-09-15,6310,10.00,,Late repair,MAREN\nX-TICK,2,2026-09-15,1520,,10.00,Late repair,',
      { kind: 'lines', entity: 'KSF' },
    );
    await runJobsHere(ctx);
    expect((await listTicks(ctx, tomas, { subject: [whole], limit: 10 })).rows[0]?.state).toBe('drifted');
    // The list of threads says which of them have moved without asking every figure of every one.
    const listed = (await listThreads(ctx, ines)).rows.find((t) => t.reference === 'R-1');
    expect(listed?.moved).toBe((await showThread(ctx, ines, listed?.id as number)).moved);
    expect(listed?.moved).toBeGreaterThan(0);
    expect((await listTicks(ctx, tomas, { subject: subjects, limit: 10 })).rows.every((t) => t.state === 'fresh')).toBe(
      true,
    );
    // The job that looks at pins has worked it out, and nothing is worked out twice.
    const ids = [...put.rows, ...cast.rows].map((t) => t.id);
    expect(await superuser('evidence_moved').where({ kind: 'tick' }).whereIn('id', ids).count()).toEqual([
      { count: 4 },
    ]);
  });

  test('are of the legend alone, which keeps every mark that was given', async () => {
    const { ctx } = fresh;
    await expect(tick(ctx, tomas, { subjects: [DOCKING], mark: 'none' })).rejects.toMatchObject({ status: 422 });
    await expect(tick(ctx, col, { subjects: [DOCKING], mark: 'cast' })).rejects.toMatchObject({ status: 403 });
    const { marks } = await tickMarks(ctx);
    await expect(keepTickMarks(ctx, ines, { marks: marks.slice(1) })).rejects.toMatchObject({
      errors: [expect.objectContaining({ message: expect.stringMatching(/retire “agreed to the document” instead/) })],
    });
    await keepTickMarks(ctx, ines, { marks: marks.map((m) => ({ ...m, retired: m.code === 'seen' })) });
    await expect(tick(ctx, tomas, { subjects: [DOCKING], mark: 'seen' })).rejects.toMatchObject({ status: 422 });
  });
});

test('a colleague who sees a part is asked about what they see, answers, and the asker is told; of anything else they are not asked', async () => {
  const { ctx } = fresh;
  await expect(
    askColleague(ctx, tomas, { ...at(DOCKING), to: 'col@kestrel.example', body: 'Why?' }),
  ).rejects.toMatchObject({
    status: 422,
    message: expect.stringMatching(/does not see what this is about/),
  });
  // The figure as they see it: of their cost centres alone.
  const { address } = await figureAt(ctx, col, 'entity=KSF&from=2027.04&to=2027.06&accounts=6210', null);
  const asked = await askColleague(ctx, tomas, {
    ...at(`figure:${address}`, 'Wages'),
    to: 'col@kestrel.example',
    body: 'Why so many hours?',
  });
  const waits = (await desk(ctx, col)).waiting.find((w) => w.id === asked.id);
  expect(waits).toMatchObject({
    kind: 'question',
    id: asked.id,
    place: `/desk/questions/${asked.id}`,
    body: 'Why so many hours?',
  });
  expect(await answerQuestion(ctx, col, asked.id, { body: 'Two people were ill.' })).toMatchObject({
    state: 'answered',
    age: null,
  });
  expect((await desk(ctx, col)).waiting.filter((w) => w.id === asked.id)).toEqual([]);
  expect((await desk(ctx, tomas)).waiting).toContainEqual(expect.objectContaining({ kind: 'answer', by: col.name }));
  expect(await answerQuestion(ctx, tomas, asked.id, { body: 'Which two?' })).toMatchObject({ state: 'open' });
  expect((await listQuestions(ctx, col, { limit: 100, state: 'open' })).rows.map((q) => q.id)).toContain(asked.id);
});

test('a point is answered by somebody else and cleared by who raised it, in no other way', async () => {
  const { ctx } = fresh;
  await expect(raisePoint(ctx, tomas, { ...at(DOCKING), body: 'x' })).rejects.toMatchObject({ status: 403 });
  const point = await raisePoint(ctx, priya, { ...at(DOCKING), body: 'Which contract?' });
  await expect(changePoint(ctx, priya, point.id, { state: 'answered', body: 'x' })).rejects.toMatchObject({
    status: 403,
  });
  await expect(changePoint(ctx, tomas, point.id, { state: 'cleared' })).rejects.toMatchObject({ status: 403 });
  await expect(changePoint(ctx, tomas, point.id, { state: 'answered' })).rejects.toMatchObject({ status: 422 });
  const answered = await changePoint(ctx, tomas, point.id, { state: 'answered', body: 'That of May.' });
  expect(answered).toMatchObject({
    state: 'answered',
    answers: [{ act: 'answered', by: tomas.name, body: 'That of May.' }],
  });
  expect(await changePoint(ctx, priya, point.id, { state: 'cleared' })).toMatchObject({ state: 'cleared' });
  await expect(changePoint(ctx, tomas, point.id, { state: 'answered', body: 'again' })).rejects.toMatchObject({
    status: 409,
  });
});

test('a finding has an amount that is a figure, an owner who is told, and counts in the sum until it is settled', async () => {
  const { ctx } = fresh;
  const words = newFindingSchema.parse({
    ...{ title: 'A dock invoice was booked twice', kind: 'error', subjects: [DOCKING], cause: 'Two copies came' },
    ...{ amount: { subject: DOCKING, measure: 'movement' }, owner: tomas.id, due: '2026-01-31' },
  });
  const before = (await listFindings(ctx, ines, { limit: 100 })).sums[0];
  const found = await writeFinding(ctx, ines, words);
  expect(found.amount).toMatchObject({ currency: 'GBP' });
  expect((await desk(ctx, tomas)).waiting[0]).toMatchObject({ kind: 'finding', id: found.id, late: true });
  const { sums } = await listFindings(ctx, ines, { limit: 100 });
  expect(sums[0]?.count).toBe((before?.count ?? 0) + 1);
  await changeFinding(ctx, tomas, found.id, { state: 'settled' });
  expect((await listFindings(ctx, ines, { limit: 100 })).sums).toEqual(before ? [before] : []);
  const waiting = (await listFindings(ctx, ines, { limit: 100, state: 'waiting' })).rows;
  expect(waiting.some((f) => f.id === found.id)).toBe(false);
});

test('ticks leave with the lines that bear them, in words, and their legend with a workbook', async () => {
  const { ctx } = fresh;
  const scope = readQuery(scopeShape, new URLSearchParams('entity=KSF&from=2027.04&to=2027.06&accounts=6320'));
  const [first] = (await readLines(ctx, tomas, { ...scope, limit: 1 } as never)).rows;
  const { entity, entry, line } = first as { entity: string; entry: string; line: number };
  await tick(ctx, priya, {
    ...at(''),
    subjects: [`entry:${entity}/${entry}`],
    labels: ['x'],
    mark: 'explained',
  } as never);
  const { stream } = await exportData(ctx, tomas, { ...scope, what: 'lines', format: 'ndjson', ticks: 'with' });
  let text = '';
  for await (const chunk of stream) text += chunk;
  const rows = text
    .trim()
    .split('\n')
    .map((row) => JSON.parse(row) as { entry: string; line: string; ticks?: string });
  const its = rows.filter((r) => r.entry === entry);
  expect(its.length).toBeGreaterThan(0);
  for (const row of its) expect(row.ticks).toMatch(/(^|; )explained \(Priya Lund, \d+ \w+ \d{4}\)/);
  expect(rows.filter((r) => r.ticks?.includes('explained')).map((r) => r.entry)).toEqual(its.map((r) => r.entry));
  expect(line).toBeGreaterThan(0);
  const book = new ExcelJS.Workbook();
  const xlsx = await exportData(ctx, tomas, { ...scope, what: 'lines', format: 'xlsx', ticks: 'with' });
  await book.xlsx.read(xlsx.stream as never);
  const legend = book.getWorksheet('Legend of ticks');
  const told = Object.fromEntries((legend?.getSheetValues() ?? []).slice(2).map((row) => (row as string[]).slice(1)));
  expect(told).toMatchObject({ explained: String(its.length), 'seen in kind': '0' });
  const refused = exportData(ctx, tomas, { ...scope, what: 'accounts', format: 'csv', ticks: 'with' });
  await expect(refused).rejects.toMatchObject({ status: 422 });
});

describe('files', () => {
  const send = (name: string, content: string | Buffer) =>
    keepEvidenceFile(fresh.ctx, name, Readable.from([Buffer.from(content)]));
  const on = (subject: string, label: string) => ({ subject, label, address: '', thread: null });

  test('are kept by what they hold: the same bytes twice are said to be the same, and a changed one is not handed out', async () => {
    const { ctx, superuser } = fresh;
    const first = await attach(
      ctx,
      tomas,
      await send('quote.txt', 'Two days of dock, 18,400.00'),
      on(DOCKING, 'Docking'),
    );
    expect(first).toMatchObject({ name: 'quote.txt', type: 'text/plain', sameAs: [] });
    const again = await attach(
      ctx,
      priya,
      await send('copy.txt', 'Two days of dock, 18,400.00'),
      on(DOCKING, 'Docking again'),
    );
    expect(again.digest).toBe(first.digest);
    expect(again.sameAs).toEqual([expect.objectContaining({ name: 'quote.txt', by: tomas.name })]);
    expect((await listFiles(ctx, ines, { subject: [DOCKING], limit: 10 })).rows).toHaveLength(2);
    expect(await readEvidenceFile(ctx, ines, first.digest)).toMatchObject({ mediaType: 'text/plain; charset=utf-8' });
    expect(await readEvidenceFile(ctx, col, first.digest)).toBeNull();
    await writeFile(`${ctx.files.folder}/${first.digest}`, 'Two days of dock, 28,400.00');
    await expect(readEvidenceFile(ctx, ines, first.digest)).rejects.toThrow(/is not as it was when it was attached/);
    await writeFile(`${ctx.files.folder}/${first.digest}`, 'Two days of dock, 18,400.00');
    expect(await superuser('record').where({ act: 'attached a file', subject: first.subject })).toHaveLength(2);
  });

  test('are taken by what they are, whatever they are called', async () => {
    const { ctx } = fresh;
    const png = Buffer.from(
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
      'base64',
    );
    expect(await attach(ctx, tomas, await send('a.txt', png), on(DOCKING, 'x'))).toMatchObject({ type: 'image/png' });
    for (const [name, content] of [
      ['page.html', '<script>alert(1)</script>'],
      ['picture.svg', '<svg xmlns="http://www.w3.org/2000/svg"><script/></svg>'],
      ['tool.exe', Buffer.from('4d5a900003000000', 'hex')],
      ['tool.txt', Buffer.from('7f454c4602010100', 'hex')],
      ['blob.csv', Buffer.from([0x61, 0, 0x62])],
      ['empty.txt', ''],
    ] as const)
      await expect(
        send(name, content).then((file) => attach(ctx, tomas, file, on(DOCKING, 'x'))),
        name,
      ).rejects.toMatchObject({ status: 422 });
    const large = Readable.from(
      (function* () {
        for (let i = 0; i < 52; i++) yield Buffer.alloc(1024 ** 2, 65);
      })(),
    );
    await expect(keepEvidenceFile(ctx, 'large.txt', large)).rejects.toMatchObject({ status: 413 });
  });
});

test('two pins that should agree are held against each other, and by how much they do not is told when the books move', async () => {
  const { ctx } = fresh;
  const one = await pin(ctx, tomas, {
    ...at('figure:entity=KSF&from=2027.06&to=2027.06&accounts=6310', 'Repairs'),
    measure: 'movement',
  });
  const other = await pin(ctx, tomas, {
    ...at('figure:entity=KSF&from=2026-09-01&to=2026-09-14&accounts=6310', 'Repairs, two weeks'),
    measure: 'movement',
  });
  const same = await pin(ctx, priya, {
    ...at('figure:entity=KSF&from=2026-09-01&to=2026-09-30&accounts=6310', 'Repairs by day'),
    measure: 'movement',
  });
  expect(await crossRefer(ctx, tomas, { a: same.id, b: one.id })).toMatchObject({ agrees: true, offBy: '0.00' });
  const apart = await crossRefer(ctx, tomas, { a: one.id, b: other.id });
  expect(apart).toMatchObject({ agrees: false, offBy: (Number(one.value) - Number(other.value)).toFixed(2) });
  await expect(crossRefer(ctx, tomas, { a: other.id, b: one.id })).rejects.toMatchObject({ status: 409 });
  await loadText(
    fresh,
    'entry,line,date,account,debit,credit,description,dim:vessel\nX-REF,1,2026-09-20,6310,7.00,,Later,MAREN\nX-REF,2,2026-09-20,1520,,7.00,Later,',
    { kind: 'lines', entity: 'KSF' },
  );
  const now = (await listReferences(ctx, tomas, { limit: 100 })).rows;
  expect(now.map((r) => r.agrees)).toEqual([true, false]);
  expect(Number(now[1]?.offBy)).toBe(Number(apart.offBy) + 7);
});

test('a statement tells which of its rows have work signed, under way, or none', async () => {
  const { ctx } = fresh;
  const scope = { entity: ['KSF'], from: '2027.04', to: '2027.06', dims: {} };
  const before = await workDone(ctx, tomas, { ...scope, statement: 'income', above: '1000' });
  const step = {
    address: '/x',
    label: 'Docking',
    view: 'sheet' as const,
    subject: DOCKING.replace('6320', '6410'),
    measure: 'movement' as const,
  };
  const { id } = await saveThread(ctx, tomas, { name: 'Harbour dues looked at', steps: [step] });
  const after = await workDone(ctx, tomas, { ...scope, statement: 'income', above: '1000' });
  expect(after.counts).toEqual({
    ...before.counts,
    nothing: before.counts.nothing - 1,
    underWay: before.counts.underWay + 1,
  });
  const row = after.rows.find((r) => r.threads.some((t) => t.id === id));
  expect(row).toMatchObject({ state: 'under way', threads: [{ name: 'Harbour dues looked at' }] });
  expect(after.counts.rows).toBe(
    after.rows.filter((r) => r.state !== null && Math.abs(Number(r.amount)) >= 1000).length,
  );
});

test('a line tells its own history: who looked at its entry, who ticked and noted it; a reader is not told who looked', async () => {
  const { ctx } = fresh;
  const line = 'line:KSF/PI-KSF-90631/1';
  await tick(ctx, tomas, { subjects: [line, 'line:KSF/PI-KSF-90631/2'], mark: 'cast' });
  await writeNote(ctx, priya, { ...at(line, 'Stage 3'), body: 'Seen the paper.' });
  const head = await findEntry(ctx.read, { entity: 'KSF', number: 'PI-KSF-90631', asOf: 1_000 });
  looked(ctx, priya, new URL(`http://x/api/v1/entries/e${head?.id}`));
  await writeLooks(ctx);
  const told = await history(ctx, ines, line);
  expect(told.acts.map((a) => [a.person, a.act, a.says])).toEqual([
    ['Priya Lund', 'wrote a note', ''],
    ['Tomas Ek', 'ticked', 'cast: the column adds up'],
  ]);
  expect(told.seenBy).toEqual([expect.objectContaining({ person: 'Priya Lund', times: 1 })]);
  const reader: Viewer = { ...col, members: {} };
  expect((await history(ctx, reader, line)).seenBy).toEqual([]);
  await expect(history(ctx, col, 'line:KSF/PI-KSF-90631/2')).rejects.toMatchObject({ status: 404 });
});

test('a document is noted, ticked and pinned as it stands, is a step of a thread, and is there for who sees whole books', async () => {
  const { ctx } = fresh;
  const paper = 'document:KSF/NS-20631';
  const { rows } = await tick(ctx, tomas, {
    subjects: [paper],
    mark: 'agreed-to-document',
    labels: ['invoice NS-20631'],
  });
  expect(rows[0]).toMatchObject({ subject: paper, state: 'fresh' });
  const kept = await pin(ctx, tomas, at(paper, 'NS-20631'));
  expect(kept).toMatchObject({ value: '410200.00', measure: 'debit', state: 'fresh' });
  const step = {
    address: '/documents/NS-20631?entity=KSF',
    label: 'NS-20631',
    view: 'document' as const,
    subject: paper,
  };
  const { id } = await saveThread(ctx, tomas, { name: 'Of a paper', steps: [step] });
  expect((await showThread(ctx, tomas, id)).steps[0]).toMatchObject({
    value: '410200.00',
    now: '410200.00',
    moved: false,
  });
  await expect(writeNote(ctx, tomas, { ...at('document:KSF/NONE-1'), body: 'x' })).rejects.toMatchObject({
    status: 404,
  });
  await expect(writeNote(ctx, col, { ...at(paper), body: 'x' })).rejects.toMatchObject({ status: 403 });
});
