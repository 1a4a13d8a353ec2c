'use client';

import { type FormEvent, useState } from 'react';
import { ask, type ProblemAnswer } from '../query/client';
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
    <main className="grid min-h-screen place-items-center p-6">
      <div className="w-[380px]">
        <p className="font-book text-[30px] leading-9 font-semibold">
          Just Thread<span className="text-thread">.</span>
        </p>
        <p className="mt-1 mb-7 text-soft">Follow any figure down to the lines behind it.</p>
        <form onSubmit={submit} className="border border-rule bg-sheet p-6">
          <h1 className="mb-4 font-book text-[18px] font-semibold">Sign in</h1>
          <label className="mb-1 block text-[12.5px] text-soft" htmlFor="email">
            E-mail
          </label>
          <input id="email" name="email" type="email" autoComplete="username" required className="field mb-3 w-full" />
          <PasswordField id="password" name="password" label="Password" />
          <p role="alert" className="min-h-8 pt-2 text-warn">
            {fault}
          </p>
          <button type="submit" disabled={busy} className="button-main w-full justify-center">
            {busy ? 'Signing in …' : 'Sign in'}
          </button>
        </form>
      </div>
    </main>
  );
}
