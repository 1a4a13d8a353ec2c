import { daysBetween } from '../dates';
import { similarNames } from '../similarNames';
import { type EntryTested, entriesOf, grouped } from './looked';
import { bits, COMMON, type Hit, ISA_240, ledgerTest, num, number, said, times, told } from './test';

/** What seems to be there a second time. */

/** Numbers that differ by so many characters are easily taken for two. */
const ALIKE = 2;

export const twice = ledgerTest({
  code: 'twice',
  name: 'Same party and amount within days',
  group: 'Booked twice or missing',
  looksFor:
    'Entries of one party with the same total within a few days, none of which takes the other back. Document numbers that differ by a character or two weigh heavily; amounts that come all the time weigh little.',
  source: COMMON,
  looksAt: 'entries',
  params: { days: number('Days apart, at the most', 10, { most: 366 }) },
  at: ['party', 'entry'],
  behind: 'entries',
  plain: (ledger, { days }) => {
    const all = entriesOf(ledger).filter((e) => e.party !== null && e.total > 0);
    const undone = new Set(all.map((e) => `${e.entity}\n${e.reversalOf}`));
    const standing = all.filter((e) => e.reversalOf === null && !undone.has(`${e.entity}\n${e.number}`));
    return [...grouped(standing, (e) => `${e.entity}\n${e.party}\n${e.journal}\n${e.total}`).values()].flatMap(
      (group) => {
        group.sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : a.number < b.number ? -1 : 1));
        const runs: EntryTested[][] = [];
        for (const e of group) {
          const run = runs.at(-1);
          const last = run?.at(-1);
          if (run && last && daysBetween(last.day, e.day) <= days) run.push(e);
          else runs.push([e]);
        }
        return runs.flatMap((run): Hit[] => {
          const [first, second] = run as [EntryTested, EntryTested?];
          if (!second || !run.some((e) => e.within)) return [];
          const closest = Math.min(...run.slice(1).map((e, i) => daysBetween((run[i] as EntryTested).day, e.day)));
          const alike = run.slice(1).some((e, i) => areAlike((run[i] as EntryTested).document, e.document));
          return [
            {
              ...{ entity: first.entity, at: { party: first.party as string, entry: first.number } },
              degree: Math.max(0, bits((days + 1) / (closest + 1)) + (alike ? 4 : 0) - bits(group.length / 2)),
              amount: first.total,
              parts: {
                times: run.length,
                closest,
                all: group.length,
                documents: alike ? `${first.document} and ${second.document}` : null,
              },
              entries: run.map((e) => e.number),
            },
          ];
        });
      },
    );
  },
  reason: ({ at, amount, parts }, say) =>
    `${say.party(told(at.party))}: ${say.money(amount)} ${said(parts.times)} times, ${times(num(parts.closest), 'day')} apart${num(parts.all) > num(parts.times) ? ` (${said(parts.all)} times in all)` : ''}${parts.documents === null ? '' : `; documents ${told(parts.documents)} are nearly the same`}.`,
});

const areAlike = (a: string | null, b: string | null): boolean =>
  a !== null && b !== null && a.length > ALIKE && b.length > ALIKE && a !== b && distance(a, b) <= 1;

/** The least number of characters to put in, take out or exchange, to make one text of another (V. Levenshtein, 1966). */
export function distance(a: string, b: string): number {
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++)
      next.push(
        Math.min(
          (next[j - 1] as number) + 1,
          (row[j] as number) + 1,
          (row[j - 1] as number) + (a[i - 1] === b[j - 1] ? 0 : 1),
        ),
      );
    row = next;
  }
  return row[b.length] as number;
}

