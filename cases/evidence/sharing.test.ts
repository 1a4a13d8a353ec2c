import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { newFindingSchema } from '@/contracts/bodies/all';
import type { RichText } from '@/contracts/richText';
import { RIGHTS, type Right } from '@/contracts/work';
import { demoInstallation, demoPerson, type Fresh, loadText } from '@/ops/fresh';
import type { Viewer } from '../asking/viewer';
import { changeSentence, dropSentence, keepSentence, sharedSentence, showKeptScopes } from '../people/keptScopes';
import { changeSharing, showSharing } from '../people/sharing';
import { search } from '../search/search';
import { changeFinding, writeFinding } from './findings';
import { writeNote } from './notes';
import { addToThread, changeThread, removeThread, saveThread } from './threads/keep';
import { rollForward } from './threads/rollForward';
import { sharedThread } from './threads/seenThreads';
import { listThreads, showThread } from './threads/shown';
import { sign } from './threads/signOffs';

// Who may do what with what was kept, and figures in the words of threads and findings.

let fresh: Fresh;
let [ines, tomas, priya, col] = [] as unknown as [Viewer, Viewer, Viewer, Viewer];
beforeAll(async () => {
  fresh = await demoInstallation();
  [ines, tomas, priya, col] = (await Promise.all(
    ['ines', 'tomas', 'priya', 'col'].map((who) => demoPerson(fresh, who)),
  )) as typeof ines extends Viewer ? [Viewer, Viewer, Viewer, Viewer] : never;
});
afterAll(() => fresh?.close());

const SUBJECT = 'figure:entity=KSF&from=2027.04&to=2027.06&accounts=6320';
const step = (label: string) => ({
  ...{ address: `/trial-balance?${label}`, label, view: 'sheet' as const, subject: SUBJECT },
});
const refused = (status: number) => ({ status });

describe('a thread', () => {
  test('is gone on with by everybody until its maker says otherwise; each right takes in those before it, and no more', async () => {
    const { ctx } = fresh;
    const id = (await saveThread(ctx, tomas, { name: 'Docking, narrow', steps: [step('Docking')] })).id;
    const note = (by: Viewer) =>
      writeNote(ctx, by, { subject: `thread:${id}`, address: `/threads/${id}`, label: 'it', body: 'Why?' });
    const acts: [Right, () => Promise<unknown>][] = [
      ['open', () => showThread(ctx, priya, id)],
      ['comment', () => note(priya)],
      ['continue', () => addToThread(ctx, priya, id, [step('Docking'), step('again')])],
      ['change', () => changeThread(ctx, priya, id, { purpose: `Once ${Math.random()}` })],
      ['share', async () => showSharing(ctx, priya, await sharedThread(ctx, priya, id))],
    ];
    const say = async (everybody: Right, people: { id: number; may: Right }[] = []) =>
      changeSharing(ctx, tomas, await sharedThread(ctx, tomas, id), { everybody, people });
    for (const [everybody, named] of [
      [null, null],
      ['nothing', null],
      ['comment', null],
      ['share', 'nothing'],
      ['nothing', 'open'],
      ['open', 'change'],
      ['nothing', 'share'],
    ] as [Right | null, Right | null][]) {
      if (everybody !== null) await say(everybody, named === null ? [] : [{ id: priya.id, may: named }]);
      const has = named ?? everybody ?? 'continue';
      for (const [wanted, act] of acts) {
        const may = RIGHTS.indexOf(has) >= RIGHTS.indexOf(wanted);
        const came = await act().then(
          () => 'done',
          (error: { status: number }) => error.status,
        );
        expect([everybody, named, wanted, came]).toEqual([
          everybody,
          named,
          wanted,
          may ? 'done' : has === 'nothing' ? 404 : 403,
        ]);
      }
      expect((await listThreads(ctx, priya)).rows.some((t) => t.id === id)).toBe(has !== 'nothing');
    }
    // Only who kept it takes it away; owners may always say who may.
    await expect(removeThread(ctx, priya, id)).rejects.toMatchObject(refused(403));
    expect(await showSharing(ctx, ines, await sharedThread(ctx, ines, id))).toMatchObject({ by: 'Tomas Ek' });
    // What is not shared with somebody is not found by them either, nor what is written on it.
    await say('nothing');
    const found = async (viewer: Viewer) =>
      (await search(ctx, viewer, { q: 'Docking, narrow', kind: ['thread', 'note'], limit: 10, after: 0 })).hits.length;
    expect([await found(tomas), await found(priya)]).toEqual([1, 0]);
    // Whoever is its reviewer reads it and signs it, whatever was said of everybody.
    await changeThread(ctx, tomas, id, { reviewer: priya.id });
    expect((await showThread(ctx, priya, id)).may).toBe('comment');
    await expect(sign(ctx, priya, id, 'reviewer')).rejects.toMatchObject(refused(403));
    // The thread of the next period is as narrow as that of this one.
    const [next] = (await rollForward(ctx, tomas, { threads: [id], from: '2027.07', to: '2027.09', folder: '' }))
      .threads;
    expect((await showSharing(ctx, tomas, await sharedThread(ctx, tomas, next?.id as number))).everybody).toBe(
      'nothing',
    );
    // A right is no grant: what lies outside of somebody's books stays there.
    await say('share');
    await expect(showThread(ctx, col, id)).rejects.toMatchObject(refused(404));
  });

  test('tells of nobody who is not there, and names everybody once', async () => {
    const { ctx } = fresh;
    const id = (await saveThread(ctx, tomas, { name: 'Docking, wide', steps: [step('Docking')] })).id;
    const shared = await sharedThread(ctx, tomas, id);
    const say = (people: { id: number; may: Right }[]) =>
      changeSharing(ctx, tomas, shared, { everybody: 'open', people });
    await expect(say([{ id: 9_999, may: 'open' }])).rejects.toMatchObject(refused(422));
    await expect(
      say([
        { id: priya.id, may: 'open' },
        { id: priya.id, may: 'change' },
      ]),
    ).rejects.toMatchObject(refused(422));
  });
});

