import { STATUSES } from '@/core/ledger';
import { PARTY_KINDS } from '@/core/parties';
import { nearest } from '@/core/selection';
import type { FileRecord } from '@/exchange/fileRecord';
import type { Problems } from '@/exchange/problem';
import { readRecords } from '@/exchange/readRecords';
import type { Db } from '@/store/db';
import { type PartyRecord, readParties, upsertParties } from '@/store/parties';
import { emptyCells } from './emptyCells';
import type { LoadJob } from './loadJob';
import { listed } from './values';

export const PARTY_TEXTS = ['address', 'postal_code', 'city', 'country', 'bank_account', 'tax_number'] as const;

/** What a party is before anything is known of it. */
export const newParty = (code: string, name: string): PartyRecord => ({
  code,
  name,
  kind: null,
  groups: [],
  address: '',
  postal_code: '',
  city: '',
  country: '',
  bank_account: '',
  tax_number: '',
  status: 'active',
});

/**
 * Reads customers, suppliers and other parties, shared by all companies: new ones are added, known ones get what the
 * file has columns of, and keep the rest.
 */
export async function loadParties(db: Db, job: LoadJob, problems: Problems): Promise<number> {
  const before = new Map((await readParties(db)).map((p) => [p.code, p]));
  const found: PartyRecord[] = [];
  const seen = new Map<string, number>();
  for await (const record of readRecords(job.file, problems, job.reading)) {
    job.onRow();
    const code = (record.values.code ?? '').trim();
    if (code === '') problems.add(record.row, 'code', null, 'the code is missing');
    const first = seen.get(code);
    // An audit file may have the same party as customer and as supplier.
    const again = first !== undefined && job.file.format === 'saft' ? found.find((p) => p.code === code) : undefined;
    if (first !== undefined && !again)
      problems.add(record.row, 'code', code, `party ${code} stands twice, first in row ${first}`);
    seen.set(code, first ?? record.row);
    const known = before.get(code);
    if (known) emptyCells(record, (column) => heldOf(known, column), job, problems);
    const party = partyOf(record, again ?? known, problems);
    if (again) Object.assign(again, party, { kind: again.kind === party.kind ? party.kind : 'both' });
    else if (code !== '') found.push(party);
  }
  if (seen.size === 0 && problems.count === 0)
    problems.add(null, null, null, 'the file holds a header but no customers or suppliers');
  if (problems.count === 0) await upsertParties(db, found);
  return found.length;
}

const heldOf = (party: PartyRecord, column: string): string =>
  column === 'group'
    ? party.groups.join('; ')
    : column === 'status'
      ? party.status.replace('active', '')
      : String(party[column as keyof PartyRecord] ?? '');

function partyOf({ row, values }: FileRecord, before: PartyRecord | undefined, problems: Problems): PartyRecord {
  const text = (column: string): string => (values[column] ?? '').trim();
  const oneOf = <T extends string>(column: string, words: readonly T[], held: T | null): T | null => {
    if (!(column in values)) return held;
    const word = text(column).toLowerCase();
    if (word === '') return null;
    const known = words.find((w) => w === word);
    if (!known) {
      const near = nearest(word, words);
      problems.add(
        row,
        column,
        text(column),
        `“${text(column)}” is none of ${words.join(', ')}${near.length > 0 ? `; is it ${near[0]}?` : ''}`,
      );
    }
    return known ?? held;
  };
  const code = text('code');
  if (!before && text('name') === '') problems.add(row, 'name', null, 'the name is missing');
  const country = text('country').toUpperCase();
  if (country !== '' && !/^[A-Z]{2}$/.test(country))
    problems.add(row, 'country', text('country'), 'write a country with its two letters (ISO 3166), such as NO');
  const held = before ?? newParty(code, code);
  return {
    ...held,
    code,
    name: text('name') || held.name,
    kind: oneOf('kind', PARTY_KINDS, held.kind),
    groups: 'group' in values ? listed(text('group')) : held.groups,
    ...Object.fromEntries(PARTY_TEXTS.map((c) => [c, c in values ? (c === 'country' ? country : text(c)) : held[c]])),
    status: oneOf('status', STATUSES, held.status) ?? 'active',
  } as PartyRecord;
}
