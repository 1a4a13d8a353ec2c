import { notFound } from '@/contracts/problem';
import { isPromising, progressOf } from '@/core/chain';
import { exponentOf, formatAmount } from '@/core/money';
import { readSearch } from '@/core/searchWords';
import type { Db } from '@/store/db';
import {
  documentKinds,
  documentRegister,
  documentsNotDelivered,
  type RegisterAsked,
  type RegisterRow,
} from '@/store/documentRegister';
import { type Context, known } from '../asking/context';
import { maySee, requireWhole, type Viewer } from '../asking/viewer';
import { documentHead } from './documentHead';

interface RegisterParams {
  entity: string;
  type?: string[] | undefined;
  party?: string | undefined;
  words?: string | undefined;
  from?: string | undefined;
  to?: string | undefined;
  only: 'all' | 'no-entry' | 'not-delivered';
  limit: number;
  after: number;
}

/**
 * Every document of a company, the newest first: orders, estimates and contracts too, which are never booked. Those of which
 * nothing was booked, and those that lines name and nobody delivered, are findings.
 */
export async function readRegister(ctx: Context, viewer: Viewer, params: RegisterParams) {
  requireWhole(viewer, 'Documents are');
  const { catalogue, newest } = await known(ctx.read);
  const entity = catalogue.entities.get(params.entity);
  if (!entity || !maySee(viewer, params.entity)) throw notFound(`Entity ${params.entity}`);
  const asked = {
    entity: entity.id,
    asOf: newest,
    types: params.type ?? null,
    party: params.party ?? null,
    words: readSearch(params.words ?? '', ctx.today()),
    from: params.from ?? null,
    to: params.to ?? null,
    unbooked: params.only === 'no-entry',
    limit: params.limit,
    offset: params.after,
  };
  // What is looked for among lines may take its time where these are very many.
  const db = params.only === 'all' ? ctx.read : ctx.patient;
  const [kinds, { rows, count }] = await Promise.all([
    documentKinds(ctx.read, asked),
    params.only === 'not-delivered' ? notDelivered(db, asked, entity.currency) : delivered(db, asked),
  ]);
  const end = params.after + params.limit;
  return { entity: entity.code, load: newest, kinds, count, rows, next: end < count ? end : null };
}

async function delivered(db: Db, asked: RegisterAsked) {
  const { rows, count } = await documentRegister(db, asked);
  return { rows: rows.map(shownRow), count };
}

async function notDelivered(db: Db, asked: RegisterAsked, currency: string) {
  const { rows, count } = await documentsNotDelivered(db, asked);
  const nothing = formatAmount(0, exponentOf(currency));
  return {
    rows: rows.map(({ lines, ...r }) => ({
      ...documentHead({ ...r, type: r.type ?? '', currency }),
      ...{ value: null, open: nothing, state: 'not delivered', promising: false, lines },
    })),
    count,
  };
}

export function shownRow(r: RegisterRow) {
  const digits = exponentOf(r.currency);
  const { value, open, state } = progressOf(r, { changed: r.changed ?? 0, used: r.used, settles: r.settles });
  return {
    ...documentHead(r),
    value: r.changed === null ? null : formatAmount(value, digits),
    open: formatAmount(open, digits),
    state,
    promising: isPromising(r.type),
    lines: null,
  };
}
