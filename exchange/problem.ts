/** One thing that is wrong in a file: where, what was there, and a sentence that says how to mend it. */
export interface Problem {
  /** Row as a spreadsheet counts it, the header being row 1; null when it is the file as a whole. */
  row: number | null;
  column: string | null;
  value: string | null;
  message: string;
}

/** Problems kept with their text; beyond it only their number is kept. */
export const PROBLEMS_KEPT = 1_000;

/** Gathers problems without ever growing past what is kept. */
export class Problems {
  readonly kept: Problem[] = [];
  count = 0;

  add(row: number | null, column: string | null, value: string | null, message: string): void {
    this.count += 1;
    if (this.kept.length < PROBLEMS_KEPT) {
      this.kept.push({ row, column, value: value === null ? null : value.slice(0, 200), message });
    }
  }
}
