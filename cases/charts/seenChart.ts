import type { CatalogueEntity } from '@/store/catalogue';
import { type ChartAccount, type ChartMember, readChart, readMembers } from '@/store/charts';
import type { Context, Known } from '../asking/context';
import { grantedAccounts, knownMembers, type Viewer } from '../asking/viewer';

/** The accounts of a chart that a viewer may know of: those granted, and the headings above them. */
export async function seenAccounts(ctx: Context, viewer: Viewer, entity: CatalogueEntity): Promise<ChartAccount[]> {
  const chart = await readChart(ctx.read, entity.id);
  const granted = grantedAccounts(viewer, entity.chart);
  if (granted === null) return chart;
  const parents = new Map(chart.map((a) => [a.code, a.parent]));
  const seen = new Set<string>();
  for (const code of granted)
    for (let at: string | null = code; at !== null && !seen.has(at); at = parents.get(at) ?? null) seen.add(at);
  return chart.filter((a) => seen.has(a.code));
}

/** The members of all dimensions that a viewer may know of. */
export async function seenMembers(ctx: Context, viewer: Viewer, { catalogue }: Known): Promise<ChartMember[]> {
  const known = new Map(
    [...catalogue.dimensions.values()].map((d) => [d.id, knownMembers(viewer, d.code, d.tree)] as const),
  );
  return (await readMembers(ctx.read)).filter((m) => known.get(m.dimension)?.has(m.code) ?? true);
}
