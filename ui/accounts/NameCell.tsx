'use client';

import { type KeyboardEvent, useState } from 'react';
import { useMe } from '../shell/me';

interface Props {
  label: string;
  name: string;
  missing: boolean;
  onKeep(name: string): Promise<unknown>;
}

/** A name that a preparer mends in place: Enter keeps it, Escape leaves it as it was. */
export function NameCell({ label, name, missing, onKeep }: Props) {
  const { role } = useMe();
  const [draft, setDraft] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  if (role === 'reader') return <span className={missing ? 'text-warn' : ''}>{missing ? 'missing' : name}</span>;
  const keep = async (): Promise<void> => {
    if (draft === null || draft.trim() === name) return setDraft(null);
    try {
      await onKeep(draft.trim());
      setDraft(null);
      setFault(null);
    } catch (problem) {
      setFault((problem as Error).message);
    }
  };
  const key = (event: KeyboardEvent): void => {
    event.stopPropagation();
    if (event.key === 'Enter') void keep();
    if (event.key === 'Escape') {
      setDraft(null);
      setFault(null);
    }
  };
  if (draft === null) {
    return (
      <button
        type="button"
        onClick={() => setDraft(name)}
        className={`cursor-text text-left decoration-rule underline-offset-4 hover:underline ${missing ? 'text-warn' : ''}`}
        aria-label={`${label}: ${missing ? 'missing' : name}; change`}
      >
        {missing ? '+ missing' : name}
      </button>
    );
  }
  return (
    <>
      <input
        autoFocus
        value={draft}
        onChange={(event) => setDraft(event.target.value)}
        onKeyDown={key}
        onBlur={() => void keep()}
        aria-label={label}
        className="field h-6 w-full px-1"
        aria-invalid={fault !== null}
      />
      {fault && (
        <span role="alert" className="text-[12.5px] text-warn">
          {fault}
        </span>
      )}
    </>
  );
}
