import type { z } from 'zod';
import type { newPaperTemplateSchema } from '@/contracts/bodies/all';
import { forbidden, notFound } from '@/contracts/problem';
import { insertPaperTemplate, listPaperTemplates, type PaperTemplateRow, removePaperTemplate } from '@/store/leaving';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { require, type Viewer } from '../asking/viewer';
import { nameTaken } from './reports';

/** Ways in which sheets leave, such as that of the house, kept under names for everybody. */

export const showPaperTemplates = async (ctx: Context, viewer: Viewer) => ({
  rows: (await listPaperTemplates(ctx.write)).map((row) => ({
    ...{ id: row.id, name: row.name, format: row.format, how: row.how, by: row.person_name },
    mayRemove: mayRemove(viewer, row),
  })),
});

/** @throws ProblemError 409 where the name is taken */
export async function keepPaperTemplate(
  ctx: Context,
  viewer: Viewer,
  { name, format, how }: z.infer<typeof newPaperTemplateSchema>,
) {
  require(viewer, 'preparer', 'keep a template');
  await onRecord(ctx, viewer, async (trx, record) => {
    if ((await insertPaperTemplate(trx, { person: viewer.id, name, format, how })) === null) throw nameTaken(name);
    await record('kept a template of how sheets leave', `template ${name}`, { format, how });
  });
  return showPaperTemplates(ctx, viewer);
}

export async function dropPaperTemplate(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const row = (await listPaperTemplates(ctx.write)).find((t) => t.id === id);
  if (!row) throw notFound(`Template ${id}`);
  if (!mayRemove(viewer, row)) throw forbidden(`${row.person_name}, or an owner, takes “${row.name}” away`);
  await onRecord(ctx, viewer, async (trx, record) => {
    await removePaperTemplate(trx, id);
    await record('took a template of how sheets leave away', `template ${row.name}`, {});
  });
}

const mayRemove = (viewer: Viewer, row: PaperTemplateRow): boolean =>
  viewer.role === 'owner' || row.person === viewer.id;
