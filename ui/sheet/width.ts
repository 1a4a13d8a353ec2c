import type { Column } from './gridModel';

/** What a column of words may take beyond its least, before the figures beside it are too far off. */
const WORDS_OVER_LEAST = 2;
/** No column of words is wider than this, where there is room. */
const WORDS_MOST_PX = 460;
/** Edges of the sheet. */
const EDGES_PX = 14;
/** A sheet is never narrower than what stands above it needs. */
const LEAST_PX = 720;

/**
 * How wide a sheet is at the most, in pixels: as its columns need, label and figures close together as on printed paper.
 * Columns of words grow into the room that is left up to a limit; columns of amounts have theirs.
 */
export function widestOf(columns: readonly Pick<Column, 'width'>[]): number {
  const wide = columns.reduce((px, { width }) => px + mostOf(width), EDGES_PX);
  return Math.max(LEAST_PX, wide);
}

function mostOf(width: string): number {
  const [least, most] = [...width.matchAll(/(\d+)px/g)].map((m) => Number(m[1]));
  if (/fr/.test(width)) return Math.min(WORDS_MOST_PX, (least ?? WORDS_MOST_PX / WORDS_OVER_LEAST) * WORDS_OVER_LEAST);
  return most ?? least ?? WORDS_MOST_PX;
}
