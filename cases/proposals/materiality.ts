import type { z } from 'zod';
import type { materialitySchema } from '@/contracts/bodies/all';
import { notFound, wrong } from '@/contracts/problem';
import { subjectText } from '@/contracts/subject';
import { PERCENT, percentOf } from '@/core/expectation';
import { standTogether } from '@/core/materiality';
import { exponentOf, formatAmount, type Minor } from '@/core/money';
import { addMateriality, type MaterialBasis, type MaterialityRow, readMateriality } from '@/store/materiality';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { canonicalSubject, figureAt, maySeeSubject } from '../asking/subjects';
import { typedAmount } from '../asking/typedAmount';
import { maySee, require, requireBooks, type Viewer } from '../asking/viewer';
import { valueNow } from '../evidence/valueNow';
import { materialAsked } from './material';

/** What is material of a company or of the group in a year (ISA 320): what was said last counts, all of it is kept. */

type Wanted = z.infer<typeof materialitySchema>;

/** What is material, with what was said before. */
export async function materialityOf(
  ctx: Context,
  viewer: Viewer,
  { entity, year, figure }: { entity?: string | undefined; year?: number | undefined; figure?: string | undefined },
) {
  const asked = figure === undefined ? null : await figureAt(ctx, viewer, figure, null);
  const applies = asked && (await materialAsked(ctx, asked));
  const rows = (await readMateriality(ctx.write)).filter(
    (m) =>
      (year === undefined || m.year === year) &&
      (m.entity === null ? viewer.entities === null : maySee(viewer, m.entity)) &&
      (entity === undefined || m.entity === entity || m.entity === null),
  );
  const newest = new Set<string>();
  return {
    applies: applies && {
      overall: formatAmount(applies.overall, asked.digits),
      performance: formatAmount(applies.performance, asked.digits),
      trivial: formatAmount(applies.trivial, asked.digits),
    },
    rows: await Promise.all(
      rows.map(async (m) => {
        const key = `${m.entity ?? ''}/${m.year}`;
        const counts = !newest.has(key);
        newest.add(key);
        return { ...(await shown(ctx, viewer, m)), counts };
      }),
    ),
  };
}

async function shown(ctx: Context, viewer: Viewer, m: MaterialityRow) {
  const text = (amount: Minor): string => formatAmount(amount, exponentOf(m.currency));
  const basis = async (b: MaterialBasis) => {
    const entities = m.entity === null ? [] : [m.entity];
    const seen = b.subject === null || (await maySeeSubject(ctx, viewer, { subject: b.subject, entities }));
    return {
      ...{ subject: seen ? b.subject : null, measure: b.measure, label: b.label, percent: b.percent },
      figure: b.figure === null || !seen ? null : text(b.figure),
      amount: text(b.amount),
    };
  };
  return {
    ...{ id: m.id, entity: m.entity, year: m.year, currency: m.currency },
    ...{ overall: text(m.overall), performance: text(m.performance), trivial: text(m.trivial) },
    basis: await basis(m.basis),
    alternatives: await Promise.all(m.alternatives.map(basis)),
    ...{ reason: m.reason, by: m.person_name, at: m.at.toISOString() },
  };
}

/** Says what is material. @throws ProblemError */
export async function sayMaterial(ctx: Context, viewer: Viewer, wanted: Wanted) {
  require(viewer, 'reviewer', 'say what is material');
  requireBooks(viewer, wanted.entity, 'say what is material');
  const currency = await currencyOf(ctx, wanted);
  const digits = exponentOf(currency);
  const [basis, ...alternatives] = await Promise.all(
    [wanted.basis, ...wanted.alternatives].map((b, i) =>
      basisOf(ctx, viewer, b, currency, i === 0 ? 'basis' : `alternatives.${i - 1}`),
    ),
  );
  const typed = wanted.overall === undefined ? null : typedAmount(wanted.overall, digits, 'overall');
  const overall = typed ?? basis?.amount;
  if (overall === undefined || overall === null)
    throw wrong('overall', 'give an amount, or a figure that it is a percentage of');
  const material = {
    overall: Math.abs(overall),
    performance: partOf(wanted.performance, overall, digits, 'performance'),
    trivial: partOf(wanted.trivial, overall, digits, 'trivial'),
  };
  if (!standTogether(material))
    throw wrong(
      'performance',
      'performance materiality is above nothing and no more than the overall one, and what is trivial no more than that',
    );
  const words = {
    ...{ entity: wanted.entity, year: wanted.year, currency, ...material, reason: wanted.reason },
    basis: basis ?? {
      subject: null,
      measure: 'movement',
      label: '',
      percent: '',
      figure: null,
      amount: material.overall,
    },
    alternatives: alternatives.flatMap((b) => b ?? []),
  };
  await onRecord(ctx, viewer, async (trx, record) => {
    await addMateriality(trx, { ...words, person: viewer.id });
    await record('said what is material', `materiality ${wanted.entity ?? 'group'} ${wanted.year}`, words);
  });
  return materialityOf(ctx, viewer, { entity: wanted.entity ?? undefined });
}

async function currencyOf(ctx: Context, { entity, currency }: Wanted): Promise<string> {
  const { catalogue } = await known(ctx.read);
  if (entity === null) {
    const all = [...new Set([...catalogue.entities.values()].map((e) => e.currency))];
    if (currency !== undefined) return currency;
    if (all.length === 1) return all[0] as string;
    throw wrong('currency', `companies keep their books in ${all.join(', ')}; say in which of them`);
  }
  const own = catalogue.entities.get(entity);
  if (!own) throw notFound(`Entity ${entity}`);
  if (currency !== undefined && currency !== own.currency)
    throw wrong('currency', `${entity} keeps its books in ${own.currency}`);
  return own.currency;
}

async function basisOf(
  ctx: Context,
  viewer: Viewer,
  basis: Wanted['basis'],
  currency: string,
  path: string,
): Promise<MaterialBasis | null> {
  if (basis?.subject === undefined) return null;
  const { measure, label, percent } = basis;
  const subject = subjectText((await canonicalSubject(ctx, viewer, basis.subject)).subject);
  const now = await valueNow(ctx, viewer, subject, measure);
  if (now.value === null) throw wrong(`${path}.subject`, 'the figure has no amount');
  if (now.currency !== currency)
    throw wrong(`${path}.subject`, `the figure is in ${now.currency}, and materiality in ${currency}`);
  const figure = now.value;
  return { subject, measure, label, percent, figure, amount: Math.abs(percentOf(figure, percent)) };
}

/** An amount, or so many percent of the overall one. @throws ProblemError */
function partOf(text: string, overall: Minor, digits: number, path: string): Minor {
  const [, percent] = /^(.+?)\s*%$/.exec(text) ?? [];
  if (percent === undefined) return typedAmount(text, digits, path);
  if (!PERCENT.test(percent)) throw wrong(path, `“${text}” is no percentage; write it like 75%`);
  return percentOf(Math.abs(overall), percent);
}
