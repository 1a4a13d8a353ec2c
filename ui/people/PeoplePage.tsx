'use client';

import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { MemberOptions } from '../plain/MemberOptions';
import { Place, SETTINGS_TABS } from '../plain/Place';
import type { Entities } from '../query/answers';
import { ask } from '../query/client';
import { useChange, useEntities } from '../query/hooks';
import { useMe } from '../shell/Providers';

interface Person {
  email: string;
  name: string;
  role: string;
  entities: string[] | null;
  members: Record<string, string[]>;
  accounts: string | null;
}

/** Who may come in and what they may see; an owner adds people here. */
export function PeoplePage() {
  const { role } = useMe();
  const owner = role === 'owner';
  const { data } = useEntities();
  const people = useQuery({ queryKey: ['/people'], queryFn: () => ask<{ rows: Person[] }>('/people'), enabled: owner });
  return (
    <Place title="Settings" tabs={SETTINGS_TABS} here="/settings">
      {!owner && <p className="text-soft">Only an owner sees and adds people.</p>}
      {owner && (
        <>
          <table className="w-full max-w-[900px] border border-rule bg-sheet">
            <thead>
              <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
                <th className="py-1 pl-3 font-normal">Name</th>
                <th className="font-normal">E-mail</th>
                <th className="font-normal">Role</th>
                <th className="pr-3 font-normal">Sees</th>
              </tr>
            </thead>
            <tbody>
              {people.data?.rows.map((p) => (
                <tr key={p.email} className="border-b border-hair">
                  <td className="h-7 pl-3">{p.name}</td>
                  <td>{p.email}</td>
                  <td>{p.role}</td>
                  <td className="pr-3">{seenBy(p, data?.dimensions ?? [])}</td>
                </tr>
              ))}
            </tbody>
          </table>
          <AddPerson />
        </>
      )}
    </Place>
  );
}

/** What a person sees, in words. */
function seenBy({ entities, members, accounts }: Person, dimensions: Entities['dimensions']): string {
  const parts = Object.entries(members).map(([dim, codes]) => {
    const dimension = dimensions.find((d) => d.code === dim);
    const names = codes.map((code) => dimension?.members.find((m) => m.code === code)?.name ?? code);
    return `${dimension?.name.toLowerCase() ?? dim} ${names.join(' or ')}`;
  });
  if (accounts !== null) parts.push(`accounts ${accounts}`);
  return [entities ? entities.join(', ') : 'all books', ...(parts.length > 0 ? [`only ${parts.join(' and ')}`] : [])].join('; ');
}

function AddPerson() {
  const { data } = useEntities();
  const [role, setRole] = useState('preparer');
  const [picks, setPicks] = useState<string[]>([]);
  const add = useChange((person: object) => ask('/people', { method: 'POST', body: person }), ['/people']);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const fields = new FormData(form);
    const entities = fields.getAll('entities').map(String);
    const members: Record<string, string[]> = {};
    for (const pick of picks) {
      const [dim = '', code = ''] = pick.split(/:(.*)/);
      members[dim] = [...(members[dim] ?? []), code];
    }
    const limits = role === 'reader' ? { members, accounts: String(fields.get('accounts') ?? '').trim() || null } : {};
    await add.mutateAsync({
      email: fields.get('email'),
      name: fields.get('name'),
      role,
      password: fields.get('password'),
      entities: role === 'reader' && entities.length > 0 ? entities : null,
      ...limits,
    });
    form.reset();
    setPicks([]);
  };
  return (
    <form onSubmit={submit} className="mt-5 flex max-w-[900px] flex-wrap items-end gap-3 border border-rule bg-sheet p-3">
      <label>
        <span className="mb-1 block text-[12.5px] text-soft">Name</span>
        <input name="name" required className="field w-[160px]" />
      </label>
      <label>
        <span className="mb-1 block text-[12.5px] text-soft">E-mail</span>
        <input name="email" type="email" required className="field w-[210px]" />
      </label>
      <label>
        <span className="mb-1 block text-[12.5px] text-soft">Password to begin with</span>
        <input name="password" type="password" required minLength={10} autoComplete="new-password" className="field w-[170px]" />
      </label>
      <label>
        <span className="mb-1 block text-[12.5px] text-soft">Role</span>
        <select value={role} onChange={(event) => setRole(event.target.value)} className="field">
          {['preparer', 'reviewer', 'reader', 'owner'].map((r) => (
            <option key={r}>{r}</option>
          ))}
        </select>
      </label>
      {role === 'reader' && (
        <fieldset className="flex gap-3">
          <legend className="mb-1 text-[12.5px] text-soft">Sees only</legend>
          {data?.entities.map((e) => (
            <label key={e.code} className="flex items-center gap-1.5">
              <input type="checkbox" name="entities" value={e.code} /> {e.code}
            </label>
          ))}
        </fieldset>
      )}
      {role === 'reader' && (
        <div className="flex w-full flex-wrap items-end gap-3">
          <label>
            <span className="mb-1 block text-[12.5px] text-soft">And of these, with all beneath them</span>
            <select value="" onChange={(event) => setPicks([...new Set([...picks, event.target.value])])} className="field w-[210px]">
              <option value="">{picks.length === 0 ? 'every cost centre, project …' : 'one more …'}</option>
              <MemberOptions dimensions={data?.dimensions ?? []} />
            </select>
          </label>
          {picks.map((pick) => (
            <button
              key={pick}
              type="button"
              onClick={() => setPicks(picks.filter((p) => p !== pick))}
              aria-label={`Take away: ${nameOfPick(pick, data?.dimensions ?? [])}`}
              className="key h-[30px]"
            >
              {nameOfPick(pick, data?.dimensions ?? [])} ×
            </button>
          ))}
          <label>
            <span className="mb-1 block text-[12.5px] text-soft">And of these accounts</span>
            <input name="accounts" placeholder="all, or such as 6000 to 6999, except 6310" className="field w-[300px]" />
          </label>
        </div>
      )}
      <button type="submit" disabled={add.isPending} className="button-main">
        Add the person
      </button>
      {add.error && (
        <p role="alert" className="w-full text-warn">
          {add.error.message}
        </p>
      )}
    </form>
  );
}

function nameOfPick(pick: string, dimensions: Entities['dimensions']): string {
  const [dim, code] = pick.split(/:(.*)/);
  return dimensions.find((d) => d.code === dim)?.members.find((m) => m.code === code)?.name ?? pick;
}
