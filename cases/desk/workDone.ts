import type { ScopeParams } from '@/contracts/scope';
import { readSubject } from '@/contracts/subject';
import type { Figure } from '@/core/figure';
import { formatAmount, parseAmount } from '@/core/money';
import { accountsIn, parseSelection } from '@/core/selection';
import type { ThreadRow } from '@/store/threads';
import type { Context } from '../asking/context';
import { figureAt } from '../asking/subjects';
import type { Viewer } from '../asking/viewer';
import { allSeen } from '../evidence/threads/seenThreads';
import { rowsOfThreads } from '../evidence/threads/shown';
import { materialAsked } from '../proposals/material';
import { statementScope, statementSheet } from '../statements/readStatement';

const STATE: Record<ThreadRow['state'], 'signed' | 'prepared' | 'under way'> = {
  open: 'under way',
  changed: 'under way',
  prepared: 'prepared',
  signed: 'signed',
};
const RANK = ['signed', 'prepared', 'under way'] as const;

/**
 * A statement with the work that was done on each of its rows. A thread is on a row where one of its figures is of
 * accounts that the row takes, in the same companies, and ends within the window of the statement.
 */
export async function workDone(
  ctx: Context,
  viewer: Viewer,
  { statement: code, above: wanted, ...params }: ScopeParams & { statement: string; above?: string | undefined },
) {
  const asked = await statementScope(ctx, viewer, params);
  const threads = await allSeen(ctx, viewer);
  const [statement, shown] = await Promise.all([
    statementSheet(ctx, viewer, asked, code, {}),
    rowsOfThreads(ctx, viewer, threads),
  ]);
  const chart = asked.entities.flatMap((e) => e.chart);
  const above = wanted ?? formatAmount((await materialAsked(ctx, asked))?.performance ?? 0, asked.digits);
  const least = parseAmount(above, asked.digits);
  const looks = new Map(shown.rows.map((t) => [t.id, t]));
  // Many threads are on the same figures.
  const covered = new Map<string, Promise<ReadonlySet<string> | null>>();
  const covers = async (address: string): Promise<ReadonlySet<string> | null> => {
    const figure = await figureAt(ctx, viewer, address, null).then(
      (f) => f.figure,
      () => null, // what cannot be asked any more covers nothing
    );
    return figure?.accounts && endsWithin(figure, asked.figure) ? accountsIn(figure.accounts, chart) : null;
  };
  const works: { thread: ThreadRow; accounts: ReadonlySet<string> }[] = [];
  for (const { thread, steps } of threads)
    for (const step of steps) {
      const subject = readSubject(step.subject);
      if (subject.is !== 'figure' || !step.entities.every((e) => asked.figure.entities.includes(e))) continue;
      const held = covered.get(subject.address) ?? covers(subject.address);
      covered.set(subject.address, held);
      const accounts = await held;
      if (accounts !== null && accounts.size > 0) works.push({ thread, accounts });
    }
  const [column] = statement.columns;
  const rows = statement.rows.map((row) => {
    const { accounts = null } = (row.refine ?? {}) as { accounts?: string | string[] };
    const selection = Array.isArray(accounts) ? accounts.join(', ') : accounts;
    const value = column ? row.cells[column.key] : undefined;
    const amount = value?.is === 'amount' ? value.amount : null;
    const looked =
      row.kind === 'accounts' && selection !== null && amount !== null && amount !== 0 && Math.abs(amount) >= least;
    const taken = selection === null ? new Set<string>() : accountsIn(parseSelection(selection), chart);
    const on = looked
      ? [
          ...new Map(
            works
              .filter((w) => w.accounts.size <= taken.size && [...w.accounts].every((a) => taken.has(a)))
              .map((w) => [w.thread.id, w.thread]),
          ).values(),
        ]
      : [];
    const state =
      RANK.find((s) => on.some((t) => STATE[looks.get(t.id)?.state ?? t.state] === s)) ?? ('nothing' as const);
    return {
      ...{ key: row.key, label: row.label, depth: row.depth, is: row.emphasis ?? row.kind, accounts: selection },
      amount: amount === null ? null : formatAmount(amount, asked.digits),
      state: looked ? state : null,
      threads: on.map((t) => ({
        ...{ id: t.id, name: t.name, reference: t.reference, state: looks.get(t.id)?.state ?? t.state },
        moved: (looks.get(t.id)?.moved ?? 0) > 0,
      })),
    };
  });
  const count = (state: string): number => rows.filter((r) => r.state === state).length;
  return {
    statement: code,
    name: statement.name,
    sentence: asked.sentence,
    currency: asked.currency,
    above,
    rows,
    counts: {
      rows: rows.filter((r) => r.state !== null).length,
      signed: count('signed'),
      prepared: count('prepared'),
      underWay: count('under way'),
      nothing: count('nothing'),
    },
  };
}

const endsWithin = ({ window }: Figure, { window: whole }: Figure): boolean =>
  window.by === whole.by && window.to <= whole.to && window.to >= whole.from;
