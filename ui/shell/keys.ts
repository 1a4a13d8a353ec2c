'use client';

import { useEffect, useRef } from 'react';

const OFF = 'single-letter-keys-off';

/** Whether single-letter keys are on; a person can switch them off (WCAG 2.1.4). */
export const letterKeysOn = (): boolean => typeof window === 'undefined' || window.localStorage.getItem(OFF) !== '1';
export const setLetterKeys = (on: boolean): void => window.localStorage.setItem(OFF, on ? '0' : '1');

/** Keys of a screen. They do nothing while one writes, and letters do nothing where they are switched off. */
export function useKeys(keys: Record<string, () => void>): void {
  const latest = useRef(keys);
  useEffect(() => {
    latest.current = keys;
  });
  useEffect(() => {
    const listen = (event: KeyboardEvent): void => {
      const target = event.target as HTMLElement;
      if (event.ctrlKey || event.metaKey || event.altKey) return;
      if (target.closest('input, textarea, select, [role="dialog"], [role="menu"]')) return;
      const act = latest.current[event.key];
      if (!act || (/^[a-z]$/.test(event.key) && !letterKeysOn())) return;
      event.preventDefault();
      act();
    };
    window.addEventListener('keydown', listen);
    return () => window.removeEventListener('keydown', listen);
  }, []);
}
