'use client';

import { type FormEvent, useState } from 'react';
import { ask, type ProblemAnswer } from '../query/client';
import { Door } from './Door';
import { PasswordField } from './PasswordField';

export function SignInForm({ to }: { to: string }) {
  const [fault, setFault] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);

  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    setBusy(true);
    setFault(null);
    try {
      await ask('/session', { method: 'POST', body: { email: form.get('email'), password: form.get('password') } });
      window.location.assign(to);
    } catch (problem) {
      setFault((problem as ProblemAnswer).message);
      setBusy(false);
    }
  };

  return (
    <Door
      says="Follow any figure down to the lines behind it."
      title="Sign in"
      button={{ words: 'Sign in', busy, busyWords: 'Signing in …' }}
      fault={fault}
      onSubmit={(event) => void submit(event)}
    >
      <label htmlFor="email">
        <span className="mb-1 block text-[12.5px] text-soft">E-mail</span>
        <input id="email" name="email" type="email" autoComplete="username" required className="field w-full" />
      </label>
      <PasswordField id="password" name="password" label="Password" />
    </Door>
  );
}
