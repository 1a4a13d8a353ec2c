import type { z } from 'zod';
import type { embedOriginsSchema, newEmbedSchema } from '@/contracts/bodies/all';
import { forbidden, notFound, ProblemError } from '@/contracts/problem';
import { panelPage } from '@/exchange/leaves/panelPage';
import { isSigned, signerOf } from '@/exchange/signing';
import { type EmbedRow, embedLooked, endEmbed, insertEmbed, listEmbeds, readEmbed } from '@/store/embeds';
import { personById } from '@/store/people';
import { keepSetting, readSetting } from '@/store/settings';
import type { Context } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { publicAddress } from '../asking/publicAddress';
import { require, type Viewer } from '../asking/viewer';
import { viewerOf } from '../people/viewerOf';
import { panelOf } from './panel';
import { seenReport } from './reports';

/**
 * Panels that pages elsewhere show, without anybody signing in: each under an address that the key of the installation has
 * signed, that ends by itself and can be ended, and that only pages which an owner named may frame. What is shown is what
 * its maker may see when it is asked.
 */

const NAME = 'embeds';
type Origins = z.infer<typeof embedOriginsSchema>;
const DAY_MS = 86_400_000;

export const readEmbedOrigins = async (ctx: Context): Promise<Origins> =>
  (await readSetting<Origins>(ctx.write, NAME)) ?? { origins: [] };

export async function setEmbedOrigins(ctx: Context, viewer: Viewer, { origins }: Origins): Promise<Origins> {
  require(viewer, 'owner', 'say which pages elsewhere may show panels');
  const kept = { origins: [...new Set(origins)] };
  await onRecord(ctx, viewer, async (trx, record) => {
    await keepSetting(trx, NAME, kept, viewer.name);
    await record('said which pages may show panels', NAME, kept);
  });
  return kept;
}

/** One's own, and to an owner all of them. */
export async function showEmbeds(ctx: Context, viewer: Viewer) {
  const rows = await listEmbeds(ctx.write);
  return {
    rows: rows.filter((row) => mayEnd(viewer, row)).map((row) => shown(ctx, viewer, row)),
    ...(await readEmbedOrigins(ctx)),
  };
}

/** @throws ProblemError 409 where no owner has named a page yet */
export async function makeEmbed(
  ctx: Context,
  viewer: Viewer,
  { report, kind, days, scope }: z.infer<typeof newEmbedSchema>,
) {
  require(viewer, 'preparer', 'give a panel an address');
  const row = await seenReport(ctx, viewer, report);
  const { origins } = await readEmbedOrigins(ctx);
  if (origins.length === 0)
    throw new ProblemError(409, 'No page elsewhere may show panels yet', [
      { path: 'report', message: 'an owner names first which may, under Reports, On other pages' },
    ]);
  // What cannot be shown to its maker is shown to nobody.
  await panelOf(ctx, viewer, { report: row, kind, put: scope });
  const expires_at = new Date(Math.ceil((Date.now() + days * DAY_MS) / 1_000) * 1_000);
  const id = await onRecord(ctx, viewer, async (trx, record) => {
    const made = await insertEmbed(trx, { person: viewer.id, report, kind, scope, expires_at });
    await record('gave a panel an address', `report ${report}`, {
      embed: made,
      kind,
      scope,
      until: expires_at.toISOString(),
    });
    return made;
  });
  return shown(ctx, viewer, (await readEmbed(ctx.write, id)) as EmbedRow);
}

export async function endEmbedded(ctx: Context, viewer: Viewer, id: number): Promise<void> {
  const row = await readEmbed(ctx.write, id);
  if (!row) throw notFound(`Embedded panel ${id}`);
  if (!mayEnd(viewer, row)) throw forbidden('Its maker, or an owner, ends the address of a panel');
  await onRecord(ctx, viewer, async (trx, record) => {
    await endEmbed(trx, id);
    await record('ended the address of a panel', `report ${row.report}`, { embed: id });
  });
}

const mayEnd = (viewer: Viewer, row: EmbedRow): boolean => viewer.role === 'owner' || row.person === viewer.id;

const shown = (ctx: Context, viewer: Viewer, row: EmbedRow) => ({
  ...{ id: row.id, report: row.report_name, kind: row.kind, by: row.person_name, at: row.at.toISOString() },
  expires: row.expires_at.toISOString(),
  state: row.ended_at
    ? ('ended' as const)
    : row.expires_at.getTime() < Date.now()
      ? ('expired' as const)
      : ('open' as const),
  ...{ looks: row.looks, looked: row.looked_at?.toISOString() ?? null },
  address: publicAddress(`/embed/${signedAddress(ctx, row)}`),
  mayEnd: mayEnd(viewer, row),
});

const said = (id: number, expires: number): string => `embed/${id}/${expires}`;

/** Its number, when it ends, and the signature over both. */
function signedAddress(ctx: Context, { id, expires_at }: Pick<EmbedRow, 'id' | 'expires_at'>): string {
  const expires = Math.round(expires_at.getTime() / 1_000);
  const signature = Buffer.from(signerOf(ctx.home).sign(said(id, expires)), 'base64').toString('base64url');
  return `${id}.${expires}.${signature}`;
}

/** So long an answer is given again: a page elsewhere may be read by many at once. */
const KEPT_MS = 30_000;
const held = new Map<string, { until: number; answer: Promise<Embedded> }>();

interface Embedded {
  html: string;
  origins: string[];
  /** As whom it was asked. */
  person: string;
}

/** What a page elsewhere shows under an address. @throws ProblemError 404 whatever is wrong with the address, in the same words */
export async function embedded(ctx: Context, address: string, locale: string): Promise<Embedded> {
  const row = await openRow(ctx, address);
  await embedLooked(ctx.write, row.id);
  const key = `${ctx.home} ${address} ${locale}`;
  const kept = held.get(key);
  if (kept && kept.until > Date.now()) return kept.answer;
  for (const [name, { until }] of held) if (until <= Date.now()) held.delete(name);
  const answer = asked(ctx, row, locale);
  held.set(key, { until: Date.now() + KEPT_MS, answer });
  answer.catch(() => held.delete(key));
  return answer;
}

const gone = (): ProblemError => notFound('This panel');

async function openRow(ctx: Context, address: string): Promise<EmbedRow> {
  const [, id = '', expires = '', signature = ''] = /^(\d{1,9})\.(\d{1,12})\.([\w-]{86})$/.exec(address) ?? [];
  if (id === '' || Number(expires) * 1_000 < Date.now()) throw gone();
  const base64 = Buffer.from(signature, 'base64url').toString('base64');
  if (!isSigned(said(Number(id), Number(expires)), base64, signerOf(ctx.home).publicKey)) throw gone();
  const row = await readEmbed(ctx.write, Number(id));
  if (!row || row.ended_at || row.expires_at.getTime() < Date.now()) throw gone();
  return row;
}

async function asked(ctx: Context, row: EmbedRow, locale: string): Promise<Embedded> {
  const { origins } = await readEmbedOrigins(ctx);
  const person = await personById(ctx.write, row.person);
  if (origins.length === 0 || !person || person.suspended_at) throw gone();
  const maker = await viewerOf(person);
  const report = await seenReport(ctx, maker, row.report);
  const panel = await panelOf(ctx, maker, { report, kind: row.kind, put: row.scope });
  return {
    html: panelPage(panel, {
      kind: row.kind,
      locale,
      by: row.person_name,
      at: new Date(),
      live: publicAddress(panel.page),
    }),
    origins,
    person: person.email,
  };
}
