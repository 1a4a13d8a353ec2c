import { createWriteStream } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import type { Knex } from 'knex';
import type { PoolClient } from 'pg';
import { to as copyTo } from 'pg-copy-streams';
import { quoted } from './duck';

/** Rows that go from the database to the engine, by way of a file. */

/** Writes the rows of a question into a file. @param sql without bindings, which a copy has no place for */
export async function copyOut(trx: Knex.Transaction, sql: string, path: string): Promise<void> {
  const client = (trx as unknown as { client: { acquireConnection(): Promise<PoolClient> } }).client;
  const connection = await client.acquireConnection();
  await pipeline(
    connection.query(copyTo(`copy (${sql}) to stdout (format csv)`)),
    createWriteStream(path, { mode: 0o600 }),
  );
}

/** Such a file, as rows of the engine. An empty text stands in quotes, and nothing at all without them. */
export const copiedOut = (path: string, types: Readonly<Record<string, string>>): string =>
  `read_csv(${quoted(path)}, auto_detect = false, header = false, delim = ',', quote = '"', escape = '"', nullstr = '',
     allow_quoted_nulls = false, columns = {${Object.entries(types)
       .map(([name, type]) => `${name}: '${type}'`)
       .join(', ')}})`;
