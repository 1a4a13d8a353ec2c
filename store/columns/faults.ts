import { type Db, rowsOf } from '../db';
import type { ColumnEngine } from './engine';
import { type Part, partName } from './manifest';

interface Sum {
  account: number;
  period: number;
  load: number;
  replaced_by: number;
  status: number;
  lines: number;
  debit: number;
  credit: number;
  /** Something of every other number that a line names others by. */
  rest: number;
}

const KEYS = 'account, period, load, replaced_by, status';
const REST = 'sum(entry::bigint + line_no + d1 + d2 + d3 + d4 + d5 + d6 + d7 + d8 + kind)::bigint as rest';

/**
 * Holds the copy of books against their lines, by account, period, load and the load that replaced them.
 * @returns how many of those sums differ, and how many lines there are
 */
export async function faultsOfCopy(
  db: Db,
  engine: ColumnEngine,
  books: number,
  parts: readonly Part[],
): Promise<{ faults: number; lines: number }> {
  const told = (sums: readonly Sum[]): Map<string, string> =>
    new Map(
      sums.map(({ account, period, load, replaced_by, status, ...s }) => [
        [account, period, load, replaced_by, status].join(' '),
        [s.lines, s.debit, s.credit, s.rest].join(' '),
      ]),
    );
  await engine.open(parts);
  const copied = await engine.rows<Sum>(
    parts
      .map(
        (part) =>
          `select ${KEYS}, count(*) as lines, sum(debit)::bigint as debit, sum(credit)::bigint as credit, ${REST} from ${partName(part)}.line group by all`,
      )
      .join(' union all '),
    [],
    null,
  );
  const stored = await rowsOf<Sum>(
    db,
    `select ${KEYS}, count(*) as lines, sum(case when side = 1 then amount else 0 end)::bigint as debit,
       sum(case when side = 1 then 0 else -amount end)::bigint as credit, ${REST}
     from line where entity = ? group by ${KEYS}`,
    [books],
  );
  const [mine, theirs] = [told(copied), told(stored)];
  const keys = new Set([...mine.keys(), ...theirs.keys()]);
  return {
    faults: [...keys].filter((key) => mine.get(key) !== theirs.get(key)).length,
    lines: stored.reduce((n, s) => n + s.lines, 0),
  };
}
