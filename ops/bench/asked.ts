/** Questions asked over HTTP as a browser asks them, and what they took. */

export interface Timing {
  median: number;
  p95: number;
}

export interface Asked extends Timing {
  name: string;
  /** Rows of the answer; null where it has none. */
  rows: number | null;
  bytes: number;
  /** What answered in the store. */
  by: string;
  /** Why there is no answer. */
  refused: string | null;
}

export interface Door {
  url: string;
  token: string;
}

export async function ask(
  { url, token }: Door,
  path: string,
): Promise<{ ms: number; response: Response; text: string }> {
  const from = performance.now();
  const response = await fetch(`${url}/api/v1${path}`, { headers: { authorization: `Bearer ${token}` } });
  const text = await response.text();
  return { ms: performance.now() - from, response, text };
}

export function timingOf(times: readonly number[]): Timing {
  const sorted = [...times].sort((a, b) => a - b);
  const at = (share: number): number => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))] ?? 0;
  return { median: at(0.5), p95: at(0.95) };
}

/** Asks one question again and again, the first time not counted. */
export async function measure(
  door: Door,
  { name, path }: { name: string; path: string },
  rounds: number,
): Promise<Asked> {
  const explained = await ask(door, `${path}&explain=yes`);
  const times: number[] = [];
  let last = explained;
  for (let i = 0; i < rounds; i++) {
    last = await ask(door, path);
    times.push(last.ms);
  }
  const body = JSON.parse(last.text) as { rows?: unknown[]; dimensions?: unknown[]; hits?: unknown[]; title?: string };
  return {
    name,
    ...timingOf(times),
    rows: body.rows?.length ?? body.dimensions?.length ?? body.hits?.length ?? null,
    bytes: last.text.length,
    by: answeredBy(explained.response.headers.get('server-timing') ?? ''),
    refused: last.response.ok ? null : `${last.response.status} ${body.title ?? ''}`,
  };
}

/** What answered the figures of a question: copies by columns, sums, or lines. */
function answeredBy(header: string): string {
  const told = [...header.matchAll(/desc="([^":]+)/g)].map(([, of]) => of as string);
  const found = ['copies by columns', 'balance_period', 'balance_day', 'balance_member', 'line'].filter((name) =>
    told.some((of) => of.split(' ').includes(name) || of === name),
  );
  return found.map((f) => (f === 'copies by columns' ? 'columns' : f.replace('balance_', 'sums by '))).join(', ');
}

/** Readers who each look at an answer for a while before they ask the next. */
export async function together(
  door: Door,
  paths: readonly string[],
  { readers, pauseMs, seconds }: { readers: number; pauseMs: number; seconds: number },
): Promise<Timing & { perSecond: number }> {
  const times: number[] = [];
  const from = performance.now();
  const until = from + seconds * 1_000;
  await Promise.all(
    Array.from({ length: readers }, async (_, reader) => {
      for (let n = reader; performance.now() < until; n += 7) {
        // Nobody begins at the same moment as everybody else.
        await new Promise((done) => setTimeout(done, pauseMs * (0.5 + ((n * 37) % 100) / 100)));
        times.push((await ask(door, paths[n % paths.length] as string)).ms);
      }
    }),
  );
  return { ...timingOf(times), perSecond: times.length / ((performance.now() - from) / 1_000) };
}
