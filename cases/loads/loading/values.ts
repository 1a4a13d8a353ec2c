import type { FileRecord } from '@/exchange/fileRecord';

/** The cells of one record, by the names of our fields. */
export type Values = FileRecord['values'];
/** Takes down what is wrong with a cell. */
export type Fault = (column: string, message: string) => void;

/** What a cell says, without the spaces around it. */
export const text = (values: Values, column: string): string => (values[column] ?? '').trim();

/** “Fixed; Office” as a list. */
export const listed = (text: string | null): string[] =>
  (text ?? '')
    .split(';')
    .map((part) => part.trim())
    .filter(Boolean);
