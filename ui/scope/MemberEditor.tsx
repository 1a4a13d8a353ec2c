'use client';

import { useState } from 'react';
import { useEntities } from '../query/hooks';
import { CLAUSE_FIELD, ClauseForm } from './ClauseForm';
import type { ClauseProps } from './clauseProps';

/** Members of a dimension, ticked in its tree; a parent stands for all beneath it. */
export function MemberEditor(props: ClauseProps) {
  const { name, scope } = props;
  const { data } = useEntities();
  const [words, setWords] = useState('');
  const [chosen, setChosen] = useState(() => scope.getAll(name));
  const dimension = data?.dimensions.find((d) => `dim.${d.code}` === name);
  if (!dimension) return null;
  const wanted = words.trim().toLowerCase();
  const rows = inTreeOrder(dimension.members).filter(({ code, name: label }) =>
    `${code} ${label}`.toLowerCase().includes(wanted),
  );
  const toggle = (code: string, on: boolean): void =>
    setChosen(on ? [...chosen, code] : chosen.filter((c) => c !== code));
  return (
    <ClauseForm
      {...props}
      values={chosen}
      title={`Only ${dimension.name.toLowerCase()}; a parent stands for all beneath it`}
      list={
        <>
          {rows.map(({ code, name: label, depth }) => (
            <label
              key={code}
              className="flex items-center gap-2 py-[2px]"
              style={{ paddingLeft: wanted ? 0 : depth * 16 }}
            >
              <input
                type="checkbox"
                checked={chosen.includes(code)}
                onChange={(event) => toggle(code, event.target.checked)}
              />
              {label} <span className="text-faint">{code}</span>
            </label>
          ))}
          {wanted === '' && (
            <label className="flex items-center gap-2 py-[2px] text-soft">
              <input
                type="checkbox"
                checked={chosen.includes('~none')}
                onChange={(event) => toggle('~none', event.target.checked)}
              />
              (no {dimension.name.toLowerCase()})
            </label>
          )}
          {rows.length === 0 && wanted !== '' && <p className="text-soft">Nothing is called that.</p>}
        </>
      }
    >
      <input
        {...CLAUSE_FIELD}
        value={words}
        onChange={(event) => setWords(event.target.value)}
        placeholder="Code or name"
      />
    </ClauseForm>
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
