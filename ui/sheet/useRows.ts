import { type RefObject, useCallback, useEffect, useLayoutEffect, useRef, useState } from 'react';
import { elementHeight, type Heights, intoSight, type Place, placeAt, scrolled } from './longList';

export const ROW_PX = 28;
/** Rows that are drawn before and after what is seen. */
const AHEAD_ROWS = 30;
/** What is taken to be seen until it is measured, as on a server that draws the sheet beforehand. */
const VIEW_PX = 560;

interface Drawn {
  first: number;
  last: number;
  shift: number;
}

/**
 * Which rows of a sheet are drawn, and where. All are of one height, so that nothing is kept of those that are not seen:
 * ten million take no more than ten.
 * @param covered pixels of the scroller that heads and total cover
 * @param startAt where in the list it begins, once there are rows
 * @param onScroll told where in the list it stands, and whether somebody scrolled there by hand
 */
export function useRows(
  scroller: RefObject<HTMLElement | null>,
  count: number,
  covered: number,
  startAt: number,
  onScroll: ((at: number, byHand: boolean) => void) | undefined,
) {
  const whole = count * ROW_PX;
  const [view, setView] = useState(VIEW_PX);
  const heights = useRef<Heights>({ whole, view });
  heights.current = { whole, view };
  const place = useRef<Place>({ top: 0, shift: 0 });
  const [drawn, setDrawn] = useState<Drawn>(() => drawnAt(placeAt(startAt, { whole, view: VIEW_PX }), VIEW_PX));
  const begun = useRef(false);

  useEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const watch = new ResizeObserver(() => setView(Math.max(0, element.clientHeight - covered)));
    watch.observe(element);
    return () => watch.disconnect();
  }, [scroller, covered]);

  const stand = useCallback((next: Place) => {
    place.current = next;
    const wanted = drawnAt(next, heights.current.view);
    setDrawn((held) =>
      held.first === wanted.first && held.last === wanted.last && held.shift === wanted.shift ? held : wanted,
    );
  }, []);
  const goTo = useCallback(
    (at: number) => {
      const { top, shift } = placeAt(at, heights.current);
      const element = scroller.current;
      if (element) element.scrollTop = top;
      // The element may end a few pixels before: where it stands then nobody has scrolled it.
      stand({ top: element && shift === 0 ? element.scrollTop : top, shift });
    },
    [scroller, stand],
  );
  // More rows, or fewer, or a higher window: what is seen stays, as far as it is there.
  useLayoutEffect(() => {
    if (whole === 0) return;
    const { top, shift } = place.current;
    goTo(begun.current ? top + shift : startAt);
    begun.current = true;
    void view;
  }, [whole, view, startAt, goTo]);
  // Where the element is moved along unseen, it is moved in the same frame as the rows in it.
  useLayoutEffect(() => {
    const { top, shift } = place.current;
    if (scroller.current && shift === drawn.shift && scroller.current.scrollTop !== top)
      scroller.current.scrollTop = top;
  }, [scroller, drawn.shift]);

  return {
    first: Math.min(drawn.first, Math.max(0, count - 1)),
    last: Math.min(drawn.last, count - 1),
    height: elementHeight(whole),
    topOf: (row: number): number => row * ROW_PX - drawn.shift,
    onScroll: useCallback(() => {
      const top = scroller.current?.scrollTop ?? 0;
      // Where it was put it stands already.
      const byHand = Math.abs(top - place.current.top) > 1;
      stand(scrolled(top, place.current, heights.current));
      onScroll?.(place.current.top + place.current.shift, byHand);
    }, [scroller, stand, onScroll]),
    /** Brings a row into sight. */
    scrollTo: useCallback(
      (row: number) => {
        const at = place.current.top + place.current.shift;
        const to = intoSight(at, { top: row * ROW_PX, height: ROW_PX }, heights.current);
        if (to !== at) goTo(to);
      },
      [goTo],
    ),
  };
}

function drawnAt({ top, shift }: Place, view: number): Drawn {
  const at = top + shift;
  return {
    first: Math.max(0, Math.floor(at / ROW_PX) - AHEAD_ROWS),
    last: Math.ceil((at + view) / ROW_PX) + AHEAD_ROWS,
    shift,
  };
}
