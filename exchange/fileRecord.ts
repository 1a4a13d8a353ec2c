/** One record of a file, by the names of our fields: dates as 2026-04-30, amounts as -1200.50. */
export interface FileRecord {
  row: number;
  values: { [field: string]: string };
}
