'use client';

import { FIRST_SET } from '@/core/figure';
import { toggledIn } from '../evidence/shownKinds';
import { useAnswer } from '../query/hooks';
import type { EditorProps } from './clauseProps';

const NO_PARAMS = new URLSearchParams();
const BASES = [
  ['booked', 'As booked'],
  ['with-proposed', 'With proposed entries'],
  ['proposed', 'Proposed entries only'],
] as const;

/** Whether proposed entries count, and of which sets. */
export function BasisEditor({ scope, onApply }: EditorProps) {
  const { data } = useAnswer('GET /proposed-sets', NO_PARAMS);
  const basis = scope.get('basis') ?? 'booked';
  const named = scope.getAll('set');
  const on = named.length > 0 ? named : [FIRST_SET];
  const sets = data?.rows ?? [];
  const put = (wanted: string, chosen: readonly string[]): void =>
    onApply({
      basis: wanted === 'booked' ? [] : [wanted],
      set: wanted === 'booked' || chosen.every((s) => s === FIRST_SET) ? [] : [...chosen],
    });
  return (
    <fieldset className="mt-3 border-t border-hair pt-3">
      <legend className="sr-only">Proposed entries</legend>
      <p className="mb-2 text-soft">Proposed entries</p>
      {BASES.map(([name, label]) => (
        <label key={name} className="flex items-center gap-2 py-1">
          <input type="radio" name="proposed" checked={basis === name} onChange={() => put(name, on)} /> {label}
        </label>
      ))}
      {basis !== 'booked' && sets.length > 1 && (
        <div className="mt-1 ml-5">
          {sets.map((s) => (
            <label key={s.name} className="flex items-center gap-2 py-[2px]" title={s.about}>
              <input
                type="checkbox"
                checked={on.includes(s.name)}
                disabled={on.length === 1 && on.includes(s.name)}
                onChange={() => put(basis, toggledIn(on, s.name))}
              />{' '}
              {s.name} <span className="text-faint">{s.entries}</span>
            </label>
          ))}
        </div>
      )}
    </fieldset>
  );
}
