import type { Draft } from '@/contracts/answers/proposals';

/** An entry on its way from the sheet on which an error was seen to the page on which it is proposed. */
export interface CarriedDraft {
  draft: Draft;
  /** What it was made of: a figure, or lines. */
  subject: string | null;
  links: string[];
  label: string;
  title: string;
  kind: string;
  thread: number | null;
  /** The sheet, to go back to. */
  back: string;
}

const KEPT = 'proposed-draft';

export const carryDraft = (draft: CarriedDraft): void => window.sessionStorage.setItem(KEPT, JSON.stringify(draft));

/** It stays until another is carried, so that the page can be loaded anew. */
export function carriedDraft(): CarriedDraft | null {
  try {
    return JSON.parse(window.sessionStorage.getItem(KEPT) ?? 'null') as CarriedDraft | null;
  } catch {
    return null;
  }
}

export const dropDraft = (): void => window.sessionStorage.removeItem(KEPT);
