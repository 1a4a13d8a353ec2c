import { Secret, TOTP } from 'otpauth';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import type { Viewer } from '../asking/viewer';
import { addPerson } from './people';
import {
  beginSecondFactor,
  changeSecondFactor,
  dropSecondFactor,
  endSecondFactor,
  secondFactorOf,
  setSecondFactorRule,
} from './secondFactor';
import { signIn, viewerOfSession } from './signIn';

// OWASP ASVS 4.0.3, 2.8: time-based codes, each taken once, the secret kept so that the database alone gives none.

let fresh: Fresh;
let ada: Viewer;
const EMAIL = 'ada@test.example';
const PASSWORD = 'correct horse battery';
const come = (code?: string) => signIn(fresh.ctx, EMAIL, PASSWORD, { address: '127.0.0.1', agent: '' }, code);
const codeOf = (secret: string, at = Date.now()): string =>
  new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: at });
const needs = (path: string) => ({ status: 401, errors: [expect.objectContaining({ path })] });

beforeAll(async () => {
  fresh = await freshInstallation();
  await addPerson(fresh.ctx, fresh.owner, { email: EMAIL, name: 'Ada', role: 'preparer', password: PASSWORD });
  ada = (await viewerOfSession(fresh.ctx, await come())) as Viewer;
});
afterAll(() => fresh?.close());

test('codes are those of RFC 6238, appendix B', () => {
  // Values of the published table: the secret of twenty bytes, SHA-1, eight digits.
  const totp = new TOTP({ secret: Secret.fromUTF8('12345678901234567890'), digits: 8 });
  expect([59, 1111111109, 20000000000].map((s) => totp.generate({ timestamp: s * 1000 }))).toEqual([
    '94287082',
    '07081804',
    '65353130',
  ]);
});

test('a second factor counts from its first code, is asked for, and takes no code twice; the database holds no secret to read', async () => {
  const { ctx, owner, superuser } = fresh;
  const { secret, uri } = await beginSecondFactor(ctx, ada);
  expect(uri).toContain(`secret=${secret}`);
  await expect(come()).resolves.toBeTypeOf('string');
  const kept = await superuser('second_factor').first();
  expect(JSON.stringify(kept)).not.toContain(secret);
  await expect(changeSecondFactor(ctx, ada, { code: '000000', off: false })).rejects.toMatchObject({ status: 422 });
  const now = Date.now();
  await changeSecondFactor(ctx, ada, { code: codeOf(secret, now), off: false });
  expect(await secondFactorOf(ctx, ada)).toEqual({ on: true, required: false });
  await expect(come()).rejects.toMatchObject(needs('code'));
  await expect(come('123 45')).rejects.toMatchObject(needs('code'));
  // The code that confirmed it is not taken again; the next one is, with a blank in it, once.
  await expect(come(codeOf(secret, now))).rejects.toMatchObject(needs('code'));
  const next = codeOf(secret, now + 30_000);
  await expect(come(`${next.slice(0, 3)} ${next.slice(3)}`)).resolves.toBeTypeOf('string');
  await expect(come(next)).rejects.toMatchObject(needs('code'));
  // One of long ago, or of later, is none.
  vi.setSystemTime(now + 120_000);
  try {
    await expect(come(codeOf(secret, now))).rejects.toMatchObject(needs('code'));
    await expect(
      changeSecondFactor(ctx, ada, { code: codeOf(secret, now + 120_000), off: true }),
    ).resolves.toBeUndefined();
  } finally {
    vi.useRealTimers();
  }
  await expect(come()).resolves.toBeTypeOf('string');
  await expect(endSecondFactor(ctx, ada, '1')).rejects.toMatchObject({ status: 403 });
  await expect(setSecondFactorRule(ctx, ada, { required: 'everybody' })).rejects.toMatchObject({ status: 403 });
  await setSecondFactorRule(ctx, owner, { required: 'everybody' });
  // Whoever has none sets it up as they come in, and comes in by its first code.
  const refused = await come().catch((error: { errors: { path: string; message: string }[] }) => error);
  expect(refused).toMatchObject(needs('setUp'));
  const begun = new URL((refused as { errors: { message: string }[] }).errors[0]?.message as string).searchParams.get(
    'secret',
  ) as string;
  await expect(come(codeOf(begun))).resolves.toBeTypeOf('string');
  await expect(
    changeSecondFactor(ctx, ada, { code: codeOf(begun, Date.now() + 30_000), off: true }),
  ).rejects.toMatchObject({ status: 409 });
  await dropSecondFactor(ctx, EMAIL);
  await setSecondFactorRule(ctx, owner, { required: 'owners' });
  await expect(come()).resolves.toBeTypeOf('string');
  const acts = await superuser('record').whereLike('act', '%second factor%').orderBy('id').pluck('act');
  expect(acts).toEqual([
    'set up a second factor',
    'took a second factor away',
    'said of whom a second factor is required',
    'took a second factor away',
    'said of whom a second factor is required',
  ]);
});

test('wrong codes are slowed as wrong passwords are, though the password is right', async () => {
  const { ctx } = fresh;
  await setSecondFactorRule(ctx, fresh.owner, { required: 'nobody' });
  const { secret } = await beginSecondFactor(ctx, ada);
  await changeSecondFactor(ctx, ada, { code: codeOf(secret), off: false });
  const answers: number[] = [];
  for (let i = 0; i < 7; i++)
    answers.push(
      await come(`${100_000 + i}`).then(
        () => 200,
        (e: { status: number }) => e.status,
      ),
    );
  expect(answers[0]).toBe(401);
  expect(answers.at(-1)).toBe(429);
});