export const sameDocument = ledgerTest({
  code: 'same-document',
  name: 'Same invoice in several entries',
  group: 'Booked twice or missing',
  looksFor:
    'Numbers of invoices of one party that several entries book to one account on the same side, none of which takes the other back. One invoice is booked once.',
  source: COMMON,
  looksAt: 'entries',
  params: {},
  at: ['document', 'party', 'account'],
  behind: 'entries',
  plain: (ledger) => {
    const undone = new Set(ledger.lines.map((l) => `${l.entity}\n${l.reversalOf}`));
    const invoices = ledger.lines.filter(
      (l) =>
        l.kind !== 'opening' &&
        l.document !== null &&
        l.documentType === 'invoice' &&
        l.counterparty !== null &&
        l.amount !== 0 &&
        l.reversalOf === null &&
        !undone.has(`${l.entity}\n${l.entry}`),
    );
    const key = (l: (typeof invoices)[number]): string =>
      `${l.entity}\n${l.document}\n${l.counterparty}\n${l.account}\n${Math.sign(l.amount)}`;
    const found = [...grouped(invoices, key).values()].flatMap((own): Hit[] => {
      const [{ entity, document, counterparty, account }] = own as [(typeof own)[number]];
      const entries = [...new Set(own.map((l) => l.entry))].sort();
      if (entries.length < 2 || !own.some((l) => l.within)) return [];
      return [
        {
          ...{
            entity,
            at: { document: document as string, party: counterparty as string, account },
            degree: 3 + bits(entries.length),
          },
          amount: own.reduce((sum, l) => sum + l.amount, 0),
          parts: { times: entries.length },
          entries,
        },
      ];
    });
    // Of both sides of the same account the one that is more is told.
    return [...grouped(found, (h) => `${h.entity}\n${h.at.document}\n${h.at.party}\n${h.at.account}`).values()].map(
      (both) => both.sort((a, b) => b.amount - a.amount)[0] as Hit,
    );
  },
  reason: ({ at, amount, parts }, say) =>
    `Invoice ${told(at.document)} of ${say.party(told(at.party))} is on ${say.account(told(at.account))} in ${said(parts.times)} entries, ${say.money(amount)} in all.`,
});

export const partiesAlike = ledgerTest({
  code: 'parties-alike',
  name: 'Two parties that may be one',
  group: 'Booked twice or missing',
  looksFor:
    'Parties with lines in the window that have the same bank account, or nearly the same name. One is a mistake of whoever keeps the list, or somebody’s second name.',
  source: ISA_240,
  looksAt: 'parties',
  params: {},
  at: ['party', 'other'],
  behind: ['party'],
  plain: (ledger) => {
    const used = grouped(
      ledger.lines.filter((l) => l.within && l.kind !== 'opening' && l.counterparty !== null),
      (l) => `${l.entity}\n${l.counterparty}`,
    );
    const pairs = alikeParties(ledger.parties);
    return [...ledger.books.keys()].flatMap((entity) =>
      pairs.flatMap(({ party, other, account }): Hit[] => {
        const own = used.get(`${entity}\n${party}`);
        if (!own || !used.has(`${entity}\n${other}`)) return [];
        const amount = own.reduce((sum, l) => sum + Math.max(0, l.amount), 0);
        return [{ ...{ entity, at: { party, other }, degree: account === null ? 1 : 5, amount }, parts: { account } }];
      }),
    );
  },
  reason: ({ at, parts }, say) =>
    parts.account === null
      ? `${say.party(told(at.party))} and ${say.party(told(at.other))} have nearly the same name.`
      : `${say.party(told(at.party))} and ${say.party(told(at.other))} have the same bank account, ${told(parts.account)}.`,
});

/** Pairs of parties that share a bank account or nearly a name, each pair once. @returns with the account that is shared */
export function alikeParties(parties: LedgerPartyList): { party: string; other: string; account: string | null }[] {
  const pairs = new Map<string, { party: string; other: string; account: string | null }>();
  const pair = (codes: readonly string[], account: string | null): void => {
    for (const [i, party] of codes.entries())
      for (const other of codes.slice(i + 1)) {
        const key = `${party}\n${other}`;
        if (!pairs.has(key)) pairs.set(key, { party, other, account });
      }
  };
  const plain = (account: string): string => account.replace(/[^0-9a-z]/gi, '').toLowerCase();
  const banked = grouped(
    parties.filter((p) => plain(p.bankAccount) !== ''),
    (p) => plain(p.bankAccount),
  );
  for (const own of banked.values()) pair(own.map((p) => p.code).sort(), (own[0] as (typeof own)[number]).bankAccount);
  for (const group of similarNames(parties.map((p) => ({ code: p.code, name: p.name, type: p.kind ?? '' }))))
    pair([...group].sort(), null);
  return [...pairs.values()];
}
type LedgerPartyList = readonly { code: string; name: string; kind: string | null; bankAccount: string }[];
