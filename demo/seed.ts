import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Context } from '@/cases/context';
import { addEntity } from '@/cases/entities';
import { loadFile } from '@/cases/loads';
import { addPerson, ownerOf } from '@/cases/people';
import { countPeople } from '@/store/people';
import { writeDemoFiles } from './files';

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
 * @returns how to sign in
 */
export async function seedDemo(ctx: Context, empty: boolean, say: (text: string) => void) {
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
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
    for (const { entities, ...person } of PEOPLE.slice(1)) await addPerson(ctx, owner, { ...person, entities: entities ? [...entities] : null });
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
