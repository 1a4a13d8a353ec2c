'use client';

import { type FormEvent, useState } from 'react';
import { CalendarError, calendar, type Period, parsePeriod, periodText, yearOf } from '@/core/calendar';
import { periodName, windowText } from '@/core/sentence';
import { NAMED_WINDOWS } from '@/core/windows';
import { Select } from '../parts/Select';
import { toggled } from '../parts/toggled';
import { useEntities } from '../query/hooks';
import type { EditorProps } from './clauseProps';

/** One company, or several of one currency. */
export function EntityEditor({ scope, onApply }: EditorProps) {
  const { data } = useEntities();
  const [chosen, setChosen] = useState(() => scope.getAll('entity'));
  const entities = data?.entities ?? [];
  const currencies = new Set(entities.filter((e) => chosen.includes(e.code)).map((e) => e.currency));
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onApply({ entity: chosen, in: [] });
      }}
    >
      <p className="mb-2 text-soft">Whose books</p>
      {entities.map((e) => (
        <label key={e.code} className="flex items-center gap-2 py-1">
          <input
            type="checkbox"
            checked={chosen.includes(e.code)}
            onChange={(event) =>
              setChosen(event.target.checked ? [...chosen, e.code] : chosen.filter((c) => c !== e.code))
            }
          />
          {e.name} <span className="text-faint">{e.currency}</span>
        </label>
      ))}
      {currencies.size > 1 && (
        <p className="mt-1 text-[12.5px] text-soft">
          Books in different currencies: the trial balance, the statements and splits by company and account translate
          them at the loaded rates, into the currency of the first; lines are read in one company’s own.
        </p>
      )}
      <button type="submit" disabled={chosen.length === 0} className="button-main mt-3">
        Apply
      </button>
    </form>
  );
}

const NAMED: [string, string][] = [
  ['latest-period', 'Latest period with lines'],
  ['current-period', 'Current period'],
  ['last-period', 'Last closed period'],
  ['previous-month', 'Previous month'],
  ['year-to-date', 'Year to date'],
  ['last-year', 'Last fiscal year'],
  ['last-year-end', 'As at the last fiscal year end'],
  ['trailing-12', 'Trailing twelve periods'],
  ['everything', 'Everything, whatever its date'],
];

const saidOf = (p: Period): string => `${periodText(p.ordinal)} ${p.adjustment ? 'adjustments' : periodName(p)}`;

