import { CalendarError, calendar, dayOf, ordinal, type Period, parsePeriod, periodText, yearOf } from '@/core/calendar';
import { isDate } from '@/core/dates';
import { AmountRangeError, exponentOf, parseAmount } from '@/core/money';
import { nearest } from '@/core/selection';
import type { Problems } from '@/exchange/problem';
import type { CatalogueAccount, CatalogueDimension, CatalogueEntity } from '@/store/catalogue';
import type { LoadJob } from './loadJob';
import type { Fault, Values } from './values';

/** What a line's date and period come to, worked out once for each pair that occurs. */
export interface Moment {
  period: number;
  dayPeriod: number;
  day: string;
  adjustment: boolean;
}

/** Accounts that a file may bring with it where the load allows it. */
export type AccountMaker = (
  entity: CatalogueEntity,
  code: string,
  values: Values,
  fault: Fault,
) => Promise<CatalogueAccount | null>;

/** Reads the fields that every kind of table shares: entity, account, period, dimensions, amounts. */
export class Fields {
  private readonly moments = new Map<string, Moment | string>();
  private readonly calendars = new Map<string, ReturnType<typeof calendar>>();

  constructor(
    private readonly job: Pick<LoadJob, 'entity' | 'catalogue'>,
    private readonly problems: Problems,
    private readonly makeAccount: AccountMaker | null = null,
  ) {}

  fault(row: number, values: Values): Fault {
    return (column, message) => this.problems.add(row, column, values[column] ?? null, message);
  }

  entity(code: string | undefined, fault: Fault): CatalogueEntity | null {
    const wanted = (code ?? '').trim() || this.job.entity?.code;
    if (!wanted) {
      fault('entity', 'the entity is missing; add the column or name the entity with the load');
      return null;
    }
    if (this.job.entity && this.job.entity.code !== wanted) {
      fault('entity', `this load is for ${this.job.entity.code}, the line is of “${wanted}”`);
      return null;
    }
    const entity = this.job.catalogue.entities.get(wanted);
    if (!entity) {
      fault('entity', `there is no entity “${wanted}”`);
      return null;
    }
    return entity;
  }

  async account(entity: CatalogueEntity, values: Values, fault: Fault): Promise<CatalogueAccount | null> {
    const code = (values.account ?? '').trim();
    const account = entity.accounts.get(code);
    if (account?.posting) return account;
    if (!account && code !== '' && this.makeAccount) return this.makeAccount(entity, code, values, fault);
    if (account) fault('account', `${code} ${account.name} is a heading; only posting accounts take lines`);
    else if (code === '') fault('account', 'the account is missing');
    else {
      const near = nearest(code, [...entity.accounts.keys()]);
      fault(
        'account',
        `${entity.code} has no account “${code}”${near.length ? `; is it ${near.join(' or ')}?` : '; load it with the chart of accounts first'}`,
      );
    }
    return null;
  }

  moment(entity: CatalogueEntity, values: Values, fault: Fault): Moment | null {
    const key = `${entity.id}|${values.date}|${values.period ?? ''}|${values.year ?? ''}`;
    let moment = this.moments.get(key);
    if (moment === undefined) {
      moment = this.workOut(entity, values);
      this.moments.set(key, moment);
    }
    if (typeof moment !== 'string') return moment;
    fault(moment.startsWith('period') ? 'period' : 'date', moment);
    return null;
  }

  calendarOf(entity: CatalogueEntity): ReturnType<typeof calendar> {
    let cal = this.calendars.get(entity.code);
    if (!cal) {
      cal = calendar(entity.calendar);
      this.calendars.set(entity.code, cal);
    }
    return cal;
  }

  private workOut(entity: CatalogueEntity, values: Values): Moment | string {
    const date = (values.date ?? '').trim();
    if (!isDate(date)) return `“${date}” is no date; write it as 2026-04-30`;
    const cal = this.calendarOf(entity);
    try {
      const natural = cal.periodAt(date);
      const period = this.periodOf(cal, natural, values);
      if (typeof period === 'string') return period;
      const day = dayOf(cal, date, period.ordinal);
      return { period: period.ordinal, dayPeriod: cal.periodAt(day).ordinal, day, adjustment: period.adjustment };
    } catch (error) {
      if (error instanceof CalendarError) return `${error.message} of ${entity.code}`;
      throw error;
    }
  }

