import { afterEach, expect, test, vi } from 'vitest';
import { askTogether } from './together';

afterEach(() => {
  vi.unstubAllGlobals();
});

interface Sent {
  asked: { route: string; path: Record<string, string>; query: string }[];
  signal: AbortSignal;
}

/** A server that answers line by line; what it was sent is noted. */
function server(answer: (sent: Sent) => AsyncGenerator<string> | Response): Sent[] {
  const all: Sent[] = [];
  vi.stubGlobal('fetch', async (_url: string, { body, signal }: { body: string; signal: AbortSignal }) => {
    const sent = { ...(JSON.parse(body) as Pick<Sent, 'asked'>), signal };
    all.push(sent);
    const given = answer(sent);
    if (given instanceof Response) return given;
    const encoder = new TextEncoder();
    return new Response(
      new ReadableStream({
        async start(controller) {
          for await (const piece of given) controller.enqueue(encoder.encode(piece));
          controller.close();
        },
      }),
    );
  });
  return all;
}
const line = (at: number, body: unknown, status = 200): string => `${JSON.stringify({ at, status, body })}\n`;
const totals = (query: string, signal?: AbortSignal) =>
  askTogether('GET /totals', {}, new URLSearchParams(query), signal);

test('what is asked in one moment goes in one request, and each answer comes when it is there', async () => {
  let letGo = (): void => {};
  const held = new Promise<void>((done) => {
    letGo = done;
  });
  const sent = server(async function* () {
    // Not in the order in which they were asked, and cut anywhere.
    const second = line(1, 'second');
    yield second.slice(0, 7);
    yield second.slice(7);
    await held;
    yield line(0, 'first');
  });
  const [first, second] = [totals('a=1'), askTogether('GET /entries/{id}', { id: 7 }, undefined, undefined)];
  expect(await second).toBe('second');
  letGo();
  expect(await first).toBe('first');
  expect(sent.map((s) => s.asked)).toEqual([
    [
      { route: 'GET /totals', path: {}, query: 'a=1' },
      { route: 'GET /entries/{id}', path: { id: '7' }, query: '' },
    ],
  ]);
  const later = totals('b=2');
  await later.catch(() => {});
  expect(sent).toHaveLength(2);
});

test('one that is refused is refused alone', async () => {
  server(async function* () {
    yield line(0, { title: 'There is no load 9', errors: [] }, 422);
    yield line(1, 'here');
  });
  const [refused, answered] = await Promise.allSettled([totals('load=9'), totals('')]);
  expect(refused).toMatchObject({ status: 'rejected', reason: { message: 'There is no load 9', status: 422 } });
  expect(answered).toMatchObject({ status: 'fulfilled', value: 'here' });
});

test('an answer that breaks off fails those that had none yet, and no others', async () => {
  server(async function* () {
    yield line(0, 'whole');
  });
  const [whole, missing] = await Promise.allSettled([totals('a=1'), totals('a=2')]);
  expect(whole).toMatchObject({ status: 'fulfilled', value: 'whole' });
  expect(missing).toMatchObject({ status: 'rejected', reason: { message: expect.stringMatching(/broke off/) } });
});

test('a request that is refused as a whole is refused to everybody in it', async () => {
  server(() => Response.json({ title: 'Not yours to see', errors: [] }, { status: 403 }));
  const all = await Promise.allSettled([totals('a=1'), totals('a=2')]);
  expect(all.map((one) => (one.status === 'rejected' ? one.reason.status : 'answered'))).toEqual([403, 403]);
});

test('who leaves waits no longer; once nobody waits the request is given up', async () => {
  const sent = server(async function* ({ signal }) {
    await new Promise((done) => signal.addEventListener('abort', done));
  });
  const [one, other] = [new AbortController(), new AbortController()];
  const both = Promise.allSettled([totals('a=1', one.signal), totals('a=2', other.signal)]);
  await vi.waitFor(() => expect(sent).toHaveLength(1));
  one.abort();
  expect(sent[0]?.signal.aborted).toBe(false);
  other.abort();
  expect((await both).map((b) => b.status)).toEqual(['rejected', 'rejected']);
  expect(sent[0]?.signal.aborted).toBe(true);
  // Who left before it was sent is not asked for at all.
  const gone = new AbortController();
  const never = totals('a=3', gone.signal).catch(() => 'left');
  gone.abort();
  expect(await never).toBe('left');
  await new Promise((done) => setTimeout(done, 5));
  expect(sent).toHaveLength(1);
});
