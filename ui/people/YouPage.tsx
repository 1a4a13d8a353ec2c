'use client';

import { type FormEvent, useState } from 'react';
import type { BodySent } from '@/contracts/routes';
import { textIn } from '../parts/fields';
import { Failure, Labelled, Place, SETTINGS_TABS } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { PasswordField } from './PasswordField';
import { SecondFactor } from './SecondFactor';
import { Sessions } from './Sessions';
import { Tokens } from './Tokens';

/** One's own password, and by what one comes in. */
export function YouPage() {
  const { name, role } = useMe();
  return (
    <Place title="Settings" tabs={SETTINGS_TABS} here="/settings/you">
      <p className="mb-4 text-soft">
        {name}, {role}
      </p>
      <div className="grid max-w-[1060px] gap-7">
        <Password />
        <SecondFactor />
        <Sessions of="me" />
        <div>
          <Tokens of="me" />
          <NewToken />
        </div>
      </div>
    </Place>
  );
}

function Password() {
  const change = useChange(
    (body: BodySent<'PUT /password'>) => ask('PUT /password', { body }),
    ['/people/me/sessions'],
  );
  const [unlike, setUnlike] = useState<Error | null>(null);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const fields = new FormData(form);
    if (fields.get('password') !== fields.get('again'))
      return setUnlike(new Error('The two new passwords are not the same.'));
    setUnlike(null);
    await change.mutateAsync({ current: String(fields.get('current')), password: String(fields.get('password')) });
    form.reset();
    toast('The password is changed; other sessions have ended');
  };
  return (
    <form onSubmit={(event) => void submit(event).catch(() => {})} aria-label="Password">
      <h3 className="mb-1 font-semibold">Password</h3>
      <div className="flex flex-wrap items-end gap-3">
        <div className="w-[220px]">
          <PasswordField id="current" name="current" label="Current password" />
        </div>
        <div className="w-[280px]">
          <PasswordField id="new" name="password" label="New password, at least 12 characters" now="new-password" />
        </div>
        <div className="w-[260px]">
          <PasswordField id="again" name="again" label="Repeat the new password" now="new-password" />
        </div>
        <button type="submit" className="button-main" disabled={change.isPending}>
          Change the password
        </button>
        <Failure error={unlike ?? change.error} />
      </div>
    </form>
  );
}

function NewToken() {
  const [made, setMade] = useState<string | null>(null);
  const add = useChange(
    (body: BodySent<'POST /people/{id}/tokens'>) => ask('POST /people/{id}/tokens', { path: { id: 'me' }, body }),
    ['/people/me/tokens'],
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const fields = new FormData(form);
    setMade((await add.mutateAsync({ name: textIn(fields, 'name'), days: Number(fields.get('days')) })).token);
    form.reset();
  };
  return (
    <form
      onSubmit={(event) => void submit(event).catch(() => {})}
      aria-label="New token"
      className="mt-2 flex flex-wrap items-end gap-3"
    >
      <Labelled label="A new token for">
        <input name="name" required maxLength={80} placeholder="month-end export" className="field w-[240px]" />
      </Labelled>
      <Labelled label="It lasts, in days">
        <input name="days" type="number" required min={1} max={366} defaultValue={90} className="field w-[120px]" />
      </Labelled>
      <button type="submit" className="button" disabled={add.isPending}>
        Create the token
      </button>
      <Failure error={add.error} />
      {made && (
        <p className="w-full text-[13px]" role="status">
          It is shown this once:
          <input
            readOnly
            value={made}
            aria-label="The new token"
            onFocus={(event) => event.target.select()}
            className="field mt-1 block w-full max-w-[560px] text-[13px]"
          />
        </p>
      )}
    </form>
  );
}
