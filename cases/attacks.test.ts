import { readdirSync, statSync } from 'node:fs';
import { Readable } from 'node:stream';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { newNoteSchema, newThreadSchema } from '@/contracts/bodies/all';
import { trialBalanceShape } from '@/contracts/questions';
import { readQuery, scopeShape } from '@/contracts/scope';
import { demoInstallation, type Fresh } from '@/ops/fresh';
import { type LedgerFeed, startLedgerFeed } from '@/standins/ledgerFeed';
import { answering } from '@/store/asking';
import { rowsOf } from '@/store/db';
import type { Viewer } from './asking/viewer';
import { readAccounts } from './charts/accounts';
import { readHoldings } from './charts/holdings';
import { addToThread, changeThread, removeThread, saveThread } from './evidence/threads/keep';
import { showThread } from './evidence/threads/shown';
import { reopen, sign } from './evidence/threads/signOffs';
import { changeStep, removeStep } from './evidence/threads/steps';
import { showJobs } from './jobs/jobs';
import { runJobsHere } from './jobs/runJob';
import { askLook } from './loads/askLook';
import { addConnection, allowPrivate, askPull, showConnections } from './loads/connections';
import { isOutside } from './loads/feedPage';
import { clearFiles, keepUpload } from './loads/keptFiles';
import { showLoads } from './loads/loads';
import { keepSentence, showKeptScopes } from './people/keptScopes';
import { changePassword, takeReset } from './people/passwordChanges';
import { checkPassword } from './people/passwords';
import { addPerson, changePerson, removePerson } from './people/people';
import { keepColumnLayout } from './people/preferences';
import { sessionsOf } from './people/sessions';
import { signIn, viewerOfSession, viewerOfToken } from './people/signIn';
import { makeOwnToken, revokeToken, tokensOf } from './people/tokens';
import { readTrialBalance } from './sheets/readTrialBalance';
import { readRecord } from './upkeep/readRecord';

// What an attack found once, tried again (docs/security.md has the whole list with where each is tried).

let fresh: Fresh;
let ines: Viewer;
let tomas: Viewer;
let col: Viewer;
const HERE = { address: '203.0.113.7', agent: 'test' };
const PASSWORD = 'harrowick-quay';
const as = async (who: string): Promise<Viewer> =>
  (await viewerOfSession(fresh.ctx, await signIn(fresh.ctx, `${who}@kestrel.example`, PASSWORD, HERE))) as Viewer;
beforeAll(async () => {
  fresh = await demoInstallation();
  [ines, tomas, col] = [await as('ines'), await as('tomas'), await as('col')];
});
afterAll(() => fresh?.close());
const scope = (query: string) => readQuery(scopeShape, new URLSearchParams(query));

