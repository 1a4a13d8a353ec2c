import { afterAll, beforeAll, beforeEach, expect, test } from 'vitest';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { type IdentityProvider, type Known, startIdentityProvider } from '@/standins/identityProvider';
import { addPerson, changePerson } from './people';
import { beginAtProvider, letBeKnownAnew, signInFromProvider } from './provider';
import { viewerOfSession } from './signIn';

// The sign-in of an organisation, whole: the stand-in speaks OpenID Connect as a certified provider does, and a browser of
// a few lines is led through it.

let fresh: Fresh;
let provider: IdentityProvider;
let known: Known[] = [];
const before = { ...process.env };
const HERE = 'http://127.0.0.1:49999';
const FROM = { address: '127.0.0.1', agent: 'a test' };

beforeAll(async () => {
  fresh = await freshInstallation();
  provider = await startIdentityProvider(() => known, `${HERE}/api/v1/session/provider/return`);
});
afterAll(async () => {
  process.env = before;
  await provider.close();
  await fresh.close();
});
beforeEach(() => {
  Object.assign(process.env, {
    PUBLIC_URL: HERE,
    OIDC_ISSUER: provider.issuer,
    OIDC_CLIENT_ID: provider.clientId,
    OIDC_CLIENT_SECRET: provider.clientSecret,
  });
  delete process.env.OIDC_TRUST_EMAIL;
});

/** Follows the provider until it sends the browser back here, choosing somebody on the way. @returns what came back */
async function walk(url: string, as: string): Promise<string> {
  const cookies = new Map<string, string>();
  let at = url;
  for (let i = 0; i < 10; i++) {
    const answer = await fetch(at, {
      redirect: 'manual',
      headers: { cookie: [...cookies].map(([name, value]) => `${name}=${value}`).join('; ') },
    });
    for (const cookie of answer.headers.getSetCookie()) {
      const [, name, value] = /^([^=]+)=([^;]*)/.exec(cookie) ?? [];
      cookies.set(name as string, value as string);
    }
    const to = answer.headers.get('location');
    if (to === null) at = `${at}?as=${as}`;
    else if (to.startsWith(HERE)) return new URL(to).search.slice(1);
    else at = new URL(to, at).href;
  }
  throw new Error('nobody came back');
}

async function through(as: string, to = '/desk') {
  const begun = await beginAtProvider(to);
  if (typeof begun === 'string') return begun;
  return signInFromProvider(fresh.ctx, await walk(begun.url, as), begun.keeps, FROM);
}

const viewerOf = async (came: Awaited<ReturnType<typeof through>>) =>
  typeof came === 'string' ? came : (await viewerOfSession(fresh.ctx, came.secret))?.email;

test('whoever was added comes in by an address that is vouched for, and then by what they are called there', async () => {
  await addPerson(fresh.ctx, fresh.owner, { email: 'mira@test.example', name: 'Mira Falk', role: 'preparer' } as never);
  known = [{ subject: 'u-1', name: 'Mira Falk', email: 'Mira@test.example' }];
  const came = await through('u-1', '/lines?entity=ONE');
  expect(await viewerOf(came)).toBe('mira@test.example');
  expect(came).toMatchObject({ to: '/lines?entity=ONE' });
  // She marries; who she is does not change.
  known = [{ subject: 'u-1', name: 'Mira Sund', email: 'mira.sund@test.example', verified: false }];
  expect(await viewerOf(await through('u-1'))).toBe('mira@test.example');
  // Somebody else gets the address that was hers, and is not taken for her.
  known = [{ subject: 'u-2', name: 'Mika Falk', email: 'mira@test.example' }];
  expect(await through('u-2')).toBe('another');
  const mira = (await viewerOfSession(fresh.ctx, (came as { secret: string }).secret)) as { id: number };
  await letBeKnownAnew(fresh.ctx, fresh.owner, String(mira.id));
  expect(await viewerOf(await through('u-2'))).toBe('mira@test.example');
  await changePerson(fresh.ctx, fresh.owner, String(mira.id), { active: false });
  expect(await through('u-2')).toBe('unknown');
});

test('nobody comes in who was not added, or whose address is not vouched for; nor is anybody led away from here', async () => {
  known = [{ subject: 'u-9', name: 'No One', email: 'nobody@test.example' }];
  expect(await through('u-9')).toBe('unknown');
  known = [{ subject: 'u-3', name: 'Not Checked', email: 'owner@test.example', verified: false }];
  expect(await through('u-3')).toBe('unverified');
  process.env.OIDC_TRUST_EMAIL = 'yes';
  const came = await through('u-3', 'https://elsewhere.example/');
  expect(await viewerOf(came)).toBe('owner@test.example');
  expect(came).toMatchObject({ to: '/' });
});

test('what comes back counts once, in the browser that began, and only if the provider answers', async () => {
  known = [{ subject: 'u-3', name: 'Owner', email: 'owner@test.example' }];
  const [one, two] = [await beginAtProvider('/'), await beginAtProvider('/')];
  if (typeof one === 'string' || typeof two === 'string') throw new Error('it does not begin');
  const came = await walk(one.url, 'u-3');
  // Another browser, or none, is not let in with it: that would sign somebody in as somebody else.
  expect(await signInFromProvider(fresh.ctx, came, two.keeps, FROM)).toBe('proof');
  expect(await signInFromProvider(fresh.ctx, came, null, FROM)).toBe('proof');
  expect(await signInFromProvider(fresh.ctx, came.replace(/code=[^&]+/, 'code=made-up'), one.keeps, FROM)).toBe(
    'proof',
  );
  const again = await beginAtProvider('/');
  if (typeof again === 'string') throw new Error('it does not begin');
  const back = await walk(again.url, 'u-3');
  expect(await viewerOf(await signInFromProvider(fresh.ctx, back, again.keeps, FROM))).toBe('owner@test.example');
  expect(await signInFromProvider(fresh.ctx, back, again.keeps, FROM)).toBe('proof');
  process.env.OIDC_ISSUER = 'http://127.0.0.1:1';
  expect(await beginAtProvider('/')).toBe('away');
  delete process.env.OIDC_ISSUER;
  expect(await beginAtProvider('/')).toBe('away');
});
