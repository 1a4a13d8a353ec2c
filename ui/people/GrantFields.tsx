'use client';

import type { Entities } from '@/contracts/answers/charts';
import type { Grant } from '@/contracts/answers/people';
import { memberOptions } from '../parts/memberOptions';
import { Select } from '../parts/Select';
import { useEntities } from '../query/hooks';

/** What somebody sees: companies, members with all beneath them, accounts. Nothing chosen: all of it. */
export function GrantFields({ grant, onChange }: { grant: Grant; onChange(grant: Grant): void }) {
  const { data } = useEntities();
  const picks = Object.entries(grant.members).flatMap(([dim, codes]) => codes.map((code) => [dim, code] as const));
  const put = (dim: string, codes: string[]): void => {
    const { [dim]: _, ...others } = grant.members;
    onChange({ ...grant, members: codes.length > 0 ? { ...others, [dim]: codes } : others });
  };
  const toggle = (code: string): void => {
    const held = grant.entities ?? [];
    const next = held.includes(code) ? held.filter((e) => e !== code) : [...held, code];
    onChange({ ...grant, entities: next.length > 0 ? next : null });
  };
  return (
    <>
      <fieldset className="flex gap-3">
        <legend className="mb-1 text-[12.5px] text-soft">Sees only (none ticked: all companies)</legend>
        {data?.entities.map((e) => (
          <label key={e.code} className="flex h-8 items-center gap-1.5">
            <input
              type="checkbox"
              checked={grant.entities?.includes(e.code) ?? false}
              onChange={() => toggle(e.code)}
            />{' '}
            {e.code}
          </label>
        ))}
      </fieldset>
      <div className="flex w-full flex-wrap items-end gap-3">
        <label>
          <span className="mb-1 block text-[12.5px] text-soft">And of these, with all beneath them</span>
          <Select
            value=""
            onChange={(event) => {
              const [dim = '', code = ''] = event.target.value.split(/:(.*)/);
              put(dim, [...new Set([...(grant.members[dim] ?? []), code])]);
            }}
            className="field w-[210px]"
          >
            <option value="">{picks.length === 0 ? 'every cost centre, project …' : 'one more …'}</option>
            {memberOptions(data?.dimensions ?? [])}
          </Select>
        </label>
        {picks.map(([dim, code]) => {
          const name = memberName(dim, code, data?.dimensions ?? []);
          return (
            <button
              key={`${dim}:${code}`}
              type="button"
              onClick={() =>
                put(
                  dim,
                  (grant.members[dim] ?? []).filter((c) => c !== code),
                )
              }
              aria-label={`Remove: ${name}`}
              className="key h-[30px]"
            >
              {name} ×
            </button>
          );
        })}
        <label>
          <span className="mb-1 block text-[12.5px] text-soft">And of these accounts</span>
          <input
            value={grant.accounts ?? ''}
            onChange={(event) =>
              onChange({ ...grant, accounts: event.target.value === '' ? null : event.target.value })
            }
            placeholder="all, or such as 6000 to 6999, except 6310"
            className="field w-[300px]"
          />
        </label>
      </div>
    </>
  );
}

export const memberName = (dim: string, code: string, dimensions: Entities['dimensions']): string =>
  dimensions.find((d) => d.code === dim)?.members.find((m) => m.code === code)?.name ?? code;

/** What a person sees, in words. */
export function seenInWords({ entities, members, accounts }: Grant, dimensions: Entities['dimensions']): string {
  const parts = Object.entries(members).map(([dim, codes]) => {
    const dimension = dimensions.find((d) => d.code === dim);
    return `${dimension?.name.toLowerCase() ?? dim} ${codes.map((code) => memberName(dim, code, dimensions)).join(' or ')}`;
  });
  if (accounts !== null) parts.push(`accounts ${accounts}`);
  return [
    entities ? entities.join(', ') : 'all books',
    ...(parts.length > 0 ? [`only ${parts.join(' and ')}`] : []),
  ].join('; ');
}
