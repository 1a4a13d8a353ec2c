import { notFound, wrong } from '@/contracts/problem';
import type { ScopeParams } from '@/contracts/scope';
import { calendar, periodText, yearOf } from '@/core/calendar';
import { isTemporary } from '@/core/ledger';
import { exponentOf, formatAmount } from '@/core/money';
import { similarNames } from '@/core/similarNames';
import { splitSums } from '@/store/balances';
import { touchCatalogue } from '@/store/catalogue';
import { readChart, readMembers, renameAccount, renameMember } from '@/store/charts';
import { deleteHolding, type HoldingRow, holdingsOf, periodsWithLines, upsertHoldings } from '@/store/deliveries';
import { addToRecord } from '@/store/record';
import { type Context, known } from './context';
import { holdingOf } from './holdingOf';
import { readTrialBalance } from './readTrialBalance';
import { resolveFigure } from './resolveFigure';
import { grantedAccounts, maySee, require, seesWhole, type Viewer } from './viewer';

/** The chart of one entity, in the order of its tree, with every attribute and the balance of the scope. */
export async function readAccounts(ctx: Context, viewer: Viewer, scope: ScopeParams) {
  const balances = await readTrialBalance(ctx, viewer, { ...scope, zero: 'show', tree: 'yes', yearToDate: 'no', retained: 'one' });
  const asked = await resolveFigure(ctx, viewer, scope);
  const [entity] = asked.entities;
  if (!entity || asked.entities.length !== 1) throw wrong('entity', 'a chart belongs to one entity; name one');
  const chart = new Map((await readChart(ctx.read, entity.id)).map((a) => [a.code, a]));
  const booked = new Map(balances.rows.map((r) => [r.account, r]));
  const alike = new Map<string, string[]>();
  for (const group of similarNames([...chart.values()].filter((a) => a.posting)))
    for (const code of group)
      alike.set(
        code,
        group.filter((c) => c !== code),
      );
  const children = new Map<string | null, string[]>();
  for (const a of chart.values()) {
    const under = a.parent !== null && chart.has(a.parent) ? a.parent : null;
    children.set(under, [...(children.get(under) ?? []), a.code]);
  }
  const granted = grantedAccounts(viewer, entity.chart);
  // A heading is seen as soon as anything beneath it is: its balance is that of what is seen.
  const seen = granted && withHeadings(granted, chart);
  const languages = [...new Set([...chart.values()].flatMap((a) => Object.keys(a.names)))].sort();
  const zero = formatAmount(0, exponentOf(entity.currency));
  const rows: object[] = [];
  const walk = (under: string | null, depth: number): void => {
    for (const code of children.get(under) ?? []) {
      const a = chart.get(code) as NonNullable<ReturnType<typeof chart.get>>;
      const balance = booked.get(code);
      const none = seen === null || seen.has(code) ? zero : null;
      rows.push({
        ...{ account: code, name: a.name, names: a.names, type: a.type, statement: isTemporary(a.type) ? 'income statement' : 'balance sheet', depth },
        ...{ parent: a.parent, posting: a.posting, status: a.status, normal: a.normal, flow: a.flow, groups: a.groups, classification: a.classification },
        ...{ currency: a.currency, createdAt: a.created_at, createdBy: a.created_by, codes: a.codes, dims: a.dim_rules, similar: alike.get(code) ?? [] },
        missing: languages.filter((l) => !a.names[l]),
        // What lies outside the grant has no balance here: nothing is not the same as nothing to be seen.
        ...{ opening: balance?.opening ?? none, movement: balance?.movement ?? none, closing: balance?.closing ?? none },
        count: balance?.count ?? (none === null ? null : 0),
      });
      walk(code, depth + 1);
    }
  };
  walk(null, 0);
  return { entity: entity.code, currency: entity.currency, sentence: balances.sentence, parts: balances.parts, address: balances.address, languages, rows };
}

function withHeadings(codes: ReadonlySet<string>, chart: ReadonlyMap<string, { parent: string | null }>): Set<string> {
  const found = new Set<string>();
  for (const code of codes) for (let at: string | null = code; at !== null && !found.has(at); at = chart.get(at)?.parent ?? null) found.add(at);
  return found;
}

const NAME_MAX = 200;

