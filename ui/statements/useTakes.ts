'use client';

import { useMemo } from 'react';
import type { Account } from '@/core/ledger';
import { accountsIn, parseSelection } from '@/core/selection';
import { belongs, membersOfRow, type Outline } from '@/core/statement';
import { useAnswer } from '../query/hooks';

/** The accounts that a row takes, or why its selection cannot be read. */
export interface Takes {
  accounts: { code: string; name: string }[];
  fault: string | null;
  /** Accounts that another row takes too. */
  twice: ReadonlySet<string>;
}

/** What every row takes of the chart, live, and what the guards say of the outline as it is. */
export function useTakes(entity: string, outline: Outline) {
  const { data } = useAnswer('GET /accounts', entity ? new URLSearchParams({ entity, window: 'everything' }) : null);
  return useMemo(() => {
    const chart = (data?.rows ?? []).map(
      (r): Account => ({
        code: r.account,
        name: r.name,
        type: r.type as Account['type'],
        parent: r.parent,
        posting: r.posting,
        groups: r.groups,
      }),
    );
    const booked = new Set((data?.rows ?? []).filter((r) => (r.count ?? 0) > 0).map((r) => r.account));
    const names = new Map(chart.map((a) => [a.code, a.name]));
    const taken = new Map<string, { codes: string[]; fault: string | null }>();
    const times = new Map<string, number>();
    for (const row of outline.rows) {
      if (row.is !== 'accounts') continue;
      try {
        const codes = [...accountsIn(parseSelection(row.accounts), chart)].sort();
        taken.set(row.key, { codes, fault: null });
        // What rows take by members together is told by the statement itself, with its amounts.
        const whole = membersOfRow(row) === null;
        for (const code of codes) times.set(code, (times.get(code) ?? 0) + (whole ? 1 : 0));
      } catch (error) {
        taken.set(row.key, { codes: [], fault: (error as Error).message });
      }
    }
    const twice = new Set([...times].filter(([, n]) => n > 1).map(([code]) => code));
    const missing = chart.filter(
      (a) => a.posting && belongs(outline.kind, a.type) && booked.has(a.code) && !times.has(a.code),
    );
    const listed = (codes: string[]): string =>
      `${codes.slice(0, 8).join(', ')}${codes.length > 8 ? ` and ${codes.length - 8} more` : ''}`;
    return {
      of: (key: string): Takes | null => {
        const found = taken.get(key);
        return found
          ? { accounts: found.codes.map((code) => ({ code, name: names.get(code) ?? '' })), fault: found.fault, twice }
          : null;
      },
      said: (key: string): string => {
        const found = taken.get(key);
        return !found
          ? ''
          : found.fault
            ? 'cannot be read'
            : `${found.codes.length} ${found.codes.length === 1 ? 'account' : 'accounts'}`;
      },
      guards: data
        ? [
            {
              ok: missing.length === 0,
              text:
                missing.length === 0
                  ? 'every account that was booked on is in a row'
                  : `no row takes ${listed(missing.map((a) => a.code))}`,
            },
            {
              ok: twice.size === 0,
              text: twice.size === 0 ? 'no account is in two rows' : `two rows take ${listed([...twice])}`,
            },
          ]
        : [],
    };
  }, [data, outline]);
}
