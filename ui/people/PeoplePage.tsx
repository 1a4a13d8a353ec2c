'use client';

import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Place, SETTINGS_TABS } from '../plain/Place';
import { ask } from '../query/client';
import { useChange, useEntities } from '../query/hooks';
import { useMe } from '../shell/Providers';

interface Person {
  email: string;
  name: string;
  role: string;
  entities: string[] | null;
}

/** Who may come in and what they may see; an owner adds people here. */
export function PeoplePage() {
  const { role } = useMe();
  const owner = role === 'owner';
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
                  <td className="pr-3">{p.entities ? p.entities.join(', ') : 'all books'}</td>
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

function AddPerson() {
  const { data } = useEntities();
  const [role, setRole] = useState('preparer');
  const add = useChange((person: object) => ask('/people', { method: 'POST', body: person }), ['/people']);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const fields = new FormData(form);
    const entities = fields.getAll('entities').map(String);
    await add.mutateAsync({
      email: fields.get('email'),
      name: fields.get('name'),
      role,
      password: fields.get('password'),
      entities: role === 'reader' && entities.length > 0 ? entities : null,
    });
    form.reset();
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
