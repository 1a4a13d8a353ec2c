'use client';

import { type FormEvent, useState } from 'react';
import { ask, type ProblemAnswer } from '../query/client';
import { Door } from './Door';
import { PasswordField } from './PasswordField';

/** Chooses a password by a link that an owner handed over; its secret stands behind the # and is in no log. */
export function NewPasswordForm() {
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    if (form.get('password') !== form.get('again')) return setFault('The two are not the same.');
    setBusy(true);
    setFault(null);
    try {
      await ask('/password', { method: 'POST', body: { secret: window.location.hash.slice(1), password: form.get('password') } });
      window.location.replace('/sign-in');
    } catch (problem) {
      setFault((problem as ProblemAnswer).message);
      setBusy(false);
    }
  };
  return (
    <Door
      says="Choose a password, with which only you come in."
      title="A new password"
      button={{ words: 'Keep it', busy, busyWords: 'Keeping it …' }}
      fault={fault}
      onSubmit={(event) => void submit(event)}
    >
      <p className="text-[13px] text-soft">At least 12 characters. Several words that do not belong together are hard to guess and easy to keep in mind.</p>
      <PasswordField id="password" name="password" label="Password" now="new-password" />
      <PasswordField id="again" name="again" label="The same again" now="new-password" />
    </Door>
  );
}
