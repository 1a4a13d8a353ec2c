'use client';

import type { MouseEvent, ReactNode } from 'react';
import { type Screen, screenPath } from './address';
import { recall } from './memory';

/**
 * Opens a screen in this tab. Only the address changes, and the screen follows it: no page is fetched, and the
 * browser's own back and forward walk the thread.
 */
export function openScreen(to: Screen): void {
  const path = screenPath(to);
  const { sort } = recall(path);
  // A sheet that one comes back to has the order that it had when it was left.
  const restored = sort && !to.options.sort ? screenPath({ ...to, options: { ...to.options, sort } }) : path;
  window.history.pushState(null, '', restored);
}

/** A link to a screen: a plain click stays in this tab, any other does what the browser does with links. */
export function StepLink({
  to,
  className,
  title,
  children,
}: {
  to: Screen;
  className?: string;
  title?: string;
  children: ReactNode;
}) {
  const onClick = (event: MouseEvent): void => {
    if (event.ctrlKey || event.metaKey || event.shiftKey || event.button !== 0) return;
    event.preventDefault();
    openScreen(to);
  };
  return (
    <a href={screenPath(to)} onClick={onClick} className={className} title={title}>
      {children}
    </a>
  );
}
