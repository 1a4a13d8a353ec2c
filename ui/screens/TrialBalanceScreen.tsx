'use client';

import { useMemo, useState } from 'react';
import type { TrialBalance } from '@/contracts/answers/sheets';
import { figureSubject } from '@/contracts/subject';
import { asPut, scopeAt } from '../address/address';
import { recall, remember } from '../address/memory';
import { amountText, columnText, type Scale, scaledText } from '../amounts';
import { openDocumentsPath } from '../documents/address';
import { useAnswer, useEntities } from '../query/hooks';
import { cellFigure } from '../sheet/cellFigure';
import type { Column } from '../sheet/Grid';
import type { SheetModel, SheetRow } from '../sheet/model';
import { useMarks } from '../sheet/useMarks';
import { ColumnsChoice } from './ColumnsChoice';
import { Pick } from './Pick';
import { type ScreenProps, SheetFrame, ties } from './SheetFrame';
import { trialBalanceParams, trialBalanceStep } from './steps';
import { UnitChoice } from './UnitChoice';
import { scaleOf, scaleWord, ViewChoice } from './ViewChoice';

const AMOUNT = 'minmax(96px, 110px)';
const COLUMNS: Column[] = [
  { key: 'account', label: 'Account', width: 'minmax(180px, 1fr)' },
  { key: 'opening', label: 'Opening', width: AMOUNT, amount: true },
  { key: 'debit', label: 'Debit', width: AMOUNT, amount: true },
  { key: 'credit', label: 'Credit', width: AMOUNT, amount: true },
  { key: 'closing', label: 'Closing', width: AMOUNT, amount: true },
  {
    key: 'yearDebit',
    label: 'Debits, year',
    width: AMOUNT,
    amount: true,
    onRequest: true,
    hint: 'All debits since the fiscal year began.',
  },
  {
    key: 'yearCredit',
    label: 'Credits, year',
    width: AMOUNT,
    amount: true,
    onRequest: true,
    hint: 'All credits since the fiscal year began.',
  },
  { key: 'yearToDate', label: 'Year to date', width: AMOUNT, amount: true },
];

type Row = TrialBalance['rows'][number];

/** Accounts that documents are on, of the one company that is asked about. */
function useControls(scope: URLSearchParams): ReadonlySet<string> {
  const { data } = useEntities();
  const [entity, other] = scope.getAll('entity');
  return useMemo(
    () => new Set(other === undefined ? data?.entities.find((e) => e.code === entity)?.controls : []),
    [data, entity, other],
  );
}

