import type { SplitSheet } from '@/contracts/answers/sheets';
import type { Drawn } from '../panels/picture/drawing';

/** What a picture holds each row against: the first column to compare with that is a figure of its own, or a plan. */
export const heldAgainst = (data: SplitSheet): NonNullable<SplitSheet['compared']>[number] | undefined =>
  data.compared?.find((c) => c.key !== 'window' && c.unit === 'amount' && !/^(change|variance|own|in:)/.test(c.key));

/** The outermost rows, as a picture has them. */
export function drawnRows(
  listed: { row: SplitSheet['rows'][number] }[],
  data: SplitSheet | undefined,
  crossed: boolean,
  measure: 'movement' | 'closing',
  comparing: 'movement' | 'closing',
): Drawn[] {
  const against = data && heldAgainst(data);
  const stands = data?.additive.includes('closing') && !data.compared ? 'closing' : 'movement';
  return listed.flatMap(({ row }, index) =>
    row.depth > 0
      ? []
      : [
          {
            index,
            name: row.name,
            beside: (against && row.values?.[against.key]) ?? null,
            value: crossed ? row[measure] : data?.compared ? row[comparing] : row[stands],
            cells: (row.cells ?? []).map((c) => c[measure]),
          },
        ],
  );
}
