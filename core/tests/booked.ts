import { daysBetween } from '../dates';
import type { Line } from '../ledger';
import { entriesOf, grouped, hitOf } from './looked';
import { bits, COMMON, type Hit, ISA_240, ledgerTest, num, number, rarity, said, times, told, words } from './test';

/** Entries that do not say, or do not do, what entries should. */

export const noDescription = ledgerTest({
  code: 'no-description',
  name: 'Entries that say nothing',
  group: 'How it is booked',
  looksFor:
    'Entries without a description of their own or on any of their lines. Each counts by how seldom its journal has such entries.',
  source: ISA_240,
  looksAt: 'entries',
  params: {},
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger) =>
    [...grouped(entriesOf(ledger), (e) => `${e.entity}\n${e.journal}`).values()].flatMap((all) => {
      const silent = all.filter((e) => e.description === '' && e.lines.every((l) => l.description === ''));
      return silent
        .filter((e) => e.within)
        .map((e) =>
          hitOf(e, rarity(silent.length, all.length), { journal: e.journal, some: silent.length, all: all.length }),
        );
    }),
  reason: ({ parts }) =>
    `It says nothing; ${said(parts.some)} of ${times(num(parts.all), 'entry', 'entries')} of journal ${told(parts.journal) || '(none)'} do not.`,
});

/** What people write who are not sure, or would rather not say. */
const WORDS = [
  'error',
  'mistake',
  'wrong',
  'correct',
  'adjust',
  'plug',
  'override',
  'per call',
  'as agreed',
  'as discussed',
  'to be sorted',
  'reclass',
  'write off',
  'do not',
  'sorry',
  'unknown',
];

export const listedWords = ledgerTest({
  code: 'words',
  name: 'Words that give pause',
  group: 'How it is booked',
  looksFor:
    'Entries that say, or have a line that says, one of the words that you list. The list to begin with has what people write who mend something, or are not sure.',
  source: ISA_240,
  looksAt: 'entries',
  params: { words: words('Words, or parts of them', WORDS) },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { words: listed }) =>
    entriesOf(ledger).flatMap((e) => {
      const said = [e.description, ...e.lines.filter((l) => l.within).map((l) => l.description)]
        .join('\n')
        .toLowerCase();
      const found = listed.filter((word) => said.includes(word.toLowerCase()));
      return e.within && found.length > 0
        ? [hitOf(e, found.length, { words: found.join(', '), said: e.description })]
        : [];
    }),
  reason: ({ parts }) => `It says “${told(parts.words)}”: ${told(parts.said) || 'on one of its lines'}.`,
});

export const unbalanced = ledgerTest({
  code: 'unbalanced',
  name: 'Entries that do not balance',
  group: 'How it is booked',
  looksFor:
    'Entries whose debits and credits differ, and entries of a single line. Whatever else the ledger says rests on there being none.',
  source: COMMON,
  looksAt: 'entries',
  params: {},
  at: ['entry'],
  behind: ['entry'],
  needs: ['whole entries'],
  plain: (ledger) =>
    entriesOf(ledger).flatMap((e) => {
      if (!e.within || (e.net === 0 && e.lines.length > 1)) return [];
      return [{ ...hitOf(e, e.net === 0 ? 1 : 6, { net: e.net, lines: e.lines.length }), amount: e.net }];
    }),
  reason: ({ parts }, say) =>
    num(parts.net) === 0
      ? 'It has a single line.'
      : `Its ${times(num(parts.lines), 'line')} come to ${say.money(num(parts.net))}, not to nothing.`,
});

export const notReversed = ledgerTest({
  code: 'not-reversed',
  name: 'Not reversed, as others like it are',
  group: 'Booked twice or missing',
  looksFor:
    'Entries that say the same as others of their journal of which one half or more were reversed, and that were not, by the end of a later period. An accrual that stays counts the cost twice when the invoice comes.',
  source: COMMON,
  looksAt: 'entries',
  params: {},
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger) => {
    const all = entriesOf(ledger);
    const undone = new Set(all.map((e) => `${e.entity}\n${e.reversalOf}`));
    const firsts = all.filter((e) => e.reversalOf === null && e.description !== '');
    return [...grouped(firsts, (e) => `${e.entity}\n${e.journal}\n${e.description}`).values()].flatMap((alike) => {
      const reversed = alike.filter((e) => undone.has(`${e.entity}\n${e.number}`)).length;
      return alike.flatMap((e): Hit[] => {
        const ended = Math.max(...e.lines.map((l) => l.period)) < ledger.end(e.entity);
        if (!e.within || !ended || undone.has(`${e.entity}\n${e.number}`)) return [];
        if (reversed === 0 || reversed * 2 < alike.length) return [];
        return [hitOf(e, 2 + bits(1 + reversed), { reversed, all: alike.length, said: e.description })];
      });
    });
  },
  reason: ({ amount, parts }, say) =>
    `“${told(parts.said)}” for ${say.money(amount)} was not reversed; ${said(parts.reversed)} of ${said(parts.all)} that say the same were.`,
});

