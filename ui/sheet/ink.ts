/** Whose hand wrote it: a colour for each, and never the colour alone, since the name stands beside it. */
export const INK = { preparer: 'text-preparer', reviewer: 'text-reviewer', reader: 'text-soft' } as const;
