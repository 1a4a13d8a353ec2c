import { type DuckDBConnection, DuckDBInstance, type DuckDBValue } from '@duckdb/node-api';
import { exact } from '@/core/money';

/** What the stage of a load and the copies by columns have of the engine in common. */

/** What is let go goes back to the machine soon: the process has other work too. */
export const FRUGAL = {
  allocator_flush_threshold: '16MB',
  allocator_bulk_deallocation_flush_threshold: '16MB',
  allocator_background_threads: 'true',
};

/** Opens a database of the engine, which fetches nothing from anywhere. @param path :memory: for one without a file */
export const openDuck = (path: string, settings: Readonly<Record<string, string>>): Promise<DuckDBInstance> =>
  DuckDBInstance.create(path, {
    ...settings,
    autoinstall_known_extensions: 'false',
    autoload_known_extensions: 'false',
  });

/** Rows of a question to the engine; whole numbers come as exact integers. The caller names their shape. */
export async function duckRows<Row>(
  connection: DuckDBConnection,
  sql: string,
  values: readonly DuckDBValue[] = [],
): Promise<Row[]> {
  const rows = (await connection.runAndReadAll(sql, [...values])).getRowObjects();
  for (const row of rows)
    for (const [name, value] of Object.entries(row)) if (typeof value === 'bigint') row[name] = exact(Number(value));
  return rows as Row[];
}

/** A text as it stands in a question to the engine. */
export const quoted = (text: string): string => `'${text.replaceAll("'", "''")}'`;