/** Whole periods in a row, single ones, dates, one date, or a named window. */
export function WindowEditor({ scope, onApply }: EditorProps) {
  const { data } = useEntities();
  const entity = data?.entities.find((e) => e.code === scope.get('entity')) ?? data?.entities[0];
  const byDate = /^\d{4}-/.test(scope.get('from') ?? scope.get('to') ?? '');
  const [kind, setKind] = useState<'period' | 'single' | 'date' | 'asOf'>(
    scope.has('period') ? 'single' : byDate ? (scope.get('from') ? 'date' : 'asOf') : 'period',
  );
  const [single, setSingle] = useState(() => new Set(scope.getAll('period')));
  const [goesOn, setGoesOn] = useState(scope.get('goesOn') === 'yes');
  if (!entity) return null;
  const cal = calendar(entity.calendar);
  const reach = entity.reach;
  /** What a named window means today. */
  const meaningOf = (name: string): string => {
    const of = NAMED_WINDOWS[name];
    if (!of || !reach || !data) return '';
    try {
      const extent = { first: reach.firstPeriod, last: reach.lastPosted };
      return windowText({ by: 'period', ...of(cal, data.today, extent, goesOn) }, cal).replace(/ \(.*\)$/, '');
    } catch (error) {
      if (error instanceof CalendarError) return 'not in the calendar';
      throw error;
    }
  };
  const first = yearOf(reach?.firstPeriod ?? 2601);
  const last = Math.max(yearOf(reach?.lastPeriod ?? 2612), first);
  const periods = Array.from({ length: last - first + 1 }, (_, i) => cal.periodsOf(first + i)).flat();
  const latest = periodText(reach?.lastPosted ?? periods[0]?.ordinal ?? 2601);
  // Dates begin as the window that is shown: the last day with a line may be a mistyped one.
  const dayOf = (name: 'from' | 'to'): string => {
    const ordinal = parsePeriod(scope.get(name) ?? '') ?? reach?.lastPosted;
    return periods.find((p) => p.ordinal === ordinal)?.[name] ?? '';
  };
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    if (kind === 'single') {
      const chosen = periods.map((p) => periodText(p.ordinal)).filter((p) => single.has(p));
      const [first = latest, last = first] = [chosen[0], chosen.at(-1)];
      // Periods that follow on each other need no list.
      const between = periods.filter((p) => periodText(p.ordinal) >= first && periodText(p.ordinal) <= last);
      onApply({ from: [first], to: [last], window: [], period: between.length === chosen.length ? [] : chosen });
      return;
    }
    const form = new FormData(event.currentTarget);
    const from = String(form.get('from') ?? '');
    const to = String(form.get('to') ?? '');
    onApply({ from: kind === 'asOf' ? [] : [from], to: [to], window: [], period: [] });
  };
  const period = (name: 'from' | 'to', label: string) => (
    <label className="block flex-1">
      <span className="mb-1 block text-soft">{label}</span>
      <Select
        name={name}
        defaultValue={parsePeriod(scope.get(name) ?? '') === null ? latest : (scope.get(name) ?? '')}
        className="field w-full"
      >
        {periods.map((p) => (
          <option key={p.ordinal} value={periodText(p.ordinal)}>
            {saidOf(p)}
          </option>
        ))}
      </Select>
    </label>
  );
  const date = (name: 'from' | 'to', label: string) => (
    <label className="block flex-1">
      <span className="mb-1 block text-soft">{label}</span>
      <input
        type="date"
        name={name}
        required
        defaultValue={/^\d{4}-/.test(scope.get(name) ?? '') ? (scope.get(name) ?? '') : dayOf(name)}
        className="field w-full"
      />
    </label>
  );
  return (
    <div>
      <ul className="mb-3 border-b border-rule pb-3">
        {NAMED.map(([name, label]) => (
          <li key={name}>
            <button
              type="button"
              onClick={() => onApply({ window: [name], from: [], to: [], period: [], goesOn: goesOn ? ['yes'] : [] })}
              className="flex w-full cursor-pointer items-baseline gap-3 px-2 py-[3px] text-left hover:bg-chosen focus:bg-chosen"
            >
              <span className="shrink-0">{label}</span>
              <span className="ml-auto truncate text-[12.5px] text-faint">{meaningOf(name)}</span>
            </button>
          </li>
        ))}
      </ul>
      <label className="mb-3 flex items-baseline gap-2 text-[12.5px] text-soft">
        <input type="checkbox" checked={goesOn} onChange={(event) => setGoesOn(event.target.checked)} />
        up to today, though its period has no lines yet
      </label>
      <form onSubmit={submit}>
        <fieldset className="mb-2 flex flex-wrap gap-x-4">
          <legend className="sr-only">Kind of window</legend>
          {(
            [
              ['period', 'Periods'],
              ['single', 'Single periods'],
              ['date', 'Dates'],
              ['asOf', 'As at a date'],
            ] as const
          ).map(([value, label]) => (
            <label key={value} className="flex items-center gap-1.5">
              <input type="radio" name="kind" checked={kind === value} onChange={() => setKind(value)} /> {label}
            </label>
          ))}
        </fieldset>
        {kind === 'single' && (
          <ul aria-label="Single periods" className="grid max-h-[140px] grid-cols-2 gap-x-3 overflow-auto">
            {periods.map((p) => {
              const code = periodText(p.ordinal);
              return (
                <li key={code}>
                  <label className="flex items-baseline gap-2 py-[2px] whitespace-nowrap">
                    <input
                      type="checkbox"
                      checked={single.has(code)}
                      onChange={(event) => setSingle(toggled(single, code, event.target.checked))}
                    />
                    {saidOf(p)}
                  </label>
                </li>
              );
            })}
          </ul>
        )}
        <div className="flex gap-3">
          {kind === 'period' && period('from', 'From')}
          {kind === 'period' && period('to', 'To')}
          {kind === 'date' && date('from', 'From')}
          {(kind === 'date' || kind === 'asOf') && date('to', kind === 'date' ? 'To' : 'Balances up to and with')}
        </div>
        <button type="submit" disabled={kind === 'single' && single.size === 0} className="button-main mt-3">
          Set the window
        </button>
      </form>
    </div>
  );
}

export function StatusEditor({
  title,
  choices,
  value,
  onApply,
}: {
  title: string;
  choices: [string, string][];
  value: string;
  onApply(value: string): void;
}) {
  return (
    <fieldset>
      <legend className="mb-2 text-soft">{title}</legend>
      {choices.map(([name, label]) => (
        <label key={name} className="flex items-center gap-2 py-1">
          <input type="radio" name="choice" checked={value === name} onChange={() => onApply(name)} /> {label}
        </label>
      ))}
    </fieldset>
  );
}

/** The currency in which the figures are shown: those of the companies' own books. */
export function CurrencyEditor({ scope, onApply }: EditorProps) {
  const { data } = useEntities();
  const entities = data?.entities ?? [];
  const own = new Set(entities.filter((e) => scope.getAll('entity').includes(e.code)).map((e) => e.currency));
  const [shown = ''] = [scope.get('in') ?? entities.find((e) => e.code === scope.get('entity'))?.currency];
  return (
    <fieldset>
      <legend className="mb-2 text-soft">Shown in</legend>
      {[...new Set(entities.map((e) => e.currency))].sort().map((currency) => (
        <label key={currency} className="flex items-center gap-2 py-1">
          <input
            type="radio"
            name="choice"
            checked={shown === currency}
            onChange={() => onApply({ in: own.size === 1 && own.has(currency) ? [] : [currency] })}
          />{' '}
          {currency}
          {own.has(currency) && <span className="text-faint">as booked</span>}
        </label>
      ))}
      <p className="mt-1 text-[12.5px] text-soft">
        Figures are translated at the loaded rates; lines stand as they were booked, with what each is worth beside.
      </p>
    </fieldset>
  );
}
