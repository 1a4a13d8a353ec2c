/**
 * A sheet that a server drew can be read before its page has come alive, and whoever reads presses keys. What is pressed
 * meanwhile is kept, and done as soon as somebody is there to do it.
 */

interface Pressed {
  /** What it is meant for; null where that is not there, or not there yet. */
  place(): Element | null;
  /** Whether it was a character. */
  character: boolean;
  again(at: Element): void;
}
interface Early {
  /** What was pressed, in order. */
  kept: Pressed[];
  /** The page is alive; what of it is not yet is still listened for. @param onKept hears of what is pressed there */
  alive(onKept: () => void): void;
}
type Held = Window & { justThreadEarly?: Early };

/** Runs in the page before anything else has come. It is handed over as text: it uses nothing from outside itself. */
function keepEarly(): void {
  const kept: Pressed[] = [];
  let heard: (() => void) | null = null;
  /** React leaves a mark of its own on what it has taken over. */
  const isTaken = (at: Element): boolean => Object.keys(at).some((name) => name.startsWith('__react'));
  const onKey = (event: KeyboardEvent): void => {
    const { target, key, code, shiftKey, ctrlKey, altKey, metaKey } = event;
    const writes = target instanceof HTMLElement && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName);
    // What the browser does with a key and Control is its own, but for the one that opens the search.
    const finds = key === 'k' && (ctrlKey || metaKey);
    if (writes || altKey || key === 'Tab' || ((ctrlKey || metaKey) && !finds)) return;
    const on = target instanceof Element && target !== document.body ? target : null;
    if (heard && (!event.isTrusted || on === null || isTaken(on) || (on as HTMLElement).isContentEditable)) return;
    // What a key would press is pressed by the page itself, once.
    event.preventDefault();
    if (heard) event.stopImmediatePropagation();
    const label = on?.getAttribute('aria-label') ?? null;
    const inSheet = on?.closest('[role=grid]') != null;
    /** Where it was pressed; where that was drawn anew, what is called the same; of a sheet, the cell that has the keyboard. */
    const place = (): Element | null => {
      if (on?.isConnected) return on;
      if (on === null || inSheet) return document.activeElement ?? document.body;
      return label === null ? on : document.querySelector(`[aria-label="${CSS.escape(label)}"]`);
    };
    const again = (at: Element): void => {
      const goesOn = at.dispatchEvent(
        new KeyboardEvent('keydown', { key, code, shiftKey, ctrlKey, metaKey, bubbles: true, cancelable: true }),
      );
      if (goesOn && key === 'Enter' && at instanceof HTMLButtonElement) at.click();
    };
    kept.push({ place, character: key.length === 1 && key !== ' ', again });
    heard?.();
  };
  const onClick = (event: MouseEvent): void => {
    const { target } = event;
    // A link leads where it leads without any help.
    if (target instanceof HTMLElement && !target.closest('a[href]'))
      kept.push({ place: () => target, character: false, again: () => target.click() });
  };
  addEventListener('keydown', onKey, true);
  addEventListener('click', onClick, true);
  (window as Held).justThreadEarly = {
    kept,
    alive: (onKept) => {
      heard = onKept;
      removeEventListener('click', onClick, true);
    },
  };
}

export const EARLY_SCRIPT = `(${keepEarly})()`;

/** A part of the page that has not come by then is not waited for, and what was meant for it is not done. */
const PATIENCE_MS = 15_000;

/** Parts of a page come alive one after the other. */
const isAlive = (at: Element): boolean =>
  !at.isConnected || at === document.body || Object.keys(at).some((key) => key.startsWith('__react'));

/** The page is alive: does what was pressed before, one after the other. */
export function doWhatWasPressed(): void {
  const held = window as Held;
  const early = held.justThreadEarly;
  if (!early) return;
  delete held.justThreadEarly;
  // A character opens something, and what comes after it was meant to be written there: that is not there yet.
  const first = early.kept.findIndex(({ character }) => character);
  if (first >= 0 && first < early.kept.length - 1) early.kept.splice(first);
  doInOrder(early);
}

function doInOrder(early: Early): void {
  const { kept } = early;
  let until = 0;
  const next = (): void => {
    const [pressed] = kept;
    if (!pressed) {
      until = 0;
      return;
    }
    // What was drawn anew may come a while after the old is gone.
    const at = pressed.place();
    if (at !== null && isAlive(at)) {
      kept.shift();
      pressed.again(at);
      until = Date.now() + PATIENCE_MS;
    } else if (Date.now() > until) kept.shift();
    // The next key is for whatever this one has opened.
    setTimeout(next, 50);
  };
  const begin = (): void => {
    if (until > 0) return;
    until = Date.now() + PATIENCE_MS;
    requestAnimationFrame(next);
  };
  early.alive(begin);
  begin();
}
