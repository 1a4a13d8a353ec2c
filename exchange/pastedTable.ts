import { parse } from 'csv-parse/sync';

/** A table that somebody pasted, or a small file: its heads, and its rows with their numbers. */
export interface PastedTable {
  heads: string[];
  rows: { row: number; cells: string[] }[];
}

const DELIMITERS = ['\t', ';', ',', '|'] as const;

/** Reads a table as text: by tabs as spreadsheets copy it, else by whatever divides its first row into most cells. @throws Error */
export function pastedTable(text: string): PastedTable {
  const [first = ''] = text.replace(/^\uFEFF/, '').split(/\r?\n/);
  const delimiter = first.includes('\t')
    ? '\t'
    : DELIMITERS.reduce((best, d) => (first.split(d).length > first.split(best).length ? d : best));
  const found = parse(text, {
    ...{ bom: true, delimiter, info: true, relax_column_count: true, skip_empty_lines: true },
    // A quotation mark that a spreadsheet copied along is a letter.
    relax_quotes: true,
  }) as unknown as { record: string[]; info: { lines: number } }[];
  const [head, ...rows] = found;
  return {
    heads: (head?.record ?? []).map((cell) => cell.trim()),
    rows: rows
      .map(({ record, info }) => ({ row: info.lines, cells: record.map((cell) => cell.trim()) }))
      .filter(({ cells }) => cells.some((cell) => cell !== '')),
  };
}
