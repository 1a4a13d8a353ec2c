import { expect, test } from 'vitest';
import { forget, remembered } from './answers';
import type { Catalogue } from './catalogue';

const catalogue = (): Catalogue => ({ entities: new Map(), dimensions: new Map(), trees: new Map() });

test('a question is read once however many ask, again under another catalogue, and again after it failed', async () => {
  const here = catalogue();
  let reads = 0;
  const read = async (): Promise<{ n: number }[]> => {
    reads += 1;
    await new Promise((done) => setTimeout(done, 5));
    return [{ n: reads }];
  };
  const both = await Promise.all([remembered(here, 'q', read), remembered(here, 'q', read)]);
  expect([both[0], both[1], await remembered(here, 'q', read)]).toEqual([[{ n: 1 }], [{ n: 1 }], [{ n: 1 }]]);
  expect(await remembered(here, 'another', read)).toEqual([{ n: 2 }]);
  expect(await remembered(catalogue(), 'q', read)).toEqual([{ n: 3 }]);
  const failing = async (): Promise<never> => {
    throw new Error('the database went away');
  };
  await expect(remembered(here, 'fails', failing)).rejects.toThrow('went away');
  expect(await remembered(here, 'fails', read)).toEqual([{ n: 4 }]);
  forget(here);
  expect(await remembered(here, 'q', read)).toEqual([{ n: 5 }]);
});

test('room is made for large answers, and who waits for one meanwhile still gets it', async () => {
  const here = catalogue();
  const many = async (): Promise<object[]> => new Array(150_000).fill({});
  const slow = remembered(here, 'slow', async () => {
    await new Promise((done) => setTimeout(done, 20));
    return [{ n: 1 }];
  });
  for (const question of ['a', 'b', 'c']) expect(await remembered(here, question, many)).toHaveLength(150_000);
  expect(await slow).toEqual([{ n: 1 }]);
  expect(await remembered(here, 'beyond all room', async () => new Array(300_000).fill({}))).toHaveLength(300_000);
});
