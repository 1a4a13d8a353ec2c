import type { LeafFormat } from '@/contracts/leaves';
import type { How } from '@/contracts/leaving';
import type { RichText } from '@/contracts/richText';
import { type Db, rowsOf } from './db';

/** A file that was made at length, or is being made. */
export interface TakenOutRow {
  id: number;
  person: number;
  title: string;
  path: string;
  format: LeafFormat | 'zip';
  how: How;
  job: number | null;
  file_name: string | null;
  media_type: string | null;
  digest: string | null;
  bytes: number | null;
  at: Date;
  made_at: Date | null;
}

const MADE =
  'id, person, title, path, format, how, job, file_name, media_type, digest, bytes::float8 as bytes, at, made_at';

export const insertTakenOut = async (
  db: Db,
  {
    how,
    ...row
  }: Pick<TakenOutRow, 'person' | 'title' | 'path' | 'format' | 'how'> &
    Partial<Pick<TakenOutRow, 'file_name' | 'media_type' | 'digest' | 'bytes' | 'made_at'>>,
): Promise<number> => {
  const [made] = (await db('taken_out')
    .insert({ ...row, how: JSON.stringify(how) })
    .returning('id')) as { id: number }[];
  return (made as { id: number }).id;
};

export const takenOut = async (db: Db, id: number): Promise<TakenOutRow | null> =>
  (await rowsOf<TakenOutRow>(db, `select ${MADE} from taken_out where id = ?`, [id]))[0] ?? null;

export const takenOutOf = (db: Db, person: number, limit: number): Promise<TakenOutRow[]> =>
  rowsOf(db, `select ${MADE} from taken_out where person = ? order by id desc limit ?`, [person, limit]);

export const changeTakenOut = (
  db: Db,
  id: number,
  change: Partial<Pick<TakenOutRow, 'job' | 'title' | 'file_name' | 'media_type' | 'digest' | 'bytes' | 'made_at'>>,
): Promise<unknown> => db('taken_out').where({ id }).update(change);

/** Lets go of files that were made so long ago; that they were is on record. */
export const forgetTakenOut = (db: Db, days: number): Promise<unknown> =>
  db.raw(`delete from taken_out where at < now() - make_interval(days => ?)`, [days]);

/** A sheet as it was, under a name that nobody guesses. */
export interface FrozenRow {
  id: string;
  person: number;
  person_name: string;
  title: string;
  path: string;
  page: string;
  sentence: string;
  address: string;
  load: number;
  digest: string;
  content: unknown;
  at: Date;
}

export const insertFrozen = async (db: Db, { content, ...row }: Omit<FrozenRow, 'at'>): Promise<void> => {
  await db('frozen').insert({ ...row, content: JSON.stringify(content) });
};

export const readFrozen = async (db: Db, id: string): Promise<FrozenRow | null> =>
  (await rowsOf<FrozenRow>(db, 'select * from frozen where id = ?', [id]))[0] ?? null;

export const listFrozen = (db: Db, limit: number): Promise<Omit<FrozenRow, 'content'>[]> =>
  rowsOf(
    db,
    'select id, person, person_name, title, path, page, sentence, address, load, digest, at from frozen order by at desc limit ?',
    [limit],
  );

/** A sheet that is kept with how it leaves. */
export interface ReportRow {
  id: number;
  person: number;
  person_name: string;
  name: string;
  folder: string;
  path: string;
  page: string;
  format: LeafFormat;
  how: How;
  shared: boolean;
  version: number;
  removed_at: Date | null;
  at: Date;
}

const REPORT = 'select r.*, p.name as person_name from report r join person p on p.id = r.person';

export const listReports = (db: Db): Promise<ReportRow[]> =>
  rowsOf(db, `${REPORT} where r.removed_at is null order by lower(r.folder), lower(r.name), r.id`);

export const readReport = async (db: Db, id: number): Promise<ReportRow | null> =>
  (await rowsOf<ReportRow>(db, `${REPORT} where r.id = ?`, [id]))[0] ?? null;

export type NewReport = Pick<ReportRow, 'person' | 'name' | 'folder' | 'path' | 'page' | 'format' | 'how' | 'shared'>;

