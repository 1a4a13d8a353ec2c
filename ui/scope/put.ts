/** Scope parameters to be put in place of those of the same name; an empty list takes one away. */
export type Put = Record<string, string[]>;
