'use client';

import { useEffect, useState } from 'react';

/** A value once it has was still for a moment, so that not every step on the way is asked about. */
export function useDebounced<Value>(value: Value, afterMs: number): Value {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), afterMs);
    return () => clearTimeout(timer);
  }, [value, afterMs]);
  return settled;
}
