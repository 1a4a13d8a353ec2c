'use client';

import { useEffect, useRef, useState } from 'react';

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
