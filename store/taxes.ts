import { answerOf } from './answer';
import { type Db, NEVER, rowsOf } from './db';
import { linesFrom } from './figureSql';
import type { Question } from './question';

export interface TaxCodeRow {
  entity: number;
  code: string;
  name: string;
  /** Where its tax goes, and where the amounts that it is on go; empty: nowhere. */
  box: string;
  net_box: string;
}

/** The tax codes of entities as of a load, in their order. */
export const taxCodesOf = (db: Db, entities: readonly number[], asOf: number): Promise<TaxCodeRow[]> =>
  rowsOf(
    db,
    `select entity, code, name, box, net_box from tax_code where entity = any(?::smallint[]) and load <= ? and replaced_by > ? order by entity, code`,
    [entities, asOf, asOf],
  );

/** Whether a company has tax codes to make a return of. */
export const hasTaxCodes = async (db: Db, entity: number): Promise<boolean> =>
  (await db('tax_code').where({ entity, replaced_by: NEVER }).first('id')) !== undefined;

/** A tax amount, as it was written on a line. */
const WRITTEN = '^[+-]{0,1}[0-9]+([.][0-9]+){0,1}$';

/** Amounts of lines with a tax code and the tax on them, by code; tax is on the side of its line. In minor units. @param digits decimals of the books */
export const taxSums = (
  db: Db,
  question: Question,
  digits: number,
): Promise<{ entity: number; code: string; net: number; tax: number; lines: number }[]> => {
  const lines = linesFrom(question, { bodies: ['tax_code'] });
  // In the copies a tax amount is a number already, without its sign.
  const [code, tax] = lines.columns
    ? ['s.tax_code', 's.tax_units']
    : [
        `s.extra->>'tax_code'`,
        `case when s.extra->>'tax_amount' ~ '${WRITTEN}' then abs((s.extra->>'tax_amount')::numeric) end`,
      ];
  return answerOf(
    db,
    lines,
    `select s.entity, ${code} as code, sum(s.amount)::bigint as net, count(*)::integer as lines,
       coalesce(round(sum(sign(s.amount) * ${tax}) * ${10 ** digits}), 0)::bigint as tax
     ${lines.sql} and ${code} is not null group by 1, 2 order by 1, 2`,
  );
};
