import { Readable } from 'node:stream';
import type { z } from 'zod';
import type { beginLedgerSchema } from '@/contracts/bodies/all';
import type { Mapping } from '@/contracts/mapping';
import { ProblemError, wrong } from '@/contracts/problem';
import { COLUMNS } from '@/exchange/tables';
import { writeCsv } from '@/exchange/writers';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySee, require, requireBooks, type Viewer } from '../asking/viewer';
import { addEntity } from '../charts/entities';
import { keepGuesses } from './guesses';
import { keepFile, ownFile } from './keptFiles';
import { queueLoad } from './loads';

type Begun = z.infer<typeof beginLedgerSchema>;

/** Where results of earlier years are kept in books whose chart has no account for them. */
const RETAINED = { code: 'RETAINED', name: 'Retained earnings', type: 'equity' as const };

/**
 * Makes a ledger of one file of lines, as it was proposed and corrected: its companies, their charts, its dimensions, and
 * then the lines. Chart and dimensions are deliveries like any other, so that all of it is on record and can be sent again.
 * @returns the loads, in the order in which they are done
 */
export async function beginLedger(ctx: Context, viewer: Viewer, begun: Begun): Promise<{ loads: number[] }> {
  require(viewer, 'owner', 'begin a ledger');
  requireBooks(viewer, null, 'begin a ledger');
  const file = await ownFile(ctx, viewer, { digest: begun.file, name: begun.name });
  const { catalogue } = await known(ctx.write);
  const taken = begun.companies.find((c) => catalogue.entities.has(c.code) && maySee(viewer, c.code));
  if (taken)
    throw new ProblemError(409, 'The company is there already', [
      { path: 'companies', message: `there is a company ${taken.code}; choose another code, or load the file into it` },
    ]);
  const several = begun.companies.length > 1;
  if (several && begun.companies.some((c) => !begun.inFile.includes(c.inFile ?? c.code)))
    throw wrong('companies', 'of several companies the file must say on each line whose it is');
  const kept = begun.retained ?? RETAINED.code;
  const accounts = begun.retained === null ? [...begun.accounts, RETAINED] : begun.accounts;
  if (!accounts.some((a) => a.code === kept))
    throw wrong('retained', `there is no account ${kept} among those proposed`);
  for (const company of begun.companies)
    await addEntity(ctx, viewer, {
      code: company.code,
      name: company.name,
      currency: begun.currency,
      calendar: {
        kind: 'monthly',
        start: String(begun.yearStart).padStart(2, '0'),
        adjustmentPeriods: begun.adjustments,
      },
      yearEnd: begun.yearEnd,
      retainedEarnings: kept,
    });
  const loads: number[] = [];
  const dims = begun.dimensions;
  if (dims.length > 0) {
    const rows = dims.flatMap((d) => [
      { dimension: d.code, code: '', name: d.name },
      ...d.members.map((member) => ({ dimension: d.code, code: member, name: member })),
    ]);
    const table = await tableOf(
      ctx,
      `dimensions of ${begun.name}.csv`,
      ['dimension', 'code', 'name'],
      'dimensions',
      rows,
    );
    loads.push(await queueLoad(ctx, viewer, table, { kind: 'dimensions' }));
  }
  const chart = await tableOf(ctx, `chart of ${begun.name}.csv`, ['code', 'name', 'type'], 'accounts', accounts);
  for (const { code } of begun.companies)
    loads.push(await queueLoad(ctx, viewer, chart, { kind: 'accounts', entity: code }));
  const only = several ? undefined : begun.companies[0]?.code;
  const mapping = begun.mapping && withDimensions(begun.mapping, begun);
  loads.push(
    await queueLoad(ctx, viewer, file, {
      kind: 'lines',
      ...(only ? { entity: only } : {}),
      ...(mapping ? { mapping } : {}),
      // The proposal may have been made of the first rows alone.
      unknownAccounts: 'create',
    }),
  );
  await onRecord(ctx, viewer, async (trx, record) => {
    for (const { code } of begun.companies) await keepGuesses(trx, viewer, code, begun.guesses);
    await record('began a ledger', begun.companies.map((c) => `entity ${c.code}`).join(', '), {
      file: begun.name,
      digest: begun.file,
      guesses: begun.guesses.length,
    });
  });
  return { loads };
}

/** The columns of the file with those that are dimensions; of one company the file's own word for it does not count. */
function withDimensions(mapping: Mapping, { companies, dimensions }: Begun): Mapping {
  const { entity, ...columns } = mapping.columns ?? {};
  return {
    ...mapping,
    columns: {
      ...columns,
      ...(companies.length > 1 && entity ? { entity } : {}),
      ...Object.fromEntries(dimensions.map((d) => [`dim:${d.code}`, d.column])),
    },
  };
}

async function tableOf(
  ctx: Context,
  name: string,
  columns: string[],
  kind: 'accounts' | 'dimensions',
  rows: readonly Record<string, string>[],
) {
  const records = Readable.from(rows) as AsyncIterable<Record<string, string>>;
  return keepFile(ctx, name, writeCsv({ columns, kind: COLUMNS[kind], records }));
}