describe('evidence', () => {
  const step = (label: string, more = '') => ({
    address: `/trial-balance?entity=KSF&from=2027.06&to=2027.06${more}`,
    label,
    view: 'sheet' as const,
    subject: `figure:entity=KSF&from=2027.06&to=2027.06${more}`,
  });

  test('a signed thread is closed to everybody until it is opened again with a reason', async () => {
    const { ctx } = fresh;
    const { id, steps } = await saveThread(
      ctx,
      ines,
      newThreadSchema.parse({ name: 'Repairs', steps: [step('All'), step('Repairs', '&accounts=6310')] }),
    );
    await sign(ctx, ines, id, 'preparer');
    const closed = { status: 409, message: expect.stringMatching(/is signed by its preparer; open it again/) };
    for (const viewer of [ines, tomas]) {
      await expect(changeStep(ctx, viewer, id, steps[1] as number, { note: 'CHANGED' })).rejects.toMatchObject(closed);
      await expect(removeStep(ctx, viewer, id, steps[1] as number)).rejects.toMatchObject(closed);
      await expect(addToThread(ctx, viewer, id, [step('More', '&accounts=6320')])).rejects.toMatchObject(closed);
    }
    await expect(changeThread(ctx, ines, id, { name: 'Another name' })).rejects.toMatchObject(closed);
    await expect(removeThread(ctx, ines, id)).rejects.toMatchObject(closed);
    expect((await showThread(ctx, ines, id)).steps.map((k) => [k.label, k.note])).toEqual([
      ['All', ''],
      ['Repairs', ''],
    ]);
    await reopen(ctx, tomas, id, 'a vessel was left out');
    expect((await changeStep(ctx, ines, id, steps[1] as number, { note: 'Found' })).steps[1]).toMatchObject({
      note: 'Found',
    });
  });

  test('words are changed by their author only, and what they were before stays to be seen', async () => {
    const { ctx } = fresh;
    const { id, steps } = await saveThread(
      ctx,
      ines,
      newThreadSchema.parse({ name: 'Fuel', steps: [step('All'), step('Fuel', '&accounts=6210')] }),
    );
    const fuel = steps[1] as number;
    await expect(changeStep(ctx, tomas, id, fuel, { note: 'mine' })).rejects.toMatchObject({
      status: 403,
      message: expect.stringMatching(/Ines Hallam’s words/),
    });
    await expect(removeStep(ctx, tomas, id, fuel)).rejects.toMatchObject({ status: 403 });
    await addToThread(ctx, tomas, id, [
      step('All'),
      step('Fuel', '&accounts=6210'),
      step('Fuel of June', '&accounts=6210&period=2027.03'),
    ]);
    // A step under which somebody else went on is not taken away with theirs.
    await expect(removeStep(ctx, ines, id, fuel)).rejects.toMatchObject({
      status: 403,
      message: expect.stringMatching(/is Tomas Ek’s/),
    });
    await changeStep(ctx, ines, id, fuel, { note: 'First' });
    await changeStep(ctx, ines, id, fuel, { note: 'Second', label: 'Fuel oil' });
    const shown = (await showThread(ctx, tomas, id)).steps.find((k) => k.id === fuel);
    expect(shown).toMatchObject({ note: 'Second', mine: false });
    expect(shown?.former.map((f) => [f.words.label, f.words.note, f.by])).toEqual([
      ['Fuel', '', 'Ines Hallam'],
      ['Fuel', 'First', 'Ines Hallam'],
    ]);
  });

  test('a shared sentence is seen only by who may see all that it names', async () => {
    const { ctx } = fresh;
    const share = (name: string, query: string) =>
      keepSentence(ctx, ines, { name, query, folder: '', place: 'lines', shared: true, opens: false });
    await share('no company', 'dim.costcentre=BRIDGE&text=payoff of J Doe');
    await share('a company and a party', 'entity=KSF&dim.costcentre=BRIDGE&counterparty=HIDDENPARTY');
    await share('nothing that limits', 'entity=KSF&text=payoff');
    await share('what Col has', 'entity=KSF&dim.costcentre=DECK&window=year-to-date&thread=3');
    const seen = async (viewer: Viewer) => (await showKeptScopes(ctx, viewer)).rows.map((r) => r.name).sort();
    expect(await seen(col)).toEqual(['what Col has']);
    expect(await seen(tomas)).toEqual(['a company and a party', 'no company', 'nothing that limits', 'what Col has']);
  });

  test('an address that leads elsewhere is kept nowhere', () => {
    const note = { subject: 'entry:KSF/1', label: 'x', body: 'x' };
    for (const address of [
      'javascript:alert(1)',
      '//evil.example',
      '/\\evil.example',
      'https://evil.example/',
      '/\t/evil.example',
    ])
      expect([
        address,
        newNoteSchema.safeParse({ ...note, address }).success,
        newThreadSchema.safeParse({ name: 'x', steps: [{ ...step('x'), address }] }).success,
      ]).toEqual([address, false, false]);
    expect(newNoteSchema.safeParse({ ...note, address: '/lines?entity=KSF' }).success).toBe(true);
  });
});

