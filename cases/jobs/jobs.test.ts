import { createReadStream, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import { type Fresh, freshInstallation } from '@/ops/fresh';
import { endJob, openJobOf, readJob, workersSeen } from '@/store/jobs';
import { compareLoads } from '../loads/compareLoads';
import { keepFile } from '../loads/keptFiles';
import { queueLoad, showLoad } from '../loads/loads';
import { answered, type Question } from './askAtLength';
import { addJob, cancelJob, showJobs } from './jobs';
import { jobEndedItsProcess, runJobsHere } from './runJob';

let fresh: Fresh;
beforeAll(async () => {
  fresh = await freshInstallation();
});
afterAll(() => fresh?.close());

async function sent(name: string): Promise<{ load: number; job: number }> {
  const path = join(fresh.env.JUST_THREAD_HOME as string, name);
  writeFileSync(path, 'date,from,to,rate\n2026-04-30,NOK,GBP,0.0752\n');
  const load = await queueLoad(fresh.ctx, fresh.owner, await keepFile(fresh.ctx, name, createReadStream(path)), {
    kind: 'rates',
  });
  return { load, job: (await openJobOf(fresh.ctx.work, 'load', `load ${load}`))?.id as number };
}
const statusOf = async (load: number): Promise<string> => (await showLoad(fresh.ctx, fresh.owner, load)).status;

test('a job is there if and only if what asked for it was kept', async () => {
  const asked = fresh.ctx.write.transaction(async (trx) => {
    await addJob(trx, {
      kind: 'pull',
      subject: 'connection 1',
      label: 'x',
      person: null,
      person_name: 'x',
      entities: null,
    });
    throw new Error('rolled back');
  });
  await expect(asked).rejects.toThrow('rolled back');
  expect((await showJobs(fresh.ctx, fresh.owner, { limit: 10 })).rows).toEqual([]);
});

test('what a job found is told in the order in which it was found', async () => {
  const { ctx } = fresh;
  const id = await ctx.work.transaction((trx) =>
    addJob(trx, { kind: 'look', subject: 'file x', label: 'x', person: null, person_name: 'x', entities: null }),
  );
  const found = {
    journal: 'Journal',
    entry: ['Journal', 'Number'],
    'dim:costcentre': 'Centre',
    'dim:vessel': 'Vessel',
  };
  await endJob(ctx.work, id, { state: 'done', result: found });
  expect(JSON.stringify((await readJob(ctx.work, id))?.result)).toBe(JSON.stringify(found));
});

test('only the load that was being read is refused when its process is ended, and those behind it come to count in their order', async () => {
  const { ctx } = fresh;
  const [first, second] = [await sent('first.csv'), await sent('second.csv')];
  const limit = 'reading it takes longer than 60 seconds';
  // The process waited for others and had begun none: nothing is refused, and it is tried again.
  expect(await jobEndedItsProcess(ctx, second.job, { limit: null, how: 'SIGKILL', began: null })).toBe(true);
  expect([await statusOf(first.load), await statusOf(second.load)]).toEqual(['reading', 'reading']);
  // The second's process was at the first, which goes before it: the first is refused, the second is still to be done.
  expect(await jobEndedItsProcess(ctx, second.job, { limit, how: 'SIGKILL', began: `load ${first.load}` })).toBe(true);
  expect(await showLoad(ctx, fresh.owner, first.load)).toMatchObject({
    status: 'refused',
    message: `refused: ${limit}; nothing was loaded`,
  });
  expect(await readJob(ctx.work, first.job)).toMatchObject({ state: 'refused' });
  await runJobsHere(ctx);
  expect(await showLoad(ctx, fresh.owner, second.load)).toMatchObject({ status: 'loaded', problems: [] });
  // What is done stays as it ended.
  expect(await jobEndedItsProcess(ctx, second.job, { limit, how: 'SIGKILL', began: `load ${second.load}` })).toBe(
    false,
  );
  expect(await statusOf(second.load)).toBe('loaded');
});

test('a process that ends by itself is tried once more, then its job is put aside with the reason', async () => {
  const { ctx } = fresh;
  const third = await sent('third.csv');
  const ended = { limit: null, how: 'SIGABRT', began: `load ${third.load}` };
  expect(await jobEndedItsProcess(ctx, third.job, ended)).toBe(true);
  expect(await jobEndedItsProcess(ctx, third.job, ended)).toBe(false);
  expect(await readJob(ctx.work, third.job)).toMatchObject({ state: 'put aside' });
  expect((await showLoad(ctx, fresh.owner, third.load)).message).toMatch(
    /ended the process that worked at it 2 times \(SIGABRT\), and is put aside/,
  );
});

test('whoever began a job, or an owner, stops it; others may not, and a reader does not see it', async () => {
  const { ctx, owner } = fresh;
  const { job, load } = await sent('fourth.csv');
  const other = { ...owner, id: owner.id + 1, role: 'preparer' as const };
  await expect(cancelJob(ctx, other, job)).rejects.toMatchObject({ status: 403 });
  await expect(cancelJob(ctx, { ...other, role: 'reader', entities: ['NONE'] }, job)).rejects.toMatchObject({
    status: 404,
  });
  expect(await cancelJob(ctx, owner, job)).toMatchObject({ cancelAsked: true });
  await runJobsHere(ctx);
  expect(await readJob(ctx.work, job)).toMatchObject({ state: 'cancelled' });
  expect(await showLoad(ctx, owner, load)).toMatchObject({
    status: 'refused',
    message: 'cancelled, nothing was loaded',
  });
});

describe('a question that takes long', () => {
  const gone = new AbortController();
  const loads = { path: {}, query: { from: 0, to: 1, limit: 10, at: 0 } } as Question<'GET /loads/compare'>;
  const here = vi.fn(async (query: (typeof loads)['query']) => compareLoads(fresh.ctx, fresh.owner, query));
  const asked = (query = loads.query, signal = new AbortController().signal) =>
    answered(fresh.ctx, fresh.owner, 'GET /loads/compare', { ...loads, query }, signal, here);
  const { signal } = gone;
  const newest = async () => (await showJobs(fresh.ctx, fresh.owner, { limit: 1 })).rows[0];
  /** Until it is written down. */
  const jobBegun = async (before: number | undefined): Promise<number> => {
    for (;;) {
      const job = await newest();
      if (job && job.id !== before) return job.id;
      await new Promise((resolve) => setTimeout(resolve, 20));
    }
  };

  test('is answered here where there is no worker', async () => {
    expect(await asked()).toMatchObject({ from: 0, to: 1 });
    expect(here).toHaveBeenCalledOnce();
    expect((await newest())?.kind).not.toBe('question');
    await workersSeen(fresh.ctx.work, ['a worker of this test']);
  });

  test('is answered here if it turns out light, whoever chose to wait for it or not', async () => {
    const scope = { path: {}, query: { window: 'everything', heavy: 'run' } } as unknown as Question<'GET /lines'>;
    const light = vi.fn(async () => 'an answer');
    expect(await answered(fresh.ctx, fresh.owner, 'GET /lines', scope, undefined, light)).toBe('an answer');
    expect(light).toHaveBeenCalledExactlyOnceWith({ window: 'everything' });
    const fault = new Error('something else');
    const failing = answered(fresh.ctx, fresh.owner, 'GET /lines', scope, undefined, async () => {
      throw fault;
    });
    await expect(failing).rejects.toBe(fault);
  });

  test('is answered by a worker as it would be here, and seen by whoever asked it', async () => {
    const before = await newest();
    const answer = asked();
    const id = await jobBegun(before?.id);
    const others = { ...fresh.owner, id: fresh.owner.id + 1, role: 'reviewer' as const };
    expect((await showJobs(fresh.ctx, others, { limit: 5 })).rows.map((j) => j.id)).not.toContain(id);
    here.mockClear();
    await runJobsHere(fresh.ctx);
    expect(here).not.toHaveBeenCalled();
    expect(await answer).toEqual(await compareLoads(fresh.ctx, fresh.owner, loads.query));
    expect(await newest()).toMatchObject({
      kind: 'question',
      state: 'done',
      label: 'What changed from load 0 to load 1',
    });
  });

  test('is refused in the words in which it would be here', async () => {
    const before = await newest();
    const answer = asked({ ...loads.query, from: 9, to: 2 });
    const refused = expect(answer).rejects.toThrow(/smaller/);
    await jobBegun(before?.id);
    await runJobsHere(fresh.ctx);
    await refused;
  });

  test('is stopped when whoever asked it has gone', async () => {
    const before = await newest();
    const answer = asked(loads.query, signal);
    const refused = expect(answer).rejects.toMatchObject({ status: 409 });
    const id = await jobBegun(before?.id);
    gone.abort();
    await expect.poll(async () => (await readJob(fresh.ctx.work, id))?.cancel_asked).toBe(true);
    await runJobsHere(fresh.ctx);
    await refused;
    expect(await readJob(fresh.ctx.work, id)).toMatchObject({ state: 'cancelled', result: null });
  });
});
