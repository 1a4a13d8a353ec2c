import { useMemo } from 'react';
import { spokenText } from '../amounts';
import { useAnswer } from '../query/hooks';

/** Why rows stand out, by the key of the row; empty until it is known, and where it cannot be said. */
export function useMarks(scope: URLSearchParams, statement?: string): ReadonlyMap<string, string[]> {
  const asked = useMemo(() => {
    const params = new URLSearchParams(scope);
    if (statement) params.set('statement', statement);
    return params;
  }, [scope, statement]);
  const { data } = useAnswer(
    'GET /marks',
    statement === undefined || statement === 'income' || statement === 'balance' ? asked : null,
  );
  return useMemo(
    () => new Map((data?.rows ?? []).map(({ row, marks }) => [row, marks.map((m) => spokenText(m.says))])),
    [data],
  );
}
