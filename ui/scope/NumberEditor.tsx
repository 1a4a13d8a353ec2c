'use client';

import { useState } from 'react';
import { rangeOf } from '@/core/values';
import { plainAmount } from '@/core/writtenAmounts';
import { decimalMark } from '../amounts';
import { CLAUSE_FIELD, ClauseForm } from './ClauseForm';
import type { ClauseProps } from './clauseProps';
import { CLAUSES } from './clauses';

/** Bounds of a number that lines have beside their amount: from, to, both, all but these, or none at all. */
export function NumberEditor(props: ClauseProps) {
  const { name, scope } = props;
  const [before] = scope.getAll(name);
  const not = before?.startsWith('~not:') ?? false;
  const written = before?.replace(/^~not:/, '');
  const held =
    written === undefined || written === '~none'
      ? { from: null, to: null }
      : (rangeOf(written) ?? { from: written, to: written });
  const [from, setFrom] = useState(held.from ?? '');
  const [to, setTo] = useState(held.to ?? '');
  const [which, setWhich] = useState<'within' | 'outside' | 'none'>(
    written === '~none' ? (not ? 'within' : 'none') : not ? 'outside' : 'within',
  );
  const { label, hint } = CLAUSES[name] ?? { label: name, hint: '' };
  const plain = (text: string): string => plainAmount(text.trim(), decimalMark());
  const ends = `${plain(from)}..${plain(to)}`;
  const values = which === 'none' ? ['~none'] : ends === '..' ? [] : [which === 'outside' ? `~not:${ends}` : ends];
  return (
    <ClauseForm
      {...props}
      values={values}
      title={`Only ${label}`}
      hint={`${hint}. An empty end is open; the same number at both ends for that number alone`}
    >
      <fieldset className="mb-2">
        <legend className="sr-only">Which of them</legend>
        {(
          [
            ['within', 'from … to …'],
            ['outside', 'all but from … to …'],
            ['none', 'lines without any'],
          ] as const
        ).map(([value, text]) => (
          <label key={value} className="flex items-center gap-2 py-[2px]">
            <input type="radio" name="which" checked={which === value} onChange={() => setWhich(value)} /> {text}
          </label>
        ))}
      </fieldset>
      {which !== 'none' && (
        <div className="flex gap-3">
          {(
            [
              ['From', from, setFrom],
              ['To', to, setTo],
            ] as const
          ).map(([word, value, set], i) => (
            <label key={word} className="block flex-1">
              <span className="mb-1 block text-soft">{word}</span>
              <input
                {...CLAUSE_FIELD}
                id={i === 0 ? CLAUSE_FIELD.id : undefined}
                autoFocus={i === 0}
                inputMode="decimal"
                value={value}
                onChange={(event) => set(event.target.value)}
                className="field w-full text-right tabular-nums"
              />
            </label>
          ))}
        </div>
      )}
    </ClauseForm>
  );
}
