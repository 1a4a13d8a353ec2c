import type { Split } from '@/core/figure';
import { type LineStats, QUANTITY_DIGITS } from '@/core/lineStats';
import { type Copied, placesOf, windowLines } from './legs';
import { partName } from './manifest';
import { textTable } from './shape';
import { keyIn, keysTold, Texts, whole } from './words';

/** What is told of lines beside their sum, as it comes out of a store. */
export type RecordRow = Record<`key${number}`, string | number | null> &
  Pick<LineStats, 'lines' | 'size' | 'smallest' | 'largest' | 'priced'> & {
    quantity: string;
    /** The least and the greatest unit of lines with a quantity; empty where one has none. */
    first_unit: string | null;
    last_unit: string | null;
  };

/** What is told of the lines of a figure's window beside their sum, by split keys; `recordSums` of the copies. */
export function recordSumsIn(
  { question, columns, limitMs }: Copied,
  splits: readonly Split[],
  limit: number,
): Promise<RecordRow[]> {
  const texts = new Texts();
  const legs = placesOf(question, columns).map((place) => {
    const keys = splits.map((split) => keyIn(split, place, question));
    const part = partName(place.part);
    const units = `${part}.${textTable('unit')}`;
    // A line with a quantity of no unit has the number before all texts.
    const unit = 'case when s.quantity is not null then coalesce(s.unit, -1) end';
    const inner = `select ${keys.map((key, i) => `${key.inner} as k${i}, `).join('')}s.account, count(*) as lines,
        sum(abs(s.amount)) as size, min(abs(s.amount)) as smallest, max(abs(s.amount)) as largest,
        sum(s.quantity) as quantity, sum(s.amount) filter (where s.quantity is not null) as priced,
        min(${unit}) as least, max(${unit}) as most
      from ${part}.line s where ${windowLines(place, question, texts).join(' and ')} group by all`;
    const { told, joined } = keysTold(keys, place, 'g');
    const spoken = (id: string, alias: string): string => `case when ${id} = -1 then '' else ${alias}.body end`;
    return `select ${[...told, 'g.lines'].join(', ')}, g.size, g.smallest, g.largest, g.quantity, g.priced,
        ${spoken('g.least', 'lu')} as first_unit, ${spoken('g.most', 'mu')} as last_unit
      from (${inner}) g join ${columns.accounts} a on a.id = g.account
      left join ${units} lu on lu.id = g.least left join ${units} mu on mu.id = g.most ${joined}`;
  });
  const keys = splits.map((_, i) => `key${i}`);
  return columns.engine.rows<RecordRow>(
    `select ${[...keys, ''].join(', ')} coalesce(sum(lines), 0)::bigint as lines, coalesce(sum(size), 0)::bigint as size,
       min(smallest) as smallest, max(largest) as largest,
       (coalesce(sum(quantity), 0) * ${10 ** QUANTITY_DIGITS})::hugeint::varchar as quantity,
       coalesce(sum(priced), 0)::bigint as priced, min(first_unit) as first_unit, max(last_unit) as last_unit
     from (${legs.join(' union all ')}) s ${keys.length > 0 ? `group by ${keys.join(', ')}` : ''} limit ${whole(limit)}`,
    texts.values,
    limitMs,
  );
}
