import type { Attribute } from '@/core/figure';
import { lineField } from '@/core/lineFields';
import { boundingAccounts, type Question } from '../question';
import { placesOf, upTo } from './legs';
import { type Columns, partName } from './manifest';
import { isTextColumn, textTable } from './shape';
import { among, countedIn, Texts, whole } from './words';

/** So many lines in the order of a text have enough different ones, mostly. */
const LINES_LOOKED_AT = 4_096;
const LIMIT_MS = 5_000;

/**
 * The first different texts that the lines of a split have, in the order of texts.
 * @param after texts that come later than this one; null: from the first on
 * @returns up to `limit` of them; and whether there are no more
 */
export async function membersIn(
  question: Question,
  columns: Columns,
  by: Attribute,
  after: string | null,
  limit: number,
): Promise<{ members: string[]; ended: boolean }> {
  const { column } = lineField(by);
  const found = await Promise.all(
    placesOf(question, columns).map(async (place) => {
      const part = partName(place.part);
      const of = (texts: Texts): string => {
        const accounts = boundingAccounts(question);
        const where = [
          ...countedIn(place, question, texts),
          upTo(question),
          ...(accounts === null ? [] : [among('s.account', accounts.map(whole))]),
          after === null
            ? `s.${column} is not null`
            : `s.${column} > (select coalesce(max(id), -1) from ${part}.${textTable(column)} where body <= ${texts.of(after)})`,
        ];
        return `select s.${column} as k from ${part}.line s where ${where.join(' and ')}`;
      };
      const ask = async (texts: Texts, keys: string) =>
        columns.engine.rows<{ body: string; looked: number }>(
          `with looked as materialized (${keys}) select t.body, (select count(*) from looked) as looked
           from (select distinct k from looked order by k limit ${whole(limit + 1)}) d join ${part}.${textTable(column)} t on t.id = d.k order by d.k`,
          texts.values,
          LIMIT_MS,
        );
      // The lowest numbers of a few thousand lines are found without putting all lines together.
      const texts = new Texts();
      const lines = Math.max(LINES_LOOKED_AT, limit * 8);
      const quick = await ask(texts, `${of(texts)} order by s.${column} limit ${whole(lines)}`);
      if (quick.length > limit || (quick[0]?.looked ?? 0) < lines) return quick.map(({ body }) => body);
      const all = new Texts();
      return (await ask(all, `select distinct k from (${of(all)})`)).map(({ body }) => body);
    }),
  );
  const members = [...new Set(found.flat())].sort(byBytes);
  return { members: members.slice(0, limit), ended: members.length <= limit };
}

/** How many different texts of an attribute the copies have, at the most: parts may have some in common. */
export async function differentIn(question: Question, columns: Columns, by: Attribute): Promise<number> {
  const { column } = lineField(by);
  if (!isTextColumn(column)) return 0;
  const parts = placesOf(question, columns).map(
    ({ part }) => `select texts from ${partName(part)}.different where name = '${column}' and not summed`,
  );
  const [row] = await columns.engine.rows<{ texts: number }>(
    `select sum(texts)::bigint as texts from (${parts.join(' union all ')}) d`,
    [],
    LIMIT_MS,
  );
  return row?.texts ?? 0;
}

/** The order of the characters of texts, as the store has it. */
const byBytes = (a: string, b: string): number => Buffer.compare(Buffer.from(a), Buffer.from(b));
