import type { DateText } from './dates';
import { exact, type Minor } from './money';

/** A rate of exchange: one unit of `from` is worth so many of `to`. */
export interface Rate {
  date: DateText;
  from: string;
  to: string;
  kind: 'closing' | 'average';
  /** Decimal string, above zero. */
  rate: string;
}

/** An exact rate: an amount times `over`, divided by `under`. */
export interface Fraction {
  over: bigint;
  under: bigint;
}

/** Raised when an amount cannot be translated, with what would have to be loaded. */
export class MissingRateError extends Error {
  constructor(kind: string, from: string, to: string, when: string) {
    super(`there is no ${kind} rate from ${from} to ${to} ${when}; load a file of rates`);
    this.name = 'MissingRateError';
  }
}

/**
 * Rates as IAS 21.39 uses them: the closing rate of a day is the last one up to it, the average rate of a period is the
 * last one dated within it. A rate that is only there the other way round is turned.
 */
export function ratesOf(rates: readonly Rate[]) {
  const between = (from: string, to: string, kind: Rate['kind']): { date: DateText; fraction: Fraction }[] => {
    const found = new Map<DateText, Fraction>();
    for (const r of rates) {
      if (r.kind !== kind) continue;
      if (r.from === from && r.to === to) found.set(r.date, fractionOf(r.rate));
      else if (r.from === to && r.to === from && !found.has(r.date)) found.set(r.date, turned(fractionOf(r.rate)));
    }
    return [...found].map(([date, fraction]) => ({ date, fraction })).sort((a, b) => (a.date < b.date ? -1 : 1));
  };
  const held = new Map<string, { date: DateText; fraction: Fraction }[]>();
  const list = (from: string, to: string, kind: Rate['kind']): { date: DateText; fraction: Fraction }[] => {
    const key = `${from}/${to}/${kind}`;
    const found = held.get(key) ?? between(from, to, kind);
    held.set(key, found);
    return found;
  };
  const last = (rows: { date: DateText; fraction: Fraction }[], fits: (date: DateText) => boolean): Fraction | null => {
    for (let i = rows.length - 1; i >= 0; i--)
      if (fits((rows[i] as { date: DateText }).date)) return (rows[i] as { fraction: Fraction }).fraction;
    return null;
  };
  return {
    /** @throws MissingRateError */
    closing(from: string, to: string, day: DateText): Fraction {
      if (from === to) return ONE;
      const found = last(list(from, to, 'closing'), (date) => date <= day);
      if (!found) throw new MissingRateError('closing', from, to, `on or before ${day}`);
      return found;
    },
    /** @throws MissingRateError */
    average(from: string, to: string, first: DateText, until: DateText): Fraction {
      if (from === to) return ONE;
      const found = last(list(from, to, 'average'), (date) => date >= first && date <= until);
      if (!found) throw new MissingRateError('average', from, to, `between ${first} and ${until}`);
      return found;
    },
  };
}

const ONE: Fraction = { over: 1n, under: 1n };
const turned = ({ over, under }: Fraction): Fraction => ({ over: under, under: over });

function fractionOf(rate: string): Fraction {
  const [whole = '0', decimals = ''] = rate.split('.');
  return { over: BigInt(whole + decimals), under: 10n ** BigInt(decimals.length) };
}

/** An amount in another currency, rounded once, half away from zero. @param digits decimals of the two currencies */
export function translated(amount: Minor, rate: Fraction, digits: { from: number; to: number }): Minor {
  const over = BigInt(amount) * rate.over * 10n ** BigInt(digits.to);
  const under = rate.under * 10n ** BigInt(digits.from);
  const twice = (over * 2n) / under;
  return exact(Number(over >= 0n ? (twice + 1n) / 2n : (twice - 1n) / 2n));
}
