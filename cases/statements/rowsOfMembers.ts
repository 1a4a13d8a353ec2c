import { memberPick, refinement } from '@/contracts/scope';
import type { Balance } from '@/core/balances';
import { type Figure, narrowDimension } from '@/core/figure';
import type { Tree } from '@/core/ledger';
import {
  type Members,
  membersOfRow,
  type Outline,
  OutlineError,
  type OutlineRow,
  type OwnBalances,
} from '@/core/statement';
import type { ResolvedFigure } from '../asking/resolvedFigure';
import { knownMembers, type Viewer } from '../asking/viewer';
import type { ColumnBalances } from '../balances/comparedColumns';

/** Rows of a statement that are of some members of dimensions: their balances, and what asks for them. */
export interface OfMembers {
  refine: Record<string, string | string[]>;
  beside: ColumnBalances[];
}

/** What is wrong with the members that rows name, as sentences. */
export function memberFaults({ rows }: Outline, trees: ReadonlyMap<string, Tree>): { row: string; message: string }[] {
  return rows.flatMap((row) =>
    Object.entries(membersOfRow(row) ?? {}).flatMap(([dim, codes]) => {
      const tree = trees.get(dim);
      if (!tree)
        return [
          {
            row: row.key,
            message: `row “${row.label}”: there is no dimension “${dim}”; there are ${[...trees.keys()].join(', ') || 'none'}`,
          },
        ];
      return codes.flatMap((code) => {
        const pick = memberPick(code);
        return pick.is === 'none' || tree.has(pick.code)
          ? []
          : [{ row: row.key, message: `row “${row.label}”: there is no ${dim} “${pick.code}”` }];
      });
    }),
  );
}

/** @throws OutlineError for a member that has gone since the outline was kept */
export function checkMembers(outline: Outline, trees: ReadonlyMap<string, Tree>): void {
  const [fault] = memberFaults(outline, trees);
  if (fault) throw new OutlineError(fault.row, fault.message);
}

/** Whether all members of a row are outside of what the viewer may know of. */
export function isOfUnseenMembers(viewer: Viewer, row: OutlineRow, { known }: ResolvedFigure): boolean {
  return Object.entries(membersOfRow(row) ?? {}).some(([dim, codes]) => {
    const seen = knownMembers(viewer, dim, known.catalogue.trees.get(dim) ?? new Map());
    const isSeen = (code: string): boolean => {
      const pick = memberPick(code);
      return pick.is !== 'none' && seen?.has(pick.code) === true;
    };
    return seen !== null && !codes.some(isSeen);
  });
}

/**
 * The columns of each row that is of some members, by the key of the row; rows of the same members are asked for once.
 * @param columnsOf the columns of a figure
 */
export async function rowsOfMembers(
  asked: ResolvedFigure,
  outline: Outline,
  columnsOf: (figure: ResolvedFigure) => Promise<ColumnBalances[]>,
): Promise<Map<string, OfMembers>> {
  const found = new Map<string, OfMembers>();
  const rows = new Map<string, OfMembers>();
  for (const row of outline.rows) {
    const members = membersOfRow(row);
    if (!members) continue;
    const key = JSON.stringify(members);
    const held = found.get(key) ?? (await ofMembers(asked, members, columnsOf));
    found.set(key, held);
    rows.set(row.key, held);
  }
  return rows;
}

async function ofMembers(
  asked: ResolvedFigure,
  members: Members,
  columnsOf: (figure: ResolvedFigure) => Promise<ColumnBalances[]>,
): Promise<OfMembers> {
  const { trees } = asked.known.catalogue;
  const figure = Object.entries(members).reduce(
    (f: Figure, [dim, codes]) => narrowDimension(f, dim, codes.map(memberPick), trees),
    asked.figure,
  );
  return {
    refine: refinement(asked.figure, figure, asked.digits),
    beside: await columnsOf(asked.narrowed(figure)),
  };
}

/** The balances in one column of rows that are of some members, by the key of the row. */
export function ownIn(
  rows: ReadonlyMap<string, OfMembers>,
  column: string,
): Map<string, { balances: ReadonlyMap<string, Balance>; knows: ColumnBalances['knows'] }> {
  return new Map(
    [...rows].flatMap(([key, { beside }]) => {
      const { balances, knows } = beside.find((c) => c.column.key === column) ?? {};
      return balances && knows ? [[key, { balances, knows }] as const] : [];
    }),
  );
}

/** The same balances alone, as the core takes them. */
export const balancesIn = (own: ReturnType<typeof ownIn>): OwnBalances =>
  new Map([...own].map(([key, { balances }]) => [key, balances]));

/** What asks for a row, within the members that it is of. */
export const withMembers = (
  refine: Record<string, string | string[]> | null,
  of: OfMembers | undefined,
): Record<string, string | string[]> | null => (refine && of ? { ...refine, ...of.refine } : refine);
