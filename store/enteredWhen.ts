import { readEnteredWhen, WEEKDAYS } from '@/core/enteredWhen';

/** When something was entered (core/enteredWhen), in words that the database and the copies by columns both have. */

/** 1 Monday to 7 Sunday, of a text; null where it does not begin with a date. */
export const weekdaySql = (text: string): string =>
  `(case when ${text} ~ '^[1-9][0-9][0-9][0-9]-(0[1-9]|1[0-2])-(0[1-9]|[12][0-9]|3[01]).*$'
    then extract(isodow from make_date(substring(${text}, 1, 4)::integer, substring(${text}, 6, 2)::integer, 1) + (substring(${text}, 9, 2)::integer - 1))::integer end)`;

/** 0 to 23; null where it does not say. */
export const hourSql = (text: string): string =>
  `(case when substring(${text}, 11) ~ '^[T ]([01][0-9]|2[0-3]):.*$' then substring(${text}, 12, 2)::integer end)`;

/** Whether a text says one of the times that are asked for; false where it says none. */
export function enteredThenSql(text: string, wanted: readonly string[]): string {
  const times = wanted.map((one) => {
    const { weekday, hour } = readEnteredWhen(one);
    const said = [
      `${weekdaySql(text)} ${weekday === null ? 'is not null' : `= ${WEEKDAYS.indexOf(weekday) + 1}`}`,
      ...(hour === null ? [] : [`${hourSql(text)} ${hour === 'untold' ? 'is null' : `= ${hour}`}`]),
    ];
    return `(${said.join(' and ')})`;
  });
  return `coalesce(${times.join(' or ') || 'false'}, false)`;
}
