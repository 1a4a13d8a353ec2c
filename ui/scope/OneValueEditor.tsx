'use client';

import { useState } from 'react';
import { plainAmount } from '@/core/writtenAmounts';
import { decimalMark } from '../amounts';
import { CLAUSE_FIELD, ClauseForm } from './ClauseForm';
import type { ClauseProps } from './clauseProps';
import { CLAUSES } from './clauses';

/** Clauses that take an amount as it is typed here. */
const AMOUNTS = ['min', 'max'];
/** Clauses that take several values. */
const SEVERAL = ['kind', 'period', 'month', 'week', 'day', 'opposite', 'begins', 'enteredWhen'];

/** A clause that is one word, one amount, or a list of plain words. */
export function OneValueEditor(props: ClauseProps) {
  const { name, scope } = props;
  const [text, setText] = useState(() => scope.getAll(name).join(', '));
  const { label, hint } = CLAUSES[name] ?? { label: name, hint: '' };
  const words = SEVERAL.includes(name)
    ? text.split(',').map((part) => part.trim())
    : [AMOUNTS.includes(name) ? plainAmount(text, decimalMark()) : text.trim()];
  return (
    <ClauseForm
      {...props}
      values={words.filter(Boolean)}
      title={`Only ${label}`}
      hint={`${hint}${SEVERAL.includes(name) ? '. Several with commas' : ''}`}
    >
      <input {...CLAUSE_FIELD} name="value" value={text} onChange={(event) => setText(event.target.value)} />
    </ClauseForm>
  );
}