/** Every account of the scope: opening, debit, credit, closing, and the year to date. */
export function TrialBalanceScreen(props: ScreenProps) {
  const { screen, memoryKey, replace } = props;
  const { data, error, isPlaceholderData, isPending } = useAnswer('GET /trial-balance', trialBalanceParams(screen));
  const [folded, setFolded] = useState<ReadonlySet<string>>(() => new Set(recall(memoryKey).folded));
  const fold = (next: ReadonlySet<string>): void => {
    setFolded(next);
    remember(memoryKey, { folded: [...next] });
  };
  const { tree = 'yes', zero = 'hide', retained = 'one' } = screen.options;
  const scale = scaleOf(screen.options);
  const measure = screen.options.compare === 'movement' ? 'movement' : 'closing';
  const byName = screen.options.order === 'name' && tree === 'no';
  const listed = useMemo(() => {
    const rows = data?.rows ?? [];
    return rowsOf(byName ? [...rows].sort((a, b) => a.name.localeCompare(b.name)) : rows, folded);
  }, [data, folded, byName]);
  const scope = useMemo(() => scopeAt(screen, 0), [screen]);
  const marks = useMarks(scope);
  const sides = screen.options.sides === 'two';
  const controls = useControls(scope);

  const model = useMemo((): SheetModel => {
    const address = new URLSearchParams(data?.address ?? '');
    const rowAt = (index: number): SheetRow | undefined => {
      const found = listed[index];
      if (!found) return undefined;
      if ('part' in found) return partRow(found);
      const { row, hasChildren } = found;
      const subject = new URLSearchParams(address);
      subject.set('accounts', row.selection ?? row.account);
      const put = { accounts: [row.selection ?? row.account] };
      return {
        key: row.account,
        label: row.heading ? row.name : `${row.account} ${row.name}`,
        depth: row.depth,
        ...(row.heading ? { look: 'heading' as const } : {}),
        folded: row.heading && hasChildren ? folded.has(row.account) : null,
        opens: true,
        cells: {
          account: row.heading ? (
            row.name
          ) : (
            <NamedAccount code={row.account} name={row.name} show={screen.options.labels} />
          ),
          ...Object.fromEntries(Object.entries(row.codes ?? {}).map(([scheme, code]) => [codeColumn(scheme), code])),
          ...amountCells(row, scale),
          ...(sides ? sideCells(row, scale) : {}),
          ...comparedCells(row, data?.columns, scale),
        },
        count: row.count,
        amounts: { ...amountsOf(row), ...(row.values as Record<string, string> | undefined) },
        standsOut: marks.get(row.account),
        ...(controls.has(row.account)
          ? { links: [{ name: 'Open documents', href: openDocumentsPath(address, row.account) }] }
          : {}),
        subject: figureSubject(subject),
        put,
        figureAt: (column) => cellFigure(data?.columns, column, data?.address ?? '', put, measure),
        step: (column) => (data ? trialBalanceStep(row, SIDE_OF[column] ?? column, data) : null),
        say: (column) =>
          data?.columns?.some((c) => c.key === column && c.key !== 'window')
            ? (data.columns.find((c) => c.key === column)?.hint ?? '')
            : column.startsWith('year')
              ? (COLUMNS.find((c) => c.key === column)?.hint ?? 'What was booked since the fiscal year began.')
              : `Opening ${amountText(row.opening)} plus ${amountText(row.debit)} debit less ${amountText(row.credit)} credit${row.roll === '0.00' || /^-?0\.?0*$/.test(row.roll) ? '' : `, ${amountText(row.roll)} rolled over at the year end`}, makes ${amountText(row.closing)}.`,
      };
    };
    const keys = new Map(listed.map((l, i) => ['part' in l ? l.key : l.row.account, i]));
    return {
      label: 'Trial balance',
      columns: columnsOf(data, sides),
      count: listed.length,
      rowAt,
      indexOf: (key) => keys.get(key) ?? -1,
      standingOut: listed.flatMap((l, i) => (!('part' in l) && marks.has(l.row.account) ? [i] : [])),
      total: data && {
        label: `${accountsText(data.rows.filter((r) => !r.heading).length)}, in ${data.currency}${scaleWord(screen.options)}`,
        ...Object.fromEntries(Object.entries(amountsOf(data.totals)).map(([k, v]) => [k, scaledText(v, scale)])),
        ...(sides && data.sides ? sideTotals(data.sides, scale) : {}),
        ...Object.fromEntries(
          (data.columns ?? []).map(({ key, unit }) => [
            key,
            unit === 'percent' ? '' : scaledText(data.columnTotals?.[key] ?? '0', scale),
          ]),
        ),
      },
      parts: data?.parts ?? [],
      load: data?.load,
      translated: data?.translated,
      empty: data?.empty,
      tie: ties(data?.tie, data?.tie?.means === 'balances' ? 'debits equal credits' : 'ties'),
      stale: isPlaceholderData,
      loading: isPending,
      error,
    };
  }, [
    data,
    listed,
    folded,
    marks,
    controls,
    sides,
    scale,
    measure,
    screen.options,
    isPlaceholderData,
    isPending,
    error,
  ]);

  const chosen = (screen.options.columns ?? '').split(',').filter(Boolean);
  const set = (name: string, value: string): void =>
    replace({ ...screen, options: { ...screen.options, [name]: value } });
  const headings = (data?.rows ?? []).filter((r) => r.heading);
  const deepest = headings.reduce((most, r) => Math.max(most, r.depth + 1), 0);
  /** Folds all headings below a level, counted from one; 0 opens all. */
  const toLevel = (level: number): void =>
    fold(new Set(level === 0 ? [] : headings.filter((r) => r.depth >= level - 1).map((r) => r.account)));
  const level =
    folded.size === 0
      ? 0
      : 1 + headings.reduce((least, r) => (folded.has(r.account) ? Math.min(least, r.depth) : least), deepest);
  return (
    <SheetFrame
      {...props}
      sheet="trial-balance"
      model={model}
      onFold={(index) => {
        const found = listed[index];
        if (!found || 'part' in found) return;
        const next = new Set(folded);
        if (!next.delete(found.row.account)) next.add(found.row.account);
        fold(next);
      }}
      tools={
        <>
          <Choice
            label="Accounts"
            value={zero}
            onChange={(v) => set('zero', v)}
            choices={[
              ['hide', 'with a balance'],
              ['moved', 'that moved'],
              ['active', 'active ones'],
              ['show', 'all'],
            ]}
          />
          <Choice
            label="As"
            value={byName ? 'name' : tree === 'yes' && screen.options.scheme ? screen.options.scheme : tree}
            onChange={(v) => replace({ ...screen, options: listedAs(screen.options, v) })}
            choices={[
              ['yes', 'tree'],
              ['no', 'list'],
              ['name', 'list by name'],
              ...(data?.schemes ?? []).map((s): [string, string] => [s, `by ${s} codes`]),
            ]}
          />
          <UnitChoice screen={screen} go={props.go} />
          <ColumnsChoice
            plansOf={[]}
            sharesOf={null}
            chosen={chosen}
            currency={data?.currency ?? ''}
            onChange={(keys) => set('columns', keys.join(','))}
          />
          <Choice
            label="Retained earnings"
            value={retained}
            onChange={(v) => set('retained', v)}
            choices={[
              ['one', 'as one'],
              ['parts', 'in parts'],
            ]}
          />
          <ViewChoice
            options={screen.options}
            languages={data?.languages ?? []}
            sides={!data?.columns}
            onChange={set}
          />
          {tree === 'yes' && deepest > 0 && (
            <Pick
              label="to level"
              value={String(level)}
              onChange={(v) => toLevel(Number(v))}
              choices={[
                ['0', 'all'],
                ...Array.from({ length: deepest }, (_, i): [string, string] => [String(i + 1), String(i + 1)]),
              ]}
            />
          )}
        </>
      }
    />
  );
}

