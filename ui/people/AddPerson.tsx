'use client';

import { type FormEvent, useState } from 'react';
import type { Role } from '@/contracts/roles';
import type { BodySent } from '@/contracts/routes';
import { textIn } from '../parts/fields';
import { Failure, Labelled } from '../parts/Place';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { ALL } from './grant';
import { OneTimeLink } from './OneTimeLink';
import { RoleFields } from './RoleFields';

/** Adds a person, who chooses their own password by a link that the owner hands over. */
export function AddPerson() {
  const [role, setRole] = useState<Role>('preparer');
  const [grant, setGrant] = useState(ALL);
  const [made, setMade] = useState<{ name: string; link: string } | null>(null);
  const add = useChange((body: BodySent<'POST /people'>) => ask('POST /people', { body }), ['/people']);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const fields = new FormData(form);
    const person = {
      email: textIn(fields, 'email'),
      name: textIn(fields, 'name'),
      role,
      ...(role === 'owner' ? {} : grant),
    };
    const { name, link } = await add.mutateAsync(person);
    setMade(link ? { name, link } : null);
    form.reset();
    setGrant(ALL);
  };
  return (
    <form
      onSubmit={(event) => void submit(event).catch(() => {})}
      className="mt-5 flex flex-wrap items-end gap-3 border border-rule bg-sheet p-3"
    >
      <h2 className="w-full font-book text-[17px] font-semibold">New person</h2>
      <Labelled label="Name">
        <input name="name" required maxLength={100} className="field w-[180px]" />
      </Labelled>
      <Labelled label="E-mail">
        <input name="email" type="email" required className="field w-[240px]" />
      </Labelled>
      <RoleFields role={role} grant={grant} onRole={setRole} onGrant={setGrant} />
      <button type="submit" disabled={add.isPending} className="button-main">
        Add the person
      </button>
      <Failure error={add.error} />
      {made && <OneTimeLink name={made.name} link={made.link} />}
    </form>
  );
}
