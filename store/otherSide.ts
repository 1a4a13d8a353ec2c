import { add } from '@/core/money';
import { type EntryLine, otherSide } from '@/core/otherSide';
import { copiedOf } from './answer';
import { byBooks } from './catalogue';
import { type OtherSideSum, otherSideIn } from './columns/otherSide';
import { type Db, rowsOf } from './db';
import { linesFrom } from './figureSql';
import { accountCodes, asStored, type Question } from './question';

/** An entry of a figure: all its lines, which of them are the figure's, whose it is, and the period in which it counts. */
interface EntryOfFigure {
  lines: EntryLine[];
  chosen: Set<string>;
  entity: string;
  period: number;
}

/** Without the copies by columns, the entries of more lines than this are not read one by one. */
export const ONE_BY_ONE_MAX = 200_000;

/** Where the other half of a figure's entries went, by whose it is, period and account. */
export async function otherSideSums(db: Db, question: Question): Promise<OtherSideSum[]> {
  const copied = copiedOf(db, question);
  if (copied) {
    const codeOf = accountCodes(question);
    const rows = await otherSideIn(copied);
    return rows.map((row) => ({ ...row, account: codeOf.get(row.account) ?? '' }));
  }
  const sums = new Map<string, OtherSideSum>();
  for (const { lines, chosen, entity, period } of await otherSideLines(db, question))
    for (const { account, exact, amount } of otherSide(lines, chosen)) {
      const key = JSON.stringify([entity, period, account, exact]);
      const held = sums.get(key) ?? { entity, period, account, exact, amount: 0 };
      held.amount = add(held.amount, amount);
      sums.set(key, held);
    }
  return [...sums.values()];
}

/** All lines of the entries that a figure's lines belong to, entry by entry. */
async function otherSideLines(db: Db, question: Question): Promise<EntryOfFigure[]> {
  const { sql, bindings } = linesFrom(asStored(question));
  const rows = await rowsOf<{
    entry: number;
    line_no: number;
    account: number;
    entity: number;
    period: number;
    amount: number;
    chosen: boolean;
  }>(
    db,
    `with chosen as materialized (select s.entry, s.line_no ${sql})
     select l.entry, l.line_no, l.account, l.entity, l.day_period as period, l.amount, c.entry is not null as chosen
     from line l left join chosen c on c.entry = l.entry and c.line_no = l.line_no
     where l.entry = any(array(select distinct entry from chosen)) and l.load <= ? and l.replaced_by > ?
     order by l.entry, l.line_no`,
    [...bindings, question.asOf, question.asOf],
  );
  const codeOf = accountCodes(question);
  const entityOf = byBooks(question.catalogue);
  const entries = new Map<number, EntryOfFigure>();
  for (const r of rows) {
    const entry = entries.get(r.entry) ?? {
      lines: [],
      chosen: new Set(),
      entity: entityOf.get(r.entity)?.code ?? '',
      period: r.period,
    };
    entries.set(r.entry, entry);
    const id = `${r.entry}-${r.line_no}`;
    entry.lines.push({ id, account: codeOf.get(r.account) ?? '', amount: r.amount });
    if (r.chosen) entry.chosen.add(id);
  }
  return [...entries.values()];
}
