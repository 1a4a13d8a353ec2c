/**
 * Rows of a list that is taller than any element may be. The element is as tall as browsers allow, and what is in it is
 * shifted: wheel and keys move over the list pixel by pixel, and a pull of the scroll bar goes to the same share of it.
 */

/** Taller than this no element is made; browsers end at 17 million pixels, or at 33. */
export const TALLEST_PX = 8_000_000;
/** So near its ends the list is not shifted against the element's, so that both end together. */
const ENDS_PX = 100_000;
/** Whoever scrolls farther at once, in heights of what is seen, has pulled the bar. */
const PULLED_VIEWS = 4;

/** How tall a list is, and how much of it is seen at once, in pixels. */
export interface Heights {
  whole: number;
  view: number;
}

/** Where a list stands: how far its element is scrolled, and what is added to that for the place in the list. */
export interface Place {
  top: number;
  shift: number;
}

export const elementHeight = (whole: number): number => Math.min(whole, TALLEST_PX);

/** The last place at which there is still a whole view of a list, or of its element. */
const lastOf = (height: number, view: number): number => Math.max(0, height - view);

/** How the element stands for a place in the list: as far along as the list, and level with it at both ends. */
export function placeAt(at: number, { whole, view }: Heights): Place {
  const last = lastOf(whole, view);
  const there = Math.max(0, Math.min(last, at));
  if (whole <= TALLEST_PX || there <= ENDS_PX) return { top: there, shift: 0 };
  const end = lastOf(TALLEST_PX, view);
  const atEnd = last - end;
  if (there >= last - ENDS_PX) return { top: there - atEnd, shift: atEnd };
  const top = Math.round(ENDS_PX + ((there - ENDS_PX) / (last - 2 * ENDS_PX)) * (end - 2 * ENDS_PX));
  return { top, shift: there - top };
}

/** The place in the list of an element that was pulled to a place of its own. */
function pulledTo(top: number, { whole, view }: Heights): number {
  const [last, end] = [lastOf(whole, view), lastOf(TALLEST_PX, view)];
  if (top <= ENDS_PX) return top;
  if (top >= end - ENDS_PX) return last - (end - top);
  return Math.round(ENDS_PX + ((top - ENDS_PX) / (end - 2 * ENDS_PX)) * (last - 2 * ENDS_PX));
}

/**
 * Where a list stands after its element was scrolled. Its top differs from the element's own where the element must be
 * moved along unseen: it has come near one of its ends, and the list has not, or the other way round.
 */
export function scrolled(top: number, before: Place, heights: Heights): Place {
  const { whole, view } = heights;
  if (whole <= TALLEST_PX) return { top, shift: 0 };
  if (Math.abs(top - before.top) > PULLED_VIEWS * view) return placeAt(pulledTo(top, heights), heights);
  const at = top + before.shift;
  const end = lastOf(TALLEST_PX, view);
  const nearEnd = (there: number, last: number): boolean => there <= ENDS_PX || there >= last - ENDS_PX;
  return nearEnd(top, end) || nearEnd(at, lastOf(whole, view)) ? placeAt(at, heights) : { top, shift: before.shift };
}

/** A place from which a stretch of the list is seen whole, as near to the one that it is read from as can be. */
export function intoSight(from: number, stretch: { top: number; height: number }, { view }: Heights): number {
  if (stretch.top < from) return stretch.top;
  return Math.max(from, stretch.top + stretch.height - view);
}
