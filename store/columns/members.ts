import type { Attribute } from '@/core/figure';
import { lineField } from '@/core/lineFields';
import { type Copied, placesOf, windowLines } from './legs';
import { partName } from './manifest';
import { isTextColumn, textTable } from './shape';
import { type Place, Texts, whole } from './words';

/** So many texts for each member that is wanted are looked at first, and so many times more each time that it was too few. */
const LOOKED_AT = 8;

/**
 * The first different texts that the lines of a split's window have, in the order of texts. They are looked for among the
 * texts that come next, more and more of them, so that the others need not be put together.
 * @param after texts that come later than this one; null: from the first on
 * @returns up to `limit` of them; and whether there are no more
 */
export async function membersIn(
  copied: Copied,
  by: Attribute,
  after: string | null,
  limit: number,
): Promise<{ members: string[]; ended: boolean }> {
  const { column } = lineField(by);
  const found = await Promise.all(
    placesOf(copied.question, copied.columns).map((place) => membersOfPart(copied, place, column, after, limit)),
  );
  const members = [...new Set(found.flat())].sort(byBytes);
  return { members: members.slice(0, limit), ended: members.length <= limit };
}

async function membersOfPart(
  { question, columns: { engine }, limitMs }: Copied,
  place: Place,
  column: string,
  after: string | null,
  limit: number,
): Promise<string[]> {
  const part = partName(place.part);
  const table = `${part}.${textTable(column)}`;
  const ends = new Texts();
  const [span] = await engine.rows<{ last: number | null; before: number | null }>(
    `select max(id) as last, max(id) filter (where ${after === null ? 'false' : `body <= ${ends.of(after)}`}) as before from ${table}`,
    ends.values,
    limitMs,
  );
  const last = span?.last ?? -1;
  const found: string[] = [];
  let from = span?.before ?? -1;
  for (let many = limit * LOOKED_AT; from < last && found.length <= limit; many *= LOOKED_AT) {
    const to = Math.min(last, from + many);
    const texts = new Texts();
    const where = [
      ...windowLines(place, question, texts),
      `s.${column} > ${whole(from)}`,
      `s.${column} <= ${whole(to)}`,
    ];
    const rows = await engine.rows<{ body: string }>(
      `select t.body from (select distinct s.${column} as k from ${part}.line s where ${where.join(' and ')} order by k limit ${whole(limit + 1)}) d
       join ${table} t on t.id = d.k order by t.id`,
      texts.values,
      limitMs,
    );
    found.push(...rows.map(({ body }) => body));
    from = to;
  }
  return found.slice(0, limit + 1);
}

/** How many different texts of an attribute the copies have, at the most: parts may have some in common. */
export async function differentIn({ question, columns, limitMs }: Copied, by: Attribute): Promise<number> {
  const { column } = lineField(by);
  if (!isTextColumn(column)) return 0;
  const parts = placesOf(question, columns).map(
    ({ part }) => `(select count(*) from ${partName(part)}.${textTable(column)})`,
  );
  const [row] = await columns.engine.rows<{ texts: number }>(`select ${parts.join(' + ')} as texts`, [], limitMs);
  return row?.texts ?? 0;
}

/** The order of the characters of texts, as the store has it. */
const byBytes = (a: string, b: string): number => Buffer.compare(Buffer.from(a), Buffer.from(b));
