'use client';

import { useState } from 'react';
import { textIn } from '../parts/fields';
import { ask } from '../query/client';
import { ProblemAnswer } from '../query/problemAnswer';
import { Door } from './Door';
import { PasswordField } from './PasswordField';
import { NewSecret } from './QrCode';
import { CodeField } from './SecondFactor';

export function SignInForm({ to }: { to: string }) {
  // What a right password is answered with where a second factor is asked for.
  const [asked, setAsked] = useState<'code' | { setUp: string } | null>(null);
  const signIn = async (form: FormData): Promise<'stays' | undefined> => {
    const code = asked ? textIn(form, 'code') : undefined;
    try {
      await ask('POST /session', {
        body: { email: textIn(form, 'email'), password: String(form.get('password')), ...(code ? { code } : {}) },
      });
    } catch (problem) {
      const [first] = problem instanceof ProblemAnswer ? problem.errors : [];
      if (asked || (first?.path !== 'code' && first?.path !== 'setUp')) throw problem;
      setAsked(first.path === 'code' ? 'code' : { setUp: first.message });
      return 'stays';
    }
    window.location.assign(to);
    return undefined;
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
      {asked !== null && asked !== 'code' && (
        <>
          <p className="text-[13px]">A second factor is required here. Set it up now:</p>
          <NewSecret uri={asked.setUp} />
        </>
      )}
      {asked !== null && <CodeField />}
    </Door>
  );
}
