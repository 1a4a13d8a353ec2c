import { isTemporary } from '../ledger';
import { countBy, entriesOf, grouped, hitOf } from './looked';
import { bits, COMMON, type Hit, ISA_240, ledgerTest, num, number, rarity, said, times, told, words } from './test';

/** Who books what where, and who hardly ever does. */

export const manual = ledgerTest({
  code: 'manual',
  name: 'Booked by hand',
  group: 'People',
  looksFor:
    'Entries of journals or sources that are written by hand, not raised by another system. Nothing checks them but whoever approves them, which is why an auditor reads them first.',
  source: ISA_240,
  looksAt: 'entries',
  params: {
    words: words('Journals, or words in sources, that are by hand', ['JE', 'GJ', 'manual', 'by hand', 'adjust']),
  },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { words: named }) =>
    entriesOf(ledger).flatMap((e) =>
      e.within && byHand(e.journal, e.source, named)
        ? [hitOf(e, 0, { journal: e.journal, source: e.source, person: e.person })]
        : [],
    ),
  reason: ({ amount, parts }, say) =>
    `Booked by hand in journal ${told(parts.journal) || '(none)'}${parts.person === null ? '' : ` by ${told(parts.person)}`}: ${say.money(amount)}.`,
});

const byHand = (journal: string, source: string | null, named: readonly string[]): boolean =>
  named.some(
    (word) => journal.toLowerCase() === word.toLowerCase() || (source ?? '').toLowerCase().includes(word.toLowerCase()),
  );

export const rarePerson = ledgerTest({
  code: 'rare-person',
  name: 'Booked by somebody who seldom does',
  group: 'People',
  looksFor:
    'Entries by people who post hardly anything, in companies where others post much. Whoever stands in for somebody, or was given rights for a day, is among them.',
  source: ISA_240,
  looksAt: 'entries',
  params: {
    entries: number('Entries by them, at the most', 5, { least: 1 }),
    others: number('Entries in the company, at the least', 200, { least: 2, most: 1_000_000 }),
  },
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger, { entries: most, others }) => {
    const all = entriesOf(ledger);
    const byPerson = countBy(all, (e) => `${e.entity}\n${e.person}`);
    const byEntity = countBy(all, (e) => e.entity);
    return all.flatMap((e) => {
      const own = byPerson.get(`${e.entity}\n${e.person}`) as number;
      const of = byEntity.get(e.entity) as number;
      if (!e.within || e.person === null || own > most || of < others) return [];
      return [hitOf(e, rarity(own, of) / 2, { person: e.person, own, of })];
    });
  },
  reason: ({ amount, parts }, say) =>
    `${told(parts.person)} posted ${times(num(parts.own), 'entry', 'entries')} of ${said(parts.of)}; this one is of ${say.money(amount)}.`,
});

export const ownApproval = ledgerTest({
  code: 'own-approval',
  name: 'Approved by whoever posted it',
  group: 'People',
  looksFor: 'Entries that the same person posted and approved. A second pair of eyes is what an approval is for.',
  source: ISA_240,
  looksAt: 'entries',
  params: {},
  at: ['entry'],
  behind: ['entry'],
  plain: (ledger) =>
    entriesOf(ledger).flatMap((e) =>
      e.within && e.person !== null && e.person === e.approvedBy ? [hitOf(e, 1, { person: e.person })] : [],
    ),
  reason: ({ amount, parts }, say) => `${told(parts.person)} posted ${say.money(amount)} and approved it.`,
});

/** Begun with: a pair of a person and an account is rare with so many lines, where one would expect so many. */
export const RARE_POSTS = { most: 2, expected: 20 } as const;

export const rarePoster = ledgerTest({
  code: 'rare-poster',
  name: 'Somebody on an account that is not theirs',
  group: 'People',
  looksFor:
    'People who posted once or twice to an account to which others post all the time, although they post much elsewhere. A line of theirs there may be a wrong code, or a way around the usual one.',
  source: ISA_240,
  looksAt: 'lines',
  params: {
    lines: number('Lines of theirs there, at the most', RARE_POSTS.most, { least: 1 }),
    expected: number('Lines that one would expect of them', RARE_POSTS.expected, { least: 1, most: 1_000_000 }),
  },
  at: ['account', 'person'],
  behind: ['account', 'person'],
  plain: (ledger, { lines: most, expected }) => {
    const all = ledger.lines.filter((l) => l.kind !== 'opening' && l.postedBy !== null);
    const byPerson = countBy(all, (l) => `${l.entity}\n${l.postedBy}`);
    const byAccount = countBy(all, (l) => `${l.entity}\n${l.account}`);
    const byEntity = countBy(all, (l) => l.entity);
    return [...grouped(all, (l) => `${l.entity}\n${l.account}\n${l.postedBy}`).values()].flatMap((own): Hit[] => {
      const [{ entity, account, postedBy }] = own as [(typeof own)[number]];
      const person = postedBy as string;
      const [theirs, there] = [
        byPerson.get(`${entity}\n${person}`) as number,
        byAccount.get(`${entity}\n${account}`) as number,
      ];
      const usual = (theirs * there) / (byEntity.get(entity) as number);
      const within = own.filter((l) => l.within);
      if (within.length === 0 || own.length > most || usual < expected) return [];
      return [
        {
          ...{ entity, at: { account, person }, degree: bits(usual / own.length) / 2 },
          amount: within.reduce((sum, l) => sum + l.amount, 0),
          parts: { own: own.length, there, theirs },
        },
      ];
    });
  },
  reason: ({ at, amount, parts }, say) =>
    `${told(at.person)} posted ${times(num(parts.own), 'line')} of ${said(parts.there)} on ${say.account(told(at.account))} (${say.money(amount)}), and ${said(parts.theirs)} on all accounts.`,
});

