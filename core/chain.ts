import type { DateText } from './dates';
import { add, type Minor } from './money';
import { isSettling } from './openItems';

/** How documents follow from one another, and what is left of each after every event (method.md §8). */

/** A document of which something may be left: paid, billed, applied. Amounts in its own currency. */
export interface ChainDocument {
  number: string;
  type: string;
  date: DateText;
  amount: Minor;
}

/** Something that one document applied to another: a payment to an invoice, an invoice to an order, a change to a contract. */
export interface ChainLink {
  /** What it was applied to. */
  source: string;
  /** What applied it. */
  target: string;
  date: DateText;
  applied: Minor;
}

/** Documents that change what another is worth, rather than use it up. */
export const CHANGING = /change order|variation|amendment/i;

export const isChanging = (type: string): boolean => CHANGING.test(type);

/** Documents that promise or ask for something and are never booked themselves. */
export const PROMISING =
  /order|estimate|quot|contract|offer|tender|requisition|grant letter|receipt of goods|goods receipt|delivery/i;

export const isPromising = (type: string): boolean => PROMISING.test(type) && !isSettling(type);

/** An event in the life of a document, with what was left of it afterwards. */
export interface ChainEvent {
  date: DateText;
  document: string;
  /** By how much it changed what is left: less than zero where it used some of it up. */
  change: Minor;
  open: Minor;
  /** Whether it changed the value of the document itself. */
  changes: boolean;
}

/**
 * By how much a link changes what is left of the document that it was applied to. A change order adds its own amount,
 * which may be less than zero; some systems deliver it as something applied with the other sign.
 */
export function changeOf(link: ChainLink, target: ChainDocument | undefined): { change: Minor; changes: boolean } {
  if (!target || !isChanging(target.type)) return { change: 0 - link.applied, changes: false };
  return { change: link.applied < 0 ? 0 - link.applied : target.amount, changes: true };
}

const inOrder = (a: ChainLink, b: ChainLink): number =>
  a.date < b.date ? -1 : a.date > b.date ? 1 : a.target < b.target ? -1 : 1;

/** What happened to a document, in the order of days, each with what was left of it. */
export function eventsOf(
  document: ChainDocument,
  links: readonly ChainLink[],
  known: ReadonlyMap<string, ChainDocument>,
): ChainEvent[] {
  let open = document.amount;
  return links
    .filter((link) => link.source === document.number)
    .sort(inOrder)
    .map((link) => {
      const { change, changes } = changeOf(link, known.get(link.target));
      open = add(open, change);
      return { date: link.date, document: link.target, change, open, changes };
    });
}

/** By how much change orders changed what a document is worth, and what others used up of it. */
export const sumsOf = (events: readonly ChainEvent[]): { changed: Minor; used: Minor } => ({
  changed: events.reduce((all, event) => (event.changes ? add(all, event.change) : all), 0),
  used: events.reduce((all, event) => (event.changes ? all : add(all, 0 - event.change)), 0),
});

type DocumentState = 'open' | 'partly' | 'done' | 'over' | 'none';

/**
 * How far a document is: nothing of it used, some of it, all of it, or more than there was.
 * @returns none for one that waits for nothing: a change order, or an amount of nothing
 */
function stateOf(document: ChainDocument, value: Minor, open: Minor): DocumentState {
  if (isChanging(document.type) || value === 0) return 'none';
  const [whole, left] = value < 0 ? [0 - value, 0 - open] : [value, open];
  if (left === 0) return 'done';
  if (left < 0) return 'over';
  return left === whole ? 'open' : 'partly';
}

/** How a document is used up: billed, taken up, applied to others, held by a deposit, or settled. */
type Use = 'billed' | 'taken up' | 'applied' | 'deposited' | 'settled';

/** Documents that are followed by an agreement before anything is billed. */
const OFFERING = /estimate|quot|offer|tender|requisition/i;

/**
 * How documents of a kind are used up.
 * @param held whether it settles nothing itself and others hold it, as a deposit holds the receipts of a day
 */
const wayUsed = (type: string, held: boolean): Use =>
  isSettling(type)
    ? held
      ? 'deposited'
      : 'applied'
    : isPromising(type)
      ? OFFERING.test(type)
        ? 'taken up'
        : 'billed'
      : 'settled';

/** What of a document is left, and how far it is in words of its kind; amounts in its currency. */
export interface Progress {
  /** What it is worth with its change orders. */
  value: Minor;
  open: Minor;
  /** Empty where nothing is to become of it. */
  state: string;
}

/**
 * How far a document is.
 * @param changed by how much change orders changed what it is worth
 * @param used what others applied to it
 * @param settles what it applied to others
 */
export function progressOf(
  document: ChainDocument,
  { changed, used, settles }: { changed: Minor; used: Minor; settles: Minor },
): Progress {
  const settling = isSettling(document.type);
  const held = settling && settles === 0 && used !== 0;
  const value = settling ? document.amount : add(document.amount, changed);
  const open = add(value, 0 - (settling && !held ? settles : used));
  return { value, open, state: stateWords(stateOf(document, value, open), wayUsed(document.type, held)) };
}

function stateWords(state: DocumentState, use: Use): string {
  switch (state) {
    case 'none':
      return '';
    case 'open':
      return `not ${use}`;
    case 'partly':
      return `partly ${use}`;
    case 'done':
      return `${use} in full`;
    case 'over':
      return `${use} for more than it is${use === 'billed' ? ' worth' : ''}`;
  }
}

/** An event in the story of a customer or supplier. */
export interface StoryEvent<Document> {
  document: Document;
  /** Whether it changes what is owed: an order, an estimate or a contract does not. */
  counts: boolean;
  /** What is owed after it. */
  balance: Minor;
}

/**
 * The documents of a customer or supplier in the order of days, each with what was owed after it: invoices add to it,
 * payments and credit notes take from it, and what only promises leaves it as it is.
 * @param signOf 1 for what is owed the usual way, -1 for the other, 0 for what is in another currency
 */
export function storyOf<Document extends ChainDocument>(
  documents: readonly Document[],
  signOf: (document: Document) => 1 | -1 | 0,
): StoryEvent<Document>[] {
  let balance: Minor = 0;
  return [...documents]
    .sort((a, b) => (a.date < b.date ? -1 : a.date > b.date ? 1 : a.number < b.number ? -1 : 1))
    .map((document) => {
      const sign = isPromising(document.type) || isChanging(document.type) ? 0 : signOf(document);
      if (sign !== 0) {
        const owed = isSettling(document.type) ? 0 - document.amount : document.amount;
        balance = add(balance, sign === 1 ? owed : 0 - owed);
      }
      return { document, counts: sign !== 0, balance };
    });
}
