import { expect, test } from 'vitest';
import { sharedByPages } from './ledgerTotal';

const figureOf = (accounts: string) => ({ known, figure: { accounts }, asOf: 3 }) as never;
const known = {};

test('later pages take what the first asked for, and ask themselves where that one left before it was there', async () => {
  const asked: string[] = [];
  let leave: (reason: Error) => void = () => {};
  const total = sharedByPages(async (_, { figure }) => {
    asked.push(String(figure.accounts));
    return asked.length === 1
      ? new Promise<number>((_resolve, reject) => {
          leave = reject;
        })
      : asked.length;
  }) as never as (ctx: never, of: never, page: 'first' | 'later') => Promise<number>;
  const first = total(null as never, figureOf('1*'), 'first');
  const later = total(null as never, figureOf('1*'), 'later');
  expect(asked).toEqual(['1*']);
  leave(new Error('nobody waits for this answer any more'));
  await expect(first).rejects.toThrow('nobody waits');
  await expect(later).resolves.toBe(2);
  await expect(total(null as never, figureOf('1*'), 'later')).resolves.toBe(2);
  await expect(total(null as never, figureOf('2*'), 'later')).resolves.toBe(3);
  expect(asked).toEqual(['1*', '1*', '2*']);
});
