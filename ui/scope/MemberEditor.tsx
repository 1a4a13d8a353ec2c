'use client';

import { useState } from 'react';
import { useEntities } from '../query/hooks';
import { ClauseHint } from './ClauseHint';
import type { ClauseProps } from './put';
import { useTaken } from './useTaken';

/** Members of a dimension, ticked in its tree; a parent stands for all beneath it. */
export function MemberEditor({ name, scope, onApply }: ClauseProps) {
  const { data } = useEntities();
  const [words, setWords] = useState('');
  const [chosen, setChosen] = useState(() => scope.getAll(name));
  const { said, fault } = useTaken(name, chosen, scope);
  const dimension = data?.dimensions.find((d) => `dim.${d.code}` === name);
  if (!dimension) return null;
  const wanted = words.trim().toLowerCase();
  const rows = inTreeOrder(dimension.members).filter(({ code, name: label }) => `${code} ${label}`.toLowerCase().includes(wanted));
  const toggle = (code: string, on: boolean): void => setChosen(on ? [...chosen, code] : chosen.filter((c) => c !== code));
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onApply({ [name]: chosen });
      }}
    >
      <label className="mb-1 block text-soft" htmlFor="member">
        Only {dimension.name.toLowerCase()}; a parent stands for all beneath it
      </label>
      <input
        id="member"
        autoFocus
        autoComplete="off"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        placeholder="Code or name"
        className="field w-full"
        aria-describedby="clause-hint"
      />
      <ClauseHint fault={fault} taken={said} hint={undefined} />
      <div className="my-2 max-h-[260px] overflow-auto border-y border-hair py-1">
        {rows.map(({ code, name: label, depth }) => (
          <label key={code} className="flex items-center gap-2 py-[2px]" style={{ paddingLeft: wanted ? 0 : depth * 16 }}>
            <input type="checkbox" checked={chosen.includes(code)} onChange={(event) => toggle(code, event.target.checked)} />
            {label} <span className="text-faint">{code}</span>
          </label>
        ))}
        {wanted === '' && (
          <label className="flex items-center gap-2 py-[2px] text-soft">
            <input type="checkbox" checked={chosen.includes('~none')} onChange={(event) => toggle('~none', event.target.checked)} />
            (no {dimension.name.toLowerCase()})
          </label>
        )}
        {rows.length === 0 && wanted !== '' && <p className="text-soft">Nothing is called that.</p>}
      </div>
      <button type="submit" className="button-main">
        Set
      </button>
    </form>
  );
}

function inTreeOrder(members: { code: string; name: string; parent: string | null }[]) {
  const found: { code: string; name: string; depth: number }[] = [];
  const walk = (parent: string | null, depth: number): void => {
    for (const m of members) {
      if (m.parent !== parent) continue;
      found.push({ code: m.code, name: m.name, depth });
      walk(m.code, depth + 1);
    }
  };
  walk(null, 0);
  return found;
}
