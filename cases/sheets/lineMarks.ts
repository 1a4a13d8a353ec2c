import { clausesOf, readQuery, scopeShape, selectionOf } from '@/contracts/scope';
import { satisfies } from '@/core/evaluate';
import type { Clause } from '@/core/figure';
import type { Line, LineKind } from '@/core/ledger';
import { accountsAmong } from '@/core/selection';
import type { StoredLine } from '@/store/lines';
import type { Context } from '../asking/context';
import { everyAccount, type ResolvedFigure } from '../asking/resolvedFigure';
import { spokenAmount } from '../asking/spokenNumbers';
import { rulesOf } from './marks';

/** Why a line stands out by the workspace's rules; no reason where it does not. */
export type LineMarker = (line: StoredLine, others: readonly { account: string }[]) => string[];

/** Lines above materiality, and those that meet a condition of one's own. */
export async function lineMarker(ctx: Context, asked: ResolvedFigure): Promise<LineMarker> {
  const { material, own } = await rulesOf(ctx, asked);
  const conditions = own.flatMap((condition) => (condition.on === 'lines' ? [conditionOf(condition, asked)] : []));
  const says = material === null ? '' : `above materiality of ${spokenAmount(material, asked.digits)}`;
  return (line, others) => [
    ...(material !== null && Math.abs(line.amount) >= material ? [says] : []),
    ...conditions.filter(({ holds }) => holds(line, others)).map(({ name }) => name),
  ];
}

interface Condition {
  name: string;
  holds(line: StoredLine, others: readonly { account: string }[]): boolean;
}

function conditionOf({ name, query }: { name: string; query: string }, asked: ResolvedFigure): Condition {
  const params = readQuery(scopeShape, new URLSearchParams(query));
  const clauses = clausesOf(params, asked.digits);
  const selection = selectionOf(params);
  // A condition may name accounts that these books do not have: no line is on them.
  const accounts = selection && accountsAmong(selection, everyAccount(asked.entities));
  const { trees } = asked.known.catalogue;
  const fits = (line: StoredLine, clause: Clause, others: readonly { account: string }[]): boolean =>
    clause.on === 'opposite'
      ? others.some((o) => clause.any.includes(o.account))
      : satisfies(asLine(line), clause, trees);
  return {
    name,
    holds: (line, others) =>
      (accounts === null || accounts.has(line.account)) && clauses.every((clause) => fits(line, clause, others)),
  };
}

const asLine = ({ members, ...line }: StoredLine): Line =>
  ({ ...line, kind: line.kind as LineKind, dims: members }) as unknown as Line;
