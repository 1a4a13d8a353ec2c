import type { ReactNode } from 'react';
import type { Measure } from '@/contracts/traced';
import type { Screen, Step } from '../../address/address';
import type { Drafted } from '../../evidence/Draft';
import type { Me } from '../../shell/me';
import type { SheetLink, SheetModel, SheetRow } from '../model';
import type { severalRows } from '../severalRows';

/** What a feature sees of the sheet that it is on, and what it may do there. */
export interface SheetAt {
  me: Me;
  screen: Screen;
  /** Under what the place is remembered. */
  memoryKey: string;
  /** How many steps down from the first sheet. */
  depth: number;
  model: SheetModel;
  /** The focused row, and where the focus is. */
  focused: SheetRow | undefined;
  focus: { row: number; column: number };
  /** Key of the focused column. */
  column: string;
  /** Rows that are chosen together. */
  several: ReturnType<typeof severalRows>;
  /** The focused row, under its column; or the chosen rows as one. */
  row: SheetRow | undefined;
  /** The focused cell's own figure; null where it is calculated from others. */
  cell: { measure?: Measure | undefined } | null | undefined;
  measure: 'movement' | 'closing';
  /** What asks for the row alone. */
  scopeOfRow: URLSearchParams;
  siblings: { go(way: 1 | -1): void };
  /** Keys that the sheet alone has, in place of those that every sheet has. */
  ownKeys: readonly FeatureKey[];
  go(to: Screen): void;
  /** Takes a step from the focused row, which has the focus again on the way back. */
  step(step: Omit<Step, 'row' | 'column'>): void;
  /** Follows a link of the focused row, which has the focus again on the way back. */
  follow(link: SheetLink): void;
  /** To the lines of a part of the focused figure. */
  linesOf(more: Record<string, string[]>, name: string): void;
  focusRow(at: number): void;
  focusCell(): void;
  isOpen(feature: string): boolean;
  open(feature: string): void;
  close(feature: string): void;
  toggle(feature: string): void;
  /** Begins a note, a review point or a question on the focused row. */
  write(kind: Drafted): void;
  /** To the next row below that bears no tick, from the first again after the last. */
  nextUnticked(): void;
  /** The address of the screen, and the thread that is being worked on. */
  address: string;
  thread: number | null;
  pin(subject: string, measure: Measure, label: string): Promise<{ value: string; lines: number }>;
  say(text: string): void;
}

export interface FeatureKey {
  key: string;
  /** What the list of keys says of it; where it is told with another key, that key. */
  says: string | { with: string };
  run(sheet: SheetAt): void;
}

/** One thing that every sheet can do, with all its parts; the frame of the sheet knows none by name. */
export interface SheetFeature {
  name: string;
  keys: readonly FeatureKey[];
  /** Among the tools above the sheet. */
  tool?(sheet: SheetAt): ReactNode;
  /** Below the sheet while it is open; of these one is open at a time. */
  panel?(sheet: SheetAt): ReactNode;
  /** Beside the sheet while it is open. */
  beside?(sheet: SheetAt): ReactNode;
  /** Over the sheet while it is open. */
  dialog?(sheet: SheetAt): ReactNode;
}