/** Mends an account's name, or fills it in for a language. Codes never change. */
export async function nameAccount(
  ctx: Context,
  viewer: Viewer,
  code: string,
  wanted: { entity: string; language: string | null; name: string | null },
): Promise<void> {
  require(viewer, 'preparer', 'mend names');
  const { catalogue } = await known(ctx.write);
  const account = maySee(viewer, wanted.entity) ? catalogue.entities.get(wanted.entity)?.accounts.get(code) : undefined;
  if (!account) throw notFound(`Account ${code} of ${wanted.entity}`);
  const name = checkedName(wanted);
  const before = wanted.language === null ? account.name : (account.names[wanted.language] ?? null);
  await ctx.write.transaction(async (trx) => {
    await renameAccount(trx, account.id, wanted.language, name);
    await addToRecord(trx, {
      ...{ person: viewer.id, personName: viewer.name, act: 'named an account', subject: `account ${wanted.entity}/${code}` },
      detail: { language: wanted.language, from: before, to: name },
    });
    await touchCatalogue(trx);
  });
}

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
  await ctx.write.transaction(async (trx) => {
    await renameMember(trx, id, wanted.language, name);
    await addToRecord(trx, {
      ...{ person: viewer.id, personName: viewer.name, act: 'named a member', subject: `member ${wanted.dimension}/${code}` },
      detail: { language: wanted.language, to: name },
    });
    await touchCatalogue(trx);
  });
}

function checkedName({ language, name }: { language: string | null; name: string | null }): string | null {
  const text = name?.trim() || null;
  if (text === null && language === null) throw wrong('name', 'the name is missing');
  if (text !== null && text.length > NAME_MAX) throw wrong('name', `a name has at most ${NAME_MAX} characters`);
  return text;
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
      own.set(s.keys[0] as string, { count: held.count + s.count, debit: held.debit + s.debit, credit: held.credit + s.credit });
    }
    const mine = members.filter((m) => m.dimension === d.id);
    const codes = new Set(mine.map((m) => m.code));
    const languages = [...new Set(mine.flatMap((m) => Object.keys(m.names)))].sort();
    const rows: object[] = [];
    const walk = (under: string | null, depth: number): { count: number; debit: number; credit: number } => {
      const sum = { count: 0, debit: 0, credit: 0 };
      for (const m of mine.filter((x) => (x.parent !== null && codes.has(x.parent) ? x.parent : null) === under)) {
        const at = rows.push({}) - 1;
        const below = walk(m.code, depth + 1);
        const s = own.get(m.code);
        const all = { count: below.count + (s?.count ?? 0), debit: below.debit + (s?.debit ?? 0), credit: below.credit + (s?.credit ?? 0) };
        rows[at] = {
          ...{ code: m.code, name: m.name, names: m.names, parent: m.parent, depth, validFrom: m.valid_from, validTo: m.valid_to, groups: m.groups },
          ...{ missing: languages.filter((l) => !m.names[l]), count: all.count },
          debit: formatAmount(all.debit, asked.digits),
          credit: formatAmount(all.credit, asked.digits),
          movement: formatAmount(all.debit - all.credit, asked.digits),
        };
        for (const key of ['count', 'debit', 'credit'] as const) sum[key] += all[key];
      }
      return sum;
    };
    walk(null, 0);
    dimensions.push({ code: d.code, name: d.name, languages, rows });
  }
  return { entity: entity.code, currency: asked.currency, sentence: asked.sentence, parts: asked.parts, address: asked.address, dimensions };
}

/** The fiscal years of each entity with their periods: dates, and how many lines each holds. */
export async function readCalendars(ctx: Context, viewer: Viewer) {
  const { catalogue } = await known(ctx.read);
  const entities = [...catalogue.entities.values()].filter((e) => maySee(viewer, e.code));
  const whole = seesWhole(viewer);
  return {
    today: ctx.today(),
    entities: await Promise.all(
      entities.map(async (e) => {
        const cal = calendar(e.calendar);
        const loaded = new Map((await periodsWithLines(ctx.read, e.id)).map((p) => [p.period, p]));
        const years = new Set([...loaded.keys()].map(yearOf));
        try {
          years.add(cal.periodAt(ctx.today()).year);
        } catch {
          // Today may lie outside a list of periods.
        }
        const first = Math.min(...years);
        const last = Math.max(...years);
        const digits = exponentOf(e.currency);
        return {
          ...{
            code: e.code,
            name: e.name,
            currency: e.currency,
            calendar: e.calendar.kind === 'custom' ? { kind: 'custom' as const } : e.calendar,
            yearEnd: e.yearEnd,
          },
          years: Array.from({ length: years.size === 0 ? 0 : last - first + 1 }, (_, i) => first + i).map((year) => ({
            year,
            periods: cal.periodsOf(year).map((p) => ({
              ...{ period: periodText(p.ordinal), from: p.from, to: p.to, adjustment: p.adjustment, lines: (whole && loaded.get(p.ordinal)?.count) || 0 },
              ...{ posted: (whole && loaded.get(p.ordinal)?.posted) || 0, debit: formatAmount((whole && loaded.get(p.ordinal)?.debit) || 0, digits) },
            })),
          })),
        };
      }),
    ),
  };
}