describe('what is outside of the grant', () => {
  test('is never shown as nothing', async () => {
    const { ctx } = fresh;
    const six: Viewer = { ...col, members: {}, accounts: '6*' };
    // Of a part of an account neither its number at the bank nor a balance is told.
    const parts = await readHoldings(ctx, col, scope('entity=KSF'));
    expect(parts.rows.length).toBeGreaterThan(0);
    expect(parts.rows.every((r) => r.balance === null && r.bankAccount === null && r.withheld !== null)).toBe(true);
    expect((await readHoldings(ctx, six, scope('entity=KSF'))).rows).toEqual([]);
    expect(
      (await readHoldings(ctx, ines, scope('entity=KSF'))).rows.every((r) => /^-?\d+\.\d\d$/.test(r.balance ?? '')),
    ).toBe(true);
    const chart = (await readAccounts(ctx, six, scope('entity=KSF'))).rows;
    expect(chart.length).toBeGreaterThan(0);
    expect(chart.filter((r) => !r.account.startsWith('6'))).toEqual([]);
    const zero = await readTrialBalance(
      ctx,
      six,
      readQuery(trialBalanceShape, new URLSearchParams('entity=KSF&zero=show')),
    );
    expect(zero.rows.every((r) => r.account.startsWith('6'))).toBe(true);
  });

  test('a list of loads tells nothing of those that are not seen', async () => {
    const first = await showLoads(fresh.ctx, col, { limit: 1 });
    expect(first).toEqual({ rows: [], next: null });
  });
});

describe('patterns and parameters', () => {
  test('forty stars are answered, longer patterns refused, and names that objects have anyway are unknown', async () => {
    const ask = (query: string) =>
      readTrialBalance(fresh.ctx, col, readQuery(trialBalanceShape, new URLSearchParams(query)));
    expect((await ask(`entity=KSF&accounts=${'*'.repeat(40)}zz`)).rows).toEqual([]);
    await expect(ask(`entity=KSF&dim.costcentre=${'*'.repeat(60)}zz`)).rejects.toMatchObject({ status: 422 });
    await expect(ask(`entity=KSF&accounts=${'*a'.repeat(200)}`)).rejects.toThrow(/at most 200 characters/);
    expect(() => readQuery(scopeShape, new URLSearchParams(`document=${'*a'.repeat(200)}`))).toThrow(
      /at most 200 characters/,
    );
    for (const name of ['__proto__', 'constructor', 'toString', 'hasOwnProperty'])
      expect(() => readQuery(scopeShape, new URLSearchParams(`${name}=x`))).toThrow(/there is no parameter/);
    await expect(ask('entity=KSF&dim.__proto__=x')).rejects.toThrow(/no dimension “__proto__”/);
    expect(() => readQuery(scopeShape, new URLSearchParams('text=a%00b'))).toThrow(/no NUL/);
  });
});

