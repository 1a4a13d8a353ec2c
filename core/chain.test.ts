import fc from 'fast-check';
import { expect, test } from 'vitest';
import { type ChainDocument, type ChainLink, eventsOf, progressOf, storyOf, sumsOf } from './chain';

const TYPES = ['contract', 'change order', 'invoice', 'credit note', 'payment'];
const document: fc.Arbitrary<ChainDocument> = fc.record({
  number: fc.constantFrom('A', 'B', 'C', 'D', 'E'),
  type: fc.constantFrom(...TYPES),
  date: fc.constant('2026-01-01'),
  amount: fc.integer({ min: -50_000, max: 50_000 }),
});
const links: fc.Arbitrary<ChainLink[]> = fc.array(
  fc.record({
    source: fc.constant('X'),
    target: fc.constantFrom('A', 'B', 'C', 'D', 'E'),
    date: fc.integer({ min: 1, max: 28 }).map((day) => `2026-02-${String(day).padStart(2, '0')}`),
    applied: fc.integer({ min: -9_999, max: 9_999 }),
  }),
  { maxLength: 12 },
);

test('what is left after each event is the amount, with all changes, less all that was applied up to then', () => {
  fc.assert(
    fc.property(fc.array(document, { maxLength: 5 }), links, fc.integer({ min: 1, max: 99_999 }), (all, of, amount) => {
      const known = new Map(all.map((d) => [d.number, d]));
      const whole: ChainDocument = { number: 'X', type: 'contract', date: '2026-01-01', amount };
      const events = eventsOf(whole, of, known);
      expect(events).toHaveLength(of.length);
      for (const [i, event] of events.entries()) {
        // Added up anew from the links themselves, in no order at all.
        const day = (link: ChainLink): string => `${link.date} ${link.target}`;
        const upTo = of.filter((link) => day(link) < `${event.date} ${event.document}`);
        const same = of.filter((link) => day(link) === `${event.date} ${event.document}`);
        if (same.length > 1) continue;
        let left = amount;
        for (const { target, applied } of [...upTo, ...same]) {
          const change = known.get(target)?.type === 'change order';
          left += change && applied >= 0 ? (known.get(target)?.amount ?? 0) : -applied;
        }
        expect(event.open).toBe(left);
        expect(events[i + 1]?.date ?? '9').not.toBe('0');
      }
      expect(progressOf(whole, { ...sumsOf(events), settles: 0 }).open).toBe(events.at(-1)?.open ?? amount);
    }),
  );
});

test('a contract is worth what it was with its change orders, however these are delivered', () => {
  const contract: ChainDocument = { number: 'C-1', type: 'contract', date: '2026-01-10', amount: 100_000 };
  const known = new Map<string, ChainDocument>([
    ['CO-1', { number: 'CO-1', type: 'change order', date: '2026-02-01', amount: 15_000 }],
    ['CO-2', { number: 'CO-2', type: 'change order', date: '2026-03-01', amount: -5_000 }],
    ['I-1', { number: 'I-1', type: 'invoice', date: '2026-02-10', amount: 60_000 }],
  ]);
  const link = (target: string, date: string, applied: number): ChainLink => ({ source: 'C-1', target, date, applied });
  const way = [link('I-1', '2026-02-10', 60_000), link('CO-1', '2026-02-01', 0), link('CO-2', '2026-03-01', 0)];
  const events = eventsOf(contract, way, known);
  expect(events.map((e) => [e.document, e.open])).toEqual([
    ['CO-1', 115_000],
    ['I-1', 55_000],
    ['CO-2', 50_000],
  ]);
  const worth = (of: typeof events): number => progressOf(contract, { ...sumsOf(of), settles: 0 }).value;
  expect(worth(events)).toBe(110_000);
  // As something applied with the other sign, it is the same.
  const other = [way[0] as ChainLink, link('CO-1', '2026-02-01', -15_000)];
  expect(worth(eventsOf(contract, other, known))).toBe(115_000);
});

test('how far a document is, in words of its kind', () => {
  const of = (type: string, amount: number, used: number, settles = 0): string =>
    progressOf({ number: 'X', type, date: '2026-01-01', amount }, { changed: 0, used, settles }).state;
  expect(of('invoice', 100, 0)).toBe('not settled');
  expect(of('invoice', 100, 60)).toBe('partly settled');
  expect(of('invoice', 100, 100)).toBe('settled in full');
  expect(of('order', 100, 120)).toBe('billed for more than it is worth');
  expect(of('estimate', 100, 100)).toBe('taken up in full');
  expect(of('payment', 100, 0, 100)).toBe('applied in full');
  expect(of('credit note', -100, 0)).toBe('not applied');
  expect(of('change order', 100, 0)).toBe('');
  // An order receipt is no promise, a receipt of goods is.
  expect(of('receipt of goods', 100, 0)).toBe('not billed');
  // What a deposit holds was paid in; a receipt that settled an invoice first was applied.
  expect(of('receipt', 100, 100, 0)).toBe('deposited in full');
  expect(of('receipt', 100, 95, 0)).toBe('partly deposited');
  expect(of('receipt', 100, 100, 60)).toBe('partly applied');
});

test('in the story of a party what only promises changes no balance, and what is paid takes from it', () => {
  const of = (number: string, type: string, date: string, amount: number): ChainDocument => ({
    number,
    type,
    date,
    amount,
  });
  const story = storyOf(
    [
      of('P-1', 'payment', '2026-03-01', 60),
      of('C-1', 'contract', '2026-01-01', 1_000),
      of('I-1', 'invoice', '2026-02-01', 100),
      of('X-1', 'invoice', '2026-02-02', 7),
      of('N-1', 'credit note', '2026-04-01', 15),
    ],
    ({ number }) => (number === 'X-1' ? 0 : 1),
  );
  expect(story.map((e) => [e.document.number, e.counts, e.balance])).toEqual([
    ['C-1', false, 0],
    ['I-1', true, 100],
    ['X-1', false, 100],
    ['P-1', true, 40],
    ['N-1', true, 25],
  ]);
});
