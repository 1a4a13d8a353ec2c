'use client';

import { useMemo, useState } from 'react';
import { exactly } from '@/core/values';
import { useAnswer } from '../query/hooks';
import { CLAUSE_FIELD, ClauseForm } from './ClauseForm';
import type { ClauseProps } from './clauseProps';
import { CLAUSES, isText, valuesShown, valuesWritten } from './clauses';
import { withClause } from './useCountOfClause';

/** More values than this are found by typing. */
const LISTED_MAX = 200;

/** Values of a column of the ledger: written, with patterns and ranges, or ticked in the list of those that the scope has. */
export function ValueEditor(props: ClauseProps) {
  const { name, scope } = props;
  const [text, setText] = useState(() => valuesShown(scope.getAll(name), name));
  const { label, hint } = CLAUSES[name] ?? { label: name, hint: '' };
  const values = valuesWritten(text, name);
  const others = useMemo(() => {
    const asked = withClause(scope, name, []);
    asked.delete('in');
    asked.append('by', name);
    return asked;
  }, [scope, name]);
  const { data, error } = useAnswer('GET /sheets', others);
  const last = values[values.length - 1]?.toLowerCase() ?? '';
  const known = (data?.rows ?? []).filter((r) => r.count > 0);
  const written = (member: string): string => (member.startsWith('~') ? member : exactly(member));
  const isWhole = known.some((r) => written(r.member).toLowerCase() === last);
  const found =
    last === '' || isWhole ? known : known.filter((r) => `${r.member} ${r.name}`.toLowerCase().includes(last));
  const listed = found.slice(0, LISTED_MAX);
  const toggle = (member: string, on: boolean): void => {
    const value = written(member);
    const kept = isWhole || last === '' || found.length === 0 || found === known ? values : values.slice(0, -1);
    setText(valuesShown([...kept.filter((v) => v !== value), ...(on ? [value] : [])], name));
  };
  const field = {
    ...CLAUSE_FIELD,
    value: text,
    onChange: (event: { target: { value: string } }) => setText(event.target.value),
  };
  const several = isText(name) ? 'Several in rows of their own' : 'Several with commas';
  return (
    <ClauseForm
      {...props}
      values={values}
      title={`Only ${label}`}
      hint={`${hint}. ${several}; A* for what begins so, *a* for what contains it, A..C for all between, not A, none`}
      list={
        <>
          {listed.map((r) => (
            <label key={r.member} className="flex items-baseline gap-2 py-[2px]">
              <input
                type="checkbox"
                checked={values.includes(written(r.member))}
                onChange={(event) => toggle(r.member, event.target.checked)}
              />
              <span className="min-w-0 flex-1 break-words">
                {r.name}
                {r.name !== r.member && !r.member.startsWith('~') && <span className="text-faint"> {r.member}</span>}
              </span>
              <span className="shrink-0 text-faint tabular-nums">{r.count.toLocaleString()}</span>
            </label>
          ))}
          {found.length > LISTED_MAX && (
            <p className="text-soft">and {(found.length - LISTED_MAX).toLocaleString()} more: type to find them</p>
          )}
          {data && known.length === 0 && <p className="text-soft">No line of this window has any.</p>}
          {data && known.length > 0 && found.length === 0 && (
            <p className="text-soft">Nothing in this window is called that.</p>
          )}
          {error && <p className="text-soft">The values are not listed here, but can be typed. {error.message}.</p>}
        </>
      }
    >
      {isText(name) ? <textarea rows={2} {...field} /> : <input {...field} />}
    </ClauseForm>
  );
}