describe('who comes in', () => {
  const wrong = (email: string, address: string) =>
    signIn(fresh.ctx, email, 'not the password', { address, agent: '' });
  const right = (email: string, address: string) => signIn(fresh.ctx, email, PASSWORD, { address, agent: '' });

  test('nobody can be locked out by a stranger; whoever guesses is slowed where they are', async () => {
    const outcomes = await Promise.allSettled(
      Array.from({ length: 20 }, () => wrong('priya@kestrel.example', '198.51.100.9')),
    );
    const statuses = outcomes.map((o) => (o.status === 'rejected' ? (o.reason as { status: number }).status : 0));
    // Counted before it is verified: of many at once only the first few are tried.
    expect(statuses.filter((s) => s === 401)).toHaveLength(5);
    expect(statuses.filter((s) => s === 429)).toHaveLength(15);
    await expect(right('priya@kestrel.example', '198.51.100.9')).rejects.toMatchObject({ status: 429, retryAfter: 2 });
    // Another address of the same network of IPv6 is the same place, another network is not.
    for (let i = 0; i < 5; i++)
      await expect(wrong('priya@kestrel.example', `2001:db8:1:2::${i}`)).rejects.toMatchObject({ status: 401 });
    await expect(wrong('priya@kestrel.example', '2001:db8:1:2:ffff::1')).rejects.toMatchObject({ status: 429 });
    // Wrong tries for invented people from everywhere, and for Priya from elsewhere, leave her own address free.
    for (let i = 0; i < 6; i++)
      await expect(wrong(`nobody${i}@kestrel.example`, '203.0.113.8')).rejects.toMatchObject({ status: 401 });
    expect(await right('priya@kestrel.example', '203.0.113.8')).toMatch(/^[\w-]{43}$/);
  });

  test('where one is guessed at from everywhere, a new place waits before its first try, and a known one does not', async () => {
    await right('tomas@kestrel.example', '203.0.113.20');
    await fresh.ctx.write.raw(
      `insert into sign_in_attempt (email, address) select 'tomas@kestrel.example', '192.0.2.' || n from generate_series(1, 120) n`,
    );
    await expect(right('tomas@kestrel.example', '203.0.113.99')).rejects.toMatchObject({ status: 429, retryAfter: 30 });
    expect(await right('tomas@kestrel.example', '203.0.113.20')).toMatch(/^[\w-]{43}$/);
    await fresh.ctx.write.raw(
      `update sign_in_attempt set at = at - interval '31 seconds' where address = '203.0.113.99'`,
    );
    expect(await right('tomas@kestrel.example', '203.0.113.99')).toMatch(/^[\w-]{43}$/);
  });

  test('passwords are long, not guessed first, and nothing of one’s own (NIST SP 800-63B 5.1.1.2)', () => {
    const own = ['Kai Strand', 'kai.strand@kestrel.example', 'kai.strand', 'just thread'];
    const fault = (password: string): string => {
      try {
        checkPassword(password, own);
        return '';
      } catch (error) {
        return (error as Error).message;
      }
    };
    expect(fault('short words')).toMatch(/at least 12/);
    for (const password of ['aaaaaaaaaaaa', 'abababababab', '123456789012', 'abcdefghijkl', 'ponmlkjihgfe'])
      expect([password, fault(password)]).toEqual([password, expect.stringMatching(/pattern/)]);
    for (const password of ['passwordpassword', 'Password12345!', 'qwertyuiop123456', 'PASSWORD2026'])
      expect([password, fault(password)]).toEqual([password, expect.stringMatching(/guessed/)]);
    for (const password of ['kai.strand@kestrel.example', 'strandstrand1'])
      expect([password, fault(password)]).toEqual([password, expect.stringMatching(/your/)]);
    for (const password of [PASSWORD, 'correct horse battery', 'Ödland über Flußtal', '漁船の帰りを待つ十二月の朝'])
      expect([password, fault(password)]).toEqual([password, '']);
  });

  test('a person is added by a link, changes, is suspended, let in, taken away; tokens and sessions are told apart and end', async () => {
    const { ctx } = fresh;
    const added = await addPerson(ctx, ines, {
      email: 'kai@kestrel.example',
      name: 'Kai Strand',
      role: 'reader',
      entities: ['KSF'],
    });
    const secret = added.link?.split('#')[1] as string;
    await expect(takeReset(ctx, { secret, password: 'short' }, HERE)).rejects.toMatchObject({ status: 422 });
    await takeReset(ctx, { secret, password: 'gull over the pier' }, HERE);
    await expect(takeReset(ctx, { secret, password: 'gull over the pier' }, HERE)).rejects.toMatchObject({
      status: 410,
    });
    const session = await signIn(ctx, 'kai@kestrel.example', 'gull over the pier', HERE);
    const kai = (await viewerOfSession(ctx, session)) as Viewer;
    expect(kai).toMatchObject({ role: 'reader', entities: ['KSF'] });
    const id = String(kai.id);

    // Others' sessions and tokens are for owners.
    await expect(sessionsOf(ctx, tomas, id, null)).rejects.toMatchObject({ status: 403 });
    const token = await makeOwnToken(ctx, kai, { name: 'export', days: 1 });
    expect(await viewerOfToken(ctx, token.token)).toMatchObject({ name: 'Kai Strand' });
    expect((await tokensOf(ctx, ines, id)).rows).toMatchObject([
      { name: 'export', expired: false, usedAt: expect.any(String) },
    ]);
    await ctx.write.raw(`update token set expires_at = now() - interval '1 second' where person = ?`, [kai.id]);
    expect(await viewerOfToken(ctx, token.token)).toBeNull();
    await revokeToken(ctx, kai, 'me', token.id);
    expect((await tokensOf(ctx, kai, 'me')).rows).toEqual([]);

    const second = await signIn(ctx, 'kai@kestrel.example', 'gull over the pier', HERE);
    expect((await sessionsOf(ctx, kai, 'me', session)).rows.map((s) => s.here).sort()).toEqual([false, true]);
    const there = { ...kai, cameFrom: '198.51.100.4' };
    await changePassword(ctx, there, session, { current: 'gull over the pier', password: 'pier under the gull' }, HERE);
    // What was done is on record with where it was done from.
    const { rows } = await readRecord(ctx, ines, { person: 'Kai Strand', limit: 3 });
    expect(rows.map((r) => [r.act, r.detail.cameFrom])).toEqual([
      ['changed the password', '198.51.100.4'],
      ['signed in', HERE.address],
      ['revoked tokens', undefined],
    ]);
    expect(await viewerOfSession(ctx, second)).toBeNull();
    expect(await viewerOfSession(ctx, session)).not.toBeNull();
    await expect(
      changePassword(ctx, kai, session, { current: 'wrong', password: 'pier under the gull' }, HERE),
    ).rejects.toMatchObject({ status: 422 });
    // A session that nobody uses ends by itself.
    await ctx.write.raw(`update session set seen_at = now() - interval '31 minutes' where person = ?`, [kai.id]);
    expect(await viewerOfSession(ctx, session)).toBeNull();

    await changePerson(ctx, ines, id, { role: 'preparer', entities: null });
    const again = await signIn(ctx, 'kai@kestrel.example', 'pier under the gull', HERE);
    expect(await viewerOfSession(ctx, again)).toMatchObject({ role: 'preparer', entities: null });
    await changePerson(ctx, ines, id, { active: false });
    expect(await viewerOfSession(ctx, again)).toBeNull();
    await expect(signIn(ctx, 'kai@kestrel.example', 'pier under the gull', HERE)).rejects.toMatchObject({
      status: 401,
      message: 'The e-mail or the password is not right',
    });
    await changePerson(ctx, ines, id, { active: true });
    await signIn(ctx, 'kai@kestrel.example', 'pier under the gull', HERE);
    await removePerson(ctx, ines, id);
    await expect(signIn(ctx, 'kai@kestrel.example', 'pier under the gull', HERE)).rejects.toMatchObject({
      status: 401,
    });
    // The e-mail is free again, and an installation keeps an owner.
    await addPerson(ctx, ines, { email: 'kai@kestrel.example', name: 'Kai Strand', role: 'reader' });
    await expect(changePerson(ctx, ines, String(ines.id), { role: 'reader' })).rejects.toMatchObject({
      status: 409,
    });
    await expect(removePerson(ctx, tomas, String(col.id))).rejects.toMatchObject({ status: 403 });
    const acts = (await readRecord(ctx, ines, { subject: 'person kai@kestrel.example', limit: 100 })).rows.map(
      (r) => r.act,
    );
    for (const act of [
      'added a person',
      'chose a new password',
      'made a token',
      'revoked tokens',
      'changed the password',
      'changed a person',
      'suspended a person',
      'let a person in again',
      'took a person away',
    ])
      expect(acts).toContain(act);
    await expect(readRecord(ctx, col, { limit: 1 })).rejects.toMatchObject({ status: 403 });
  });
});

