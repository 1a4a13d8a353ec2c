import { createHash, timingSafeEqual } from 'node:crypto';
import { forbidden } from '@/contracts/problem';
import { isThere } from '@/store/db';
import { metrics } from '@/store/metrics';
import packageJson from '../../package.json';
import type { Context } from '../asking/context';

/** Whether the application and its database are there. */
export async function databaseAnswers(ctx: Context) {
  const { version } = packageJson;
  try {
    await isThere(ctx.read);
    return { status: 'ok' as const, version, database: 'ok' as const };
  } catch {
    return { status: 'unavailable' as const, version, database: 'unreachable' as const };
  }
}

/** Set once the process was asked to stop: what is under way ends, and nobody is to be sent here any more. */
const STOPPING = Symbol.for('just-thread stopping');
const own = globalThis as { [STOPPING]?: boolean };
export const saysItStops = (): void => {
  own[STOPPING] = true;
};

/** Whether requests are to be sent here. */
export async function isReady(ctx: Context) {
  const health = await databaseAnswers(ctx);
  return { ...health, ready: health.status === 'ok' && own[STOPPING] !== true };
}

const LOOPBACK = /^(127\.|::1$|::ffff:127\.)/;

/** What the process tells of itself, to its own machine or to who has the token. @throws ProblemError 403 */
export async function toldMetrics(address: string, token: string | null): Promise<{ text: string; mediaType: string }> {
  const wanted = process.env.METRICS_TOKEN;
  if (!LOOPBACK.test(address) && !(wanted && token && isSame(wanted, token)))
    throw forbidden('Metrics are told to the machine itself, or to who has METRICS_TOKEN');
  const { registry } = metrics();
  return { text: await registry.metrics(), mediaType: registry.contentType };
}

const hashed = (text: string): Buffer => createHash('sha256').update(text).digest();
const isSame = (a: string, b: string): boolean => timingSafeEqual(hashed(a), hashed(b));