  /** The period that a file names, by itself (2027.04), within a year, or by a date. */
  period(entity: CatalogueEntity, values: Values, fault: Fault): Period | null {
    const cal = this.calendarOf(entity);
    try {
      if (!values.period && !values.date) {
        fault('period', 'the period is missing');
        return null;
      }
      const natural = values.date
        ? isDate(values.date)
          ? cal.periodAt(values.date)
          : `“${values.date}” is no date; write it as 2026-04-30`
        : null;
      const found = typeof natural === 'string' ? natural : this.periodOf(cal, natural, values);
      if (typeof found !== 'string') return found;
      fault(found.startsWith('period') ? 'period' : 'date', found);
    } catch (error) {
      if (!(error instanceof CalendarError)) throw error;
      fault('date', `${error.message} of ${entity.code}`);
    }
    return null;
  }

  private periodOf(cal: ReturnType<typeof calendar>, natural: Period | null, values: Values): Period | string {
    if (!values.period && natural) return natural;
    const whole = parsePeriod(values.period ?? '');
    const year = Number(values.year || natural?.year || Number.NaN);
    if (whole === null && (!/^\d{1,2}$/.test(values.period ?? '') || !Number.isInteger(year))) {
      return `period “${values.period}” of year “${values.year ?? ''}” is no period; write the number within the fiscal year`;
    }
    const wanted = whole ?? ordinal(year, Number(values.period));
    const found = cal.periodsOf(yearOf(wanted)).find((p) => p.ordinal === wanted);
    return found ?? `period ${periodText(wanted)} is not in the calendar`;
  }

  /** One amount in minor units, or null with a problem. */
  money(column: string, values: Values, currency: string, fault: Fault): number | null {
    try {
      return parseAmount(values[column] as string, exponentOf(currency));
    } catch (error) {
      const beyond = error instanceof AmountRangeError;
      fault(
        column,
        beyond ? 'the amount is beyond 2^53 minor units and cannot be kept exactly' : (error as Error).message,
      );
      return null;
    }
  }

  /** The signed amount of a row, debit positive, from an amount or from debit and credit. */
  amount(entity: CatalogueEntity, values: Values, fault: Fault): { minor: number; side: 'debit' | 'credit' } | null {
    const parse = (column: string): number | null => this.money(column, values, entity.currency, fault);
    if (values.amount !== undefined && values.amount !== '') {
      if (values.debit || values.credit) fault('amount', 'give either an amount, or a debit or credit, not both');
      const minor = parse('amount');
      return minor === null ? null : { minor, side: minor < 0 ? 'credit' : 'debit' };
    }
    const debit = values.debit ? parse('debit') : 0;
    const credit = values.credit ? parse('credit') : 0;
    if (debit === null || credit === null) return null;
    if (debit !== 0 && credit !== 0) {
      fault('credit', 'this line has an amount on both sides; split it into two lines');
      return null;
    }
    if (!values.debit && !values.credit) {
      fault('debit', 'this line has no amount');
      return null;
    }
    const side = credit !== 0 || !values.debit ? 'credit' : 'debit';
    return { minor: side === 'debit' ? debit : 0 - credit, side };
  }

  /** Member ids by slot. @param account whose rules about dimensions hold, if any do */
  dims(account: CatalogueAccount | null, values: Values, fault: Fault): number[] {
    const slots = new Array<number>(8).fill(0);
    for (const column in values) {
      if (!column.startsWith('dim:')) continue;
      const code = (values[column] ?? '').trim();
      if (code === '') continue;
      const dimension = this.job.catalogue.dimensions.get(column.slice(4));
      if (!dimension) {
        fault(column, `there is no dimension “${column.slice(4)}”; load the dimensions first`);
        continue;
      }
      const id = dimension.members.get(code);
      if (id === undefined) fault(column, unknownMember(dimension, code));
      else slots[dimension.slot - 1] = id;
    }
    for (const code in account?.dimRules) {
      const rule = account.dimRules[code];
      const dimension = this.job.catalogue.dimensions.get(code);
      if (!dimension) continue;
      const given = (values[`dim:${code}`] ?? '').trim() !== '';
      if (rule === 'required' && !given)
        fault(`dim:${code}`, `account ${account.code} needs a ${dimension.name.toLowerCase()}`);
      if (rule === 'forbidden' && given)
        fault(`dim:${code}`, `account ${account.code} takes no ${dimension.name.toLowerCase()}`);
    }
    return slots;
  }
}

function unknownMember(dimension: CatalogueDimension, code: string): string {
  const near = nearest(code, [...dimension.members.keys()]);
  const named = dimension.name.toLowerCase();
  return `there is no ${named} “${code}”${near.length ? `; is it ${near.join(' or ')}?` : '; load it with the dimensions first'}`;
}
