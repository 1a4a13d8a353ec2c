import { generateKeyPairSync, randomBytes } from 'node:crypto';
import { createServer, type IncomingMessage, type ServerResponse } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Configuration, interactionPolicy, Provider } from 'oidc-provider';

/** Somebody whom the stand-in knows; one whose e-mail address nobody has looked at says so. */
export interface Known {
  subject: string;
  name: string;
  email: string;
  verified?: boolean;
}

export interface IdentityProvider {
  issuer: string;
  clientId: string;
  clientSecret: string;
  close(): Promise<void>;
}

const CLIENT = { id: 'just-thread', secret: randomBytes(24).toString('base64url') };

/**
 * A small stand-in for the sign-in of an organisation (OpenID Connect): a page on which one of its people is chosen, with
 * no password. The protocol behind it is whole. For the demo and for tests.
 * @param people as they are when somebody signs in
 * @param back the address to which browsers come back
 */
export async function startIdentityProvider(
  people: () => readonly Known[],
  back: string,
  port = 0,
): Promise<IdentityProvider> {
  const server = createServer();
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
  const issuer = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const { privateKey } = generateKeyPairSync('rsa', { modulusLength: 2048 });
  const find = (subject: string): Known | undefined => people().find((p) => p.subject === subject);
  const provider = await quietly(issuer, {
    clients: [
      {
        client_id: CLIENT.id,
        client_secret: CLIENT.secret,
        redirect_uris: [back],
        grant_types: ['authorization_code'],
        response_types: ['code'],
      },
    ],
    jwks: { keys: [{ ...privateKey.export({ format: 'jwk' }), kid: 'stand-in', use: 'sig', alg: 'RS256' } as never] },
    cookies: { keys: [randomBytes(16).toString('hex')] },
    claims: { openid: ['sub'], email: ['email', 'email_verified'], profile: ['name'] },
    features: { devInteractions: { enabled: false } },
    interactions: { url: (_, interaction) => `/choose/${interaction.uid}` },
    pkce: { required: () => true },
    findAccount: (_, id) => {
      const known = find(id);
      return (
        known && {
          accountId: id,
          claims: () => ({
            sub: id,
            name: known.name,
            email: known.email,
            email_verified: known.verified ?? true,
          }),
        }
      );
    },
    // Whoever chose somebody agrees to what is told of them.
    async loadExistingGrant(ctx) {
      const grant = new ctx.oidc.provider.Grant({
        clientId: CLIENT.id,
        accountId: ctx.oidc.session?.accountId as string,
      });
      grant.addOIDCScope('openid email profile');
      await grant.save();
      return grant;
    },
    ttl: { AccessToken: 60, AuthorizationCode: 60, IdToken: 60, Interaction: 600, Session: 1, Grant: 60 },
  });
  const handle = provider.callback();

  async function choose(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const subject = new URL(request.url ?? '/', issuer).searchParams.get('as');
    // Finds the sign-in that is under way by its cookie, or says that there is none.
    await provider.interactionDetails(request, response);
    if (subject !== null && find(subject))
      return provider.interactionFinished(request, response, { login: { accountId: subject } });
    response.writeHead(200, {
      'content-type': 'text/html; charset=utf-8',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
      'cache-control': 'no-store',
    });
    response.end(pageOf(people()));
  }

  server.on('request', (request, response) => {
    if (!request.url?.startsWith('/choose/')) return void handle(request, response);
    choose(request, response).catch(() => {
      response.writeHead(400, { 'content-type': 'text/plain; charset=utf-8' });
      response.end('This sign-in is over, or was begun elsewhere. Begin again where you came from.');
    });
  });
  return {
    issuer,
    clientId: CLIENT.id,
    clientSecret: CLIENT.secret,
    close: () => {
      server.closeAllConnections();
      return new Promise((resolve) => server.close(() => resolve()));
    },
  };
}

/** Whoever comes is asked each time, also right after they chose somebody: nobody is remembered here. */
function alwaysAsks({ base, Check }: typeof interactionPolicy): interactionPolicy.DefaultPolicy {
  const policy = base();
  policy
    .get('login')
    ?.checks.add(
      new Check('asked each time', 'Whoever comes is asked each time', 'login_required', ({ oidc }) =>
        oidc.result?.login ? Check.NO_NEED_TO_PROMPT : Check.REQUEST_PROMPT,
      ),
    );
  return policy;
}

/** The package says on its start what a provider for real use would need; this one is none, and keeps nothing. */
async function quietly(issuer: string, { interactions, ...configuration }: Configuration): Promise<Provider> {
  const { warn } = console;
  console.warn = () => {};
  try {
    const { default: Made, interactionPolicy: policies } = await import('oidc-provider');
    return new Made(issuer, { ...configuration, interactions: { ...interactions, policy: alwaysAsks(policies) } });
  } finally {
    console.warn = warn;
  }
}

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign] as string);

const pageOf = (people: readonly Known[]): string => `<!doctype html><html lang="en"><title>Who are you?</title>
<style>body{font:16px/1.6 sans-serif;max-width:26rem;margin:4rem auto;padding:0 1rem}a{display:block;padding:.4rem 0}</style>
<h1>Who are you?</h1><p>This stands in for the sign-in of an organisation, and asks for no password.</p>${people
  .map((p) => `<a href="?as=${encodeURIComponent(p.subject)}">${escaped(p.name)}, ${escaped(p.email)}</a>`)
  .join('')}</html>`;
