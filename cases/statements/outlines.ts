import type { z } from 'zod';
import type { outlineSchema } from '@/contracts/bodies/all';
import { notFound, ProblemError, wrong } from '@/contracts/problem';
import { type AccountType, isTemporary, usualSide } from '@/core/ledger';
import { type Outline, type OutlineRow, outlineFaults, usualOutline } from '@/core/statement';
import type { CatalogueAccount, CatalogueEntity } from '@/store/catalogue';
import { addVersion, newestOutlines, versionsOf } from '@/store/outlines';
import { hasTaxCodes } from '@/store/taxes';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySee, require, requireBooks, type Viewer } from '../asking/viewer';
import { type Scheme, underCodes } from '../balances/listedAccounts';
import { memberFaults } from './rowsOfMembers';

/** Every entity has these at once, made from its chart, until somebody makes them their own. */
export const USUAL = ['income', 'balance', 'cashflow'] as const;

/** Cash flow, direct: the change in cash by the class of the other side of its entries (method.md §6). */
const CASH_FLOW: Outline = {
  code: 'cashflow',
  name: 'Cash flow',
  kind: 'cashflow',
  rows: [
    { key: 'operating', label: 'From operating activities', is: 'caption', depth: 1 },
    { key: 'investing', label: 'From investing activities', is: 'caption', depth: 1 },
    { key: 'financing', label: 'From financing activities', is: 'caption', depth: 1 },
    { key: 'unclassified', label: 'Not classified', is: 'caption', depth: 1 },
    { key: 'change', label: 'Change in cash', is: 'formula', depth: 0, terms: [], emphasis: 'total' },
    { key: 'opening', label: 'Cash at the beginning', is: 'caption', depth: 1 },
    { key: 'closing', label: 'Cash at the end', is: 'formula', depth: 0, terms: [], emphasis: 'subtotal' },
  ],
};

/** All outlines of an entity: its own versions, else the usual ones from its chart. */
export async function outlinesOf(
  ctx: Context,
  entity: CatalogueEntity,
): Promise<Map<string, { outline: Outline; version: number; by: string | null }>> {
  const found = new Map<string, { outline: Outline; version: number; by: string | null }>([
    ['income', { outline: usualOutline('income', entity.chart), version: 0, by: null }],
    ['balance', { outline: usualOutline('balance', entity.chart), version: 0, by: null }],
    ['cashflow', { outline: CASH_FLOW, version: 0, by: null }],
  ]);
  for (const row of await newestOutlines(ctx.read, entity.id)) {
    if (!row.removed) found.set(row.code, { outline: row.outline, version: row.version, by: row.person_name });
    else if (!(USUAL as readonly string[]).includes(row.code)) found.delete(row.code);
  }
  return found;
}

/**
 * A statement by a statutory scheme: one row a code, in the order of the codes and under the scheme's headings, each with
 * its subtotal, beside the house outline.
 */
export function schemeOutline(
  kind: 'income' | 'balance',
  of: Scheme,
  chart: readonly CatalogueAccount[],
  lang?: string,
): Outline {
  const mine = chart.filter((a) => a.posting && (kind === 'balance') !== isTemporary(a.type));
  const rows: OutlineRow[] = [];
  const keys: string[] = [];
  const sections: [AccountType, string][] =
    kind === 'income'
      ? [
          ['income', 'Income'],
          ['expense', 'Expenses'],
        ]
      : [
          ['asset', 'Assets'],
          ['liability', 'Liabilities'],
          ['equity', 'Equity'],
        ];
  for (const [type, caption] of sections) {
    const sign = usualSide(type);
    const groups = underCodes(
      mine.filter((x) => x.type === type),
      chart,
      of,
    );
    if (groups.length === 0) continue;
    rows.push({ key: `head-${type}`, label: caption, is: 'caption', depth: 0 });
    const keyOf = (code: string): string => `${type}-${code || 'none'}`;
    const terms = groups.map(({ code }) => ({ row: keyOf(code), times: 1 as const }));
    const begun = new Set<string>();
    for (const { code, name, names, accounts, under } of groups) {
      for (const [above, heading] of under.entries()) {
        if (begun.has(heading.code)) continue;
        begun.add(heading.code);
        rows.push({
          key: keyOf(heading.code),
          label: (lang && heading.names[lang]) || heading.name,
          is: 'formula',
          depth: above + 1,
          terms: groups
            .filter((g) => g.under.some((u) => u.code === heading.code))
            .map((g) => ({ row: keyOf(g.code), times: 1 as const })),
          emphasis: 'subtotal',
        });
      }
      rows.push({
        key: keyOf(code),
        label: (lang && names[lang]) || name,
        is: 'accounts',
        depth: under.length + 1,
        accounts: accounts.map((a) => a.code).join(', '),
        sign,
      });
    }
    rows.push({
      key: `total-${type}`,
      label: `Total ${caption.toLowerCase()}`,
      is: 'formula',
      depth: 0,
      terms,
      emphasis: 'subtotal',
    });
    if (sign === 'credit') keys.push(`total-${type}`);
  }
  rows.push({
    key: 'result',
    label: kind === 'income' ? 'Result' : 'Result of the year so far',
    is: 'result',
    depth: kind === 'income' ? 0 : 1,
    emphasis: 'total',
  });
  if (kind === 'balance') {
    const terms = [...keys, 'result'].map((row) => ({ row, times: 1 as const }));
    rows.push({
      key: 'total',
      label: 'Total liabilities and equity',
      is: 'formula',
      depth: 0,
      terms,
      emphasis: 'total',
    });
  }
  return {
    code: kind,
    name: `${kind === 'income' ? 'Income statement' : 'Balance sheet'} by ${of.scheme} codes`,
    kind,
    rows,
    shareOf: kind === 'income' ? 'total-income' : 'total-asset',
  };
}

