'use client';

import Link from 'next/link';
import type { Calendars } from '@/contracts/answers/charts';
import { countText } from '../amounts';
import { ACCOUNT_TABS, Failure, Place } from '../parts/Place';
import { useAnswer } from '../query/hooks';

const MONTHS = [
  'January',
  'February',
  'March',
  'April',
  'May',
  'June',
  'July',
  'August',
  'September',
  'October',
  'November',
  'December',
];
const NO_PARAMS = new URLSearchParams();
/** Height of the bar of the fullest period. */
const BAR_PX = 18;
const DAY_MS = 86_400_000;
const days = (from: string, to: string): number => Math.round((Date.parse(to) - Date.parse(from)) / DAY_MS) + 1;

/** The fiscal years of every company, drawn to scale: each period with its dates, filled as far as it holds lines. */
export function CalendarsPage() {
  const { data, error } = useAnswer('GET /calendars', NO_PARAMS);
  return (
    <Place title="Accounts" tabs={ACCOUNT_TABS} here="/accounts/calendars">
      <Failure error={error} />
      {data?.entities.map((e) => (
        <section key={e.code} className="mb-6" aria-label={e.name}>
          <h2 className="font-book text-[18px] font-semibold">
            {e.code} {e.name}
          </h2>
          <p className="mb-2 text-soft">{ruleOf(e)}</p>
          {e.years.length === 0 && <p>Nothing is loaded yet.</p>}
          {e.years.map((y) => (
            <Year
              key={y.year}
              entity={e.code}
              year={y}
              today={data.today}
              most={Math.max(1, ...e.years.flatMap((x) => x.periods.map((p) => p.lines)))}
            />
          ))}
        </section>
      ))}
      {data && (
        <p className="text-[13px] text-soft">
          A period is as wide as it is long; its bar stands for its lines, against the fullest of the company. An empty
          period is hatched.
        </p>
      )}
    </Place>
  );
}

function ruleOf(e: Calendars['entities'][number]): string {
  const closing =
    e.yearEnd === 'booked'
      ? 'closing entries are booked'
      : 'closing entries are not booked; earlier results are added to retained earnings';
  if (e.calendar.kind === 'monthly') return `Months from ${MONTHS[Number(e.calendar.start) - 1]}; ${closing}.`;
  if (e.calendar.kind === 'weeks') return `Weeks, ${e.calendar.pattern}; ${closing}.`;
  return `A list of periods; ${closing}.`;
}

function Year({
  entity,
  year,
  today,
  most,
}: {
  entity: string;
  year: Calendars['entities'][number]['years'][number];
  today: string;
  most: number;
}) {
  const normal = year.periods.filter((p) => !p.adjustment);
  const loaded = year.periods.filter((p) => p.lines > 0).length;
  return (
    <div className="mb-3 flex items-stretch gap-3">
      <p className="w-[108px] shrink-0 pt-1">
        <b>{year.year}</b>
        <span className="block text-[12.5px] text-soft">
          {loaded} of {year.periods.length} with lines
        </span>
      </p>
      <ol className="flex min-w-0 flex-1 border-l border-rule bg-sheet">
        {year.periods.map((p) => {
          const wide = p.adjustment ? 12 : days(p.from, p.to);
          const now = !p.adjustment && p.from <= today && today <= p.to;
          return (
            <li
              key={p.period}
              style={{ flexGrow: wide, flexBasis: 0 }}
              className="min-w-0 border-y border-r border-rule"
            >
              <Link
                href={`/trial-balance?entity=${entity}&from=${p.period}&to=${p.period}`}
                aria-label={`${p.period}, ${p.from} to ${p.to}, ${p.lines === 0 ? 'empty' : `${p.lines} lines`}${now ? ', today' : ''}`}
                title={`${p.period}: ${p.from} to ${p.to}; ${countText(p.lines)} lines, ${countText(p.lines - p.posted)} unposted`}
                className="relative block h-[70px] overflow-hidden px-1 hover:bg-chosen"
                style={
                  p.lines === 0
                    ? { backgroundImage: 'repeating-linear-gradient(135deg, transparent 0 5px, var(--hair) 5px 6px)' }
                    : undefined
                }
              >
                <span
                  aria-hidden
                  className="absolute inset-x-0 bottom-0 bg-faint/45"
                  style={{ height: `${Math.ceil((p.lines / most) * BAR_PX)}px` }}
                />
                <span
                  className={`relative block text-[12.5px] ${now ? 'font-semibold underline underline-offset-2' : ''}`}
                >
                  {p.period.slice(5)}
                </span>
                {!p.adjustment && (
                  <span className="relative block truncate text-[11.5px] leading-[14px] text-soft">
                    {shortDate(p.from)}
                  </span>
                )}
                <span className="relative block truncate text-[11.5px] leading-[14px] text-soft">
                  {p.lines === 0 ? (p.adjustment ? '–' : 'empty') : countText(p.lines)}
                </span>
              </Link>
            </li>
          );
        })}
      </ol>
      <p className="w-[150px] shrink-0 pt-1 text-[12.5px] text-soft">
        {shortDate(normal[0]?.from ?? '')} {normal[0]?.from.slice(0, 4)} to{' '}
        {shortDate(normal[normal.length - 1]?.to ?? '')} {normal[normal.length - 1]?.to.slice(0, 4)}
      </p>
    </div>
  );
}

const shortDate = (date: string): string =>
  `${Number(date.slice(8))} ${MONTHS[Number(date.slice(5, 7)) - 1]?.slice(0, 3) ?? ''}`;
