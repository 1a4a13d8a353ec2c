import * as client from 'openid-client';

/** The sign-in of the organisation, as this installation is told of it. */
export interface ProviderSettings {
  /** The address under which it describes itself (OpenID Connect Discovery 1.0). */
  issuer: string;
  clientId: string;
  clientSecret: string;
}

/** What only the browser that began knows, until it comes back. */
export interface Begun {
  state: string;
  nonce: string;
  verifier: string;
}

/** Who came back, as the provider vouches for them. */
export interface Identity {
  issuer: string;
  subject: string;
  email: string | null;
  /** Whether the provider says that the e-mail address is theirs. */
  verified: boolean;
}

/** The provider did not answer, or its answer proves nothing. */
export class ProviderFault extends Error {}

const SCOPE = 'openid email profile';
/** What the provider says of itself is asked for again after so long. */
const KNOWN_MS = 10 * 60_000;
const WAIT_SECONDS = 10;

const isLoopback = (issuer: string): boolean => ['127.0.0.1', '[::1]', 'localhost'].includes(new URL(issuer).hostname);

let kept: { of: string; at: number; config: Promise<client.Configuration> } | null = null;

function discovered({ issuer, clientId, clientSecret }: ProviderSettings): Promise<client.Configuration> {
  const of = JSON.stringify([issuer, clientId, clientSecret]);
  if (kept?.of === of && Date.now() - kept.at < KNOWN_MS) return kept.config;
  // Over the network nothing is believed that came without TLS; a stand-in on this machine has none.
  const execute = isLoopback(issuer) ? [client.allowInsecureRequests] : [];
  const config = client
    .discovery(new URL(issuer), clientId, clientSecret, undefined, { execute, timeout: WAIT_SECONDS })
    .catch((error: Error) => {
      kept = null;
      throw new ProviderFault(`the sign-in of the organisation does not answer: ${error.message}`);
    });
  kept = { of, at: Date.now(), config };
  return config;
}

/**
 * Where a browser is sent to sign in: the code flow of OpenID Connect Core 1.0 (3.1), with a proof key (RFC 7636).
 * @param back the address of our own to which it comes back
 * @throws ProviderFault
 */
export async function beginSignIn(settings: ProviderSettings, back: string): Promise<{ url: string; begun: Begun }> {
  const config = await discovered(settings);
  const begun = {
    state: client.randomState(),
    nonce: client.randomNonce(),
    verifier: client.randomPKCECodeVerifier(),
  };
  const url = client.buildAuthorizationUrl(config, {
    redirect_uri: back,
    scope: SCOPE,
    state: begun.state,
    nonce: begun.nonce,
    code_challenge: await client.calculatePKCECodeChallenge(begun.verifier),
    code_challenge_method: 'S256',
  });
  return { url: url.href, begun };
}

/**
 * Who came back. The state, the nonce, the proof key, the signature and the audience are checked by the client.
 * @param came the address at which the browser came back, as the provider was told it
 * @throws ProviderFault where anything of it proves nothing
 */
export async function whoCameBack(settings: ProviderSettings, came: URL, begun: Begun): Promise<Identity> {
  const config = await discovered(settings);
  try {
    const tokens = await client.authorizationCodeGrant(config, came, {
      pkceCodeVerifier: begun.verifier,
      expectedState: begun.state,
      expectedNonce: begun.nonce,
      idTokenExpected: true,
    });
    const claims = tokens.claims();
    if (!claims) throw new Error('it names nobody');
    const told =
      claims.email === undefined ? await client.fetchUserInfo(config, tokens.access_token, claims.sub) : claims;
    return {
      issuer: claims.iss,
      subject: claims.sub,
      email: typeof told.email === 'string' ? told.email.trim().toLowerCase() : null,
      verified: told.email_verified === true,
    };
  } catch (error) {
    throw new ProviderFault(`what came back proves nothing: ${(error as Error).message}`);
  }
}
