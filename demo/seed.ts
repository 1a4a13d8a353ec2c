import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { z } from 'zod';
import type { Context } from '@/cases/asking/context';
import type { Viewer } from '@/cases/asking/viewer';
import { addEntity } from '@/cases/charts/entities';
import { setEntryOrigins } from '@/cases/charts/entryOrigins';
import { setSourceLink } from '@/cases/charts/sourceLinks';
import { pin } from '@/cases/evidence/pins';
import { addToThread, saveThread } from '@/cases/evidence/threads/keep';
import { changeStep } from '@/cases/evidence/threads/steps';
import { addConnection } from '@/cases/loads/connections';
import { loadFile } from '@/cases/loads/loading/runLoads';
import { addPerson } from '@/cases/people/people';
import { ownerOf } from '@/cases/people/signIn';
import { viewerOf } from '@/cases/people/viewerOf';
import type { newPersonSchema } from '@/contracts/bodies/all';
import type { LoadKind } from '@/contracts/mapping';
import { countPeople, listPeople, personByEmail } from '@/store/people';
import { demoDocuments } from './documents';
import { leaveEvidence } from './evidence';
import {
  budgetFile,
  commitmentsFile,
  documentLinesFile,
  holdingsFile,
  partiesFile,
  ratesFile,
  schemesFile,
  taxCodesFile,
  writeDemoFiles,
  writeDocuments,
  writeRestatement,
} from './files';
import { leaveProposals } from './proposals';
import { leaveReports } from './reports';
import { RESTATED } from './restate';

/** Story 1 as far as somebody has followed it: a thread with a fork, one step of which moves when two months come again. */
async function keepRepairs(ctx: Context, owner: Viewer): Promise<void> {
  const scope = 'entity=KSF&from=2027.04&to=2027.06';
  const step = (label: string, view: 'split' | 'lines', row: string, put: Record<string, string>, by?: string) =>
    new URLSearchParams({
      '~v': view,
      '~l': label,
      '~r': row,
      '~c': 'closing',
      ...(by ? { '~b': by } : {}),
      ...put,
    }).toString();
  const way = (
    steps: { label: string; view: 'split' | 'lines'; row: string; put: Record<string, string>; by?: string }[],
  ) => [
    { address: `/trial-balance?${scope}`, label: 'Trial balance', view: 'sheet' as const, subject: `figure:${scope}` },
    ...steps.map((s, i) => {
      const walked = new URLSearchParams(scope);
      for (const past of steps.slice(0, i + 1))
        walked.append('step', step(past.label, past.view, past.row, past.put, past.by));
      const figure = new URLSearchParams({
        entity: 'KSF',
        from: '2027.04',
        to: '2027.06',
        ...Object.assign({}, ...steps.slice(0, i + 1).map((p) => p.put)),
      });
      const { label, view, by } = s;
      return {
        address: `/trial-balance?${walked}`,
        label,
        view,
        ...(by ? { by } : {}),
        subject: `figure:${figure}`,
        measure: 'closing' as const,
      };
    }),
  ];
  const docking = {
    label: '6320 Dry-docking',
    view: 'split' as const,
    row: '6320',
    put: { accounts: '6320' },
    by: 'dim:project',
  };
  const doubled = {
    label: 'New linkspan Brenna',
    view: 'lines' as const,
    row: 'LINK-BRE',
    put: { 'dim.project': 'LINK-BRE' },
  };
  const maren = {
    label: 'Dry-docking Maren 2026',
    view: 'lines' as const,
    row: 'DD-MAR-26',
    put: { 'dim.project': 'DD-MAR-26' },
  };
  const repairs = { label: '6310 Repairs and spares', view: 'lines' as const, row: '6310', put: { accounts: '6310' } };
  const { id, steps } = await saveThread(ctx, owner, {
    name: 'Repairs up by half in the second quarter',
    steps: way([docking, doubled]),
  });
  await addToThread(ctx, owner, id, way([docking, maren]));
  await addToThread(ctx, owner, id, way([repairs]));
  await changeStep(ctx, owner, id, steps[2] as number, {
    note: 'A docking invoice on a pier project, under nearly the number of another',
  });
}

/** The demo people and their passwords, which are no secret. */
const PEOPLE: z.input<typeof newPersonSchema>[] = [
  { name: 'Ines Hallam', role: 'owner', email: 'ines@kestrel.example', password: 'harrowick-quay', entities: null },
  { name: 'Tomas Ek', role: 'preparer', email: 'tomas@kestrel.example', password: 'harrowick-quay', entities: null },
  { name: 'Priya Lund', role: 'reviewer', email: 'priya@kestrel.example', password: 'harrowick-quay', entities: null },
  {
    name: 'Col Marsh',
    role: 'reader',
    email: 'col@kestrel.example',
    password: 'harrowick-quay',
    entities: ['KSF'],
    members: { costcentre: ['DECK', 'ENG'] },
  },
];

