import { type AnswerOfSeveral, type AskedTogether, TOGETHER_MAX } from '@/contracts/askedTogether';
import { checked, ProblemAnswer } from './problemAnswer';

/** A question that waits for those that are asked beside it. */
interface Waiting {
  name: AskedTogether;
  path: Record<string, string | number>;
  query: URLSearchParams | undefined;
  signal: AbortSignal | undefined;
  resolve(answer: unknown): void;
  reject(reason: unknown): void;
}

let waiting: Waiting[] = [];

/**
 * Asks a question together with all that is asked in the same moment: a screen goes to the server once for what it
 * shows. Each answer comes as soon as it is there, and whoever leaves before theirs waits no longer.
 */
export function askTogether(
  name: AskedTogether,
  path: Record<string, string | number>,
  query: URLSearchParams | undefined,
  signal: AbortSignal | undefined,
): Promise<unknown> {
  return new Promise((resolve, reject) => {
    if (waiting.length === 0) setTimeout(send, 0);
    waiting.push({ name, path, query, signal, resolve, reject });
    signal?.addEventListener('abort', () => reject(signal.reason), { once: true });
  });
}

function send(): void {
  const asked = waiting.filter((w) => !w.signal?.aborted);
  waiting = [];
  for (let from = 0; from < asked.length; from += TOGETHER_MAX) void exchange(asked.slice(from, from + TOGETHER_MAX));
}

async function exchange(asked: readonly Waiting[]): Promise<void> {
  const open = new Set(asked);
  const gone = new AbortController();
  // Once nobody waits any more, the server need not go on either.
  const leave = (one: Waiting): void => {
    open.delete(one);
    if (open.size === 0) gone.abort();
  };
  for (const one of asked) one.signal?.addEventListener('abort', () => leave(one), { once: true });
  const deliver = ({ at, status, body }: AnswerOfSeveral): void => {
    const one = asked[at];
    if (!one) return;
    try {
      one.resolve(checked(one.name, status, body));
    } catch (problem) {
      one.reject(problem);
    }
    open.delete(one);
  };
  try {
    const response = await fetch('/api/v1/answers', {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ asked: asked.map(written) }),
      signal: gone.signal,
    });
    if (!response.ok || !response.body) {
      const problem: unknown = await response.json().catch(() => null);
      for (const at of asked.keys()) deliver({ at, status: response.status, body: problem });
      return;
    }
    for await (const line of linesOf(response.body)) deliver(JSON.parse(line) as AnswerOfSeveral);
    throw new ProblemAnswer(0, 'The answer broke off; try again', []);
  } catch (error) {
    for (const one of open) one.reject(error);
  }
}

const written = ({ name, path, query }: Waiting) => ({
  route: name,
  path: Object.fromEntries(Object.entries(path).map(([key, value]) => [key, String(value)])),
  query: query?.toString() ?? '',
});

async function* linesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<string> {
  const reader = body.getReader();
  const decoder = new TextDecoder();
  let rest = '';
  for (let next = await reader.read(); !next.done; next = await reader.read()) {
    const lines = (rest + decoder.decode(next.value, { stream: true })).split('\n');
    rest = lines.pop() ?? '';
    yield* lines;
  }
  if (rest !== '') yield rest;
}
