import { createHash } from 'node:crypto';
import { closeSync, mkdirSync, mkdtempSync, openSync, rmSync, writeSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { stringify } from 'csv-stringify/sync';
import { type Bundle, type BundledLine, PART_LINES } from '@/core/bundle';
import { periodText } from '@/core/calendar';
import { formatAmount, type Minor } from '@/core/money';
import { guardedCell } from '../writers';

/** A file that lies here under its SHA-256. */
export interface Lying {
  path: string;
  sha256: string;
  bytes: number;
}

const HEADS = [
  ...['number', 'entity', 'entry', 'line', 'date', 'period', 'account', 'account_name', 'side', 'debit', 'credit'],
  ...['minor', 'description', 'entry_description', 'journal', 'document', 'counterparty', 'counterparty_name'],
  ...['posted_by', 'load'],
];
/** So many lines are written at once. */
const WRITTEN = 1_000;

/** How a line is called beyond what it has of its own. */
export interface LineNames {
  accountName: string;
  partyName: string;
  /** Decimals of the currency of its books. */
  digits: number;
}

/** A file that is written as it comes, with its digest. */
class Growing {
  private readonly file: number;
  private readonly hash = createHash('sha256');
  private bytes = 0;

  constructor(readonly path: string) {
    this.file = openSync(path, 'w', 0o600);
  }

  add(text: string): void {
    const bytes = Buffer.from(text);
    this.hash.update(bytes);
    this.bytes += bytes.length;
    for (let at = 0; at < bytes.length; ) at += writeSync(this.file, bytes, at);
  }

  end(): Lying {
    closeSync(this.file);
    return { path: this.path, sha256: this.hash.digest('hex'), bytes: this.bytes };
  }
}

/** The script that brings a part of lines to the page: as a text, which is read and handed on many times as fast as a list. */
const partText = (at: number, lines: readonly BundledLine[]): string =>
  `partOf(${at},'${JSON.stringify(lines).replace(/[\\']/g, '\\$&')}')`;

/** The lines that such a script brings. */
export const linesInPart = (script: string): BundledLine[] =>
  JSON.parse(script.slice(script.indexOf("'") + 1, -2).replace(/\\(.)/g, '$1')) as BundledLine[];

/**
 * The lines of a bundle on their way into it: numbered as they come, kept on disk in parts and as one table, never more of
 * them at hand than a part.
 */
export class Spool {
  private readonly folder = mkdtempSync(join(tmpdir(), 'just-thread-bundle-'));
  private readonly csv: Growing;
  private waiting: BundledLine[] = [];
  private rows: unknown[][] = [];
  private count = 0;
  readonly parts: { at: string; file: Lying; count: number }[] = [];

  /** @param dims codes of the dimensions that lines have members of */
  constructor(private readonly dims: readonly string[]) {
    mkdirSync(join(this.folder, 'lines'));
    this.csv = new Growing(join(this.folder, 'lines.csv'));
    this.csv.add(stringify([[...HEADS, ...dims.map((code) => `dim:${code}`)]]));
  }

  get lines(): number {
    return this.count;
  }

  /** @returns the number of the line */
  add(line: BundledLine, names: LineNames): number {
    const number = this.count;
    this.count += 1;
    this.waiting.push(line);
    this.rows.push(rowOf(number, line, names, this.dims));
    if (this.rows.length === WRITTEN) this.writeRows();
    if (this.waiting.length === PART_LINES) this.writePart();
    return number;
  }

  /** All that was written; nothing is added any more. */
  end(): { csv: Lying; parts: Bundle['parts']; files: { path: string; content: Lying }[]; only: string | null } {
    this.writeRows();
    // Few lines are within the page itself, which then needs no file beside it.
    const only = this.parts.length === 0 ? partText(0, this.waiting) : null;
    if (this.waiting.length > 0 || this.parts.length === 0) this.writePart();
    return {
      csv: this.csv.end(),
      parts: this.parts.map(({ at, count }) => ({ file: at, count })),
      files: this.parts.map(({ at, file }) => ({ path: at, content: file })),
      only,
    };
  }

  /** Takes away what lies on disk. */
  clear(): void {
    rmSync(this.folder, { recursive: true, force: true });
  }

  private writeRows(): void {
    if (this.rows.length > 0) this.csv.add(stringify(this.rows));
    this.rows = [];
  }

  private writePart(): void {
    const at = `lines/${String(this.parts.length + 1).padStart(4, '0')}.js`;
    const file = new Growing(join(this.folder, at));
    file.add(partText(this.parts.length, this.waiting));
    this.parts.push({ at, file: file.end(), count: this.waiting.length });
    this.waiting = [];
  }
}

/** A line by its number; `minor` is the amount in the smallest unit, debit positive, from which figures are worked out. */
function rowOf(number: number, l: BundledLine, names: LineNames, dims: readonly string[]): unknown[] {
  const minor = l.amount as Minor;
  const text = formatAmount(Math.abs(minor), names.digits);
  const size = (l.side === 'debit') === minor >= 0 || minor === 0 ? text : `-${text}`;
  return [
    ...[number, l.entity, l.entry, l.line, l.postingDate, periodText(Number(l.period)), l.account, names.accountName],
    ...[l.side, l.side === 'debit' ? size : '', l.side === 'credit' ? size : '', minor, l.description],
    ...[l.entryDescription, l.journal, l.document, l.counterparty, names.partyName, l.postedBy, l.load],
    ...dims.map((code) => l.members[code] ?? ''),
  ].map((cell) => (typeof cell === 'string' && !/^-?\d+(\.\d+)?$/.test(cell) ? guardedCell(cell) : (cell ?? '')));
}
