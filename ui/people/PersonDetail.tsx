'use client';

import { useState } from 'react';
import type { Grant, Person } from '@/contracts/answers/people';
import type { Role } from '@/contracts/roles';
import type { BodySent } from '@/contracts/routes';
import { Failure } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { ALL } from './grant';
import { OneTimeLink } from './OneTimeLink';
import { RoleFields } from './RoleFields';
import { Sessions } from './Sessions';
import { Tokens } from './Tokens';

/** What an owner may change of a person, and by what they come in. */
export function PersonDetail({ person, onGone }: { person: Person; onGone(): void }) {
  const path = { id: person.id };
  const [role, setRole] = useState<Role>(person.role);
  const [grant, setGrant] = useState<Grant>({
    entities: person.entities,
    members: person.members,
    accounts: person.accounts,
  });
  const [link, setLink] = useState<string | null>(null);
  const change = useChange(
    (body: BodySent<'PUT /people/{id}'>) => ask('PUT /people/{id}', { path, body }),
    ['/people', `/people/${person.id}/sessions`],
  );
  const remove = useChange(() => ask('DELETE /people/{id}', { path }), ['/people']);
  const ending = useChange(() => ask('DELETE /people/{id}/second-factor', { path }), []);
  const anew = useChange(() => ask('DELETE /people/{id}/identity', { path }), ['/people']);
  const reset = useChange(() => ask('POST /people/{id}/reset', { path }), []);
  return (
    <section aria-label={person.name} className="mt-3 border border-rule bg-sheet p-3">
      <form
        className="flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          change.mutate({ role, ...(role === 'owner' ? ALL : grant) }, { onSuccess: () => toast('Kept') });
        }}
      >
        <h2 className="w-full font-book text-[17px] font-semibold">{person.name}</h2>
        <RoleFields role={role} grant={grant} onRole={setRole} onGrant={setGrant} />
        <button type="submit" className="button-main" disabled={change.isPending}>
          Keep
        </button>
        <span className="ml-auto flex gap-2">
          <button
            type="button"
            className="button"
            onClick={() => reset.mutate(undefined, { onSuccess: (made) => setLink(made.link) })}
          >
            Link for a new password
          </button>
          <button
            type="button"
            className="button"
            onClick={() =>
              ending.mutate(undefined, {
                onSuccess: () => toast('They sign in with the password alone until they set one up again'),
              })
            }
          >
            End the second factor
          </button>
          {person.bound && (
            <button
              type="button"
              className="button"
              title="Whoever next comes from the organisation’s sign-in with their e-mail address is taken for them"
              onClick={() =>
                anew.mutate(undefined, { onSuccess: () => toast('The next sign-in there binds them anew') })
              }
            >
              Let be known anew
            </button>
          )}
          <button type="button" className="button" onClick={() => change.mutate({ active: !person.active })}>
            {person.active ? 'Suspend' : 'Reactivate'}
          </button>
          <button
            type="button"
            className="button"
            onClick={() => {
              if (window.confirm(`Remove ${person.name}? What they wrote stays theirs; they can no longer sign in.`))
                remove.mutate(undefined, { onSuccess: onGone });
            }}
          >
            Remove
          </button>
        </span>
        <Failure error={change.error ?? remove.error ?? reset.error ?? ending.error ?? anew.error} />
        {link && <OneTimeLink name={person.name} link={link} />}
      </form>
      <div className="mt-4 grid grid-cols-2 gap-6">
        <Sessions of={String(person.id)} />
        <Tokens of={String(person.id)} />
      </div>
    </section>
  );
}