describe('files that were only looked at', () => {
  test('are private to the machine’s user, and cleared after a day; those of loads stay', async () => {
    const { ctx } = fresh;
    const file = await keepUpload(ctx, tomas, 'x.csv', Readable.from(Buffer.from('code,name,type\n1,Cash,asset\n')));
    const looking = askLook(ctx, tomas, file, {});
    await runJobsHere(ctx);
    expect(await looking).toMatchObject({ digest: file.digest, kind: 'accounts', unreadable: null });
    expect(statSync(ctx.files.folder).mode & 0o777).toBe(0o700);
    expect(statSync(`${ctx.files.folder}/${file.digest}`).mode & 0o777).toBe(0o600);
    // What somebody looked at is theirs.
    expect((await showJobs(ctx, ines, { limit: 5 })).rows.find((j) => j.kind === 'look')).toMatchObject({
      by: 'Tomas Ek',
      mine: false,
    });
    expect((await showJobs(ctx, col, { limit: 100 })).rows.filter((j) => j.kind === 'look')).toEqual([]);
    const before = readdirSync(ctx.files.folder).length;
    expect(await clearFiles(ctx)).toBe(0);
    expect(await clearFiles(ctx, Date.now() + 25 * 3_600_000)).toBe(1);
    expect(readdirSync(ctx.files.folder)).toHaveLength(before - 1);
    expect(readdirSync(ctx.files.folder)).not.toContain(file.digest);
  });

  test('have a number and a size that one may have of them', async () => {
    const { ctx } = fresh;
    await ctx.write.raw(
      `insert into kept_file (digest, bytes, person) select 'f' || n, 1, ? from generate_series(1, 500) n`,
      [tomas.id],
    );
    await expect(keepUpload(ctx, tomas, 'y.csv', Readable.from(Buffer.from('a\n')))).rejects.toMatchObject({
      status: 429,
    });
    await ctx.write.raw('delete from kept_file');
  });
});

