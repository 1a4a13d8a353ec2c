import { wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import type { Due } from '@/core/columns';
import { add, formatAmount, type Minor } from '@/core/money';
import { commitmentRows } from '@/store/commitments';
import { progressOfOrders } from '@/store/documents';
import type { Context } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import { seesWhole, type Viewer } from '../asking/viewer';
import { lastDayOf, ordersOf } from '../balances/orderedBalances';
import { narrowedTo } from '../balances/plannedBalances';

/** More orders than this are narrowed first. */
const ORDERS_MAX = 5_000;

/**
 * The open orders behind a committed amount (method.md §8: what was ordered less what was delivered), with their sum,
 * which is asked for apart from them.
 */
export async function openOrders(ctx: Context, viewer: Viewer, { due, ...scope }: ScopeParams & { due: Due }) {
  const asked = await resolveFigure(ctx, viewer, scope);
  const members = narrowedTo(asked.figure, asked);
  if (members === null)
    throw wrong('entity', 'orders are of companies, accounts and dimensions; remove the other clauses');
  const { catalogue } = asked.known;
  const text = (amount: Minor): string => formatAmount(amount, asked.digits);
  const rows = [];
  let sum = 0;
  for (const e of asked.books) {
    const day = lastDayOf(asked, e.entity.code);
    const found = await commitmentRows(
      ctx.read,
      { entity: e.entity.id, asOf: asked.asOf, members, accounts: e.own, due: { is: due, day } },
      ORDERS_MAX + 1,
    );
    if (found.length > ORDERS_MAX) throw wrong('accounts', `there are more than ${ORDERS_MAX} orders; name an account`);
    // Documents are of whole books: who sees a part of them reads what the orders themselves say.
    const progress = seesWhole(viewer)
      ? await progressOfOrders(ctx.read, {
          ...{ entity: e.entity.id, numbers: [...new Set(found.map((o) => o.number))] },
          ...{ currency: e.entity.currency, asOf: asked.asOf },
        })
      : [];
    const progressOf = new Map(progress.map((p) => [p.number, p]));
    for (const order of found) {
      const far = progressOf.get(order.number);
      sum = add(sum, order.amount);
      const account = e.entity.accountOf.get(order.account);
      rows.push({
        entity: e.entity.code,
        number: order.number,
        line: order.line_no,
        date: order.date,
        dueDate: order.due_date,
        /** Falls due after the window. */
        later: (order.due_date ?? order.date) > day,
        account: account?.code ?? '',
        accountName: account?.name ?? '',
        counterparty: order.counterparty,
        counterpartyName: order.counterparty_name,
        description: order.description,
        dims: [...catalogue.dimensions.values()].flatMap((d) => {
          const code = d.codeOf.get(order.dims[d.slot - 1] ?? 0);
          return code === undefined
            ? []
            : [{ dimension: d.code, dimensionName: d.name, code, name: d.tree.get(code)?.name ?? code }];
        }),
        ordered: order.ordered === null ? null : text(order.ordered),
        delivered: order.ordered === null ? null : text(add(order.ordered, -order.amount)),
        open: text(order.amount),
        /** By the documents that followed the order as a whole; null where it is not among the documents. */
        received: far ? text(far.received) : null,
        invoiced: far ? text(far.invoiced) : null,
        paid: far ? text(far.paid) : null,
        load: order.load,
      });
    }
  }
  const { whole } = await ordersOf(ctx.read, asked, { figure: asked.figure, due }, { splits: [], trees: new Map() });
  const off = whole === null ? null : add(whole, -sum);
  return {
    sentence: asked.sentence,
    parts: asked.parts,
    address: asked.address,
    currency: asked.currency,
    load: asked.asOf,
    rows,
    total: { orders: rows.length, open: text(whole ?? sum) },
    tie: off === null ? null : { ok: off === 0, offBy: text(off) },
  };
}
