'use client';

import { useEffect, useRef } from 'react';

const OFF = 'single-letter-keys-off';

/** Whether keys of a single character are on: letters, capitals and signs; a person can switch them off (WCAG 2.1.4). */
export const letterKeysOn = (): boolean => typeof window === 'undefined' || window.localStorage.getItem(OFF) !== '1';
export const setLetterKeys = (on: boolean): void => window.localStorage.setItem(OFF, on ? '0' : '1');

/** Whether a key is a letter, a capital, a digit or a sign, and not one that has a name, such as Escape. */
export const isCharacter = (key: string): boolean => [...key].length === 1 && key !== ' ';

/** Keys of a screen. They do nothing while one writes, and single characters nothing where they are switched off. */
export function useKeys(keys: Record<string, () => void>): void {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest('input, textarea, select, [contenteditable="true"], [role="dialog"], [role="menu"]')) return;
      const act = latest.current[event.key];
      if (!act || (isCharacter(event.key) && !letterKeysOn())) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
