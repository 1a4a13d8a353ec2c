import type { z } from 'zod';
import type { sourceLinkSchema } from '@/contracts/bodies/all';
import { notFound } from '@/contracts/problem';
import { keepSetting, readSetting } from '@/store/settings';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { maySee, require, type Viewer } from '../asking/viewer';

const NAME = 'source-links';
type Links = Record<string, string>;

const linksOf = async (ctx: Context): Promise<Links> => (await readSetting<Links>(ctx.read, NAME)) ?? {};

/** Where the entries of each company are found in the ledger that they came from; empty where nobody has said. */
export async function readSourceLinks(ctx: Context, viewer: Viewer) {
  const [links, { catalogue }] = await Promise.all([linksOf(ctx), known(ctx.read)]);
  return {
    rows: [...catalogue.entities.values()]
      .filter((e) => maySee(viewer, e.code))
      .map((e) => ({ entity: e.code, name: e.name, link: links[e.code] ?? '' })),
  };
}

/** Says, or takes back, where a company's entries are found. Only an owner does: everybody's browser will be sent there. */
export async function setSourceLink(ctx: Context, viewer: Viewer, { entity, link }: z.infer<typeof sourceLinkSchema>) {
  require(viewer, 'owner', 'say where entries are found');
  if (!(await known(ctx.read)).catalogue.entities.has(entity) || !maySee(viewer, entity))
    throw notFound(`Entity ${entity}`);
  const { [entity]: _former, ...others } = await linksOf(ctx);
  await onRecord(ctx, viewer, async (trx, record) => {
    await keepSetting(trx, NAME, link === '' ? others : { ...others, [entity]: link }, viewer.name);
    await record('said where entries are found', `entity:${entity}`, { link });
  });
  return readSourceLinks(ctx, viewer);
}

/** The address of an entry in its source ledger; null where nobody has said. */
export async function inSource(
  ctx: Context,
  entry: { entity: string; number: string; date: string },
): Promise<string | null> {
  const link = (await linksOf(ctx))[entry.entity];
  if (link === undefined) return null;
  const values: Record<string, string> = { entry: entry.number, entity: entry.entity, date: entry.date };
  return link.replaceAll(/\{(entry|entity|date)\}/g, (_, name: string) => encodeURIComponent(values[name] ?? ''));
}
