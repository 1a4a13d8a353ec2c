'use client';

import { type ReactNode, useState } from 'react';
import { columnLabel, readColumn } from '@/core/columns';
import { Select } from '../parts/Select';
import { useAnswer, useEntities } from '../query/hooks';
import type { ViewPart } from './ViewSentence';

const COMPARED: [string, string][] = [
  ['ytd', 'Year to date'],
  ['year-before', 'The same window a year before'],
  ['change:year-before', 'Change from a year before'],
  ['change%:year-before', 'Change from a year before, %'],
  ['ytd-before', 'Year to date, a year before'],
  ['window-before', 'The window before'],
  ['change:window-before', 'Change from the window before'],
  ['last-year', 'Last fiscal year, or its end'],
  ['trailing-12', 'Trailing twelve periods'],
  ['unposted', 'Unposted lines of the window'],
  ['adjustments', 'Adjustment entries of the window'],
  ['booked', 'As booked, without what is proposed'],
  ['proposed', 'What proposed entries add'],
  ['adjusted', 'Booked and proposed together'],
];

/** Open orders, where the books have plans and orders beside them. */
const ORDERED: [string, string][] = [
  ['committed', 'Open orders due in the window or before'],
  ['committed-later', 'Open orders due later'],
  ['own|Available|-window|-committed|-committed-later', 'What is left after open orders'],
];

/** What is told of the lines behind each row, in a split. */
const OF_LINES: [string, string][] = [
  ['lines', 'Number of lines'],
  ['quantity', 'Quantity'],
  ['quantity:year-before', 'Quantity, a year before'],
  ['per-unit', 'Amount per unit'],
  ['per-unit:year-before', 'Amount per unit, a year before'],
  ['average', 'Average line'],
  ['smallest', 'Smallest line'],
  ['largest', 'Largest line'],
];

/** So many columns are named in the sentence. */
const NAMED_MAX = 2;

/**
 * Which columns are beside the window, as a part of the sentence of how a sheet is shown. They are kept when rows are
 * opened further, since they are in the address.
 */
export const columnsPart = (props: Props): ViewPart => ({
  key: 'columns',
  label: 'Columns',
  phrase: columnsPhrase(props.chosen),
  content: <Columns {...props} />,
  opensBy: 'c',
});

function columnsPhrase(chosen: readonly string[]): string {
  const labels = chosen.map((key) => columnLabel(readColumn(key)));
  const small = labels.map((label) => label.charAt(0).toLowerCase() + label.slice(1));
  if (small.length === 0) return 'the window alone';
  return small.length <= NAMED_MAX ? `beside ${small.join(' and ')}` : `beside ${small.length} other columns`;
}

interface Props {
  /** The companies whose budgets can be beside; none where no budget can. */
  plansOf: string[];
  /** Whether the lines behind each row can be told of. */
  ofLines?: boolean;
  /** Over what shares are; null where there are none. */
  sharesOf: string | null;
  chosen: string[];
  /** That of the sheet. */
  currency: string;
  onChange(keys: string[]): void;
}

function Columns({ plansOf, ofLines = false, sharesOf, chosen, currency, onChange }: Props) {
  const { data: plans } = useAnswer(
    'GET /budgets',
    plansOf.length === 0 ? null : new URLSearchParams(plansOf.map((code) => ['entity', code])),
  );
  const versions = [...new Set(plans?.rows.map((r) => r.version))];
  const budgets = versions.flatMap((v): [string, string][] => [
    [`budget:${v}`, `Budget ${v}`],
    [`variance:${v}`, `Variance from budget ${v}`],
  ]);
  const { data } = useEntities();
  const currencies = [
    ...new Set([
      ...(data?.entities ?? []).map((e) => e.currency),
      ...chosen.flatMap((key) => (key.startsWith('in:') ? [key.slice(3)] : [])),
    ]),
  ]
    .filter((code) => code !== currency)
    .map((code): [string, string] => [`in:${code}`, `The window in ${code}`]);
  const shares: [string, string][] =
    sharesOf === null
      ? []
      : [
          ['share', `Share of ${sharesOf}, %`],
          ['share:ytd', `Share of ${sharesOf}, year to date, %`],
        ];
  // What is ticked shows at once; the address follows.
  const [ticked, setTicked] = useState(chosen);
  const put = (keys: string[]): void => {
    setTicked(keys);
    onChange(keys);
  };
  const add = (keys: string[]): void => put([...ticked, ...keys.filter((key) => !ticked.includes(key))]);
  const own = ticked
    .filter((key) => key.startsWith('own|'))
    .map((key): [string, string] => [key, key.split('|')[1] ?? key]);
  const spans = ticked
    .filter((key) => key.startsWith('over:') || key.includes(':over:'))
    .map((key): [string, string] => [key, columnLabel(readColumn(key))]);
  const all = [
    ...COMPARED,
    ...shares,
    ...(ofLines ? OF_LINES : []),
    ...budgets,
    ...(plansOf.length > 0 ? ORDERED : []),
    ...currencies,
    ...spans,
    ...own,
  ];
  return (
    <>
      <fieldset>
        <legend className="mb-1 text-soft">Beside this window</legend>
        {all.map(([key, label]) => (
          <label key={key} className="flex items-center gap-2 py-[3px]">
            <input
              type="checkbox"
              checked={ticked.includes(key)}
              onChange={(event) =>
                put(
                  event.target.checked
                    ? all.map(([k]) => k).filter((k) => k === key || ticked.includes(k))
                    : ticked.filter((k) => k !== key),
                )
              }
            />
            {label}
          </label>
        ))}
      </fieldset>
      <OtherWindow onAdd={add} />
      <OwnColumn
        choices={[
          ['window', 'This window'],
          ...all.filter(
            ([key]) =>
              !key.includes('%') &&
              !key.startsWith('share') &&
              !key.startsWith('in:') &&
              !OF_LINES.some(([k]) => k === key),
          ),
        ]}
        onAdd={add}
      />
    </>
  );
}

