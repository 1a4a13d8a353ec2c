import type { TestHit } from '@/contracts/answers/tests';
import type { Screen, Step } from '../address/address';
import { countText } from '../amounts';
import { amountCell, type Cell } from '../sheet/cell';
import type { Column } from '../sheet/gridModel';
import type { SheetRow } from '../sheet/model';
import { JUDGEMENT_WORD } from '../tests/words';

/** What tests found as rows of a sheet. */

export const HIT_COLUMNS: Column[] = [
  { key: 'score', label: 'Score', width: '54px', hint: 'How unusual, in bits' },
  { key: 'what', label: 'What', width: 'minmax(150px, 0.8fr)' },
  { key: 'reason', label: 'Why', width: 'minmax(240px, 2fr)' },
  { key: 'test', label: 'Test', width: 'minmax(120px, 0.7fr)' },
  { key: 'amount', label: 'Amount', width: '132px', amount: true },
  { key: 'lines', label: 'Lines', width: '56px' },
  { key: 'judged', label: 'Judged', width: '92px' },
  { key: 'entity', label: 'Company', width: '80px', onRequest: true },
  { key: 'rarity', label: 'Of so few', width: '72px', onRequest: true, hint: 'Bits for being one of so few hits' },
  { key: 'size', label: 'Its size', width: '66px', onRequest: true, hint: 'Bits for its size beside what is usual' },
  { key: 'degree', label: 'How far', width: '66px', onRequest: true, hint: 'Bits for how far it is from usual' },
  { key: 'together', label: 'Together', width: '76px', onRequest: true, hint: 'Score of its entry in all tests' },
  { key: 'account', label: 'Account', width: '80px', onRequest: true },
  { key: 'party', label: 'Party', width: '90px', onRequest: true },
  { key: 'person', label: 'Person', width: '90px', onRequest: true },
  { key: 'journal', label: 'Journal', width: '70px', onRequest: true },
  { key: 'day', label: 'Day', width: '96px', onRequest: true },
];

/** What of a run is gone through, as its route asks for it. */
export function hitsAsked({ options }: Screen): URLSearchParams {
  const query = new URLSearchParams({ state: options.state ?? 'open', limit: String(HITS_MOST) });
  if (options.test) query.append('test', options.test);
  if (options.by) query.set('by', options.by);
  if (options.key) query.set('key', options.key);
  return query;
}

/** A page of hits; those of all tests together are more. */
export const HITS_MOST = 1_000;

const queryOf = (address: string): URLSearchParams => new URLSearchParams(address.replace(/^[^?]*\?/, ''));

/** What asks for the lines behind a hit, in place of what the run was asked over. */
export function putOf({ address }: TestHit): Record<string, string[]> {
  const params = queryOf(address);
  const put: Record<string, string[]> = {};
  for (const name of params.keys()) if (name !== 'step' && name !== 'window') put[name] = params.getAll(name);
  return put;
}

/** The entry that a hit is of alone; null where it is of several, or of an account. */
function entryOf({ address, entries }: TestHit): string | null {
  const step = queryOf(address).get('step');
  return entries.length > 1 || step === null ? null : new URLSearchParams(step).get('~e');
}

/** The way from a hit to its entry, or to its lines. */
export function hitStep(hit: TestHit, column: string): Step {
  const id = entryOf(hit);
  const step = { label: hit.what, row: hit.key, column, put: putOf(hit) };
  return id === null ? { ...step, view: 'lines', measure: 'movement' } : { ...step, view: 'entry', entry: id };
}

/** What a note, a tick or a pin on a hit is about: its entry or document, or the figure of its lines. */
export const subjectOfHit = (hit: TestHit): string => hit.subject ?? `figure:${queryOf(hit.address)}`;

/** @param again the row above is of the same entry, which is said once */
export function hitRow(hit: TestHit, again: boolean): SheetRow {
  const bits = (n: number): string => n.toFixed(1);
  const judged: Cell = hit.judgement ? JUDGEMENT_WORD[hit.judgement.judgement] : hit.ignored === null ? '' : 'ignored';
  return {
    key: hit.key,
    label: `${hit.name}: ${hit.what}`.slice(0, 300),
    cells: {
      score: bits(hit.score),
      what: again ? '″' : hit.what,
      reason: hit.reason,
      test: hit.name,
      amount: amountCell(hit.amount, { unit: hit.currency }),
      lines: countText(hit.lines),
      judged,
      entity: hit.entity,
      rarity: bits(hit.parts.rarity),
      size: bits(hit.parts.size),
      degree: bits(hit.parts.degree),
      together: bits(hit.together),
      account: hit.account,
      party: hit.party,
      person: hit.person,
      journal: hit.journal,
      day: hit.day,
    },
    count: hit.lines,
    subject: subjectOfHit(hit),
    put: putOf(hit),
    hit,
    opens: true,
    step: (column) => hitStep(hit, column),
    say: () => hit.reason,
  };
}
