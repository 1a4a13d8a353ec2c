import { expect, test } from 'vitest';
import { canonical, changedFields, DIGEST_FIELDS, figureDigest, type LineContent } from './digest';
import { ATTRIBUTES, LINE_FIELDS, LINE_NUMBERS } from './lineFields';

const line = Object.fromEntries(LINE_FIELDS.map((f) => [f.name, `${f.name} 1`])) as unknown as LineContent;
const digestOf = (l: LineContent, version?: 1 | 2 | 3): string => {
  const digest = figureDigest(0, version);
  digest.update(l);
  return digest.hex();
};

test('whatever a line has is in its digest and in a comparison of loads', () => {
  for (const { name, digest } of LINE_FIELDS) {
    const other = { ...line, [name]: 'something else' };
    expect([name, changedFields(line, other)]).toEqual([name, digest === null ? [] : [name]]);
    expect([name, digestOf(other) === digestOf(line)]).toEqual([name, digest === null]);
  }
  // The price of a unit is made of amount and quantity, which are looked at; nothing else is left out.
  expect(LINE_FIELDS.flatMap((f) => (f.digest === null ? [f.name] : []))).toEqual(['unitPrice']);
  for (const name of [...ATTRIBUTES, ...LINE_NUMBERS].filter((n) => n !== 'unitPrice'))
    expect(DIGEST_FIELDS[3]).toContain(name);
});

test('earlier versions of the digest are what they always were', () => {
  // What was kept under the second knows nothing of reconciliation, which lines have since.
  expect(digestOf({ ...line, reconciled: 'other' }, 2)).toBe(digestOf(line, 2));
  expect(digestOf({ ...line, dueDate: 'other' }, 2)).not.toBe(digestOf(line, 2));
  expect(canonical(line, 1)).toBe(
    '["entity 1","entry 1","line 1","account 1","postingDate 1","period 1","status 1","kind 1","side 1","amount 1",' +
      '"currency 1","currencyAmount 1","quantity 1","description 1","entryDescription 1","journal 1","counterparty 1",' +
      '"postedBy 1","document 1","dims 1"]\n',
  );
  // By sha256sum of that text after {"opening":0} and a line feed.
  expect(digestOf(line, 1)).toBe('b3d3edd633f2c99ecb95beabde653548f8f92fb3ff81ca1e6b7f77d961564c99');
});
