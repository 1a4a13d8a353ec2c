import type { z } from 'zod';
import type { newIgnoredSchema } from '@/contracts/bodies/all';
import { notFound, wrong } from '@/contracts/problem';
import { isTest, testOf } from '@/core/tests/list';
import * as store from '@/store/testRuns';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySee, require, type Viewer } from '../asking/viewer';
import { seenPiece } from '../evidence/seenEvidence';

/** What is ignored in all runs, and why; what is ignored no longer stays listed. */
export async function showIgnored(ctx: Context, viewer: Viewer) {
  require(viewer, 'preparer', 'see what tests ignore');
  const rows = (await store.listIgnored(ctx.write)).filter((r) => maySee(viewer, r.entity));
  return {
    rows: rows.map((r) => ({
      ...{ id: r.id, test: r.test, name: isTest(r.test) ? testOf(r.test).name : r.test, entity: r.entity, why: r.why },
      alike: Object.entries(r.alike).map(([word, value]) => ({ word, value: value ?? '' })),
      ...{ by: r.person, at: r.made_at.toISOString() },
      revoked: r.revoked_at === null ? null : { by: r.revoked_by ?? '', at: r.revoked_at.toISOString() },
    })),
  };
}

/** Has hits of the same test that have something in common with one ignored from now on, in every run. @throws ProblemError */
export async function ignoreAlike(
  ctx: Context,
  viewer: Viewer,
  { run, key, alike, why }: z.infer<typeof newIgnoredSchema>,
) {
  require(viewer, 'preparer', 'have hits ignored');
  await seenPiece(ctx, viewer, 'run', run);
  const hit = await store.hitOfKey(ctx.write, run, key);
  if (!hit || !maySee(viewer, hit.entity)) throw notFound(`Hit ${key}`);
  const common = Object.fromEntries(
    alike.map((word, i) => {
      const value = hit[word];
      if (value === null) throw wrong(`alike.${i}`, `this hit has no ${word} to be alike in`);
      return [word, value];
    }),
  );
  await onRecord(ctx, viewer, async (trx, record) => {
    const { test, entity } = hit;
    const id = await store.insertIgnored(trx, { test, entity, alike: common, why, person: viewer.id });
    await record('has hits like it ignored', `test ${test}`, { ignored: id, entity, alike: common, why });
  });
  return showIgnored(ctx, viewer);
}

/** Ignores them no longer. @throws ProblemError */
export async function ignoreNoLonger(ctx: Context, viewer: Viewer, id: number) {
  require(viewer, 'preparer', 'say what tests ignore');
  const rule = (await store.listIgnored(ctx.write)).find((r) => r.id === id && maySee(viewer, r.entity));
  if (!rule || rule.revoked_at !== null) throw notFound(`Rule ${id}`);
  await onRecord(ctx, viewer, async (trx, record) => {
    await store.revokeIgnored(trx, id, viewer.id);
    await record('no longer has hits ignored', `test ${rule.test}`, { ignored: id });
  });
  return showIgnored(ctx, viewer);
}
