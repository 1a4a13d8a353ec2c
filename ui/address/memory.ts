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

const key = (path: string): string => `sheet:${path}`;

export function recall(path: string): SheetMemory {
  if (typeof window === 'undefined') return {};
  try {
    return JSON.parse(window.sessionStorage.getItem(key(path)) ?? '{}') as SheetMemory;
  } catch {
    return {};
  }
}

export function remember(path: string, change: SheetMemory): void {
  try {
    window.sessionStorage.setItem(key(path), JSON.stringify({ ...recall(path), ...change }));
  } catch {
    // a full or forbidden storage only costs the comfort
  }
}
