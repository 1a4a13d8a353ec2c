import type { PanelKind } from '@/contracts/panels';
import { type Db, rowsOf } from './db';

export interface EmbedRow {
  id: number;
  person: number;
  person_name: string;
  report: number;
  report_name: string;
  kind: PanelKind;
  scope: Record<string, string[]>;
  expires_at: Date;
  ended_at: Date | null;
  looks: number;
  looked_at: Date | null;
  at: Date;
}

const READ = `select e.*, p.name as person_name, r.name as report_name
  from embed e join person p on p.id = e.person join report r on r.id = e.report`;

export const listEmbeds = (db: Db): Promise<EmbedRow[]> => rowsOf(db, `${READ} order by e.id desc limit 500`);

export const readEmbed = async (db: Db, id: number): Promise<EmbedRow | null> =>
  (await rowsOf<EmbedRow>(db, `${READ} where e.id = ?`, [id]))[0] ?? null;

export async function insertEmbed(
  db: Db,
  { scope, ...row }: Pick<EmbedRow, 'person' | 'report' | 'kind' | 'scope' | 'expires_at'>,
): Promise<number> {
  const [made] = await db('embed')
    .insert({ ...row, scope: JSON.stringify(scope) })
    .returning('id');
  return (made as { id: number }).id;
}

export const endEmbed = (db: Db, id: number): Promise<number> =>
  db('embed').where({ id, ended_at: null }).update({ ended_at: new Date() });

/** Somebody looked at it. */
export const embedLooked = (db: Db, id: number): Promise<unknown> =>
  db.raw('update embed set looks = looks + 1, looked_at = now() where id = ?', [id]);