test('a kept sentence is opened, reshaped and shared by whom its maker says', async () => {
  const { ctx } = fresh;
  const query = 'entity=KSF&from=2027.04&to=2027.06';
  const made = await keepSentence(ctx, tomas, {
    ...{ name: 'Second quarter', folder: '', place: 'trial-balance', query, shared: false, opens: false },
  });
  const seenBy = async (viewer: Viewer) => (await showKeptScopes(ctx, viewer)).rows.find((r) => r.id === made.id);
  expect(await seenBy(priya)).toBeUndefined();
  const say = async (everybody: Right, people: { id: number; may: Right }[] = []) =>
    changeSharing(ctx, tomas, await sharedSentence(ctx, tomas, made.id), { everybody, people });
  await say('nothing', [{ id: priya.id, may: 'open' }]);
  expect(await seenBy(priya)).toMatchObject({ may: 'open', mine: false, shared: false });
  await expect(changeSentence(ctx, priya, made.id, { name: 'Mine now' })).rejects.toMatchObject(refused(403));
  await say('open', [{ id: priya.id, may: 'change' }]);
  expect(await seenBy(ines)).toMatchObject({ may: 'share', shared: true });
  const reshaped = await changeSentence(ctx, priya, made.id, { query: `${query}&accounts=6320` });
  expect(reshaped).toMatchObject({ query: `${query}&accounts=6320`, by: 'Tomas Ek' });
  // What a place opens with is its maker's own, and taking it away too.
  await expect(changeSentence(ctx, priya, made.id, { opens: true })).rejects.toMatchObject(refused(403));
  await expect(changeSentence(ctx, priya, made.id, { shared: false })).rejects.toMatchObject(refused(403));
  await expect(dropSentence(ctx, priya, made.id)).rejects.toMatchObject(refused(403));
  expect(await seenBy(col)).toBeUndefined();
  await dropSentence(ctx, tomas, made.id);
  expect(await seenBy(tomas)).toBeUndefined();
});

