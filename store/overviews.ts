import type { Panel } from '@/contracts/panels';
import { type Db, rowsOf } from './db';

export interface OverviewRow {
  id: number;
  person: number;
  person_name: string;
  name: string;
  panels: Panel[];
  scope: Record<string, string[]>;
  shared: boolean;
  removed_at: Date | null;
  at: Date;
}

const READ = 'select o.*, p.name as person_name from overview o join person p on p.id = o.person';

export const listOverviews = (db: Db): Promise<OverviewRow[]> =>
  rowsOf(db, `${READ} where o.removed_at is null order by lower(o.name), o.id`);

export const readOverview = async (db: Db, id: number): Promise<OverviewRow | null> =>
  (await rowsOf<OverviewRow>(db, `${READ} where o.id = ?`, [id]))[0] ?? null;

export type NewOverview = Pick<OverviewRow, 'person' | 'name' | 'panels' | 'scope' | 'shared'>;

/** @returns null where another of the person's own has the name */
export async function insertOverview(
  db: Db,
  { person, name, panels, scope, shared }: NewOverview,
): Promise<number | null> {
  const rows = await rowsOf<{ id: number }>(
    db,
    `insert into overview (person, name, panels, scope, shared) values (?, ?, ?, ?, ?)
     on conflict (person, name) where removed_at is null do nothing returning id`,
    [person, name, JSON.stringify(panels), JSON.stringify(scope), shared],
  );
  return rows[0]?.id ?? null;
}

export const changeOverview = (
  db: Db,
  id: number,
  { panels, scope, ...change }: Partial<NewOverview & Pick<OverviewRow, 'removed_at'>>,
): Promise<unknown> =>
  db('overview')
    .where({ id })
    .update({
      ...change,
      ...(panels ? { panels: JSON.stringify(panels) } : {}),
      ...(scope ? { scope: JSON.stringify(scope) } : {}),
    });
