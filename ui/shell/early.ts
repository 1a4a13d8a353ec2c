/**
 * A sheet that a server drew can be read before its page has come alive, and whoever reads presses keys. What is pressed
 * meanwhile is kept, and done as soon as somebody is there to do it.
 */

interface Pressed {
  /** What it was pressed on. */
  on: EventTarget | null;
  /** Whether it was a character. */
  character: boolean;
  again(): void;
}
interface Early {
  /** What was pressed, in order. */
  kept: Pressed[];
  stop(): void;
}
type Held = Window & { justThreadEarly?: Early };

/** Runs in the page before anything else has come. It is handed over as text: it uses nothing from outside itself. */
function keepEarly(): void {
  const kept: Pressed[] = [];
  const onKey = (event: KeyboardEvent): void => {
    const { target, key, code, shiftKey, ctrlKey, altKey, metaKey } = event;
    const writes = target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
    // What the browser does with a key and Control is its own, but for the one that opens the search.
    const finds = key === 'k' && (ctrlKey || metaKey);
    if (writes || altKey || key === 'Tab' || ((ctrlKey || metaKey) && !finds)) return;
    // What a key would press is pressed by the page itself, once.
    event.preventDefault();
    const on = target instanceof Element && target !== document.body ? target : null;
    const label = on?.getAttribute('aria-label') ?? null;
    const inSheet = on?.closest('[role=grid]') != null;
    /** Where it was pressed; where that was drawn anew, what is called the same; of a sheet, the cell that has the keyboard. */
    const place = (): Element | null => {
      if (on?.isConnected) return on;
      if (on === null || inSheet) return document.activeElement ?? document.body;
      return label === null ? null : document.querySelector(`[aria-label="${CSS.escape(label)}"]`);
    };
    const again = (): void => {
      const at = place();
      // What it was meant for is gone: nothing else is done in its stead.
      if (at === null) return;
      const goesOn = at.dispatchEvent(
        new KeyboardEvent('keydown', { key, code, shiftKey, ctrlKey, metaKey, bubbles: true, cancelable: true }),
      );
      if (goesOn && key === 'Enter' && at instanceof HTMLButtonElement) at.click();
    };
    kept.push({ on: target, character: key.length === 1 && key !== ' ', again });
  };
  const onClick = (event: MouseEvent): void => {
    const { target } = event;
    // A link leads where it leads without any help.
    if (target instanceof HTMLElement && !target.closest('a[href]'))
      kept.push({ on: target, character: false, again: () => target.click() });
  };
  addEventListener('keydown', onKey, true);
  addEventListener('click', onClick, true);
  (window as Held).justThreadEarly = {
    kept,
    stop: () => {
      removeEventListener('keydown', onKey, true);
      removeEventListener('click', onClick, true);
    },
  };
}

export const EARLY_SCRIPT = `(${keepEarly})()`;

/** A part of the page that has not come by then is not waited for, and what was meant for it is not done. */
const PATIENCE_MS = 15_000;

/** Parts of a page come alive one after the other; React leaves a mark of its own on what it has taken over. */
const isAlive = (on: EventTarget | null): boolean =>
  !(on instanceof Element) ||
  !on.isConnected ||
  on === document.body ||
  Object.keys(on).some((key) => key.startsWith('__react'));

/** The page is alive: does what was pressed before, one after the other. */
export function doWhatWasPressed(): void {
  const held = window as Held;
  const early = held.justThreadEarly;
  if (!early) return;
  delete held.justThreadEarly;
  early.stop();
  // A character opens something, and what comes after it was meant to be written there: that is not there yet.
  const first = early.kept.findIndex(({ character }) => character);
  const kept = first < 0 || first === early.kept.length - 1 ? early.kept : early.kept.slice(0, first);
  const until = Date.now() + PATIENCE_MS;
  const next = (): void => {
    const [pressed] = kept;
    if (!pressed) return;
    if (isAlive(pressed.on)) {
      kept.shift();
      pressed.again();
    } else if (Date.now() > until) kept.shift();
    // The next key is for whatever this one has opened.
    setTimeout(next, 50);
  };
  requestAnimationFrame(next);
}
