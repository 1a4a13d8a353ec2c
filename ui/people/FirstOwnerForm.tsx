'use client';

import { textIn } from '../parts/fields';
import { ask } from '../query/client';
import { Door } from './Door';
import { PasswordField } from './PasswordField';

/** Makes the first owner, by the code behind the # of the address that the start command printed, and signs them in. */
export function FirstOwnerForm() {
  const begin = async (form: FormData): Promise<void> => {
    const [email, password] = [textIn(form, 'email'), String(form.get('password'))];
    if (password !== form.get('again')) throw new Error('The two passwords are not the same.');
    const code = window.location.hash.slice(1);
    if (code === '') throw new Error('Open the whole address that the start command printed; the code is at its end.');
    await ask('POST /first-owner', { body: { code, name: textIn(form, 'name'), email, password } });
    await ask('POST /session', { body: { email, password } });
    window.location.replace('/loads/begin');
  };
  return (
    <Door
      says="Nobody is here yet. You will be the owner: you say who else comes in, and bring in the first ledger."
      title="Welcome"
      button={{ words: 'Begin', busyWords: 'Beginning …' }}
      send={begin}
    >
      <label htmlFor="name">
        <span className="mb-1 block text-[12.5px] text-soft">Your name</span>
        <input id="name" name="name" autoComplete="name" required maxLength={100} className="field w-full" />
      </label>
      <label htmlFor="email">
        <span className="mb-1 block text-[12.5px] text-soft">E-mail</span>
        <input id="email" name="email" type="email" autoComplete="username" required className="field w-full" />
      </label>
      <PasswordField id="password" name="password" label="A password, of at least 12 characters" now="new-password" />
      <PasswordField id="again" name="again" label="The same again" now="new-password" />
    </Door>
  );
}
