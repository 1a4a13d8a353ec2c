import type { IncomingHttpHeaders } from 'node:http';
import ipaddr from 'ipaddr.js';

/** Where a request comes from, and under which address it reached us. */
export interface Peer {
  address: string;
  scheme: 'http' | 'https';
  host: string;
}

type Range = [ipaddr.IPv4 | ipaddr.IPv6, number];

/**
 * Addresses of proxies whose words are believed, with commas between: `10.0.0.5, 10.1.0.0/16, ::1`. None by default.
 * @throws Error naming what is no address
 */
export function trustedProxies(text: string | undefined): Range[] {
  return (text ?? '')
    .split(/[\s,]+/)
    .filter(Boolean)
    .map((one) => {
      try {
        if (one.includes('/')) return ipaddr.parseCIDR(one);
        const address = ipaddr.process(one);
        return [address, address.kind() === 'ipv6' ? 128 : 32];
      } catch {
        throw new Error(`TRUSTED_PROXIES: “${one}” is no address; write 10.0.0.5 or 10.1.0.0/16`);
      }
    });
}

const isTrusted = (address: string, trusted: readonly Range[]): boolean => {
  if (!ipaddr.isValid(address)) return false;
  const parsed = ipaddr.process(address);
  return trusted.some(
    ([range, bits]) => range.kind() === parsed.kind() && parsed.match(range as ipaddr.IPv4 & ipaddr.IPv6, bits),
  );
};

const last = (header: string | string[] | undefined): string | undefined =>
  [header].flat().join(',').split(',').at(-1)?.trim() || undefined;

/** What the connection itself says, and of what a proxy says only as much as comes from proxies that are trusted. */
export function peerOf(remote: string, headers: IncomingHttpHeaders, secure: boolean, trusted: readonly Range[]): Peer {
  const bare = ipaddr.isValid(remote) ? ipaddr.process(remote).toString() : remote;
  const own: Peer = { address: bare, scheme: secure ? 'https' : 'http', host: headers.host ?? '' };
  if (!isTrusted(bare, trusted)) return own;
  const hops = [headers['x-forwarded-for']]
    .flat()
    .join(',')
    .split(',')
    .map((hop) => hop.trim());
  // The last that is no proxy of ours: whatever is before it, anybody may have written.
  const client = hops.reverse().find((hop) => ipaddr.isValid(hop) && !isTrusted(hop, trusted));
  const scheme = last(headers['x-forwarded-proto']);
  return {
    address: client ? ipaddr.process(client).toString() : bare,
    scheme: scheme === 'https' || scheme === 'http' ? scheme : own.scheme,
    host: last(headers['x-forwarded-host']) ?? own.host,
  };
}