export const rarePair = ledgerTest({
  code: 'rare-pair',
  name: 'Two accounts that seldom meet',
  group: 'People',
  looksFor:
    'Entries that debit one account and credit another where both are in constant use and hardly ever in one entry. What is booked straight from an income account to a bank account, or past the control account, shows here.',
  source: ISA_240,
  looksAt: 'entries',
  params: {
    entries: number('Entries with both, at the most', 2, { least: 1 }),
    lines: number('Lines on either, at the least', 50, { least: 2, most: 1_000_000 }),
  },
  at: ['entry', 'account', 'other'],
  behind: ['entry'],
  needs: ['whole entries'],
  plain: (ledger, { entries: most, lines: least }) => {
    const lines = countBy(
      ledger.lines.filter((l) => l.kind !== 'opening'),
      (l) => `${l.entity}\n${l.account}`,
    );
    const met = entriesOf(ledger).flatMap((e) => {
      const debits = new Set(e.lines.filter((l) => l.amount > 0).map((l) => l.account));
      const credits = new Set(e.lines.filter((l) => l.amount < 0).map((l) => l.account));
      // Of an entry with several accounts on both sides nobody can say which belongs to which.
      if (debits.size > 1 && credits.size > 1) return [];
      return [...debits].flatMap((account) => [...credits].map((other) => ({ e, account, other })));
    });
    const pairs = countBy(met, ({ e, account, other }) => `${e.entity}\n${account}\n${other}`);
    return met.flatMap(({ e, account, other }): Hit[] => {
      const together = pairs.get(`${e.entity}\n${account}\n${other}`) as number;
      const fewer = Math.min(
        lines.get(`${e.entity}\n${account}`) as number,
        lines.get(`${e.entity}\n${other}`) as number,
      );
      if (!e.within || account === other || together > most || fewer < least) return [];
      return [
        {
          ...{
            entity: e.entity,
            at: { entry: e.number, account, other },
            degree: bits(fewer / together) / 2,
            amount: e.total,
          },
          parts: { together, fewer },
        },
      ];
    });
  },
  reason: ({ at, parts }, say) =>
    `Debits ${say.account(told(at.account))} and credits ${say.account(told(at.other))}: ${times(num(parts.together), 'entry does', 'entries do')}, although each has ${said(parts.fewer)} lines or more.`,
});

export const unusualAccount = ledgerTest({
  code: 'unusual-account',
  name: 'A party on an account that is not its own',
  group: 'How it is booked',
  looksFor:
    'Customers and suppliers booked once or twice to an income or expense account, although what they are booked to is another one as a rule. An invoice was coded by habit, or by mistake.',
  source: COMMON,
  looksAt: 'lines',
  params: {
    lines: number('Lines on that account, at the most', 2, { least: 1 }),
    usual: number('Lines on other accounts of income and expense, at the least', 10, { least: 2, most: 1_000_000 }),
  },
  at: ['account', 'party'],
  behind: ['account', 'party'],
  plain: (ledger, { lines: most, usual }) => {
    const temporary = (entity: string, account: string): boolean => {
      const type = ledger.books.get(entity)?.chart.find((a) => a.code === account)?.type;
      return type !== undefined && isTemporary(type);
    };
    const all = ledger.lines.filter(
      (l) => l.kind !== 'opening' && l.counterparty !== null && temporary(l.entity, l.account),
    );
    const byParty = countBy(all, (l) => `${l.entity}\n${l.counterparty}`);
    return [...grouped(all, (l) => `${l.entity}\n${l.counterparty}\n${l.account}`).values()].flatMap((own): Hit[] => {
      const [{ entity, account, counterparty }] = own as [(typeof own)[number]];
      const party = counterparty as string;
      const others = (byParty.get(`${entity}\n${party}`) as number) - own.length;
      const within = own.filter((l) => l.within);
      if (within.length === 0 || own.length > most || others < usual) return [];
      return [
        {
          ...{ entity, at: { account, party }, degree: bits(others / own.length) / 2 },
          amount: within.reduce((sum, l) => sum + l.amount, 0),
          parts: { own: own.length, others },
        },
      ];
    });
  },
  reason: ({ at, amount, parts }, say) =>
    `${say.party(told(at.party))} is on ${say.account(told(at.account))} with ${times(num(parts.own), 'line')} (${say.money(amount)}), and with ${said(parts.others)} on other accounts of income and expense.`,
});
