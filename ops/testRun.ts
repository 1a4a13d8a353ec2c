import { dropDemo } from './fresh';

/** Names a run of tests that has no name yet, and lets go of its demo world at the end. */
export default function setup(): (() => Promise<void>) | undefined {
  if (process.env.JUST_THREAD_TEST_RUN) return undefined;
  const run = String(Date.now());
  process.env.JUST_THREAD_TEST_RUN = run;
  return () => dropDemo(run);
}