test('layouts of columns are as many as there are sheets, and no more', async () => {
  const layout = { order: [], hidden: [], shown: [], widths: {}, fit: false };
  await fresh.ctx.write.raw(
    `insert into preference (person, name, value) select ?, 'columns:x' || n, '{}' from generate_series(1, 200) n`,
    [col.id],
  );
  await expect(keepColumnLayout(fresh.ctx, col, 'one-more', layout)).rejects.toMatchObject({ status: 429 });
  expect(await keepColumnLayout(fresh.ctx, col, 'x7', layout)).toEqual({ sheet: 'x7' });
  await fresh.ctx.write.raw('delete from preference where person = ?', [col.id]);
});

describe('a source ledger that means harm', () => {
  let feed: LedgerFeed;
  beforeAll(async () => {
    feed = await startLedgerFeed(() => []);
  });
  afterAll(() => feed?.close());

  test('cannot fill the memory or the disk, keep us for ever, lead us elsewhere, or have its words shown', async () => {
    const { ctx } = fresh;
    const { id } = await addConnection(ctx, ines, {
      name: 'Harmful',
      url: feed.url,
      entity: 'KSF',
      privateAllowed: true,
    });
    const pulled = async (mode: LedgerFeed['mode']): Promise<string> => {
      feed.mode = mode;
      await askPull(ctx, tomas, id);
      await runJobsHere(ctx);
      return (await showConnections(ctx, ines)).rows.find((c) => c.id === id)?.message ?? '';
    };
    expect(await pulled('stuck')).toMatch(/place does not move on/);
    expect(await pulled('hollow')).toMatch(/page after page, and brings nothing/);
    expect(feed.asked).toBeLessThan(40);
    expect(await pulled('flood')).toMatch(/far too large/);
    expect(await pulled('elsewhere')).toMatch(/leads elsewhere/);
    const problem = await pulled('rubbish');
    expect(problem).toMatch(/no JSON/);
    expect(problem).not.toMatch(/sign in to the ledger|html/i);
    await allowPrivate(ctx, ines, id, false);
    expect(await pulled('ok')).toMatch(/which no owner has allowed/);
    await expect(allowPrivate(ctx, tomas, id, true)).rejects.toMatchObject({ status: 403 });
  });

  test('may lie inside only where an owner says so', async () => {
    for (const url of [
      'http://169.254.169.254/latest',
      'http://127.0.0.1:5432/',
      'http://[::1]:22/',
      'http://localhost/',
      'http://10.1.2.3/',
      'http://[::ffff:127.0.0.1]/',
      'http://0x7f.1/',
      'http://192.168.1.1/',
    ])
      await expect(addConnection(fresh.ctx, ines, { name: url, url })).rejects.toThrow(/no owner has allowed/);
    await expect(addConnection(fresh.ctx, ines, { name: 'x', url: 'http://a:b@ledger.example/' })).rejects.toThrow(
      /no name or password/,
    );
    expect(
      ['203.0.113.7', '8.8.8.8', '2606:4700::1', '::ffff:10.0.0.1', '100.64.0.1', '0.0.0.0', 'fe80::1'].map(isOutside),
    ).toEqual([false, true, true, false, false, false, false]);
  });
});

