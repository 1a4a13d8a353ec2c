import type { Context } from './context';
import { onRecord } from './onRecord';
import type { Viewer } from './viewer';

/**
 * Who looked at what. Each look by itself would be an entry of its own and wait for the one before it; so a minute's looks
 * of a person are one entry of the record: which figures, statements, lines, entries, documents and files, how often. What
 * a server that is ended with no time to say anything had not written down is lost, a minute at the most.
 */
const EVERY_MS = 60_000;
/** Different things of one person and minute; what is more is counted. */
const THINGS_MAX = 100;
const ACCOUNTS_SHOWN = 60;
/** Routes that answer figures, or what is behind them. */
const SHOWS =
  /^\/api\/v1\/(trial-balance|sheets|lines|accounts|holdings|dimensions|over-time|what-moved|other-side|statements\/[^/]+|entries\/[^/]+|journals(?:\/series)?|documents(?:\/[^/]+)?|document-register|unmatched-documents|search|parties\/[^/]+|attachments\/[^/]+(?:\/contents)?|loads\/\d+\/file|threads\/\d+(?:\/[\w-]+)*|pins\/\d+|findings(?:\/\d+)?|expectations(?:\/\d+)?|proposed-entries(?:\/\w+)?|misstatements|materiality|samples(?:\/\d+)*(?:\/[a-z]+)?|first-digits|entered-times|who-posts-where|account-months|sizes|test-runs(?:\/\d+)*(?:\/[a-z]+)?|questions\/\d+|completeness|budgets\/[^/]+)$/;

interface Looks {
  person: Pick<Viewer, 'id' | 'name' | 'email' | 'cameFrom'>;
  since: string;
  things: Map<string, number>;
  more: number;
}

// The pages and the server in front of them are built apart, and meet here.
const KEY = Symbol.for('just-thread.looks');
const shared = globalThis as unknown as Record<symbol, Map<string, Map<string, Looks>> | undefined>;
shared[KEY] ??= new Map();
const byHome = shared[KEY];
/** Installations whose looks are to be written down when the minute is over. */
const waiting = new Set<string>();

/** The looks of one installation, by person and where they came from. */
function looksAt({ home }: Context): Map<string, Looks> {
  const held = byHome.get(home) ?? new Map<string, Looks>();
  byHome.set(home, held);
  return held;
}

/** Notes that somebody was shown what a request asked for. */
export function looked(ctx: Context, viewer: Viewer, url: URL): void {
  const [, path] = SHOWS.exec(url.pathname) ?? [];
  if (path === undefined) return;
  const accounts = url.searchParams.get('accounts');
  const words = path === 'search' ? url.searchParams.get('q') : null;
  const thing = [
    decodeURIComponent(path),
    ...(words ? [`“${words.slice(0, ACCOUNTS_SHOWN)}”`] : []),
    ...url.searchParams.getAll('entity'),
    ...(accounts ? [`accounts ${accounts.slice(0, ACCOUNTS_SHOWN)}`] : []),
  ].join(' ');
  const looks = looksAt(ctx);
  const who = `${viewer.id} ${viewer.cameFrom ?? ''}`;
  const mine = looks.get(who) ?? { person: viewer, since: new Date().toISOString(), things: new Map(), more: 0 };
  looks.set(who, mine);
  if (mine.things.has(thing) || mine.things.size < THINGS_MAX)
    mine.things.set(thing, (mine.things.get(thing) ?? 0) + 1);
  else mine.more += 1;
  if (waiting.has(ctx.home)) return;
  waiting.add(ctx.home);
  setTimeout(() => {
    waiting.delete(ctx.home);
    void writeLooks(ctx).catch(() => {}); // they are kept, and written the next time
  }, EVERY_MS).unref();
}

/** Writes down all looks that are noted. */
export async function writeLooks(ctx: Context): Promise<void> {
  const looks = looksAt(ctx);
  for (const [id, { person, since, things, more }] of [...looks]) {
    looks.delete(id);
    try {
      await onRecord(ctx, person, (_, record) =>
        record('looked at', `person ${person.email}`, {
          since,
          things: Object.fromEntries(things),
          ...(more > 0 ? { more } : {}),
        }),
      );
    } catch (error) {
      if (!looks.has(id)) looks.set(id, { person, since, things, more });
      throw error;
    }
  }
}
