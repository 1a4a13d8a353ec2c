import { mkdtemp, readdir, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { sha256Text } from '@/core/digest';
import { type ObjectStoreStandIn, STAND_IN_KEY, startObjectStore } from '@/standins/objectStore';
import { FileShelf, StoreAway } from './fileShelf';
import { objectStoreAt } from './objectStore';

let elsewhere: ObjectStoreStandIn;
let folder: string;
const before = { ...process.env };
const sent = (text: string): Readable => Readable.from([Buffer.from(text)]);

beforeAll(async () => {
  process.env.AWS_ACCESS_KEY_ID = STAND_IN_KEY.id;
  process.env.AWS_SECRET_ACCESS_KEY = STAND_IN_KEY.secret;
  elsewhere = await startObjectStore();
  folder = await mkdtemp(join(tmpdir(), 'just-thread-shelf-'));
});
afterAll(async () => {
  process.env = before;
  await elsewhere.close();
  await rm(folder, { recursive: true });
});

/** A machine of its own: it shares the store, and nothing on its disk. */
const machine = (name: string): FileShelf => new FileShelf(join(folder, name), objectStoreAt(elsewhere.address));

test('what one machine keeps another reads, the same bytes once, and each held against their name', async () => {
  const [one, two] = [machine('one'), machine('two')];
  const kept = await one.keep(sent('Two days of dock'));
  expect(kept).toEqual({ digest: sha256Text('Two days of dock'), bytes: 16 });
  expect(await one.keep(sent('Two days of dock'))).toEqual(kept);
  expect([...elsewhere.objects.keys()]).toEqual([`evidence/${kept.digest}`]);
  const asked = elsewhere.asked;
  // Several who ask at once have it brought once, and afterwards it is here.
  const paths = await Promise.all([two.pathOf(kept.digest), two.pathOf(kept.digest), two.pathOf(kept.digest)]);
  expect(new Set(paths).size).toBe(1);
  expect(await readFile(paths[0] as string, 'utf8')).toBe('Two days of dock');
  expect(await two.pathOf(kept.digest)).toBe(paths[0]);
  expect(elsewhere.asked - asked).toBe(1);
  expect(await two.pathOf('0'.repeat(64))).toBeNull();
  expect(await two.pathOf('../../etc/passwd')).toBeNull();
});

test('what was changed in the store is given to nobody, and the check finds it', async () => {
  const { digest } = await machine('three').keep(sent('18,400.00'));
  const held = elsewhere.objects.get(`evidence/${digest}`);
  elsewhere.objects.set(`evidence/${digest}`, { bytes: Buffer.from('28,400.00'), at: new Date() });
  const four = machine('four');
  expect(await four.pathOf(digest)).toBeNull();
  expect(await readdir(four.folder)).toEqual([]);
  expect(await four.digestNow(digest)).not.toBe(digest);
  elsewhere.objects.set(`evidence/${digest}`, held as { bytes: Buffer; at: Date });
  expect(await four.digestNow(digest)).toBe(digest);
  expect(await readFile((await four.pathOf(digest)) as string, 'utf8')).toBe('18,400.00');
});

test('all of it is listed whatever page it is on, taken away here and there, and a store that is away is said to be', async () => {
  const shelf = machine('five');
  const texts = ['a', 'b', 'c', 'd', 'e'];
  const kept = await Promise.all(texts.map((text) => shelf.keep(sent(text))));
  const names = async (of: FileShelf): Promise<string[]> => {
    const found: string[] = [];
    for await (const { name } of of.all()) found.push(name);
    return found.sort();
  };
  const all = [...elsewhere.objects.keys()].map((key) => key.slice('evidence/'.length)).sort();
  expect(all).toEqual(expect.arrayContaining(kept.map((k) => k.digest)));
  expect(await names(machine('six'))).toEqual(all);
  const first = kept[0] as { digest: string };
  await shelf.remove(first.digest);
  expect(await names(shelf)).toEqual(all.filter((name) => name !== first.digest));
  elsewhere.fail(true);
  await expect(shelf.keep(sent('lost?'))).rejects.toThrow(StoreAway);
  elsewhere.fail(false);
  expect(await shelf.keep(sent('lost?'))).toMatchObject({ bytes: 5 });
  expect(elsewhere.objects.has(`evidence/${sha256Text('lost?')}`)).toBe(true);
}, 60_000);

test('an address that is none is said to be', () => {
  expect(() => objectStoreAt('https://files.example')).toThrow('FILES_URL is no address of a store');
});