/** What the numbers of the demo's entries tell. */
const ORIGINS = [
  ['PI-*', 'Purchase invoices', 'document'],
  ['FI-*', 'Freight and charter invoices', 'document'],
  ['YI-*', 'Yard invoices', 'document'],
  ['G?-*', 'Dealings within the group', 'document'],
  ['TS-*', 'Ticket office', 'entry'],
  ['B?-*', 'Bank', 'entry'],
  ['PY-*', 'Payroll', 'entry'],
  ['JE-*', 'Written by hand', 'entry'],
].map(([pattern = '', name = '', leads]) => ({ pattern, name, leads: leads as 'document' | 'entry' }));

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
    if ((await countPeople(ctx.work)) === 0) await addPerson(ctx, null, PEOPLE[0] as (typeof PEOPLE)[number]);
    const owner = await ownerOf(ctx.work);
    for (const entity of ENTITIES)
      await addEntity(ctx, owner, { ...entity, calendar, yearEnd: 'derived', retainedEarnings: '3120' });
    const folder = await mkdtemp(join(tmpdir(), 'just-thread-demo-'));
    const deliver = async (name: string, content: string, kind: LoadKind): Promise<void> => {
      const path = join(folder, name);
      await writeFile(path, content);
      await must(loadFile(ctx, owner, path, { kind }));
    };
    try {
      const files = await writeDemoFiles(folder);
      await must(loadFile(ctx, owner, files.dimensions, { kind: 'dimensions', format: 'csv' }));
      for (const { code } of ENTITIES)
        await must(loadFile(ctx, owner, files.chart, { kind: 'accounts', format: 'csv', entity: code }));
      const { lines } = await must(loadFile(ctx, owner, files.lines, { kind: 'lines', format: 'csv' }));
      say(`  ${lines.toLocaleString('en')} journal lines`);
      await deliver('bank-and-cash.csv', holdingsFile(), 'holdings');
      // Story 14: two months come again; a pin that was set before drifts.
      const subject = 'figure:entity=KSF&accounts=6310&from=2027.05&to=2027.05';
      const address = '/trial-balance?entity=KSF&from=2027.05&to=2027.05&accounts=63*';
      await pin(ctx, owner, { subject, measure: 'movement', address, label: '6310 Repairs and spares, movement' });
      await keepRepairs(ctx, owner);
      await must(
        loadFile(ctx, owner, await writeRestatement(folder), {
          kind: 'lines',
          entity: RESTATED.entity,
          replaces: RESTATED.periods,
        }),
      );
      await deliver('plan-2027.csv', budgetFile(), 'budgets');
      await deliver('open-orders.csv', commitmentsFile(), 'commitments');
      await deliver('rates-nok-gbp.csv', ratesFile(), 'rates');
      const documented = (['KSF', 'NHS'] as const).map((entity) => ({ entity, documents: demoDocuments(entity) }));
      for (const { entity, documents } of documented)
        await must(
          loadFile(ctx, owner, await writeDocuments(folder, entity, documents), { kind: 'documents', entity }),
        );
      for (const { entity, documents } of documented)
        await deliver(
          `document-lines-${entity.toLowerCase()}.csv`,
          documentLinesFile(entity, documents),
          'document-lines',
        );
      await deliver('customers-and-suppliers.csv', partiesFile(), 'parties');
      await setEntryOrigins(ctx, owner, { rows: ORIGINS });
      await deliver('tax-codes.csv', taxCodesFile(), 'tax-codes');
      await deliver('statutory-captions.csv', schemesFile(), 'schemes');
    } finally {
      await rm(folder, { recursive: true, force: true });
    }
    if (feed) {
      await addConnection(ctx, owner, { name: 'Ferry ledger', url: feed, entity: 'KSF', privateAllowed: true });
      await setSourceLink(ctx, owner, { entity: 'KSF', link: `${feed}/{entry}` });
    }
    for (const person of PEOPLE) {
      if (!(await personByEmail(ctx.work, person.email))) await addPerson(ctx, owner, person);
    }
    const viewers = new Map((await listPeople(ctx.work)).map((p) => [p.email.split('@')[0], viewerOf(p)]));
    await leaveEvidence(ctx, owner, Object.fromEntries(viewers) as Parameters<typeof leaveEvidence>[2]);
    await leaveProposals(ctx, Object.fromEntries(viewers) as Parameters<typeof leaveProposals>[1]);
    await leaveReports(ctx, Object.fromEntries(viewers) as Parameters<typeof leaveReports>[1]);
  }
  return PEOPLE;
}

async function must<
  Load extends { status: string; problems: { row: number | null; message: string }[]; message: string | null },
>(load: Promise<Load>): Promise<Load> {
  const done = await load;
  if (done.status === 'loaded') return done;
  throw new Error(
    `the demo world was refused: ${done.message}; ${done.problems
      .slice(0, 5)
      .map((p) => `row ${p.row}: ${p.message}`)
      .join('; ')}`,
  );
}
