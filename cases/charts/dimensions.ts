import type { MemberRow } from '@/contracts/answers/charts';
import { notFound, wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import type { Split } from '@/core/figure';
import { languagesOf } from '@/core/ledger';
import { add, formatAmount } from '@/core/money';
import { inTreeOrder } from '@/core/tree';
import { splitSums } from '@/store/balances';
import { touchCatalogue } from '@/store/catalogue';
import { renameMember } from '@/store/charts';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { resolveFigure } from '../asking/resolveFigure';
import { require, requireBooks, type Viewer } from '../asking/viewer';
import { checkedName } from './checkedName';
import { seenMembers } from './seenChart';

/** The same for a member of a dimension. */
export async function nameMember(
  ctx: Context,
  viewer: Viewer,
  code: string,
  wanted: { dimension: string; language: string | null; name: string | null },
): Promise<void> {
  require(viewer, 'preparer', 'mend names');
  requireBooks(viewer, null, 'mend the names of members');
  const { catalogue } = await known(ctx.write);
  const id = catalogue.dimensions.get(wanted.dimension)?.members.get(code);
  if (id === undefined) throw notFound(`Member ${code} of ${wanted.dimension}`);
  const name = checkedName(wanted);
  await onRecord(ctx, viewer, async (trx, record) => {
    await renameMember(trx, id, wanted.language, name);
    await record('named a member', `member ${wanted.dimension}/${code}`, { language: wanted.language, to: name });
    await touchCatalogue(trx);
  });
}

/** Dimensions with their trees: each member with its lines and movement of the scope, those beneath it included. */
export async function readDimensions(ctx: Context, viewer: Viewer, scope: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, scope);
  const [entity] = asked.entities;
  if (!entity || asked.entities.length !== 1) throw wrong('entity', 'name one entity, whose lines are counted');
  const members = await seenMembers(ctx, viewer, asked.known);
  const dimensions = [];
  for (const d of asked.known.catalogue.dimensions.values()) {
    const own = new Map<string, { count: number; debit: number; credit: number }>();
    const split: Split = { by: 'dim', dim: d.code, under: null };
    const { db, question } = await asked.ask(ctx, [split]);
    for (const s of await splitSums(db, question, [split])) {
      if (!s.own || s.part < 2 || s.keys[0] === null) continue;
      const held = own.get(s.keys[0] as string) ?? { count: 0, debit: 0, credit: 0 };
      own.set(s.keys[0] as string, {
        count: held.count + s.count,
        debit: held.debit + s.debit,
        credit: held.credit + s.credit,
      });
    }
    const mine = members.filter((m) => m.dimension === d.id);
    const languages = languagesOf(mine);
    const rows = inTreeOrder(mine, () => true).map(({ row: m, depth, beneath }): MemberRow => {
      const sum = { count: 0, debit: 0, credit: 0 };
      for (const { code } of beneath) for (const key of SUMMED) sum[key] = add(sum[key], own.get(code)?.[key] ?? 0);
      return {
        code: m.code,
        name: m.name,
        names: m.names,
        parent: m.parent,
        depth,
        validFrom: m.valid_from,
        validTo: m.valid_to,
        groups: m.groups,
        missing: languages.filter((l) => !m.names[l]),
        count: sum.count,
        debit: formatAmount(sum.debit, asked.digits),
        credit: formatAmount(sum.credit, asked.digits),
        movement: formatAmount(add(sum.debit, 0 - sum.credit), asked.digits),
      };
    });
    dimensions.push({ code: d.code, name: d.name, languages, rows });
  }
  return {
    entity: entity.code,
    currency: asked.currency,
    sentence: asked.sentence,
    parts: asked.parts,
    address: asked.address,
    dimensions,
  };
}

const SUMMED = ['count', 'debit', 'credit'] as const;
