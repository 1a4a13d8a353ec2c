'use client';

import Link from 'next/link';
import { type ReactNode, useMemo } from 'react';
import type { Entities } from '@/contracts/answers/charts';
import type { Statement } from '@/contracts/answers/statements';
import { figureSubject } from '@/contracts/subject';
import { asPut, scopeAt } from '../address/address';
import { splitChoices } from '../address/splitNames';
import { percentText, type Scale, scaledText } from '../amounts';
import { Verdict } from '../parts/Verdict';
import { useAnswer, useEntities } from '../query/hooks';
import { cellFigure } from '../sheet/cellFigure';
import type { Column } from '../sheet/gridModel';
import type { SheetModel, SheetRow } from '../sheet/model';
import { useMarks } from '../sheet/useMarks';
import { Choice } from './Choice';
import { ColumnsChoice } from './ColumnsChoice';
import { NamedAccount } from './NamedAccount';
import { Pick } from './Pick';
import { type ScreenProps, SheetFrame } from './SheetFrame';
import { incomeStatementOf, statementOf, statementParams, statementStep } from './steps';
import { UnitChoice } from './UnitChoice';
import { scaleOf, ViewChoice } from './ViewChoice';

const AMOUNT = 'minmax(104px, 130px)';
const PERCENT = 'minmax(76px, 96px)';

