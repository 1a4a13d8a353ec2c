import { runJobsHere } from '@/cases/jobs/runJob';
import { ownerOf } from '@/cases/people/signIn';
import { proposeTable } from '@/cases/proposals/table';
import { rowsOf } from '@/store/db';
import type { Installation } from '../installation';
import { ask, type Door, timingOf } from './asked';
import { COMPANIES } from './ledger';
import type { Kind } from './questions';

/** What is proposed when each question is asked with it. */
const ENTRIES = 500;
const ROUNDS = 15;
const WORST = 10;
/** Slower by more than this is told. */
const BY_MUCH = 1.1;
const [LARGEST] = COMPANIES;

/** Proposes entries of two lines until a thousand lines are proposed, and has them copied as a worker does. */
export async function proposeMany({ ctx }: Installation): Promise<void> {
  const owner = await ownerOf(ctx.work);
  const [held] = await rowsOf<{ n: number }>(
    ctx.work,
    "select count(*)::integer as n from evidence where kind = 'proposed'",
  );
  if ((held?.n ?? 0) >= ENTRIES) return;
  const rows = Array.from({ length: ENTRIES }, (_, i) => {
    const day = `2026-0${4 + (i % 6)}-${String(1 + (i % 28)).padStart(2, '0')}`;
    const amount = `${100 + i}.${String(i % 100).padStart(2, '0')}`;
    return [`${i}\t${day}\t6000\t${amount}\t\tleft out`, `${i}\t${day}\t1910\t\t${amount}\tleft out`].join('\n');
  });
  const text = ['entry\tdate\taccount\tdebit\tcredit\tdescription', ...rows].join('\n');
  await proposeTable(ctx, owner, {
    ...{ entity: LARGEST.code, text, kind: 'factual', reason: 'to measure with', set: 'corrections', keep: true },
  });
  await runJobsHere(ctx);
}

/**
 * Asks each kind of question as booked and with what is proposed, in turn, so that whatever else the machine does is felt
 * by both; and tells which are slower with it.
 */
export async function besideProposed(door: Door, kinds: readonly Kind[], say: (text: string) => void): Promise<void> {
  const found: { name: string; booked: number; proposed: number }[] = [];
  for (const { name, path } of kinds) {
    const both = [path, `${path}&basis=with-proposed`];
    const answers = await Promise.all(both.map((p) => ask(door, p)));
    if (answers.some(({ response }) => !response.ok)) continue;
    const times: [number[], number[]] = [[], []];
    for (let round = 0; round < ROUNDS; round++)
      for (const at of round % 2 === 0 ? ([0, 1] as const) : ([1, 0] as const))
        times[at].push((await ask(door, both[at] as string)).ms);
    const [booked, proposed] = times.map((of) => timingOf(of).median) as [number, number];
    found.push({ name, booked, proposed });
    say(`${name.padEnd(52)} ${booked.toFixed(0).padStart(6)} ${proposed.toFixed(0).padStart(6)}`);
  }
  const ratio = (f: (typeof found)[number]): number => f.proposed / f.booked;
  const slower = found.filter((f) => ratio(f) > BY_MUCH);
  say(
    `\n${found.length} kinds with ${ENTRIES * 2} proposed lines: median ratio ${timingOf(found.map(ratio)).median.toFixed(2)}; ${slower.length} slower by more than a tenth. The worst:`,
  );
  for (const f of [...found].sort((a, b) => ratio(b) - ratio(a)).slice(0, WORST))
    say(
      `${f.name.padEnd(52)} ${f.booked.toFixed(0).padStart(6)} ${f.proposed.toFixed(0).padStart(6)}  × ${ratio(f).toFixed(2)}`,
    );
}
