'use client';

import { useMemo, useState } from 'react';
import { useAnswer } from '../query/hooks';
import { useDebounced } from '../query/useDebounced';
import { CLAUSE_FIELD, ClauseForm } from './ClauseForm';
import type { ClauseProps } from './clauseProps';
import { CLAUSES } from './clauses';
import { PAUSE_MS, withClause } from './useCountOfClause';

/** Accounts written as a person says them, or ticked in the list; what is written can be found in the list as well. */
export function AccountEditor(props: ClauseProps) {
  const { name, scope } = props;
  const [text, setText] = useState(() => scope.get(name) ?? '');
  const everything = useMemo(() => {
    const asked = new URLSearchParams({ zero: 'show' });
    for (const entity of scope.getAll('entity')) asked.append('entity', entity);
    return asked;
  }, [scope]);
  const { data } = useAnswer('GET /trial-balance', everything);
  const written = text.split(',').map((part) => part.trim());
  const last = written[written.length - 1]?.toLowerCase() ?? '';
  const known = data?.rows ?? [];
  const settled = useDebounced(text.trim(), PAUSE_MS);
  const chosen = useAnswer(
    'GET /trial-balance',
    useMemo(() => (settled === '' ? null : withClause(everything, name, [settled])), [settled, everything, name]),
  );
  const accounts = settled === '' || chosen.error || chosen.isPlaceholderData ? null : chosen.data?.rows.length;
  const isCode = known.some((a) => a.account === last);
  const listed =
    last === '' || isCode ? known : known.filter((a) => `${a.account} ${a.name}`.toLowerCase().includes(last));
  const toggle = (code: string, on: boolean): void => {
    const others = (
      isCode || last === '' || !listed.some((a) => a.account === code) ? written : written.slice(0, -1)
    ).filter((part) => part !== '' && part !== code);
    setText([...others, ...(on ? [code] : [])].join(', '));
  };
  return (
    <ClauseForm
      {...props}
      values={[text.trim()].filter(Boolean)}
      title="Only accounts"
      {...(accounts == null ? {} : { alsoTaken: `${accounts} ${accounts === 1 ? 'account' : 'accounts'}` })}
      {...(CLAUSES.accounts ? { hint: CLAUSES.accounts.hint } : {})}
      list={listed.map((a) => (
        <label key={a.account} className="flex items-center gap-2 py-[2px]">
          <input
            type="checkbox"
            checked={written.includes(a.account)}
            onChange={(event) => toggle(a.account, event.target.checked)}
          />
          <span className="min-w-9 text-faint">{a.account}</span> {a.name}
        </label>
      ))}
    >
      <input {...CLAUSE_FIELD} value={text} onChange={(event) => setText(event.target.value)} />
    </ClauseForm>
  );
}
