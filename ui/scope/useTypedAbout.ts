'use client';

import { useMemo } from 'react';
import type { Entities } from '@/contracts/answers/charts';
import { type Calendar, calendar, type Ordinal } from '@/core/calendar';
import { ACCOUNT_TYPES, type Account } from '@/core/ledger';
import { useAnswer } from '../query/hooks';
import { useDebounced } from '../query/useDebounced';
import { PAUSE_MS } from './useCountOfClause';

/** From so many letters on parties are looked for. */
const LETTERS_LEAST = 2;

/** What typed words may be about beside names of accounts and members: the chart of the company, and its counterparties. */
export function useTypedAbout(
  scope: URLSearchParams,
  words: string,
): { chart: Account[]; parties: { code: string; name: string }[] } {
  const [entity, another] = scope.getAll('entity');
  const isOne = entity !== undefined && another === undefined;
  const chart = useAnswer('GET /accounts', isOne ? new URLSearchParams({ entity }) : null);
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
    chart: useMemo(
      () =>
        (chart.data?.rows ?? []).flatMap((row) => {
          const type = ACCOUNT_TYPES.find((t) => t === row.type);
          const { account, name, parent, posting, groups } = row;
          return type ? [{ code: account, name, type, parent, posting, groups }] : [];
        }),
      [chart.data],
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

/** The calendar and the latest period of the first company that is asked about. */
export function timeOf(
  entities: Entities | undefined,
  scope: URLSearchParams,
): { calendar: Calendar; latest: Ordinal } | undefined {
  const code = scope.get('entity');
  const entity = entities?.entities.find((e) => e.code === code) ?? (code === null ? entities?.entities[0] : undefined);
  return entity?.reach ? { calendar: calendar(entity.calendar), latest: entity.reach.lastPosted } : undefined;
}
