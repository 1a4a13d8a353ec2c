import { notFound } from '@/contracts/problem';
import { calendar, periodText } from '@/core/calendar';
import { jumpsAmong } from '@/core/entryNumbers';
import { exponentOf, formatAmount } from '@/core/money';
import { brokenContinuity, gapsOf, reachOf, seriesOf } from '@/store/completeness';
import { readLoad, totalsOf } from '@/store/loads';
import { type Context, known } from '../asking/context';
import { maySeeBooks, type Viewer } from '../asking/viewer';

const GAPS_SHOWN = 200;
const GAPS_READ = 20_000;

/**
 * What an auditor needs to say that a load is complete: entry numbers in sequence by journal with the gaps, first and
 * last date, debits equal to credits, and every period's closing balances met by the next opening ones.
 */
export async function proveLoad(ctx: Context, viewer: Viewer, id: number) {
  const load = await readLoad(ctx.write, id);
  const { catalogue } = await known(ctx.write);
  const entities = [...catalogue.entities.values()];
  const own = entities.find((e) => e.id === load?.entity);
  if (!load || load.status !== 'loaded' || !maySeeBooks(viewer, own?.code ?? null)) throw notFound(`Load ${id}`);
  const [series, gaps, reach, totals] = await Promise.all([
    seriesOf(ctx.work, id),
    gapsOf(ctx.work, id, GAPS_READ),
    reachOf(ctx.work, id),
    totalsOf(ctx.work, id),
  ]);
  const digits = (code: string): number => exponentOf(catalogue.entities.get(code)?.currency ?? 'XXX');
  const continuity: { entity: string; period: string; accountsOff: number }[] = [];
  for (const { entity: code, period } of totals) {
    const entity = catalogue.entities.get(code);
    if (!entity) continue;
    const cal = calendar(entity.calendar);
    const p = cal.period(period);
    // An adjustment period ends with the last normal one.
    const ends = p.adjustment ? cal.periodAt(p.to).ordinal : p.ordinal;
    if (continuity.some((c) => c.entity === code && c.period === periodText(ends))) continue;
    continuity.push({
      entity: code,
      period: periodText(ends),
      accountsOff: await brokenContinuity(ctx.work, entity.id, ends, p.to, id),
    });
  }
  const sized = gaps.map((g) => ({ ...g, count: g.to - g.from + 1 }));
  // Another year's numbers, or another office's, are no entries that are lost.
  const ranges = new Set(
    [...new Map(series.map((s) => [`${s.entity}/${s.prefix}`, s])).values()].flatMap(({ entity, prefix }) => {
      const own = sized.filter((g) => g.entity === entity && g.prefix === prefix);
      return jumpsAmong(own, own[0]?.of ?? 0).jumps;
    }),
  );
  const lost = sized.filter((g) => !ranges.has(g));
  const missing = (entity: string, prefix: string): number =>
    lost.filter((g) => g.entity === entity && g.prefix === prefix).reduce((n, g) => n + g.count, 0);
  // Written as its neighbours are, with as many digits: what is looked for is what a paper would have said.
  const written = ({ entity, prefix }: (typeof sized)[number], n: number): string => {
    const first = series.find((s) => s.entity === entity && s.prefix === prefix)?.first ?? '';
    return `${prefix}${String(n).padStart(first.length - prefix.length, '0')}`;
  };
  const range = (g: (typeof sized)[number]) => ({
    entity: g.entity,
    from: written(g, g.from),
    to: written(g, g.to),
    count: g.count,
  });
  return {
    load: id,
    reach: reach.map((r) => ({
      entity: r.entity,
      first: r.first,
      last: r.last,
      lines: r.lines,
      debit: formatAmount(r.debit, digits(r.entity)),
      credit: formatAmount(r.credit, digits(r.entity)),
      balances: r.debit === r.credit,
    })),
    series: series.map((s) => ({ ...s, missing: missing(s.entity, s.prefix) })),
    gaps: lost.slice(0, GAPS_SHOWN).map(range),
    gapsMore: lost.length > GAPS_SHOWN,
    /** Steps to a new range of numbers. */
    ranges: sized
      .filter((g) => ranges.has(g))
      .slice(0, GAPS_SHOWN)
      .map(range),
    continuity: {
      periods: continuity.length,
      ok: continuity.every((c) => c.accountsOff === 0),
      broken: continuity.filter((c) => c.accountsOff > 0),
    },
  };
}
