import { type Db, rowsOf } from './db';

/** What is material of a company, or of the group, in a fiscal year: what was said last counts, all of it is kept. */

export interface MaterialBasis {
  subject: string | null;
  measure: string;
  label: string;
  percent: string;
  /** In minor units; null where it was typed. */
  figure: number | null;
  amount: number;
}

export interface MaterialityWords {
  entity: string | null;
  year: number;
  currency: string;
  overall: number;
  performance: number;
  trivial: number;
  basis: MaterialBasis;
  alternatives: MaterialBasis[];
  reason: string;
}
export type MaterialityRow = MaterialityWords & { id: number; person_name: string; at: Date };

export const readMateriality = (db: Db): Promise<MaterialityRow[]> =>
  rowsOf(
    db,
    `select m.id, m.entity, m.year, m.currency, m.overall, m.performance, m.trivial, m.basis, m.alternatives, m.reason, m.at,
       p.name as person_name
     from materiality m join person p on p.id = m.person order by m.id desc`,
  );

export const addMateriality = (
  db: Db,
  { basis, alternatives, ...row }: MaterialityWords & { person: number },
): Promise<unknown> =>
  db('materiality').insert({ ...row, basis: JSON.stringify(basis), alternatives: JSON.stringify(alternatives) });
