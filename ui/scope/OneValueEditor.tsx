'use client';

import { type FormEvent, useState } from 'react';
import { plainAmount } from '@/core/written';
import { decimalMark } from '../amounts';
import { ClauseHint } from './ClauseHint';
import { CLAUSES } from './clauses';
import type { ClauseProps } from './put';
import { useTaken } from './useTaken';

/** Clauses that take an amount as it is typed here. */
const AMOUNTS = ['min', 'max'];
/** Clauses that take several values. */
const SEVERAL = ['kind', 'period', 'month', 'week', 'day', 'opposite'];

/** A clause that is one word, one amount, or a list of plain words. */
export function OneValueEditor({ name, scope, onApply }: ClauseProps) {
  const [text, setText] = useState(() => scope.getAll(name).join(', '));
  const { label, hint } = CLAUSES[name] ?? { label: name, hint: '' };
  const words = SEVERAL.includes(name) ? text.split(',').map((part) => part.trim()) : [AMOUNTS.includes(name) ? plainAmount(text, decimalMark()) : text.trim()];
  const values = words.filter(Boolean);
  const { said, fault } = useTaken(name, values, scope);
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    if (!fault) onApply({ [name]: values });
  };
  return (
    <form onSubmit={submit}>
      <label className="mb-1 block text-soft" htmlFor="clause">
        Only {label}
      </label>
      <input
        id="clause"
        name="value"
        autoFocus
        autoComplete="off"
        value={text}
        onChange={(event) => setText(event.target.value)}
        className="field w-full"
        aria-describedby="clause-hint"
      />
      <ClauseHint fault={fault} taken={said} hint={`${hint}${SEVERAL.includes(name) ? '. Several with commas' : ''}`} />
      <button type="submit" className="button-main mt-3">
        Set
      </button>
    </form>
  );
}
