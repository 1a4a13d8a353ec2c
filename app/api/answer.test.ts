import { expect, test } from 'vitest';
import { BODY_MAX } from '@/contracts/bodies/all';
import { checkOrigin, cookieName, serveAnybody, sessionOf } from './answer';

const HOST = { 'x-just-thread-host': 'books.example' };
const ours = { ...HOST, origin: 'http://books.example' };
const post = (headers: Record<string, string>, body?: string): Request =>
  new Request('http://books.example/api/v1/password', { method: 'POST', headers, ...(body ? { body } : {}) });
const secret = JSON.stringify({ secret: 'x', password: 'y' });

test('a change is taken from our own pages only', () => {
  for (const headers of [
    HOST,
    { ...HOST, origin: 'http://elsewhere.example' },
    { ...HOST, origin: 'null' },
    { ...HOST, origin: 'http://books.example.elsewhere.example' },
    { ...HOST, 'sec-fetch-site': 'same-site' },
    { origin: 'http://books.example' },
  ])
    expect(() => checkOrigin(post(headers as Record<string, string>)), JSON.stringify(headers)).toThrow(
      /of this installation/,
    );
  checkOrigin(post(ours));
  checkOrigin(post({ ...HOST, 'sec-fetch-site': 'same-origin' }));
  checkOrigin(new Request('http://books.example/', { headers: { origin: 'http://elsewhere.example' } }));
});

test('a body is let go as soon as it is too long, and what is no JSON or no field of ours is told so', async () => {
  const route = serveAnybody('POST /password', async () => ({ answer: { ok: true } }));
  expect((await route(post(ours, secret))).status).toBe(200);
  expect((await route(post(ours, 'x'.repeat(BODY_MAX + 1)))).status).toBe(413);
  expect((await route(post({ ...ours, 'content-length': String(BODY_MAX + 1) }, secret))).status).toBe(413);
  expect((await route(post(ours, 'no json'))).status).toBe(400);
  expect((await route(post(ours, '{"__proto__":{},"secret":"x","password":"y"}'))).status).toBe(422);
  expect((await route(post(ours, '{"secret":"a\\u0000b","password":"y"}'))).status).toBe(422);
  const unknown = await route(post(ours, '{"secret":"x","password":"y","more":1}'));
  expect([unknown.status, (await unknown.json()).errors[0].message]).toEqual([422, expect.stringMatching(/more/)]);
});

test('an answer that its route does not promise is a fault, not an answer', async () => {
  const lies = serveAnybody('POST /password', async () => ({ answer: { ok: true, and: 'more' } as { ok: boolean } }));
  expect((await lies(post(ours, secret))).status).toBe(500);
});

test('the session is in the cookie of the scheme, and in no other', () => {
  const asks = (scheme: string, cookie: string): Request =>
    new Request('http://books.example/', { headers: { cookie, 'x-just-thread-scheme': scheme } });
  expect(cookieName(true)).toBe('__Host-just_thread_session');
  expect(sessionOf(asks('https', 'a=b; __Host-just_thread_session=s1'))).toBe('s1');
  expect(sessionOf(asks('https', 'just_thread_session=s1'))).toBeNull();
  expect(sessionOf(asks('http', 'just_thread_session=s2; __Host-just_thread_session=s1'))).toBe('s2');
});