/** A statement: rows of an outline, columns of the scope, guards always in view; every figure traces. */
export function StatementScreen(props: ScreenProps) {
  const { screen, replace } = props;
  const code = statementOf(screen);
  const { data, error, isPlaceholderData, isPending } = useAnswer('GET /statements/{code}', statementParams(screen), {
    code,
  });
  const entity = scopeAt(screen, 0).get('entity') ?? '';
  const list = useAnswer('GET /statements', new URLSearchParams({ entity }));
  const several = scopeAt(screen, 0).getAll('entity').length > 1;
  const open = screen.options.open ?? '';
  const set = (name: string, value: string): void => {
    const { [name]: _former, ...rest } = screen.options;
    replace({ ...screen, options: value === '' ? rest : { ...rest, [name]: value } });
  };
  const scale = scaleOf(screen.options);
  /** Whether its rows are those of an outline that anybody can change. */
  const outlined = data?.kind === 'income' || data?.kind === 'balance';
  const scope = useMemo(() => scopeAt(screen, 0), [screen]);
  const marks = useMarks(scope, code);
  const opened = useMemo(() => new Set(open.split(',').filter(Boolean)), [open]);

  const model = useMemo((): SheetModel => {
    const rows = data?.rows ?? [];
    const address = new URLSearchParams(data?.address ?? '');
    const percent = new Set((data?.columns ?? []).filter((c) => c.unit === 'percent').map((c) => c.key));
    // A position leaves out what nobody has, such as adjustments.
    const used = (data?.columns ?? []).filter(
      (c) => data?.kind !== 'position' || rows.some((r) => /[1-9]/.test(r.values[c.key] ?? '')),
    );
    const columns: Column[] = [
      {
        key: 'caption',
        label: `${data?.name ?? 'Statement'}${scale === 'thousands' ? ', thousands' : ''}`,
        width: data?.kind === 'position' ? 'minmax(140px, 1fr)' : 'minmax(220px, 1fr)',
      },
      ...used.map((c) => ({
        key: c.key,
        label: c.label,
        width: c.unit === 'percent' ? PERCENT : data?.kind === 'position' ? 'minmax(104px, 112px)' : AMOUNT,
        amount: true,
        hint: `${c.title ? `${c.title}. ` : ''}${c.hint}`,
      })),
    ];
    const measure = data?.kind === 'balance' ? 'closing' : 'movement';
    const rowAt = (index: number): SheetRow | undefined => {
      const row = rows[index];
      if (!row || !data) return undefined;
      const subject = new URLSearchParams(address);
      if (row.refine?.accounts) subject.set('accounts', String(row.refine.accounts));
      const opensHere = row.kind === 'accounts' && row.opens;
      return {
        key: row.key,
        label: row.account ? `${row.account} ${row.label}` : row.label,
        depth: row.depth,
        ...(row.kind === 'caption' && row.values.window === null
          ? { look: 'heading' as const }
          : row.emphasis
            ? { look: row.emphasis }
            : {}),
        folded: opensHere ? !(opened.has('all') || opened.has(row.key)) : null,
        opens: row.refine !== null,
        standsOut: marks.get(row.key),
        cells: {
          caption: row.account ? (
            <NamedAccount code={row.account} name={row.label} show={screen.options.labels} />
          ) : (
            row.label
          ),
          ...Object.fromEntries(
            Object.entries(row.values).map(([key, value]) => [
              key,
              cellOf(value, percent.has(key), verdictOf(data, row, key), scale),
            ]),
          ),
        },
        amounts: Object.fromEntries(
          Object.entries(row.values).filter(([key, v]) => v !== null && !percent.has(key)),
        ) as Record<string, string>,
        subject:
          row.refine && data.kind !== 'cashflow' && data.kind !== 'tax' && row.key !== 'intercompany'
            ? figureSubject(subject)
            : null,
        put: row.refine && asPut(row.refine),
        figureAt: (column) =>
          row.refine && data.kind !== 'cashflow' && data.kind !== 'tax'
            ? cellFigure(data.columns, column, data.address, asPut(row.refine), measure)
            : undefined,
        links: data.kind === 'balance' && row.kind === 'result' ? linksOf(incomeStatementOf(address)) : undefined,
        step: (column) => statementStep(row, column === 'caption' ? 'window' : column, data),
        say: (column) => sayOf(data, row, column),
      };
    };
    const keys = new Map(rows.map((r, i) => [r.key, i]));
    return {
      label: data?.name ?? 'Statement',
      columns,
      count: rows.length,
      rowAt,
      indexOf: (key) => keys.get(key) ?? -1,
      standingOut: rows.flatMap((r, i) => (marks.has(r.key) ? [i] : [])),
      parts: data?.parts ?? [],
      load: data?.load,
      translated: data?.translated,
      empty: data?.empty,
      tie: data ? <GuardMark guards={data.guards} /> : null,
      stale: isPlaceholderData,
      loading: isPending,
      error,
    };
  }, [data, opened, marks, scale, screen.options.labels, isPlaceholderData, isPending, error]);

  return (
    <SheetFrame
      {...props}
      sheet={`statement-${data?.kind ?? code}`}
      model={model}
      onFold={(index) => {
        const key = data?.rows[index]?.key;
        if (!key || !data) return;
        const all = opened.has('all')
          ? new Set(data.rows.filter((r) => r.kind === 'accounts').map((r) => r.key))
          : new Set(opened);
        if (!all.delete(key)) all.add(key);
        set('open', [...all].join(','));
      }}
      above={data && <Guards guards={data.guards} />}
      tools={
        <>
          <Choice
            label="Statement"
            value={code}
            onChange={(v) => replace({ ...screen, options: { ...screen.options, statement: v } })}
            choices={(list.data?.rows ?? []).map((s): [string, string] => [s.code, s.name])}
          />
          {data?.kind === 'position' && <ByDimension value={data.by ?? ''} onChange={(v) => set('by', v)} />}
          {data && outlined && (
            <>
              <ColumnsChoice
                currency={data.currency}
                plansOf={scope.getAll('entity')}
                sharesOf="the base row"
                chosen={(screen.options.columns ?? '').split(',').filter(Boolean)}
                onChange={(keys) => set('columns', keys.join(','))}
              />
              <UnitChoice screen={screen} go={props.go} />
              <SideBySide value={screen.options.across ?? ''} onChange={(v) => set('across', v)} />
              <Choice
                label="Rows"
                value={opened.has('all') ? 'all' : ''}
                onChange={(v) => set('open', v)}
                choices={[
                  ['', 'captions'],
                  ['all', 'accounts'],
                ]}
              />
              {several && (
                <Choice
                  label="Group"
                  value={screen.options.eliminated ?? ''}
                  onChange={(v) => set('eliminated', v)}
                  choices={[
                    ['', 'added up'],
                    ['yes', 'eliminated'],
                  ]}
                />
              )}
              {!several && (list.data?.schemes.length ?? 0) > 0 && (
                <Choice
                  label="By"
                  value={screen.options.scheme ?? ''}
                  onChange={(v) => set('scheme', v)}
                  choices={[
                    ['', 'house rows'],
                    ...(list.data?.schemes ?? []).map((s): [string, string] => [s, `${s} codes`]),
                  ]}
                />
              )}
            </>
          )}
          {data && <ViewChoice options={screen.options} languages={data.languages ?? []} onChange={set} />}
          {data && outlined && (
            <Link
              href={`/statements/budgets?entity=${entity}`}
              className="ml-auto shrink-0 underline decoration-rule underline-offset-4 hover:text-ink"
            >
              Budgets
            </Link>
          )}
          {data && outlined && (
            <Link
              href={`/statements/outline?entity=${entity}&code=${code}`}
              className="shrink-0 underline decoration-rule underline-offset-4 hover:text-ink"
            >
              Outline
            </Link>
          )}
        </>
      }
    />
  );
}

