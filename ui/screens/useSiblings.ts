'use client';

import type { SplitSheet, TrialBalance } from '@/contracts/answers/sheets';
import type { Statement } from '@/contracts/answers/statements';
import { asPut, type Screen, type Step, scopeAt } from '../address/address';
import { useAnswer } from '../query/hooks';
import { hitStep, hitsAsked } from './hitRows';
import { splitStep, statementOf, statementParams, statementStep, trialBalanceParams, trialBalanceStep } from './steps';

/** The rows before and after the one that was traced, in the sheet above: `[` and `]` walk them without going up. */
export function useSiblings(screen: Screen, go: (to: Screen) => void) {
  const depth = screen.steps.length;
  const step = screen.steps[depth - 1];
  const above = screen.steps[depth - 2];
  const fromBalance = step !== undefined && depth === 1 && screen.origin === 'trial-balance';
  const fromSplit = above?.view === 'split';
  const fromStatement =
    step !== undefined && (above ? above.view === 'statement' : depth === 1 && screen.origin === 'statements');
  const fromHits = step !== undefined && depth === 1 && screen.origin === 'hits';
  const hits = useAnswer('GET /test-runs/{id}/hits', fromHits ? hitsAsked(screen) : null, {
    id: Number(screen.options.run) || 0,
  });
  const statement = useAnswer('GET /statements/{code}', fromStatement ? statementParams(screen, depth - 1) : null, {
    code: statementOf(screen, depth - 1),
  });
  const balance = useAnswer('GET /trial-balance', fromBalance ? trialBalanceParams(screen) : null);
  const split = useAnswer('GET /sheets', fromSplit ? rowsOf(scopeAt(screen, depth - 1), above) : null);
  const steps: Step[] =
    step === undefined
      ? []
      : fromBalance
        ? (balance.data?.rows ?? [])
            .filter((r) => !r.heading)
            .map((r) => ({ ...trialBalanceStep(r, step.column, balance.data as TrialBalance), ...sameView(step) }))
        : fromStatement
          ? (statement.data?.rows ?? []).flatMap((r) => {
              const to = statementStep(r, step.column, statement.data as Statement);
              return to && to.view === step.view ? [to] : [];
            })
          : fromSplit
            ? (split.data?.rows ?? []).map((r) => ({
                ...splitStep(r, step.column, split.data as SplitSheet, { put: asPut(r.refine), oneAccount: false }),
                ...sameView(step),
              }))
            : fromHits
              ? (hits.data?.hits ?? []).map((h) => hitStep(h, step.column))
              : [];
  const at = steps.findIndex((s) => s.row === step?.row);
  const before = at > 0 ? steps[at - 1] : undefined;
  const after = at >= 0 ? steps[at + 1] : undefined;
  return {
    before: before?.label ?? null,
    after: after?.label ?? null,
    go(direction: -1 | 1) {
      const to = direction === -1 ? before : after;
      // What was narrowed on this sheet stays narrowed on the one beside it.
      const narrowed = step?.only ? { ...to, only: step.only } : to;
      if (to) go({ ...screen, steps: [...screen.steps.slice(0, -1), narrowed as Step] });
    },
  };
}

/** The sibling opens in the same view (split or lines). */
const sameView = ({ view, by }: Step): Pick<Step, 'view' | 'by'> => ({ view, ...(by ? { by } : {}) });

/** What a split is asked: siblings are rows of the outermost one, in the column that was traced. */
function rowsOf(scope: URLSearchParams, { by = '', columns = '' }: Step): URLSearchParams {
  scope.append('by', by.split('|')[0] ?? by);
  for (const column of columns.split(',').filter(Boolean)) scope.append('column', column);
  return scope;
}