describe('the store', () => {
  test('whoever answers requests may change no line and make no table', async () => {
    for (const sql of [
      'update line set amount = 0',
      'delete from entry',
      'update budget set amount = 0',
      'delete from load_digest',
      'create table x (y integer)',
      'truncate balance_period',
      `create role x superuser`,
    ])
      await expect(fresh.ctx.write.raw(sql)).rejects.toThrow(/permission denied|must be/);
    const [role] = await rowsOf<{ super: boolean; owns: number }>(
      fresh.ctx.write,
      `select rolsuper as super, (select count(*) from pg_class where relowner = r.oid)::integer as owns from pg_roles r where rolname = current_user`,
    );
    expect(role).toEqual({ super: false, owns: 0 });
  });

  test('what nobody waits for is stopped in the database as well', async () => {
    const gone = new AbortController();
    const asked = answering({ id: 'x', signal: gone.signal, person: 'ines@kestrel.example' }, () =>
      rowsOf(fresh.ctx.read, 'select pg_sleep(4), count(*) from line'),
    );
    const running = async (): Promise<number> =>
      (
        await rowsOf(
          fresh.superuser,
          `select 1 from pg_stat_activity where datname = current_database() and query like 'select pg_sleep%' and state = 'active'`,
        )
      ).length;
    await expect.poll(running).toBe(1);
    gone.abort();
    await expect(asked).rejects.toMatchObject({ name: 'NoTurn', why: 'gone' });
    expect(await running()).toBe(0);
    // The connection is whole, and serves the next question.
    expect(
      await answering({ id: 'y', signal: new AbortController().signal, person: null }, () =>
        rowsOf(fresh.ctx.read, 'select 1 as one'),
      ),
    ).toEqual([{ one: 1 }]);
  });

  test('numbers of loads follow one another, whatever was rolled back or crashed in between', async () => {
    const { insertLoad } = await import('@/store/loads');
    const load = {
      entity: null,
      kind: 'rates' as const,
      format: 'csv' as const,
      file_name: 'x',
      file_digest: 'x',
      file_bytes: 1,
      options: {},
      mapping: null,
    };
    const row = { ...load, replaces_from: null, replaces_to: null, person: null, person_name: 'x' };
    const insert = (keep: boolean): Promise<number> =>
      fresh.ctx.write
        .transaction(async (trx) => {
          const id = await insertLoad(trx, row);
          if (!keep) throw Object.assign(new Error('rolled back'), { id });
          return id;
        })
        .catch((error: { id: number }) => error.id);
    const first = await insert(false);
    expect(await insert(true)).toBe(first);
    const both = await Promise.all([insert(true), insert(true)]);
    expect(both.sort((a, b) => a - b)).toEqual([first + 1, first + 2]);
    await fresh.ctx.write.raw('delete from load where id >= ?', [first]);
  });
});
