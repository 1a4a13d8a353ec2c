import type { DECIMALS, PAPERS } from '@/contracts/leaves';
import type { Leaf } from '@/core/leaf';
import type { Signer } from '../signing';

/** How somebody wants a sheet to leave, and what is said on it of who took it out. */
export interface Leaving {
  /** Instead of what the sheet calls itself. */
  title: string | null;
  /** At the foot of each page of paper, and below a sheet. */
  footer: string | null;
  /** Whether it is headed by what it is and of what; without, a table stands alone. */
  heading: boolean;
  /** What the organisation puts at its head; null: nothing. */
  letterhead: Letterhead | null;
  by: string;
  /** When, by the clock of the server (ISO 8601, UTC). */
  at: string;
  /** How far the record of who did what went then. */
  record: string;
  /** Language and country in which numbers are written (BCP 47). */
  locale: string;
  /** How far amounts are written; none is changed by it. */
  decimals: (typeof DECIMALS)[number];
  paper: Paper;
  /** How many levels behind each figure go with it. */
  details: 0 | 1 | 2;
  /** What is behind a row, by its path. */
  behind(path: string): Promise<Leaf>;
  /** Where a place of the installation is reached from outside. */
  link(place: string): string;
  /** Seals a workbook against change; null: it is not. */
  signer: Signer | null;
}

/** The heading of an organisation: its name, and a picture in PNG or JPEG. */
export interface Letterhead {
  name: string;
  logo: Buffer | null;
}

export interface Paper {
  size: (typeof PAPERS)[number];
  /** fitting: whichever has room for the columns. */
  orientation: 'portrait' | 'landscape' | 'fitting';
}

/** What stands above a sheet, each under its name. */
export const headFacts = (leaf: Leaf, { by, at, record, link }: Leaving): [string, string][] => [
  ...leaf.facts.map(([name, says]): [string, string] => [name, says]),
  ['Taken out by', `${by}, ${at.slice(0, 16).replace('T', ' ')} UTC`],
  ['Record', record],
  ['Source', leaf.address === null ? link('/') : link(leaf.address)],
];