/** @returns null where another of the person's own has the name */
export async function insertReport(db: Db, { how, ...report }: NewReport): Promise<number | null> {
  const rows = await rowsOf<{ id: number }>(
    db,
    `insert into report (person, name, folder, path, page, format, how, shared) values (?, ?, ?, ?, ?, ?, ?, ?)
     on conflict (person, name) where removed_at is null do nothing returning id`,
    [
      ...[report.person, report.name, report.folder, report.path, report.page, report.format],
      JSON.stringify(how),
      report.shared,
    ],
  );
  return rows[0]?.id ?? null;
}

export const changeReport = (
  db: Db,
  id: number,
  { how, ...change }: Partial<NewReport & Pick<ReportRow, 'version' | 'removed_at'>>,
): Promise<unknown> =>
  db('report')
    .where({ id })
    .update({ ...change, ...(how ? { how: JSON.stringify(how) } : {}) });

export const keepReportVersion = async (
  db: Db,
  { id, version, path, page, format, how }: Pick<ReportRow, 'id' | 'version' | 'path' | 'page' | 'format' | 'how'>,
  by: { id: number; name: string },
): Promise<void> => {
  await db('report_version').insert({
    ...{ report: id, version, path, page, format, how: JSON.stringify(how) },
    ...{ person: by.id, person_name: by.name },
  });
};

export interface ReportVersionRow extends Pick<ReportRow, 'version' | 'path' | 'page' | 'format' | 'how'> {
  person_name: string;
  at: Date;
}

export const reportVersions = (db: Db, report: number): Promise<ReportVersionRow[]> =>
  rowsOf(
    db,
    'select version, path, page, format, how, person_name, at from report_version where report = ? order by version desc',
    [report],
  );

/** Reports in an order, with a front page, which one change of scope drives. */
export interface PackRow {
  id: number;
  person: number;
  person_name: string;
  name: string;
  words: RichText | null;
  reports: number[];
  units: string | null;
  scope: Record<string, string[]>;
  shared: boolean;
  removed_at: Date | null;
  at: Date;
}

const PACK = 'select k.*, p.name as person_name from pack k join person p on p.id = k.person';

export const listPacks = (db: Db): Promise<PackRow[]> =>
  rowsOf(db, `${PACK} where k.removed_at is null order by lower(k.name), k.id`);

export const readPack = async (db: Db, id: number): Promise<PackRow | null> =>
  (await rowsOf<PackRow>(db, `${PACK} where k.id = ?`, [id]))[0] ?? null;

export type NewPack = Pick<PackRow, 'person' | 'name' | 'words' | 'reports' | 'units' | 'scope' | 'shared'>;

export async function insertPack(db: Db, pack: NewPack): Promise<number | null> {
  const rows = await rowsOf<{ id: number }>(
    db,
    `insert into pack (person, name, words, reports, units, scope, shared) values (?, ?, ?, ?, ?, ?, ?)
     on conflict (person, name) where removed_at is null do nothing returning id`,
    [
      ...[pack.person, pack.name, pack.words && JSON.stringify(pack.words), pack.reports],
      ...[pack.units, JSON.stringify(pack.scope), pack.shared],
    ],
  );
  return rows[0]?.id ?? null;
}

export const changePack = (
  db: Db,
  id: number,
  { words, scope, ...change }: Partial<NewPack & Pick<PackRow, 'removed_at'>>,
): Promise<unknown> =>
  db('pack')
    .where({ id })
    .update({
      ...change,
      ...(words === undefined ? {} : { words: words && JSON.stringify(words) }),
      ...(scope ? { scope: JSON.stringify(scope) } : {}),
    });

export interface PaperTemplateRow {
  id: number;
  person: number;
  person_name: string;
  name: string;
  format: LeafFormat;
  how: How;
  at: Date;
}

export const listPaperTemplates = (db: Db): Promise<PaperTemplateRow[]> =>
  rowsOf(
    db,
    'select t.*, p.name as person_name from paper_template t join person p on p.id = t.person order by lower(t.name)',
  );

/** @returns null where the name is taken */
export async function insertPaperTemplate(
  db: Db,
  { how, ...row }: Pick<PaperTemplateRow, 'person' | 'name' | 'format' | 'how'>,
): Promise<number | null> {
  const [made] = await rowsOf<{ id: number }>(
    db,
    `insert into paper_template (person, name, format, how) values (?, ?, ?, ?)
     on conflict (lower(name)) do nothing returning id`,
    [row.person, row.name, row.format, JSON.stringify(how)],
  );
  return made?.id ?? null;
}

export const removePaperTemplate = (db: Db, id: number): Promise<number> => db('paper_template').where({ id }).delete();
