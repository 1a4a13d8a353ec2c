import type { Context } from '@/cases/asking/context';
import type { Viewer } from '@/cases/asking/viewer';
import { keepOverview } from '@/cases/leaving/overviews';
import { keepPack } from '@/cases/leaving/packs';
import { keepReport } from '@/cases/leaving/reports';
import { newOverviewSchema, newPackSchema, newReportSchema } from '@/contracts/bodies/all';

const MONTH = 'entity=KSF&window=latest-period';

/** The page that shows a figure broken down, as its address has it. */
function splitPage(label: string, accounts: string, by: string): string {
  const step = new URLSearchParams({ '~v': 'split', '~l': label, '~r': '', '~c': '', '~b': by, accounts });
  return `/trial-balance?${MONTH}&step=${encodeURIComponent(step.toString())}`;
}

/** What people of the demo world keep of what they read each month: reports, a page of them, and a pack for each vessel. */
export async function leaveReports(ctx: Context, { ines }: { ines: Viewer }): Promise<void> {
  const report = async (words: object): Promise<number> =>
    (await keepReport(ctx, ines, newReportSchema.parse({ folder: 'Month end', shared: true, ...words }))).id;
  const result = await report({
    name: 'Result of the month',
    path: `/statements/income?${MONTH}&column=ytd&column=year-before`,
    page: `/statements?${MONTH}&statement=income&columns=ytd,year-before`,
    format: 'pdf',
  });
  const costs = await report({
    name: 'Expenses by account',
    path: `/sheets?${MONTH}&accounts=type+expense&by=account`,
    page: splitPage('Expenses', 'type expense', 'account'),
    format: 'xlsx',
  });
  const fares = await report({
    name: 'Fares',
    path: `/sheets?${MONTH}&accounts=411*&by=dim:route`,
    page: splitPage('Fares', '411*', 'dim:route'),
    format: 'xlsx',
  });
  const money = await report({
    name: 'Money in the bank',
    path: `/sheets?${MONTH}&accounts=152*&by=account`,
    page: splitPage('Money in the bank', '152*', 'account'),
    format: 'xlsx',
  });
  await keepPack(
    ctx,
    ines,
    newPackSchema.parse({ name: 'Costs of each vessel', reports: [costs], units: 'dim:vessel', shared: true }),
  );
  const panel = (key: string, of: number, kind: string, x: number, y: number, w: number, h: number) => ({
    ...{ key, report: of, kind, x, y, w, h },
  });
  await keepOverview(
    ctx,
    ines,
    newOverviewSchema.parse({
      name: 'The month at a glance',
      shared: true,
      panels: [
        panel('fares', fares, 'figure', 0, 0, 4, 5),
        panel('costs', costs, 'figure', 4, 0, 4, 5),
        panel('money', money, 'figure', 8, 0, 4, 5),
        panel('result', result, 'table', 0, 5, 6, 8),
        panel('which', costs, 'picture', 6, 5, 6, 8),
      ],
    }),
  );
}
