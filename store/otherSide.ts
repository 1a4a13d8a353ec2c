import type { EntryLine } from '@/core/otherSide';
import { byBooks } from './catalogue';
import { type Db, rowsOf } from './db';
import { linesFrom } from './figureSql';
import type { Question } from './question';

/** An entry of a figure: all its lines, which of them are the figure's, whose it is, and the period in which it counts. */
export interface EntryOfFigure {
  lines: EntryLine[];
  chosen: Set<string>;
  entity: string;
  period: number;
}

/** All lines of the entries that a figure's lines belong to, entry by entry. */
export async function otherSideLines(db: Db, question: Question): Promise<EntryOfFigure[]> {
  const { sql, bindings } = linesFrom(question);
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
  const codeOf = new Map(
    question.entities.flatMap((e) => [...e.entity.accountOf].map(([id, a]) => [id, a.code] as const)),
  );
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