/** The outlines that a viewer may read, with what can be asked of them. */
export async function listStatements(ctx: Context, viewer: Viewer, params: { entity?: string | undefined }) {
  const entity = await entityOf(ctx, viewer, params.entity);
  const found = await outlinesOf(ctx, entity);
  return {
    entity: entity.code,
    schemes: [...new Set(entity.chart.flatMap((a) => Object.keys(a.codes)))].sort(),
    rows: [
      ...[...found].map(([code, { outline, version, by }]) => ({
        code,
        name: outline.name,
        kind: outline.kind,
        version,
        by,
        rows: outline.rows.length,
      })),
      { code: 'position', name: 'Position', kind: 'position' as const, version: 0, by: null, rows: 0 },
      ...((await hasTaxCodes(ctx.read, entity.id))
        ? [{ code: 'tax', name: 'Tax return', kind: 'tax' as const, version: 0, by: null, rows: 0 }]
        : []),
    ],
  };
}

/** One outline as it is kept, with its versions: what is exported, and imported again. */
export async function readOutline(
  ctx: Context,
  viewer: Viewer,
  code: string,
  params: { entity?: string | undefined; version?: number | undefined },
) {
  const entity = await entityOf(ctx, viewer, params.entity);
  // An outline names every account that it takes.
  requireBooks(viewer, entity.code, 'see the outlines');
  const versions = await versionsOf(ctx.read, entity.id, code);
  const kept = params.version === undefined ? null : versions.find((v) => v.version === params.version);
  const outline =
    kept?.outline ??
    (params.version === undefined || params.version === 0
      ? (await outlinesOf(ctx, entity)).get(code)?.outline
      : undefined);
  if (!outline) throw notFound(`Statement ${code}`);
  return {
    entity: entity.code,
    outline,
    versions: versions.map((v) => ({
      version: v.version,
      by: v.person_name,
      at: v.created_at.toISOString(),
      removed: v.removed,
    })),
  };
}

/** Keeps an outline as a new version. What cannot be calculated is refused, row by row. */
export async function keepOutline(
  ctx: Context,
  viewer: Viewer,
  code: string,
  wanted: { entity: string; outline: z.infer<typeof outlineSchema> },
): Promise<{ version: number }> {
  const outline = wanted.outline as Outline;
  require(viewer, 'preparer', 'change statements');
  const entity = await entityOf(ctx, viewer, wanted.entity);
  requireBooks(viewer, entity.code, 'change statements');
  if (wanted.outline.code !== code)
    throw wrong('outline.code', `the outline is of “${wanted.outline.code}”, not of “${code}”`);
  if (wanted.outline.kind === 'cashflow')
    throw wrong('outline.kind', 'the cash flow follows the flow classes of the chart; change those');
  const { trees } = (await known(ctx.read)).catalogue;
  const faults = [...outlineFaults(outline, entity.chart), ...memberFaults(outline, trees)];
  if (faults.length > 0) {
    throw new ProblemError(
      422,
      'The outline cannot be used like this',
      faults.map((f) => ({
        path: `outline.rows.${wanted.outline.rows.findIndex((r) => r.key === f.row)}`,
        message: f.message,
      })),
    );
  }
  return onRecord(ctx, viewer, async (trx, record) => {
    const version = await addVersion(trx, {
      entity: entity.id,
      code,
      outline,
      person_name: viewer.name,
      removed: false,
    });
    await record('changed a statement', `statement ${entity.code}/${code}`, {
      version,
      rows: wanted.outline.rows.length,
    });
    return { version };
  });
}

/** Removes an outline; a usual one is then as the chart makes it again. Its versions stay. */
export async function removeOutline(
  ctx: Context,
  viewer: Viewer,
  code: string,
  params: { entity?: string | undefined },
): Promise<void> {
  require(viewer, 'preparer', 'change statements');
  const entity = await entityOf(ctx, viewer, params.entity);
  requireBooks(viewer, entity.code, 'change statements');
  const held = (await outlinesOf(ctx, entity)).get(code);
  if (!held || held.version === 0) throw notFound(`A statement ${code} of one’s own`);
  await onRecord(ctx, viewer, async (trx, record) => {
    await addVersion(trx, { entity: entity.id, code, outline: held.outline, person_name: viewer.name, removed: true });
    await record('took a statement away', `statement ${entity.code}/${code}`);
  });
}

async function entityOf(ctx: Context, viewer: Viewer, code: string | undefined): Promise<CatalogueEntity> {
  const { catalogue } = await known(ctx.read);
  const seen = [...catalogue.entities.values()].filter((e) => maySee(viewer, e.code));
  const found = code === undefined ? seen[0] : seen.find((e) => e.code === code);
  if (!found) throw notFound(`Entity ${code ?? ''}`);
  return found;
}
