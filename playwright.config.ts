import { defineConfig } from '@playwright/test';

const CHROMIUM_FLAGS = [
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1, EXCLUDE localhost',
];

// Walked when asked for: the long walk, which finds what nobody thought of, another thing each time; and stories whose
// screens other journeys use, to count their keys.
const walked = process.env.JUST_THREAD_WALK ? [] : ['**/random-walk.spec.ts', '**/a-story-counted.spec.ts'];
const APART = ['**/server-killed.spec.ts', '**/several-servers.spec.ts'];

export default defineConfig({
  // A busy machine is slow, not wrong.
  expect: { timeout: 15_000 },
  testDir: 'journeys',
  globalSetup: './journeys/setup.ts',
  // Two at a time: what walks over the demo world goes one after the other; beside it run those with servers of their own,
  // which mostly wait for what was killed to come back.
  workers: 2,
  projects: [
    { name: 'demo world', testIgnore: [...walked, ...APART], workers: 1 },
    { name: 'own servers', testMatch: APART, workers: 1 },
  ],
  timeout: 150_000,
  reporter: [['list'], ['json']],
  outputDir: '.test/journeys',
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    launchOptions: { executablePath: '/usr/bin/chromium', args: CHROMIUM_FLAGS },
  },
});
