'use client';

import type { Members, OutlineRow } from '@/core/statement';
import { Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { useEntities } from '../query/hooks';

type AccountsRow = Extract<OutlineRow, { is: 'accounts' }>;

/** Which members of dimensions a row takes of its accounts; all of them where it names none. */
export function RowMembers({ row, onChange }: { row: AccountsRow; onChange(row: AccountsRow): void }) {
  const dimensions = useEntities().data?.dimensions ?? [];
  const members: Members = row.members ?? {};
  const free = dimensions.filter((d) => !(d.code in members));
  const put = (next: Members): void => {
    const { members: _former, ...rest } = row;
    onChange(Object.keys(next).length > 0 ? { ...rest, members: next } : rest);
  };
  if (dimensions.length === 0) return null;
  return (
    <fieldset className="mt-3">
      <legend className="mb-1 text-[12.5px] text-soft">Only what is booked on</legend>
      {Object.entries(members).map(([dim, codes]) => {
        const dimension = dimensions.find((d) => d.code === dim);
        const known = new Set(dimension?.members.map((m) => m.code));
        const unknown = codes.filter((c) => c !== '~none' && !known.has(c.replace('~direct:', '')));
        return (
          <div key={dim} className="mb-2 flex items-end gap-2">
            <Labelled label={dimension?.name ?? dim}>
              <input
                defaultValue={codes.join(', ')}
                list={`members-${dim}`}
                placeholder="codes, with commas between; ~none for no member"
                className="field w-[300px]"
                onChange={(event) => put({ ...members, [dim]: codesOf(event.target.value) })}
              />
            </Labelled>
            <datalist id={`members-${dim}`}>
              {dimension?.members.map((m) => (
                <option key={m.code} value={m.code}>
                  {m.name}
                </option>
              ))}
            </datalist>
            <button
              type="button"
              className="link mb-1"
              onClick={() => put(Object.fromEntries(Object.entries(members).filter(([d]) => d !== dim)))}
            >
              any {dimension?.name.toLowerCase() ?? dim}
            </button>
            <span role="status" className="mb-1 text-[13px] text-warn">
              {unknown.length > 0 ? `There is no ${unknown.join(', ')}.` : ''}
            </span>
          </div>
        );
      })}
      {free.length > 0 && (
        <Select
          aria-label="Only some members of"
          value=""
          onChange={(event) => {
            const first = dimensions.find((d) => d.code === event.target.value)?.members[0];
            if (first) put({ ...members, [event.target.value]: [first.code] });
          }}
          className="field"
        >
          <option value="">{Object.keys(members).length > 0 ? 'and of …' : 'any member'}</option>
          {free.map((d) => (
            <option key={d.code} value={d.code}>
              some of {d.name.toLowerCase()}
            </option>
          ))}
        </Select>
      )}
    </fieldset>
  );
}

const codesOf = (text: string): string[] =>
  text
    .split(',')
    .map((code) => code.trim())
    .filter(Boolean);