const linksOf = (href: string | null): { name: string; href: string }[] =>
  href === null ? [] : [{ name: 'Income statement of the year so far', href }];

/** Favourable is more income or less expense (method.md §9): said in a word, not by colour. */
function verdictOf(data: Statement, row: Statement['rows'][number], key: string): 'favourable' | 'adverse' | null {
  const column = data.columns.find((c) => c.key === key);
  const value = row.values[key];
  if (!column?.favourable || !value || !/[1-9]/.test(value)) return null;
  return (row.sign === 'credit') === !value.startsWith('-') ? 'favourable' : 'adverse';
}

function cellOf(
  value: string | null,
  percent: boolean,
  verdict: 'favourable' | 'adverse' | null,
  scale: Scale,
): ReactNode {
  if (value === null) return '';
  if (percent) return percentText(value);
  if (!verdict) return scaledText(value, scale);
  return <Verdict favourable={verdict === 'favourable'}>{scaledText(value, scale)}</Verdict>;
}

function sayOf(data: Statement, row: Statement['rows'][number], column: string): string {
  const of = data.columns.find((c) => c.key === column);
  if (row.refine?.opposite)
    return 'The cash lines of entries with such accounts on the other side; of an entry with several lines on both sides this row has its share.';
  const what = row.refine?.accounts ? `Accounts ${row.refine.accounts}. ` : '';
  return `${what}${of ? `${of.label}${of.title ? `, ${of.title}` : ''}: ${of.hint}` : ''}`;
}

/** All guards in one mark for the status line. */
function GuardMark({ guards }: { guards: Statement['guards'] }) {
  const off = guards.filter((g) => !g.ok).length;
  return off === 0 ? (
    <span>✓ guards hold</span>
  ) : (
    <strong className="text-warn">✗ {off === 1 ? 'a guard does not hold' : `${off} guards do not hold`}</strong>
  );
}

/** What must hold of the statement: in one line while it does, each in its own where it does not. */
function Guards({ guards }: { guards: Statement['guards'] }) {
  const off = guards.filter((g) => !g.ok);
  return (
    <div className="shrink-0 py-[3px] text-[12.5px]" role="status" aria-label="Guards">
      {off.length === 0 ? (
        <p className="truncate text-soft">{guards.map((g) => `✓ ${g.says}`).join(' · ')}</p>
      ) : (
        off.map((g) => (
          <p key={g.guard} className="border border-warn bg-warnground px-2 py-0.5">
            ✗ {g.says}
          </p>
        ))
      )}
    </div>
  );
}

/** The dimension whose members a position is of. */
function ByDimension({ value, onChange }: { value: string; onChange(value: string): void }) {
  return (
    <Pick
      label="Of each"
      value={value}
      choices={dimensionChoices(useEntities().data).filter(([by]) => !by.includes('@'))}
      onChange={onChange}
    />
  );
}

/** Members of one split side by side. */
function SideBySide({ value, onChange }: { value: string; onChange(value: string): void }) {
  const choices: [string, string][] = [
    ['', 'nothing'],
    ['period', 'periods'],
    ['entity', 'companies'],
    ...dimensionChoices(useEntities().data),
  ];
  return <Pick label="Side by side" value={value} choices={choices} onChange={onChange} />;
}

/** Dimensions, with the levels of those that have several. */
const dimensionChoices = (data: Entities | undefined): [string, string][] =>
  splitChoices(data?.dimensions).flatMap(([by, name]): [string, string][] =>
    by.startsWith('dim:') ? [[by, name.toLowerCase()]] : [],
  );