/** As a tree, as a list by code or by name, or under the codes of a scheme. */
function listedAs({ scheme: _scheme, ...options }: Record<string, string>, as: string): Record<string, string> {
  if (as === 'no' || as === 'name') return { ...options, tree: 'no', order: as === 'name' ? 'name' : 'code' };
  return { ...options, tree: 'yes', order: 'code', ...(as === 'yes' ? {} : { scheme: as }) };
}

export function Choice({
  label,
  value,
  choices,
  onChange,
}: {
  label: string;
  value: string;
  choices: [string, string][];
  onChange(value: string): void;
}) {
  return (
    <fieldset className="flex items-baseline gap-2 whitespace-nowrap">
      <legend className="float-left mr-2 text-faint">{label}</legend>
      {choices.map(([name, text]) => (
        <button
          key={name}
          type="button"
          aria-pressed={value === name}
          onClick={() => onChange(name)}
          className={`cursor-pointer ${value === name ? 'font-semibold text-ink underline decoration-1 underline-offset-4' : 'hover:text-ink'}`}
        >
          {text}
        </button>
      ))}
    </fieldset>
  );
}

/** Beside other windows the balance of each is, instead of what made it up. */
function columnsOf(data: TrialBalance | undefined, sides: boolean): Column[] {
  const codes = (data?.schemes ?? []).map(
    (scheme): Column => ({ key: codeColumn(scheme), label: `${capital(scheme)} code`, width: '96px', onRequest: true }),
  );
  const [account, ...amounts] = !data?.columns && sides ? SIDES : COLUMNS;
  if (!data?.columns) return [account as Column, ...codes, ...amounts];
  const compared = data.columns.map((c) => ({
    key: c.key,
    label: c.key === 'window' ? 'Closing' : c.label,
    width: c.unit === 'percent' ? 'minmax(70px, 84px)' : AMOUNT,
    amount: true,
    hint: `${c.title ? `${c.title}. ` : ''}${c.hint}`,
  }));
  return [account as Column, ...codes, COLUMNS[1] as Column, ...compared];
}

/** The column of a scheme’s codes. */
const codeColumn = (scheme: string): string => `code:${scheme}`;

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1);

