'use client';

import { ask } from '../query/client';
import { Door } from './Door';
import { PasswordField } from './PasswordField';

/** Chooses a password by a link that an owner handed over; its secret is behind the # and is in no log. */
export function NewPasswordForm() {
  const keep = async (form: FormData): Promise<void> => {
    if (form.get('password') !== form.get('again')) throw new Error('The two are not the same.');
    await ask('POST /password', {
      body: { secret: window.location.hash.slice(1), password: String(form.get('password')) },
    });
    window.location.replace('/sign-in');
  };
  return (
    <Door
      says="Choose a password, with which only you come in."
      title="A new password"
      button={{ words: 'Save it', busyWords: 'Saving …' }}
      send={keep}
    >
      <p className="text-[13px] text-soft">
        At least 12 characters. Several words that do not belong together are hard to guess and easy to keep in mind.
      </p>
      <PasswordField id="password" name="password" label="Password" now="new-password" />
      <PasswordField id="again" name="again" label="The same again" now="new-password" />
    </Door>
  );
}
