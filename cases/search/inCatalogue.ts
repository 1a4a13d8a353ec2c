import { folded } from '@/core/folded';
import { type Sought, wordsAlone } from '@/core/searchWords';
import { exactly } from '@/core/values';
import { splitSums } from '@/store/balances';
import type { CatalogueEntity } from '@/store/catalogue';
import { partiesSought } from '@/store/search';
import type { Context, Known } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import { grantedAccounts, knownMembers, seesWhole, type Viewer } from '../asking/viewer';
import { BARE, COUNTED_MAX, detailOf, type Found, fitting, OncePerCompany, ranked } from './hits';

/**
 * Accounts that the viewer may see, by their code, their names in every language and their codes in other schemes. One that
 * several companies have is found once, in the first of them.
 */
export function accountsFound(viewer: Viewer, entities: readonly CatalogueEntity[], sought: readonly Sought[]) {
  const found = new OncePerCompany();
  for (const entity of entities) {
    const granted = grantedAccounts(viewer, entity.chart);
    const seen = entity.chart.filter((a) => granted === null || granted.has(a.code));
    for (const a of fitting(seen, sought, (one) => [
      ...[one.code, one.name, ...one.groups],
      ...Object.values(one.names),
      ...Object.values(one.codes),
    ])) {
      const label = `${a.code} ${a.name}`;
      const other = fitting(Object.values(a.names), sought, (name) => [name]).find((name) => name !== a.name);
      found.add(
        {
          ...BARE,
          label,
          detail: detailOf(other, a.posting ? a.type : 'heading'),
          entity: entity.code,
          address: `/lines?${new URLSearchParams({ entity: entity.code, accounts: a.code, window: 'year-to-date' })}`,
          put: { accounts: [a.code] },
          own: [a.code, a.name],
          order: a.code,
        },
        entity.name,
        label,
      );
    }
  }
  return ranked('account', found.all, sought);
}

/** Members of dimensions that the viewer may know of. */
export function membersFound(
  viewer: Viewer,
  { catalogue }: Known,
  entities: readonly CatalogueEntity[],
  sought: readonly Sought[],
) {
  const companies = new URLSearchParams(entities.slice(0, 1).map((e) => ['entity', e.code]));
  const found = [...catalogue.dimensions.values()].flatMap(({ code: dim, name: dimension, tree }) => {
    const known = knownMembers(viewer, dim, tree);
    return fitting(
      [...tree.values()].filter((m) => known === null || known.has(m.code)),
      sought,
      (m) => [m.code, m.name],
    ).map((m): Found => {
      const address = new URLSearchParams(companies);
      address.set('window', 'year-to-date');
      address.set(`dim.${dim}`, m.code);
      const above = m.parent === null ? undefined : tree.get(m.parent)?.name;
      return {
        ...BARE,
        label: m.name === m.code ? m.code : `${m.code} ${m.name}`,
        detail: detailOf(dimension, above && `in ${above}`),
        address: `/trial-balance?${address}`,
        put: { [`dim.${dim}`]: [m.code] },
        own: [m.code, m.name],
        order: `${dim} ${m.code}`,
      };
    });
  });
  return ranked('member', found, sought);
}

/** More parties than these are not held against the lines that a limited viewer may see. */
const HELD_MAX = 200;

/** Customers, suppliers and other parties: all, or those that the lines name which the viewer may see. */
export async function partiesFound(
  ctx: Context,
  viewer: Viewer,
  entities: readonly CatalogueEntity[],
  sought: readonly Sought[],
) {
  const whole = seesWhole(viewer) && viewer.entities === null;
  const some = await partiesSought(ctx.read, wordsAlone(sought), whole, whole ? COUNTED_MAX + 1 : HELD_MAX);
  const texts = (p: (typeof some)[number]): string[] => [
    ...[p.code, p.name, p.address, p.city],
    ...(whole ? [p.bank_account, p.tax_number] : []),
  ];
  const fit = fitting(some, sought, texts);
  const seen =
    whole || fit.length === 0
      ? null
      : await partiesOnLines(
          ctx,
          viewer,
          entities,
          fit.map((p) => p.code),
        );
  const [first] = entities;
  const found = fit
    .filter((p) => seen === null || seen.has(p.code))
    .map((p): Found => {
      const matched = [p.address, p.city, ...(whole ? [p.bank_account, p.tax_number] : [])].filter(
        (text) => text !== '' && sought.some((s) => s.text !== null && folded(text).includes(s.text)),
      );
      return {
        ...BARE,
        label: p.name === p.code ? p.code : `${p.code} ${p.name}`,
        detail: detailOf(p.kind ?? 'party', ...(matched.length > 0 ? matched : [p.city])),
        address: addressOf(p.code, seen === null ? null : (seen.get(p.code) ?? ''), first),
        put: { counterparty: [exactly(p.code)] },
        own: [p.code, p.name],
        order: p.code,
      };
    });
  return ranked('party', found, sought);
}

/** Its story, or for whom that is not told the lines with it. @param on the company on whose lines it was seen */
function addressOf(code: string, on: string | null, first: CatalogueEntity | undefined): string {
  if (on !== null)
    return `/lines?${new URLSearchParams({ entity: on, window: 'everything', counterparty: exactly(code) })}`;
  const path = `/accounts/parties/${encodeURIComponent(code)}`;
  return first ? `${path}?${new URLSearchParams({ entity: first.code })}` : path;
}

/** Which of some parties are on lines that the viewer may see, with the first company whose lines they are. */
async function partiesOnLines(
  ctx: Context,
  viewer: Viewer,
  entities: readonly CatalogueEntity[],
  codes: readonly string[],
): Promise<Map<string, string>> {
  const seen = new Map<string, string>();
  for (const { code } of entities) {
    const asked = await resolveFigure(ctx, viewer, {
      ...{ entity: [code], dims: {}, window: 'everything', status: 'all' },
      counterparty: codes.map(exactly),
    });
    const split = [{ by: 'counterparty' }] as const;
    const { db, question } = await asked.ask(ctx, split);
    for (const { keys, own } of await splitSums(db, question, split))
      if (own && keys[0] != null && !seen.has(keys[0])) seen.set(keys[0], code);
  }
  return seen;
}
