import { defineConfig } from 'vitest/config';

export default defineConfig({
  resolve: { alias: { '@': import.meta.dirname } },
  test: {
    include: ['{app,core,store,contracts,cases,exchange,ui,demo,ops}/**/*.test.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // Two files at a time: while one waits for the database the other computes.
    maxWorkers: 2,
    // Every file has an installation of its own; modules, which are most of a file's start, are read once.
    isolate: false,
    globalSetup: './ops/testRun.ts',
  },
});
