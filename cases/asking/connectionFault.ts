/** Codes of PostgreSQL and of the network for a server that is not there, goes, or comes (SQLSTATE classes 08 and 57P). */
const NETWORK = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOTFOUND',
  'EAI_AGAIN',
  'ENETUNREACH',
  'EHOSTUNREACH',
]);
const TOO_MANY_CONNECTIONS = '53300';

/** Whether the database could not be reached, so that the same may well be answered in a moment. */
export function connectionFault(error: unknown): boolean {
  const { code = '', name = '', message = '' } = (error ?? {}) as { code?: string; name?: string; message?: string };
  if (NETWORK.has(code) || code === TOO_MANY_CONNECTIONS || name === 'KnexTimeoutError') return true;
  if (/^08|^57P/.test(code)) return true;
  return /connection terminated|client has encountered a connection error|connection ended unexpectedly|not queryable/i.test(
    message,
  );
}
