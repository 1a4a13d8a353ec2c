/** What a step leads to: rows of a split, lines, an entry, a document, open orders, another statement. */
export const STEP_VIEWS = ['split', 'lines', 'entry', 'document', 'orders', 'statement'] as const;
/** What a kept step is seen as; the first is a whole sheet. */
export const KEPT_VIEWS = ['sheet', ...STEP_VIEWS] as const;
export type KeptView = (typeof KEPT_VIEWS)[number];

export const MEASURES = ['opening', 'debit', 'credit', 'movement', 'roll', 'closing'] as const;
export type Measure = (typeof MEASURES)[number];

/** What lines come to where a part of each is meant: what is allotted to accounts on the other side, or the tax on it. */
export const PARTS_OF_LINES = ['allotted', 'tax'] as const;
export type PartOfLines = (typeof PARTS_OF_LINES)[number];

/** What of a figure is traced. */
export const TRACED = [...MEASURES, ...PARTS_OF_LINES] as const;
export type Traced = (typeof TRACED)[number];
