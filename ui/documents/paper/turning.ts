/** What keys do with the paper that is shown, from wherever the focus is. */
export type Turn = 'next' | 'previous' | 'larger' | 'smaller';

let turns: ((turn: Turn) => void) | null = null;

/** One paper at a time is turned by keys: the last that was shown. */
export function onTurn(act: (turn: Turn) => void): () => void {
  turns = act;
  return () => {
    if (turns === act) turns = null;
  };
}

/** @returns whether there is a paper to turn */
export function turn(way: Turn): boolean {
  turns?.(way);
  return turns !== null;
}

/** The page that is shown, and whether a reader turned to it. */
export interface Standing {
  page: number;
  turned: boolean;
}

/** @returns one page on (1) or back (-1), never past the first or the last */
export const turned = (at: Standing, by: 1 | -1, pages: number): Standing => ({
  page: Math.max(1, Math.min(pages, at.page + by)),
  turned: true,
});

/** The first page that says what is sought is the one that is wanted, unless a reader was quicker and turned to another. */
export function foundOn(at: Standing, marksOnPages: readonly number[]): Standing {
  const first = marksOnPages.findIndex((count) => count > 0);
  return at.turned || first < 0 ? at : { page: first + 1, turned: false };
}
