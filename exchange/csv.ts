import { createReadStream } from 'node:fs';
import { open } from 'node:fs/promises';
import { Transform } from 'node:stream';
import { parse } from 'csv-parse';
import { nearest } from '@/core/selection';
import type { Problems } from './problem';

/** One record of a delimited file, by column name. */
export interface Record {
  row: number;
  values: { [column: string]: string };
}

/** What a table of one kind looks like: the columns that must be there and those that may be. */
export interface Columns {
  required: readonly string[];
  /** Groups of columns of which at least one group must be whole: debit and credit, or amount. */
  anyOf?: readonly (readonly string[])[];
  known: readonly string[];
  /** Prefixes of open-ended columns, such as `dim:`. */
  prefixes: readonly string[];
}

const DELIMITERS = [',', ';', '\t', '|'] as const;
const HEAD_BYTES = 65_536;

/**
 * Reads a CSV (RFC 4180) file record by record, delimiter recognised from its header, UTF-8 with or without BOM.
 * Problems of the file itself end the reading; a ragged row is a problem of its row, and reading goes on.
 * @param onBytes told of every chunk read, for progress
 */
export async function* readCsv(path: string, columns: Columns, problems: Problems, onBytes: (bytes: number) => void = () => {}): AsyncGenerator<Record> {
  const delimiter = await sniff(path, problems);
  if (delimiter === null) return;
  let header: string[] | null = null;
  const counted = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      onBytes(chunk.length);
      done(null, chunk);
    },
  });
  const parser = parse({ delimiter, bom: true, relax_column_count: true, relax_quotes: false });
  const source = createReadStream(path);
  source.on('error', (error) => parser.destroy(error));
  source.pipe(counted).pipe(parser);
  try {
    let row = 0;
    for await (const record of parser as AsyncIterable<string[]>) {
      row += 1;
      if (record.length === 1 && record[0] === '') continue; // an empty row
      if (header === null) {
        header = record.map((h) => h.trim());
        if (!checkHeader(header, columns, problems)) return;
        continue;
      }
      if (record.length !== header.length) {
        problems.add(
          row,
          null,
          record.join(delimiter),
          `this row has ${record.length} fields, the header has ${header.length}; look for a missing quote or delimiter`,
        );
        continue;
      }
      const values: { [column: string]: string } = {};
      for (let i = 0; i < header.length; i++) values[header[i] as string] = record[i] as string;
      yield { row, values };
    }
  } catch (error) {
    const { message, lines } = error as Error & { lines?: number };
    problems.add(lines ?? null, null, null, `the file cannot be read as CSV here: ${message}; mend the quotes or save it as CSV again`);
    return;
  } finally {
    source.destroy();
  }
  if (header === null) problems.add(null, null, null, 'the file is empty; it needs a header row and records');
}

/** Looks at the head of the file: text at all, which encoding, which delimiter. */
async function sniff(path: string, problems: Problems): Promise<string | null> {
  const file = await open(path);
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    const head = buffer.subarray(0, bytesRead);
    if (head.length === 0) {
      problems.add(null, null, null, 'the file is empty; it needs a header row and records');
      return null;
    }
    if (head.includes(0)) {
      problems.add(null, null, null, 'this is no text file in UTF-8 (it holds binary data); save it as CSV, UTF-8');
      return null;
    }
    const text = utf8(head, bytesRead === HEAD_BYTES);
    if (text === null) {
      problems.add(null, null, null, 'the file is not in UTF-8; save it as CSV, UTF-8');
      return null;
    }
    const first = text.replace(/^\ufeff/, '').split(/\r?\n/, 1)[0] ?? '';
    const ranked = DELIMITERS.map((d) => ({ d, n: first.split(d).length })).sort((a, b) => b.n - a.n);
    return ranked[0]?.d ?? ',';
  } finally {
    await file.close();
  }
}

/** Text of a buffer, or null if it is no UTF-8. A character cut in two at the end is forgiven. */
function utf8(head: Buffer, cut: boolean): string | null {
  const decoder = new TextDecoder('utf-8', { fatal: true });
  try {
    return decoder.decode(head, { stream: cut });
  } catch {
    return null;
  }
}

function checkHeader(header: string[], columns: Columns, problems: Problems): boolean {
  const before = problems.count;
  const has = (name: string): boolean => header.includes(name);
  for (const name of columns.required) {
    if (has(name)) continue;
    const near = nearest(name, header);
    problems.add(1, name, null, `the column “${name}” is missing${near.length ? `; is it “${near[0]}”?` : ''}`);
  }
  if (columns.anyOf && !columns.anyOf.some((group) => group.every(has))) {
    const ways = columns.anyOf.map((group) => group.map((c) => `“${c}”`).join(' and ')).join(', or ');
    problems.add(1, columns.anyOf[0]?.find((c) => !has(c)) ?? null, null, `the file needs the columns ${ways}`);
  }
  const seen = new Set<string>();
  for (const name of header) {
    if (seen.has(name)) problems.add(1, name, name, `the column “${name}” stands twice in the header`);
    seen.add(name);
    if (columns.known.includes(name) || columns.prefixes.some((p) => name.startsWith(p) && name.length > p.length)) continue;
    const near = nearest(name, columns.known);
    problems.add(1, name, name, `there is no column “${name}”${near.length ? `; is it “${near[0]}”?` : '; take it out or rename it'}`);
  }
  return problems.count === before;
}
