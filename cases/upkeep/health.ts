import { isThere } from '@/store/db';
import packageJson from '../../package.json';
import type { Context } from '../asking/context';

/** Whether the application and its database are there. */
export async function databaseAnswers(ctx: Context) {
  const { version } = packageJson;
  try {
    await isThere(ctx.read);
    return { status: 'ok' as const, version, database: 'ok' as const };
  } catch {
    return { status: 'degraded' as const, version, database: 'unreachable' as const };
  }
}