describe('words of threads and findings', () => {
  const saying = (subject: string, load: number | null = null): RichText => ({
    type: 'doc',
    content: [
      {
        type: 'paragraph',
        content: [
          { type: 'text', text: 'It is ' },
          {
            type: 'quoted',
            attrs: {
              ...{ subject, measure: 'movement', label: 'Dry-docking', address: '/lines' },
              ...{ currency: null, value: '1.00', lines: 1, load, now: null, moved: false },
            },
          },
        ],
      },
    ],
  });
  const quoteIn = (words: RichText | undefined) =>
    (words?.content[0] as { content: { attrs?: Record<string, unknown> }[] } | undefined)?.content[1]?.attrs;

  test('quote figures, which keep what they were when the words around them are changed, and say that they moved', async () => {
    const { ctx } = fresh;
    const id = (await saveThread(ctx, tomas, { name: 'Quoted', steps: [step('Docking')] })).id;
    const said = await changeThread(ctx, tomas, id, { conclusion: saying(SUBJECT) });
    expect(said.conclusion).toBe('It is [Dry-docking]');
    const quoted = quoteIn(said.written.conclusion);
    // What was sent is not believed.
    expect(quoted).toMatchObject({ currency: 'GBP', moved: false });
    expect(quoted?.value).not.toBe('1.00');
    const found = await writeFinding(
      ctx,
      tomas,
      newFindingSchema.parse({
        title: 'Twice',
        kind: 'error',
        subjects: [SUBJECT],
        effect: saying(SUBJECT),
        thread: id,
      }),
    );
    const before = (await showThread(ctx, tomas, id)).digest;
    await loadText(
      fresh,
      'entry,line,date,account,debit,credit,description,dim:vessel\nSH-1,1,2026-07-20,6320,100.00,,x,MAREN\nSH-1,2,2026-07-20,1210,,100.00,x,',
      { kind: 'lines', entity: 'KSF' },
    );
    const moved = await showThread(ctx, tomas, id);
    expect(quoteIn(moved.written.conclusion)).toMatchObject({ value: quoted?.value, moved: true });
    expect(moved.digest).toBe(before);
    // Another word, the same quote: it stays what it was. Pasted anew, it is what it is now.
    const kept = moved.written.conclusion as RichText;
    (kept.content[0] as { content: { text: string }[] }).content[0] = { type: 'text', text: 'It was ' } as never;
    const again = await changeThread(ctx, tomas, id, { conclusion: kept });
    expect(again.conclusion).toBe('It was [Dry-docking]');
    expect(quoteIn(again.written.conclusion)).toMatchObject({ value: quoted?.value, moved: true });
    expect(again.former.at(-1)?.words).toMatchObject({ conclusion: 'It is [Dry-docking]' });
    const anew = await changeThread(ctx, tomas, id, { conclusion: saying(SUBJECT) });
    expect(quoteIn(anew.written.conclusion)?.value).not.toBe(quoted?.value);
    expect(anew.digest).not.toBe(before);
    // Plain words take the figure out.
    expect((await changeThread(ctx, tomas, id, { conclusion: 'None.' })).written).toEqual({});
    expect(quoteIn(found.written.effect)).toMatchObject({ value: quoted?.value });
    expect((await changeFinding(ctx, tomas, found.id, { cause: 'A copy.' })).written).toHaveProperty('effect');
  });

  test('show nobody a figure outside of what they see, and speak to nobody', async () => {
    const { ctx } = fresh;
    const id = (await saveThread(ctx, tomas, { name: 'Hidden', steps: [step('Docking')] })).id;
    const named = saying(SUBJECT);
    (named.content[0] as { content: unknown[] }).content.push({
      type: 'mention',
      attrs: { person: priya.id, name: 'x' },
    });
    await expect(changeThread(ctx, tomas, id, { result: named })).rejects.toMatchObject(refused(422));
    const seen = await writeFinding(
      ctx,
      tomas,
      newFindingSchema.parse({
        title: 'On his own cost centre',
        kind: 'question',
        subjects: ['figure:entity=KSF&from=2027.04&to=2027.06&accounts=6310'],
        cause: saying(SUBJECT),
      }),
    );
    expect(quoteIn(seen.written.cause)?.subject).toContain('accounts=6320');
  });
});
