'use client';

import { type ComponentType, lazy, type ReactNode, Suspense, useState } from 'react';

const waiting: (() => Promise<unknown>)[] = [];

/**
 * A part of the screen that is not there from the beginning: its code comes when it is first wanted, or before that when
 * nothing else is to be done, so that whoever opens it does not wait.
 * @param meanwhile what stands in its place until then
 */
export function later<Props extends object>(
  load: () => Promise<ComponentType<Props>>,
  meanwhile: ReactNode = null,
): ComponentType<Props> {
  let there: ComponentType<Props> | null = null;
  const once = async () => {
    there ??= await load();
    return { default: there };
  };
  waiting.push(once);
  const Coming = lazy(once);
  return function Later(props: Props) {
    // Drawn at once where it is there; as long as it stands it stays what it began as. A server always waits for it, and
    // the page takes over what the server drew.
    const [Part] = useState(() => (typeof window === 'undefined' ? null : there));
    if (Part) return <Part {...props} />;
    return (
      <Suspense fallback={meanwhile}>
        <Coming {...props} />
      </Suspense>
    );
  };
}

/** Brings in what has not come yet, one after the other, whenever the page has nothing else to do. */
export function bringTheRest(): void {
  const whenIdle = window.requestIdleCallback ?? ((act: () => void) => setTimeout(act, 200));
  const next = (): void => {
    const load = waiting.shift();
    if (load)
      void load().then(
        () => whenIdle(next),
        // It is asked for again when it is wanted.
        () => whenIdle(next),
      );
  };
  whenIdle(next);
}
