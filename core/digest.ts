import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { LINE_FIELDS, type LineField } from './lineFields';
import type { Minor } from './money';

/**
 * What a digest looks at, by its version, in canonical order. A version is never changed: a digest that was kept is
 * proved by its own. The second looks at everything that a line had then, the third at
 * everything that it has.
 */
const FIRST = [
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

export type ContentField = Exclude<(typeof LINE_FIELDS)[number]['name'], 'unitPrice'>;

/** What the versions up to one look at beyond the first. */
const later = (version: DigestVersion): ContentField[] =>
  LINE_FIELDS.filter((f: LineField) => f.digest !== null && f.digest <= version)
    .map((f) => f.name as ContentField)
    .filter((name) => !(FIRST as readonly string[]).includes(name))
    .sort();

export const DIGEST_FIELDS: Readonly<Record<DigestVersion, readonly ContentField[]>> = {
  1: FIRST,
  2: [...FIRST, ...later(2)],
  3: [...FIRST, ...later(3)],
};
export type DigestVersion = 1 | 2 | 3;
/** The version under which digests are made. */
export const DIGEST_VERSION: DigestVersion = 3;

/** A line as a digest and a comparison of loads see it. */
export type LineContent = Record<ContentField, string | number | null>;

/** The canonical form of a line: a JSON array of its content fields in fixed order, then a line feed. */
export const canonical = (line: LineContent, version: DigestVersion = DIGEST_VERSION): string =>
  `${JSON.stringify(DIGEST_FIELDS[version].map((name) => line[name] ?? null))}\n`;

/**
 * SHA-256 (FIPS 180-4) over the canonical form of a figure: its opening value, then its lines in ledger order.
 * Lines may be given in batches, so that a large figure need not be in memory.
 */
export function figureDigest(opening: Minor, version: DigestVersion = DIGEST_VERSION) {
  const hash = sha256.create().update(utf8ToBytes(`${JSON.stringify({ opening })}\n`));
  return {
    update(line: LineContent): void {
      hash.update(utf8ToBytes(canonical(line, version)));
    },
    hex: (): string => bytesToHex(hash.digest()),
  };
}

/** SHA-256 of a text, as lower-case hexadecimal. */
export const sha256Text = (text: string): string => bytesToHex(sha256(utf8ToBytes(text)));

/** Names of the content fields in which two lines differ. */
export const changedFields = (before: LineContent, after: LineContent): ContentField[] =>
  DIGEST_FIELDS[DIGEST_VERSION].filter((name) => (before[name] ?? null) !== (after[name] ?? null));
