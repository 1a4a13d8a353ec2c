/** Whose hand wrote it: a colour for each, and never the colour alone, since the name is beside it. */
export const INK = { preparer: 'text-preparer', reviewer: 'text-reviewer', reader: 'text-soft' } as const;
export type Ink = keyof typeof INK;