/** A form that is opened by its name, and closed again by what it adds; a fault leaves it open. @param read the columns that it asks for */
function AddColumns({
  name,
  read,
  onAdd,
  children,
}: {
  name: string;
  read(form: FormData): string[];
  onAdd(keys: string[]): void;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const [fault, setFault] = useState<string | null>(null);
  if (!open) {
    return (
      <button type="button" className="link mt-2 block" onClick={() => setOpen(true)}>
        {name}
      </button>
    );
  }
  return (
    <form
      className="mt-2 flex flex-col gap-1.5 border-t border-rule pt-2"
      onSubmit={(event) => {
        event.preventDefault();
        try {
          onAdd(read(new FormData(event.currentTarget)));
          setFault(null);
          setOpen(false);
        } catch (error) {
          setFault((error as Error).message);
        }
      }}
    >
      {children}
      {fault && (
        <p className="text-[12.5px] text-warn" role="alert">
          {fault}
        </p>
      )}
      <button type="submit" className="button self-start">
        Add the column
      </button>
    </form>
  );
}

const textOf = (form: FormData, name: string): string => String(form.get(name) ?? '').trim();

/** Any other window beside this one, with or without the change from it. @throws ColumnError where it is no window */
function anotherWindow(form: FormData): string[] {
  const from = textOf(form, 'from');
  const key = `over:${from}..${textOf(form, 'to') || from}`;
  readColumn(key);
  return form.get('change') ? [key, `change:${key}`] : [key];
}

function OtherWindow({ onAdd }: { onAdd(keys: string[]): void }) {
  return (
    <AddColumns name="Another window" read={anotherWindow} onAdd={onAdd}>
      <div className="flex gap-2">
        {[
          ['from', 'From'],
          ['to', 'To'],
        ].map(([name, label]) => (
          <label key={name} className="block min-w-0 flex-1">
            <span className="text-soft">{label}</span>
            <input
              name={name}
              placeholder="2026.01"
              autoComplete="off"
              className="field w-full"
              aria-describedby="other-window"
            />
          </label>
        ))}
      </div>
      <p id="other-window" className="text-[12.5px] text-soft">
        Periods such as 2026.01, or dates such as 2026-01-15
      </p>
      <label className="flex items-center gap-2">
        <input type="checkbox" name="change" /> with the change from it
      </label>
    </AddColumns>
  );
}

const WAYS: [string, string][] = [
  ['-', 'less'],
  ['+', 'plus'],
  ['/', 'over'],
];

/** A column of one's own over two others; it can be taken into a further one. */
function ownColumn(form: FormData): string[] {
  const [first, way, second] = ['first', 'way', 'second'].map((name) => textOf(form, name));
  const called = textOf(form, 'name').replace(/[,|]/g, ' ').trim();
  if (!called) return [];
  return [way === '/' ? `own|${called}|${first}|/|${second}` : `own|${called}|+${first}|${way}${second}`];
}

function OwnColumn({ choices, onAdd }: { choices: [string, string][]; onAdd(keys: string[]): void }) {
  const pick = (name: string, label: string, options: [string, string][]) => (
    <Select name={name} aria-label={label} className="field w-full">
      {options.map(([key, text]) => (
        <option key={key} value={key}>
          {text}
        </option>
      ))}
    </Select>
  );
  return (
    <AddColumns name="A column of your own" read={ownColumn} onAdd={onAdd}>
      <input
        name="name"
        required
        maxLength={60}
        placeholder="What it is called"
        aria-label="What the column is called"
        className="field w-full"
      />
      {pick('first', 'First column', choices)}
      {pick('way', 'Less, plus or over', WAYS)}
      {pick('second', 'Second column', choices)}
    </AddColumns>
  );
}
