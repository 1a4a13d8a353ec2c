'use client';

import { useMemo } from 'react';
import type { Chart, Entities } from '@/contracts/answers/charts';
import { type Calendar, calendar, type Ordinal } from '@/core/calendar';
import { ACCOUNT_TYPES, type Account } from '@/core/ledger';
import type { Known } from '@/core/typedClause';
import { useAnswer, useAnswers } from '../query/hooks';
import { useDebounced } from '../query/useDebounced';
import { PAUSE_MS } from './useCountOfClause';

/** From so many letters on parties are looked for. */
const LETTERS_LEAST = 2;

/** What typed words may be about beside names of accounts and members: the chart of the company, and its counterparties. */
export function useTypedAbout(scope: URLSearchParams, words: string): Pick<Known, 'chart' | 'parties' | 'captions'> {
  const entities = useMemo(() => scope.getAll('entity'), [scope]);
  const charts = useAnswers(
    'GET /accounts',
    useMemo(() => entities.map((entity) => new URLSearchParams({ entity })), [entities]),
  );
  const [entity] = entities;
  const outlines = useAnswers(
    'GET /statements/{code}',
    useMemo(() => (entity === undefined ? [] : [new URLSearchParams({ entity })]), [entity]),
    STATEMENTS.map((code) => ({ code })),
  );
  const looks = useDebounced(words.trim().length >= LETTERS_LEAST, PAUSE_MS);
  const parties = useAnswer(
    'GET /sheets',
    useMemo(() => {
      if (!looks) return null;
      const asked = new URLSearchParams(scope);
      for (const name of ['counterparty', 'in', 'heavy']) asked.delete(name);
      asked.append('by', 'counterparty');
      return asked;
    }, [scope, looks]),
  );
  return {
    chart: useMemo(() => mergedCharts(charts), [charts]),
    captions: useMemo(
      () =>
        outlines.flatMap(({ rows }) =>
          rows.flatMap(({ label, refine, account }) =>
            typeof refine?.accounts === 'string' && account === null ? [{ label, accounts: refine.accounts }] : [],
          ),
        ),
      [outlines],
    ),
    parties: useMemo(
      () =>
        (parties.data?.rows ?? []).flatMap(({ member, name }) =>
          member.startsWith('~') ? [] : [{ code: member, name }],
        ),
      [parties.data],
    ),
  };
}

const STATEMENTS = ['income', 'balance'];

/** The accounts of several companies, each code once. */
function mergedCharts(charts: readonly Chart[]): Account[] {
  const found = new Map<string, Account>();
  for (const row of charts.flatMap((c) => c.rows)) {
    const type = ACCOUNT_TYPES.find((t) => t === row.type);
    const { account: code, name, parent, posting, groups, classification, flow } = row;
    if (type && !found.has(code)) found.set(code, { code, name, type, parent, posting, groups, classification, flow });
  }
  return [...found.values()];
}

/** The calendar and the latest period of the first company that is asked about. */
export function timeOf(
  entities: Entities | undefined,
  scope: URLSearchParams,
): { calendar: Calendar; latest: Ordinal } | undefined {
  const code = scope.get('entity');
  const entity = entities?.entities.find((e) => e.code === code) ?? (code === null ? entities?.entities[0] : undefined);
  return entity?.reach ? { calendar: calendar(entity.calendar), latest: entity.reach.lastPosted } : undefined;
}
