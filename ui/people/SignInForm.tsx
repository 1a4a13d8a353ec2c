'use client';

import { useState } from 'react';
import { textIn } from '../parts/fields';
import { ask } from '../query/client';
import { ProblemAnswer } from '../query/problemAnswer';
import { Door } from './Door';
import { PasswordField } from './PasswordField';
import { NewSecret } from './QrCode';
import { CodeField } from './SecondFactor';

/** Why somebody who signed in at their organisation did not come in. */
const NOT_IN: Record<string, string> = {
  away: 'The sign-in of your organisation does not answer. Try again in a moment, or sign in with your password.',
  proof:
    'What came back from your organisation’s sign-in was too old, or not meant for this browser. Begin again here.',
  unverified: 'Your organisation’s sign-in does not vouch for an e-mail address of yours. Ask whoever runs it.',
  unknown: 'You are not among the people here. Ask an owner to add you, or to let you in again.',
  another: 'Your organisation’s sign-in knows you as another than before. Ask an owner to let you be known anew.',
};

export function SignInForm({
  to,
  provider,
  notIn,
}: {
  to: string;
  /** What the sign-in of the organisation is called; null where there is none. */
  provider: string | null;
  notIn: string | null;
}) {
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
      {...(notIn === null ? {} : { begins: NOT_IN[notIn] ?? 'You could not be signed in. Begin again here.' })}
      {...(provider === null
        ? {}
        : {
            other: {
              words: `Sign in through ${provider}`,
              to: `/api/v1/session/provider/begin?${new URLSearchParams({ to })}`,
            },
          })}
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
