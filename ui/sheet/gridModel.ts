'use client';

import type { ReactNode } from 'react';

export interface Column {
  key: string;
  label: string;
  /** CSS width of the grid track. */
  width: string;
  amount?: boolean;
  /** Its amounts are percent. */
  percent?: boolean;
  sortable?: boolean;
  /** What the column says, in plain words. */
  hint?: string;
  /** Shown only to who asks for it. */
  onRequest?: boolean;
}

export interface GridRow {
  key: string;
  cells: Record<string, ReactNode>;
  look?: 'heading' | 'quiet' | 'marked' | 'subtotal' | 'total';
  depth?: number;
  /** null: nothing to fold; else whether it is folded. */
  folded?: boolean | null;
  mark?: ReactNode;
  /** What Enter does, said to screen readers; absent where a row cannot be opened further. */
  opens?: boolean;
}

export interface Focus {
  row: number;
  column: number;
}

export interface GridHandle {
  scrollTo(row: number): void;
}
