'use client';

import { type RefObject, useEffect, useRef, useState } from 'react';

/** How wide an element is, as it changes. @param before until it is known */
export function useWidth(before = 900) {
  const box = useRef<HTMLDivElement>(null);
  const [wide, setWide] = useState(before);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => entry && setWide(entry.contentRect.width));
    if (box.current) watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  return { box, wide };
}

/** The inner width of an element that scrolls, without its scroll bar; 0 until it is known. */
export function useWidthOf(of: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const element = of.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setWidth(element.clientWidth));
    watch.observe(element);
    return () => watch.disconnect();
  }, [of]);
  return width;
}
