'use client';

import { useState } from 'react';

/** A password as it is typed, hidden unless one asks to see it; pasting works, as password managers need. */
export function PasswordField({
  id,
  name,
  label,
  now = 'current-password',
}: {
  id: string;
  name: string;
  label: string;
  now?: 'current-password' | 'new-password';
}) {
  const [shown, setShown] = useState(false);
  return (
    <div>
      <span className="mb-1 flex justify-between gap-3 text-[12.5px] text-soft">
        <label htmlFor={id}>{label}</label>
        <button
          type="button"
          className="link text-[12.5px]"
          aria-pressed={shown}
          aria-controls={id}
          onClick={() => setShown(!shown)}
        >
          {shown ? 'hide' : 'show'}
        </button>
      </span>
      <input
        id={id}
        name={name}
        type={shown ? 'text' : 'password'}
        required
        maxLength={128}
        autoComplete={now}
        className="field w-full"
      />
    </div>
  );
}
