import { spawnSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { FileShelf } from '@/exchange/fileShelf';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { readUpload } from './upload';

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
});

/** A file system of 256 kB, where this machine lets us make one. */
const tiny = mkdtempSync(join(tmpdir(), 'just-thread-full-'));
const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=256k', 'tmpfs', tiny]).status === 0;
afterAll(async () => {
  if (mounted) spawnSync('umount', [tiny]);
  rmSync(tiny, { recursive: true, force: true });
  await fresh?.close();
});

/** A form with a file of which more is always to come. */
function endlessForm(): Request {
  const head = '--x\r\ncontent-disposition: form-data; name="file"; filename="big.csv"\r\n\r\n';
  const body = new ReadableStream({
    start: (controller) => controller.enqueue(Buffer.from(head)),
    pull: (controller) => controller.enqueue(Buffer.alloc(64 * 1024, 'a')),
  });
  return new Request('http://x/api/v1/files', {
    method: 'POST',
    body,
    headers: { 'content-type': 'multipart/form-data; boundary=x' },
    duplex: 'half',
  } as RequestInit);
}

test.skipIf(!mounted)('a disk that is full is told at once, while the file is still being sent', async () => {
  await expect(
    readUpload({ ctx: { ...fresh.ctx, files: new FileShelf(tiny) }, viewer: fresh.owner, request: endlessForm() }),
  ).rejects.toMatchObject({ code: 'ENOSPC' });
  expect(readdirSync(tiny)).toEqual([]);
});

test('a form without a file, or with fields that are too long, is refused with the field', async () => {
  const sent = (form: FormData) =>
    readUpload({
      ctx: fresh.ctx,
      viewer: fresh.owner,
      request: new Request('http://x/', { method: 'POST', body: form }),
    });
  const without = new FormData();
  without.append('entity', 'ONE');
  await expect(sent(without)).rejects.toThrow(/the field “file” is missing/);
  const long = new FormData();
  long.append('mapping', 'x'.repeat(200_000));
  long.append('file', new Blob(['a\n']), 'a.csv');
  await expect(sent(long)).rejects.toThrow(/the field “mapping” is too long/);
  const own = new FormData();
  own.append('__proto__', 'x');
  own.append('file', new Blob(['a\n']), 'a.csv');
  expect(Object.keys((await sent(own)).fields)).toEqual(['__proto__']);
});
