import { expect, test } from 'vitest';
import { peerOf, trustedProxies } from './peer';

test('without a proxy that is trusted nobody is believed about where they come from', () => {
  const said = {
    host: 'thread.example',
    'x-forwarded-for': '9.9.9.9',
    'x-forwarded-host': 'evil.example',
    'x-forwarded-proto': 'https',
  };
  expect(peerOf('::ffff:203.0.113.7', said, false, [])).toEqual({
    address: '203.0.113.7',
    scheme: 'http',
    host: 'thread.example',
  });
});

test('of what a trusted proxy says, the last hop that is no proxy counts', () => {
  const trusted = trustedProxies('10.0.0.0/8, ::1');
  const said = {
    host: 'app',
    'x-forwarded-for': '1.1.1.1, 203.0.113.7, 10.2.3.4',
    'x-forwarded-host': 'thread.example',
    'x-forwarded-proto': 'https',
  };
  expect(peerOf('10.9.9.9', said, false, trusted)).toEqual({
    address: '203.0.113.7',
    scheme: 'https',
    host: 'thread.example',
  });
  expect(peerOf('203.0.113.99', said, false, trusted).address).toBe('203.0.113.99');
  expect(peerOf('10.9.9.9', { host: 'app' }, false, trusted)).toEqual({
    address: '10.9.9.9',
    scheme: 'http',
    host: 'app',
  });
  expect(() => trustedProxies('proxy.example')).toThrow(/is no address/);
});
