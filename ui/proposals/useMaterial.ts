'use client';

import { useMemo } from 'react';
import { useAnswer } from '../query/hooks';

/** What is material of a figure, where somebody said so of its company and year. */
export function useMaterial(subject: string) {
  const params = useMemo(
    () => (subject.startsWith('figure:') ? new URLSearchParams({ figure: subject.slice('figure:'.length) }) : null),
    [subject],
  );
  return useAnswer('GET /materiality', params).data?.applies ?? null;
}
