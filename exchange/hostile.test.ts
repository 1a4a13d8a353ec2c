import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, test } from 'vitest';
import type { LoadKind } from '@/contracts/mapping';
import { Problems } from './problem';
import { readRecords } from './readRecords';
import { recognise } from './recognise';
import { HOSTILE, makeHostile } from './testing/hostile';

// Each file that means harm is refused for what it is, while it is looked at or while it is read, by counting: what it
// takes of memory and time, at full size and through the real server, is measured by ./just-thread soak.

const folder = mkdtempSync(join(tmpdir(), 'just-thread-hostile-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

test.each(HOSTILE)('refused: $harm', async (hostile) => {
  const path = await makeHostile(folder, hostile, 0.02);
  const file = { path, kind: 'lines' as LoadKind, format: null, mapping: null };
  const looked = await recognise(file).then(
    () => null,
    (error: Error) => error.message,
  );
  const problems = new Problems();
  for await (const _ of readRecords({ ...file }, problems));
  const told = [looked, ...problems.kept.map((p) => p.message)].filter((m) => m !== null);
  expect(told.some((message) => hostile.says.test(message)) ? hostile.harm : told.slice(0, 3)).toBe(hostile.harm);
  rmSync(path);
});
