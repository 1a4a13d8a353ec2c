/** Words of what leaves that the interface shares with the routes, apart from the shapes that check them. */
export const LEAF_FORMATS = ['xlsx', 'pdf', 'csv', 'json'] as const;
export type LeafFormat = (typeof LEAF_FORMATS)[number];
export const PAPERS = ['a4', 'a3', 'letter', 'legal'] as const;
/** How far amounts are written on paper and shown in a workbook; what they come to is exact in each. */
export const DECIMALS = ['exact', 'whole', 'thousands'] as const;
export const ORIENTATIONS = ['portrait', 'landscape', 'fitting'] as const;
/** What can be said of how a sheet leaves. */
export const HOW_NAMES = [
  'details',
  'title',
  'footer',
  'paper',
  'orientation',
  'heading',
  'letterhead',
  'notes',
  'protect',
  'language',
  'decimals',
  'preview',
  'page',
] as const;
/** What asks for a page of a sheet, which is not said where all of it leaves. */
export const PAGED = ['limit', 'after', 'at', 'first'] as const;