export const reversedSoon = ledgerTest({
  code: 'reversed-soon',
  name: 'Reversed soon after the period ended',
  group: 'How it is booked',
  looksFor:
    'Entries that were reversed within days, in a later period than their own. Where a journal has such entries all the time they hardly count; a single one may have been there only for the figures at the end of the period.',
  source: ISA_240,
  looksAt: 'entries',
  params: { days: number('Days, at the most', 15, { least: 1, most: 366 }) },
  at: ['entry'],
  behind: 'entries',
  plain: (ledger, { days }) => {
    const all = entriesOf(ledger);
    const byNumber = new Map(all.map((e) => [`${e.entity}\n${e.number}`, e]));
    const back = all.flatMap((by) => {
      const e = by.reversalOf === null ? undefined : byNumber.get(`${by.entity}\n${by.reversalOf}`);
      if (!e || e.number === by.number) return [];
      const later = Math.min(...by.lines.map((l) => l.period)) > Math.max(...e.lines.map((l) => l.period));
      const apart = daysBetween(e.day, by.day);
      return later && apart >= 0 && apart <= days ? [{ e, by, apart }] : [];
    });
    // Reversed several times it is told once, by the first that did.
    const firsts = [...grouped(back, ({ e }) => `${e.entity}\n${e.number}`).values()].map(
      (own) => own.sort((a, b) => a.apart - b.apart || (a.by.number < b.by.number ? -1 : 1))[0] as (typeof own)[number],
    );
    const posters = grouped(all, (e) => `${e.entity}\n${e.person}`);
    const soon = grouped(firsts, ({ e }) => `${e.entity}\n${e.person}`);
    return firsts.flatMap(({ e, by, apart }): Hit[] => {
      if (!e.within) return [];
      const key = `${e.entity}\n${e.person}`;
      return [
        {
          ...hitOf(e, rarity((soon.get(key) ?? []).length, (posters.get(key) ?? []).length) / 2, {
            by: by.number,
            apart,
            person: e.person,
          }),
          entries: [e.number, by.number],
        },
      ];
    });
  },
  reason: ({ amount, parts }, say) =>
    `${say.money(amount)}${parts.person === null ? '' : ` by ${told(parts.person)}`}, taken back ${times(num(parts.apart), 'day')} later by ${told(parts.by)}, in another period.`,
});

export const missingDimension = ledgerTest({
  code: 'missing-dimension',
  name: 'A required dimension is missing',
  group: 'How it is booked',
  looksFor:
    'Lines on accounts for which the chart requires a member of a dimension, without one; and lines with a member of a dimension that the chart forbids there. Sums by that dimension leave the first out.',
  source: COMMON,
  looksAt: 'lines',
  params: {},
  at: ['account', 'other', 'entry'],
  behind: ['account', 'entry'],
  plain: (ledger) => {
    const within = ledger.lines.filter((l) => l.within && l.kind !== 'opening');
    const found = within.flatMap((l) => {
      const rules = ledger.books.get(l.entity)?.chart.find((a) => a.code === l.account)?.dimRules ?? {};
      return Object.entries(rules).flatMap(([dim, rule]) =>
        (rule === 'required' && l.dims[dim] === undefined) || (rule === 'forbidden' && l.dims[dim] !== undefined)
          ? [{ l, dim, rule }]
          : [],
      );
    });
    return [...grouped(found, ({ l, dim }) => `${l.entity}\n${l.account}\n${dim}\n${l.entry}`).values()].map(
      (own): Hit => {
        const [{ l, dim, rule }] = own as [(typeof own)[number]];
        return {
          ...{ entity: l.entity, at: { account: l.account, other: dim, entry: l.entry }, degree: 1 },
          amount: own.reduce((sum, one) => sum + one.l.amount, 0),
          parts: { rule, lines: own.length },
        };
      },
    );
  },
  reason: ({ at, amount, parts }, say) =>
    `${say.money(amount)} on ${say.account(told(at.account))} ${parts.rule === 'required' ? 'without' : 'with'} ${say.dimension(told(at.other))}, which the chart ${parts.rule === 'required' ? 'requires' : 'forbids'} there.`,
});

export const changedLines = ledgerTest({
  code: 'changed-lines',
  name: 'Changed or taken away by a later load',
  group: 'Booked twice or missing',
  looksFor:
    'Entries that had lines in an earlier load which a later one changed or took away. What was read and signed rested on them as they were.',
  source: COMMON,
  looksAt: 'entries',
  params: {},
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger) => {
    const there = new Map(ledger.lines.map((l) => [`${l.entity}\n${l.entry}\n${l.line}`, l]));
    const same = (a: Line, b: Line): boolean =>
      a.account === b.account &&
      a.amount === b.amount &&
      a.period === b.period &&
      a.day === b.day &&
      a.description === b.description;
    const odd = ledger.gone.flatMap((l) => {
      const now = there.get(`${l.entity}\n${l.entry}\n${l.line}`);
      return now && same(l, now) ? [] : [{ l, now }];
    });
    return [...grouped(odd, ({ l }) => `${l.entity}\n${l.entry}`).values()].map((own): Hit => {
      const [{ l }] = own as [(typeof own)[number]];
      const amount = own.reduce((sum, one) => sum + Math.abs(one.l.amount - (one.now?.amount ?? 0)), 0);
      const removed = own.filter((one) => !one.now).length;
      return {
        ...{ entity: l.entity, at: { entry: l.entry }, degree: removed > 0 ? 3 : 2, amount },
        parts: { removed, changed: own.length - removed },
      };
    });
  },
  reason: ({ amount, parts }, say) =>
    `${[num(parts.changed) > 0 ? `${times(num(parts.changed), 'line')} changed` : '', num(parts.removed) > 0 ? `${times(num(parts.removed), 'line')} taken away` : ''].filter(Boolean).join(' and ')} by a later load, by ${say.money(amount)} in all.`,
});
