import { expect, test } from 'vitest';
import { FairShare, NoTurn } from './fairShare';

/** Work that ends when it is told to. */
function work(done: string[], name: string) {
  let end = (): void => {};
  const run = (): Promise<void> => new Promise((resolve) => (end = () => resolve(void done.push(name))));
  return { run, end: () => end() };
}

test('whoever has least under way comes next, and one person never has all places', async () => {
  const share = new FairShare(2, 1, 60_000);
  const done: string[] = [];
  const greedy = Array.from({ length: 3 }, (_, i) => work(done, `ines ${i}`));
  const col = work(done, 'col');
  const all = [...greedy.map((w) => share.run('ines', null, w.run)), share.run('col', null, col.run)];
  await Promise.resolve();
  // The second place was free for Col although Ines asked before.
  col.end();
  await all[3];
  for (const w of greedy) {
    await new Promise((r) => setImmediate(r));
    w.end();
  }
  await Promise.all(all);
  expect(done).toEqual(['col', 'ines 0', 'ines 1', 'ines 2']);
});

test('who has gone gives the place up, and who waits too long is told', async () => {
  const share = new FairShare(1, 1, 20);
  const done: string[] = [];
  const first = work(done, 'first');
  const running = share.run('a', null, first.run);
  const gone = new AbortController();
  const left = share.run('b', gone.signal, async () => void done.push('never'));
  gone.abort();
  await expect(left).rejects.toMatchObject({ why: 'gone' });
  await expect(share.run('c', null, async () => void done.push('never'))).rejects.toThrow(NoTurn);
  first.end();
  await running;
  await share.run('c', null, async () => void done.push('after'));
  expect(done).toEqual(['first', 'after']);
});
