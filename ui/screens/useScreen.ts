'use client';

import { usePathname, useSearchParams } from 'next/navigation';
import { useMemo } from 'react';
import { type Origin, readScreen, type Screen, screenPath } from '../address/address';
import { openScreen } from '../address/StepLink';

/** The screen of the current address, and the ways to another. */
export function useScreen(origin: Origin) {
  const params = useSearchParams();
  const path = usePathname();
  const text = params.toString();
  const screen = useMemo(() => readScreen(origin, new URLSearchParams(text)), [origin, text]);
  return {
    screen,
    /** Where this sheet's memory is kept: its address without what is remembered. */
    memoryKey: `${path}?${text}`,
    go: (to: Screen): void => openScreen(to),
    replace: (to: Screen): void => window.history.replaceState(null, '', screenPath(to)),
  };
}
