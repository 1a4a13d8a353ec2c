import { afterEach, expect, test } from 'vitest';
import { saysItStops, toldMetrics } from './health';

afterEach(() => {
  delete process.env.METRICS_TOKEN;
});

// OpenMetrics 1.0: an exposition ends with # EOF, and a counter's samples have the suffix _total.
test('metrics are told to the machine itself and to who has the token, and to nobody else', async () => {
  const { text, mediaType } = await toldMetrics('127.0.0.1', null);
  expect(mediaType).toContain('application/openmetrics-text');
  expect(text.trimEnd().endsWith('# EOF')).toBe(true);
  expect(text).toContain('just_thread_process_cpu_seconds_total');
  await expect(toldMetrics('203.0.113.7', null)).rejects.toThrow('METRICS_TOKEN');
  await expect(toldMetrics('', 'anything')).rejects.toThrow('METRICS_TOKEN');
  process.env.METRICS_TOKEN = 'a long word';
  await expect(toldMetrics('203.0.113.7', 'another word')).rejects.toThrow('METRICS_TOKEN');
  expect((await toldMetrics('203.0.113.7', 'a long word')).text).toContain('# EOF');
});

test('who was asked to stop is not ready any more, though its database answers', async () => {
  const { demoInstallation } = await import('@/ops/fresh');
  const { isReady } = await import('./health');
  const home = await demoInstallation();
  try {
    expect(await isReady(home.ctx)).toMatchObject({ ready: true, database: 'ok' });
    saysItStops();
    expect(await isReady(home.ctx)).toMatchObject({ ready: false, database: 'ok' });
  } finally {
    await home.close();
  }
});
