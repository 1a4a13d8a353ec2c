import type { z } from 'zod';
import type { seeAsSchema } from '@/contracts/bodies/all';
import { ProblemError } from '@/contracts/problem';
import { formatAmount } from '@/core/money';
import type { CatalogueEntity } from '@/store/catalogue';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { resolveFigure } from '../asking/resolveFigure';
import { maySee, require, seesWhole, type Viewer } from '../asking/viewer';
import { balancesByAccount, figureTotal } from '../balances/accountBalances';
import { checkGrant } from './people';

/** Accounts that are told one by one. */
const ACCOUNTS_TOLD = 12;

/**
 * What somebody would see with a grant, before it is given: the very questions are asked as they would ask them. On record,
 * since an owner looks at books through it.
 */
export async function seeAs(ctx: Context, by: Viewer, grant: z.infer<typeof seeAsSchema>) {
  require(by, 'owner', 'see as somebody else');
  await checkGrant(ctx, grant);
  const other: Viewer = { id: by.id, name: 'whoever it is given to', email: '', ...grant };
  const { catalogue } = await known(ctx.read);
  const all = [...catalogue.entities.values()];
  const seen = all.filter((e) => maySee(other, e.code));
  const books = await Promise.all(seen.map((entity) => booksAs(ctx, by, other, entity)));
  await onRecord(ctx, by, (_, record) => record('saw as somebody else', 'a grant', grant));
  return { whole: seesWhole(other), books, hidden: all.filter((e) => !maySee(other, e.code)).map((e) => e.name) };
}

async function booksAs(ctx: Context, by: Viewer, other: Viewer, entity: CatalogueEntity) {
  const scope = { entity: [entity.code], window: 'everything' as const, status: 'all' as const, dims: {} };
  const head = { entity: entity.code, name: entity.name, currency: entity.currency };
  const whole = await figureTotal(ctx, await resolveFigure(ctx, by, scope));
  try {
    const asked = await resolveFigure(ctx, other, scope);
    const [total, balances] = await Promise.all([figureTotal(ctx, asked), balancesByAccount(ctx, asked)]);
    const booked = entity.chart.flatMap((account) => {
      const balance = balances.get(account.code);
      return balance && balance.count > 0 ? [{ account, balance }] : [];
    });
    return {
      ...head,
      sentence: asked.sentence,
      lines: total.count,
      of: whole.count,
      accounts: booked.slice(0, ACCOUNTS_TOLD).map(({ account, balance }) => ({
        ...{ code: account.code, name: account.name, closing: formatAmount(balance.closing, asked.digits) },
      })),
      more: Math.max(0, booked.length - ACCOUNTS_TOLD),
    };
  } catch (error) {
    if (!(error instanceof ProblemError)) throw error;
    const problem = error.errors[0]?.message ?? error.message;
    return { ...head, sentence: '', lines: 0, of: whole.count, accounts: [], more: 0, problem };
  }
}