/** Balances in two columns, as many a trial balance is printed. */
const SIDES: Column[] = [
  { key: 'account', label: 'Account', width: 'minmax(200px, 1fr)' },
  ...[
    ['openingDebit', 'Opening debit'],
    ['openingCredit', 'Opening credit'],
    ['debit', 'Debit'],
    ['credit', 'Credit'],
    ['closingDebit', 'Closing debit'],
    ['closingCredit', 'Closing credit'],
  ].map(([key = '', label = '']) => ({ key, label, width: 'minmax(100px, 122px)', amount: true })),
];

/** Which balance a column of one side traces. */
const SIDE_OF: Record<string, string> = {
  openingDebit: 'opening',
  openingCredit: 'opening',
  closingDebit: 'closing',
  closingCredit: 'closing',
};

/** A heading nets what is beneath it; only accounts are on a side. */
function sideCells(row: Row, scale: Scale): Record<string, string> {
  const sides = (['opening', 'closing'] as const).flatMap((of): [string, string][] => {
    const credit = row[of].startsWith('-');
    return [
      [`${of}Debit`, credit ? '' : scaledText(row[of], scale)],
      [`${of}Credit`, credit ? scaledText(row[of].slice(1), scale) : ''],
    ];
  });
  return Object.fromEntries(sides);
}

const accountsText = (count: number): string => `${count} ${count === 1 ? 'account' : 'accounts'}`;

const sideTotals = (sides: NonNullable<TrialBalance['sides']>, scale: Scale): Record<string, string> =>
  Object.fromEntries(Object.entries(sides).map(([key, value]) => [key, scaledText(value, scale)]));

const comparedCells = (row: Row, columns: TrialBalance['columns'], scale: Scale): Record<string, string> =>
  Object.fromEntries(
    (columns ?? []).map(({ key, unit }) => {
      return [key, columnText(row.values?.[key] ?? null, unit === 'percent', scale)];
    }),
  );

/** @param show by `code` or by `name` alone, or both */
export function NamedAccount({ code, name, show }: { code: string; name: string; show?: string | undefined }) {
  if (show === 'code' || show === 'name') return show === 'code' ? code : name;
  return (
    <>
      <span className="mr-3 inline-block min-w-9 text-faint">{code}</span>
      {name}
    </>
  );
}

type Listed =
  | { row: Row; hasChildren: boolean }
  | { part: NonNullable<Row['parts']>[number]; depth: number; key: string };

/** Rows that no folded heading hides, with the parts of retained earnings under it. */
function rowsOf(rows: Row[], folded: ReadonlySet<string>): Listed[] {
  const found: Listed[] = [];
  let hiddenBelow: number | null = null;
  for (const [i, row] of rows.entries()) {
    if (hiddenBelow !== null && row.depth > hiddenBelow) continue;
    hiddenBelow = row.heading && folded.has(row.account) ? row.depth : null;
    found.push({ row, hasChildren: (rows[i + 1]?.depth ?? 0) > row.depth });
    for (const part of row.parts ?? []) found.push({ part, depth: row.depth + 1, key: `${row.account}/${part.label}` });
  }
  return found;
}

const partRow = ({ part, depth, key }: Extract<Listed, { part: unknown }>): SheetRow => ({
  key,
  label: part.label,
  look: 'quiet',
  depth,
  cells: { account: part.label, opening: amountText(part.opening) },
  subject: null,
  put: null,
  opens: part.refine !== null,
  step: (column) => {
    if (!part.refine) return null;
    const taken = { label: part.label, row: key, column, put: asPut(part.refine) };
    return part.year === null ? { view: 'lines', ...taken } : { view: 'split', by: 'account', ...taken };
  },
  say: () => 'Part of the opening balance of retained earnings.',
});

const amountsOf = (
  row: Pick<Row, 'opening' | 'debit' | 'credit' | 'closing' | 'yearToDate' | 'yearDebit' | 'yearCredit'>,
): Record<string, string> => ({
  opening: row.opening,
  debit: row.debit,
  credit: row.credit,
  closing: row.closing,
  yearToDate: row.yearToDate ?? '',
  yearDebit: row.yearDebit ?? '',
  yearCredit: row.yearCredit ?? '',
});

export const amountCells = (row: Parameters<typeof amountsOf>[0], scale: Scale = 'exact'): Record<string, string> =>
  Object.fromEntries(Object.entries(amountsOf(row)).map(([key, value]) => [key, scaledText(value, scale)]));
