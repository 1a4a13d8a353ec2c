import type { MemberRow } from '@/contracts/answers/charts';
import { notFound, wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { formatAmount } from '@/core/money';
import { splitSums } from '@/store/balances';
import { touchCatalogue } from '@/store/catalogue';
import { readMembers, renameMember } from '@/store/charts';
import { type Context, known } from '../asking/context';
import { onRecord } from '../asking/onRecord';
import { resolveFigure } from '../asking/resolveFigure';
import { require, type Viewer } from '../asking/viewer';
import { checkedName } from './checkedName';

/** The same for a member of a dimension. */
export async function nameMember(
  ctx: Context,
  viewer: Viewer,
  code: string,
  wanted: { dimension: string; language: string | null; name: string | null },
): Promise<void> {
  require(viewer, 'preparer', 'mend names');
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
  const members = await readMembers(ctx.read);
  const dimensions = [];
  for (const d of asked.known.catalogue.dimensions.values()) {
    const own = new Map<string, { count: number; debit: number; credit: number }>();
    for (const s of await splitSums(ctx.read, asked.question, [{ by: 'dim', dim: d.code, under: null }])) {
      if (!s.own || s.part < 2 || s.keys[0] === null) continue;
      const held = own.get(s.keys[0] as string) ?? { count: 0, debit: 0, credit: 0 };
      own.set(s.keys[0] as string, {
        count: held.count + s.count,
        debit: held.debit + s.debit,
        credit: held.credit + s.credit,
      });
    }
    const mine = members.filter((m) => m.dimension === d.id);
    const codes = new Set(mine.map((m) => m.code));
    const languages = [...new Set(mine.flatMap((m) => Object.keys(m.names)))].sort();
    const rows: MemberRow[] = [];
    const walk = (under: string | null, depth: number): { count: number; debit: number; credit: number } => {
      const sum = { count: 0, debit: 0, credit: 0 };
      for (const m of mine.filter((x) => (x.parent !== null && codes.has(x.parent) ? x.parent : null) === under)) {
        const at = rows.length;
        const below = walk(m.code, depth + 1);
        const s = own.get(m.code);
        const all = {
          count: below.count + (s?.count ?? 0),
          debit: below.debit + (s?.debit ?? 0),
          credit: below.credit + (s?.credit ?? 0),
        };
        // A member comes before those beneath it, and has theirs in it.
        rows.splice(at, 0, {
          code: m.code,
          name: m.name,
          names: m.names,
          parent: m.parent,
          depth,
          validFrom: m.valid_from,
          validTo: m.valid_to,
          groups: m.groups,
          missing: languages.filter((l) => !m.names[l]),
          count: all.count,
          debit: formatAmount(all.debit, asked.digits),
          credit: formatAmount(all.credit, asked.digits),
          movement: formatAmount(all.debit - all.credit, asked.digits),
        });
        for (const key of ['count', 'debit', 'credit'] as const) sum[key] += all[key];
      }
      return sum;
    };
    walk(null, 0);
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