/**
 * The register of bank accounts and cash boxes, each with the balance of its ledger account. Accounts outside the grant
 * are left out; who sees a part of an account is told that its number and balance are withheld.
 */
export async function readHoldings(ctx: Context, viewer: Viewer, scope: ScopeParams) {
  const asked = await resolveFigure(ctx, viewer, scope);
  const ofParts = Object.keys(viewer.members).length > 0;
  const rows = [];
  for (const entity of asked.entities) {
    const balances = await readTrialBalance(ctx, viewer, { ...scope, entity: [entity.code], zero: 'show', tree: 'no', yearToDate: 'no', retained: 'one' });
    const closing = new Map(balances.rows.map((r) => [r.account, r.closing]));
    const granted = grantedAccounts(viewer, entity.chart);
    for (const h of await holdingsOf(ctx.read, [entity.id])) {
      if (granted && !granted.has(h.account)) continue;
      rows.push({
        ...{ entity: entity.code, number: h.number, name: h.name, kind: h.kind, takes: h.takes, currency: h.currency },
        ...{
          account: h.account,
          accountName: entity.accounts.get(h.account)?.name ?? '',
          bankAccount: ofParts ? null : h.bank_account,
          balance: ofParts ? null : (closing.get(h.account) ?? formatAmount(0, exponentOf(entity.currency))),
          balanceCurrency: entity.currency,
        },
        withheld: ofParts ? 'The number and the balance are those of a whole account, and you see a part of the books' : null,
      });
    }
  }
  return { rows };
}

export interface WantedHolding {
  entity: string;
  number: string;
  name: string;
  kind: string;
  takes: string;
  account: string;
  currency?: string | undefined;
  bankAccount?: string | undefined;
}

/** Adds a holding to the register or mends it. */
export async function keepHolding(ctx: Context, viewer: Viewer, wanted: WantedHolding): Promise<void> {
  require(viewer, 'preparer', 'keep the register of holdings');
  const { catalogue } = await known(ctx.write);
  const entity = maySee(viewer, wanted.entity) ? catalogue.entities.get(wanted.entity) : undefined;
  if (!entity) throw notFound(`Entity ${wanted.entity}`);
  if (!entity.accounts.get(wanted.account)?.posting) throw wrong('account', `${wanted.entity} has no posting account “${wanted.account}”`);
  const fault = (column: string, message: string): never => {
    throw wrong(column, message);
  };
  const values = { kind: wanted.kind, takes: wanted.takes, currency: wanted.currency ?? '', bank_account: wanted.bankAccount ?? '' };
  const holding = holdingOf(values, entity.currency, fault) as Pick<HoldingRow, 'kind' | 'takes' | 'currency' | 'bank_account'>;
  await ctx.write.transaction(async (trx) => {
    await upsertHoldings(trx, [{ entity: entity.id, number: wanted.number, name: wanted.name, account: wanted.account, ...holding }]);
    await addToRecord(trx, {
      ...{ person: viewer.id, personName: viewer.name, act: 'kept a holding', subject: `holding ${wanted.entity}/${wanted.number}` },
      detail: { name: wanted.name, account: wanted.account, kind: wanted.kind },
    });
  });
}

/** Takes a holding out of the register. */
export async function removeHolding(ctx: Context, viewer: Viewer, wanted: { entity: string; number: string }): Promise<void> {
  require(viewer, 'preparer', 'keep the register of holdings');
  const { catalogue } = await known(ctx.write);
  const entity = maySee(viewer, wanted.entity) ? catalogue.entities.get(wanted.entity) : undefined;
  await ctx.write.transaction(async (trx) => {
    const gone = entity ? await deleteHolding(trx, entity.id, wanted.number) : 0;
    if (gone === 0) throw notFound(`Holding ${wanted.number} of ${wanted.entity}`);
    await addToRecord(trx, {
      ...{ person: viewer.id, personName: viewer.name, act: 'took a holding out', subject: `holding ${wanted.entity}/${wanted.number}`, detail: {} },
    });
  });
}
