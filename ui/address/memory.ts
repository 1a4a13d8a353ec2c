/** What a sheet looked like when it was left: focus, scroll, folds and sort, kept for this browser tab. */
export interface SheetMemory {
  row?: string;
  /** Number of that row, where it stood. */
  at?: number;
  column?: string;
  scroll?: number;
  folded?: string[];
  sort?: string;
}

let awake = false;

/** A page that a server has drawn is taken over as that drew it; only then is anything recalled, which the server cannot. */
export const beginRecalling = (): void => {
  awake = true;
};

const key = (path: string): string => `sheet:${path}`;

export function recall(path: string): SheetMemory {
  if (!awake) return {};
  return held(path);
}

/** Whether a sheet was left somewhere. */
export const isRemembered = (path: string): boolean => Object.keys(held(path)).length > 0;

function held(path: string): SheetMemory {
  try {
    return JSON.parse(window.sessionStorage.getItem(key(path)) ?? '{}') as SheetMemory;
  } catch {
    return {};
  }
}

export function remember(path: string, change: SheetMemory): void {
  if (!awake) return;
  try {
    window.sessionStorage.setItem(key(path), JSON.stringify({ ...recall(path), ...change }));
  } catch {
    // a full or forbidden storage only costs the comfort
  }
}
