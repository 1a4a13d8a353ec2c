import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import type { Minor } from './money';

/** The content of a journal line that a digest and a comparison of loads look at, in canonical order. */
export const CONTENT_FIELDS = [
  'entity',
  'entry',
  'line',
  'account',
  'postingDate',
  'period',
  'status',
  'kind',
  'side',
  'amount',
  'currency',
  'currencyAmount',
  'quantity',
  'description',
  'entryDescription',
  'journal',
  'counterparty',
  'postedBy',
  'document',
  'dims',
] as const;

export type LineContent = Record<(typeof CONTENT_FIELDS)[number], string | number | null>;

/** The canonical form of a line: a JSON array of its content fields in fixed order, then a line feed. */
export const canonical = (line: LineContent): string =>
  `${JSON.stringify(CONTENT_FIELDS.map((field) => line[field] ?? null))}\n`;

/**
 * SHA-256 (FIPS 180-4) over the canonical form of a figure: its opening value, then its lines in ledger order.
 * Lines may be given in batches, so that a large figure need not be in memory.
 */
export function figureDigest(opening: Minor) {
  const hash = sha256.create().update(utf8ToBytes(`${JSON.stringify({ opening })}\n`));
  return {
    update(line: LineContent): void {
      hash.update(utf8ToBytes(canonical(line)));
    },
    hex: (): string => bytesToHex(hash.digest()),
  };
}

/** SHA-256 of a text, as lower-case hexadecimal. */
export const sha256Text = (text: string): string => bytesToHex(sha256(utf8ToBytes(text)));

/** Names of the content fields in which two lines differ. */
export const changedFields = (before: LineContent, after: LineContent): (typeof CONTENT_FIELDS)[number][] =>
  CONTENT_FIELDS.filter((field) => (before[field] ?? null) !== (after[field] ?? null));
