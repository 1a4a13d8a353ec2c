'use client';

import { textIn } from '../parts/fields';
import { ask } from '../query/client';
import { Door } from './Door';
import { PasswordField } from './PasswordField';

export function SignInForm({ to }: { to: string }) {
  const signIn = async (form: FormData): Promise<void> => {
    await ask('POST /session', { body: { email: textIn(form, 'email'), password: String(form.get('password')) } });
    window.location.assign(to);
  };
  return (
    <Door
      says="Follow any figure down to the lines behind it."
      title="Sign in"
      button={{ words: 'Sign in', busyWords: 'Signing in …' }}
      send={signIn}
    >
      <label htmlFor="email">
        <span className="mb-1 block text-[12.5px] text-soft">E-mail</span>
        <input id="email" name="email" type="email" autoComplete="username" required className="field w-full" />
      </label>
      <PasswordField id="password" name="password" label="Password" />
    </Door>
  );
}
