import type { ReactNode } from 'react';
import type { ClauseProps } from './clauseProps';
import { useCountOfClause } from './useCountOfClause';

interface Props extends ClauseProps {
  /** What the clause takes, as it would be set. */
  values: readonly string[];
  title: ReactNode;
  /** What can be written. */
  hint?: string;
  /** What else is known of what it takes, said before the count of lines. */
  alsoTaken?: string;
  /** Where it is written; described by `clause-hint`. */
  children: ReactNode;
  /** What can be ticked instead. */
  list?: ReactNode;
}

/** The form of one clause: where it is written, what that takes or why it cannot be used, what can be picked, and the button that sets it. */
export function ClauseForm({ name, scope, onApply, values, title, hint, alsoTaken, children, list }: Props) {
  const { said, fault } = useCountOfClause(name, values, scope);
  const taken = [alsoTaken, said].filter(Boolean).join('; ');
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (!fault) onApply({ [name]: [...values] });
      }}
    >
      <label className="mb-1 block text-soft" htmlFor="clause">
        {title}
      </label>
      {children}
      <div id="clause-hint" className="mt-1 text-[12.5px]">
        {fault ? (
          <p className="text-warn" role="alert">
            {fault}
          </p>
        ) : (
          taken && (
            <p className="text-ink" aria-live="polite">
              {taken}
            </p>
          )
        )}
        {hint && <p className="text-soft">{hint}</p>}
      </div>
      {list && <div className="mt-2 max-h-[220px] overflow-auto border-y border-hair py-1">{list}</div>}
      <button type="submit" className="button-main mt-3">
        Set
      </button>
    </form>
  );
}

/** The attributes of the field in which a clause is written. */
export const CLAUSE_FIELD = {
  id: 'clause',
  autoFocus: true,
  autoComplete: 'off',
  className: 'field w-full',
  'aria-describedby': 'clause-hint',
} as const;
