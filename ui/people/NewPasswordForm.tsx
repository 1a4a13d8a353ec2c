'use client';

import { type FormEvent, useState } from 'react';
import { ask, type ProblemAnswer } from '../query/client';
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
    <main className="grid min-h-screen place-items-center p-6">
      <div className="w-[380px]">
        <p className="font-book text-[30px] leading-9 font-semibold">
          Just Thread<span className="text-thread">.</span>
        </p>
        <p className="mt-1 mb-7 text-soft">Choose a password, with which only you come in.</p>
        <form onSubmit={submit} className="border border-rule bg-sheet p-6">
          <h1 className="mb-4 font-book text-[18px] font-semibold">A new password</h1>
          <p className="mb-4 text-[13px] text-soft">
            At least 12 characters. Several words that do not belong together are hard to guess and easy to keep in mind.
          </p>
          <div className="grid gap-3">
            <PasswordField id="password" name="password" label="Password" now="new-password" />
            <PasswordField id="again" name="again" label="The same again" now="new-password" />
          </div>
          <p role="alert" className="min-h-8 pt-2 text-warn">
            {fault}
          </p>
          <button type="submit" disabled={busy} className="button-main w-full justify-center">
            {busy ? 'Keeping it …' : 'Keep it'}
          </button>
        </form>
      </div>
    </main>
  );
}
