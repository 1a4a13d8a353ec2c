'use client';

import { type FormEvent, useState } from 'react';
import { rangeOf } from '@/core/values';
import { plainAmount } from '@/core/written';
import { decimalMark } from '../amounts';
import { ClauseHint } from './ClauseHint';
import { CLAUSES } from './clauses';
import type { ClauseProps } from './put';
import { useTaken } from './useTaken';

/** Bounds of a number that lines have beside their amount: from, to, both, all but these, or none at all. */
export function NumberEditor({ name, scope, onApply }: ClauseProps) {
  const [before] = scope.getAll(name);
  const not = before?.startsWith('~not:') ?? false;
  const written = before?.replace(/^~not:/, '');
  const held = written === undefined || written === '~none' ? { from: null, to: null } : (rangeOf(written) ?? { from: written, to: written });
  const [from, setFrom] = useState(held.from ?? '');
  const [to, setTo] = useState(held.to ?? '');
  const [which, setWhich] = useState<'within' | 'outside' | 'none'>(written === '~none' ? (not ? 'within' : 'none') : not ? 'outside' : 'within');
  const { label, hint } = CLAUSES[name] ?? { label: name, hint: '' };
  const plain = (text: string): string => plainAmount(text.trim(), decimalMark());
  const ends = `${plain(from)}..${plain(to)}`;
  const values = which === 'none' ? ['~none'] : ends === '..' ? [] : [which === 'outside' ? `~not:${ends}` : ends];
  const { said, fault } = useTaken(name, values, scope);
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    if (!fault) onApply({ [name]: values });
  };
  return (
    <form onSubmit={submit}>
      <p className="mb-2 text-soft">Only {label}</p>
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
                autoFocus={i === 0}
                autoComplete="off"
                inputMode="decimal"
                value={value}
                onChange={(event) => set(event.target.value)}
                className="field w-full text-right tabular-nums"
                aria-describedby="clause-hint"
              />
            </label>
          ))}
        </div>
      )}
      <ClauseHint fault={fault} taken={said} hint={`${hint}. An empty end is open; the same number at both ends for that number alone`} />
      <button type="submit" className="button-main mt-3">
        Set
      </button>
    </form>
  );
}
