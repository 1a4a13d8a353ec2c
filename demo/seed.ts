import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { addConnection } from '@/cases/connections';
import type { Context } from '@/cases/context';
import { addEntity } from '@/cases/entities';
import { loadFile } from '@/cases/loads';
import { addPerson, ownerOf } from '@/cases/people';
import { pin } from '@/cases/pins';
import { countPeople, personByEmail } from '@/store/people';
import { budgetFile, commitmentsFile, holdingsFile, ratesFile, writeDemoFiles, writeRestatement } from './files';
import { RESTATED } from './restate';

/** The demo people and their passwords, which are no secret. */
const PEOPLE = [
  { name: 'Ines Hallam', role: 'owner', email: 'ines@kestrel.example', password: 'harrowick-quay', entities: null },
  { name: 'Tomas Ek', role: 'preparer', email: 'tomas@kestrel.example', password: 'harrowick-quay', entities: null },
  { name: 'Priya Lund', role: 'reviewer', email: 'priya@kestrel.example', password: 'harrowick-quay', entities: null },
  { name: 'Col Marsh', role: 'reader', email: 'col@kestrel.example', password: 'harrowick-quay', entities: ['KSF'] },
] as const;

const calendar = { kind: 'monthly', start: '04', adjustmentPeriods: 1 } as const;
export const ENTITIES = [
  { code: 'KSF', name: 'Kestrel Sound Ferries Ltd', currency: 'GBP' },
  { code: 'STL', name: 'Sound Terminals Ltd', currency: 'GBP' },
  { code: 'NHS', name: 'Nordholm Slip AS', currency: 'NOK' },
] as const;

/**
 * Fills an empty installation with the demo world, through the same reader and checks as any file.
 * @param feed address of the source ledger's stand-in, which is connected
 * @returns how to sign in
 */
export async function seedDemo(ctx: Context, empty: boolean, say: (text: string) => void, feed: string | null = null) {
  if (empty) {
    say('Loading the demo world …');
    if ((await countPeople(ctx.work)) === 0) await addPerson(ctx, null, { ...PEOPLE[0] });
    const owner = await ownerOf(ctx.work);
    for (const entity of ENTITIES) await addEntity(ctx, owner, { ...entity, calendar, yearEnd: 'derived', retainedEarnings: '3120' });
    const folder = await mkdtemp(join(tmpdir(), 'just-thread-demo-'));
    try {
      const files = await writeDemoFiles(folder);
      await must(loadFile(ctx, owner, files.dimensions, { kind: 'dimensions', format: 'csv' }));
      for (const { code } of ENTITIES) await must(loadFile(ctx, owner, files.chart, { kind: 'accounts', format: 'csv', entity: code }));
      const { lines } = await must(loadFile(ctx, owner, files.lines, { kind: 'lines', format: 'csv' }));
      say(`  ${lines.toLocaleString('en')} journal lines`);
      const holdings = join(folder, 'bank-and-cash.csv');
      await writeFile(holdings, holdingsFile());
      await must(loadFile(ctx, owner, holdings, { kind: 'holdings' }));
      const plan = join(folder, 'plan-2027.csv');
      await writeFile(plan, budgetFile());
      // Story 14: two months come again; a pin that was set before drifts.
      const subject = 'figure:entity=KSF&accounts=6310&from=2027.05&to=2027.05';
      const address = '/trial-balance?entity=KSF&from=2027.05&to=2027.05&accounts=63*';
      await pin(ctx, owner, { subject, measure: 'movement', address, label: '6310 Repairs and spares, movement' });
      await must(loadFile(ctx, owner, await writeRestatement(folder), { kind: 'lines', entity: RESTATED.entity, replaces: RESTATED.periods }));
      await must(loadFile(ctx, owner, plan, { kind: 'budgets' }));
      const orders = join(folder, 'open-orders.csv');
      await writeFile(orders, commitmentsFile());
      await must(loadFile(ctx, owner, orders, { kind: 'commitments' }));
      const rates = join(folder, 'rates-nok-gbp.csv');
      await writeFile(rates, ratesFile());
      await must(loadFile(ctx, owner, rates, { kind: 'rates' }));
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
    if (feed) await addConnection(ctx, owner, { name: 'Ferry ledger', url: feed, entity: 'KSF' });
    for (const { entities, ...person } of PEOPLE) {
      if (!(await personByEmail(ctx.work, person.email))) await addPerson(ctx, owner, { ...person, entities: entities ? [...entities] : null });
    }
  }
  return PEOPLE;
}

async function must<Load extends { status: string; problems: { row: number | null; message: string }[]; message: string | null }>(
  load: Promise<Load>,
): Promise<Load> {
  const done = await load;
  if (done.status === 'loaded') return done;
  throw new Error(
    `the demo world was refused: ${done.message}; ${done.problems
      .slice(0, 5)
      .map((p) => `row ${p.row}: ${p.message}`)
      .join('; ')}`,
  );
}
