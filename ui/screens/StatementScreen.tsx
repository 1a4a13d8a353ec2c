'use client';

import Link from 'next/link';
import { useMemo } from 'react';
import type { Entities } from '@/contracts/answers/charts';
import type { Statement } from '@/contracts/answers/statements';
import { optionsAt, scopeAt, withOptions } from '../address/address';
import { splitChoices } from '../address/splitNames';
import { useAnswer, useEntities } from '../query/hooks';
import type { SheetModel } from '../sheet/model';
import { type Folding, namedAfter } from '../sheet/useFolding';
import { useMarks } from '../sheet/useMarks';
import { Choice } from './Choice';
import { columnsPart } from './ColumnsChoice';
import { type ScreenProps, SheetFrame } from './SheetFrame';
import { guardsProof, statementColumns, statementRow } from './statementRows';
import { statementOf, statementParams, yearStartIn } from './steps';
import { UnitChoice } from './UnitChoice';
import { type ViewPart, ViewSentence } from './ViewSentence';
import { scaleOf, viewParts } from './viewParts';

/** A statement: rows of an outline, columns of the scope, guards always in view; every figure traces. */
export function StatementScreen(props: ScreenProps) {
  const { screen, replace } = props;
  const depth = screen.steps.length;
  const options = optionsAt(screen, depth);
  const code = statementOf(screen, depth);
  const { data, error, isPlaceholderData, isPending } = useAnswer(
    'GET /statements/{code}',
    statementParams(screen, depth),
    {
      code,
    },
  );
  const scope = useMemo(() => scopeAt(screen, depth), [screen, depth]);
  const entity = scope.get('entity') ?? '';
  const entities = useEntities();
  const list = useAnswer('GET /statements', new URLSearchParams({ entity }));
  const several = scope.getAll('entity').length > 1;
  const open = options.open ?? '';
  const set = (name: string, value: string): void => {
    const { [name]: _former, ...rest } = options;
    replace(withOptions(screen, value === '' ? rest : { ...rest, [name]: value }));
  };
  const scale = scaleOf(options);
  /** Whether its rows are those of an outline that anybody can change. */
  const outlined = data?.kind === 'income' || data?.kind === 'balance';
  const marks = useMarks(scope, code);
  const opened = useMemo(() => new Set(open.split(',').filter(Boolean)), [open]);

  const folding: Folding = {
    expanded: opened.has('all') || Object.fromEntries([...opened].map((key) => [key, true])),
    change: (next) => {
      const all = (data?.rows ?? []).flatMap((r) => (r.kind === 'accounts' ? [r.key] : []));
      set('open', [...namedAfter(opened.has('all') ? all : opened, next, all)].join(','));
    },
  };

  const yearStart = data && yearStartIn(entities.data, entity, new URLSearchParams(data.address).get('to'));

  const model = useMemo((): SheetModel => {
    const rows = data?.rows ?? [];
    const view = { opened, scale, labels: options.labels, marks, yearStart };
    const keys = new Map(rows.map((r, i) => [r.key, i]));
    return {
      label: data?.name ?? 'Statement',
      columns: statementColumns(data, scale),
      count: rows.length,
      rowAt: (index) => rows[index] && data && statementRow(rows[index], data, view),
      indexOf: (key) => keys.get(key) ?? -1,
      standingOut: rows.flatMap((r, i) => (marks.has(r.key) ? [i] : [])),
      parts: data?.parts ?? [],
      path: data && `/statements/${encodeURIComponent(code)}?${statementParams(screen, depth)}`,
      load: data?.load,
      empty: data?.empty,
      tie: data ? guardsProof(data.guards) : null,
      stale: isPlaceholderData,
      loading: isPending,
      error,
    };
  }, [data, opened, marks, scale, options.labels, yearStart, code, screen, depth, isPlaceholderData, isPending, error]);

  const outlinedParts: (ViewPart | null)[] = [
    {
      ...{ key: 'rows', label: 'Rows', value: opened.has('all') ? 'all' : '', onChange: (v) => set('open', v) },
      choices: [
        ['', 'by captions'],
        ['all', 'by accounts'],
      ],
    },
    !several && (list.data?.schemes.length ?? 0) > 0
      ? {
          ...{ key: 'scheme', label: 'Outline', value: options.scheme ?? '', usual: '' },
          onChange: (v) => set('scheme', v),
          choices: [
            ['', 'in house rows'],
            ...(list.data?.schemes ?? []).map((s): [string, string] => [s, `in ${s} codes`]),
          ],
        }
      : null,
    columnsPart({
      currency: data?.currency ?? '',
      plansOf: scope.getAll('entity'),
      sharesOf: 'the base row',
      chosen: (options.columns ?? '').split(',').filter(Boolean),
      onChange: (keys) => set('columns', keys.join(',')),
    }),
    {
      ...{ key: 'across', label: 'Side by side', value: options.across ?? '', usual: '' },
      onChange: (v) => set('across', v),
      choices: [
        ['', 'nothing side by side'],
        ['period', 'periods side by side'],
        ['entity', 'companies side by side'],
        ...dimensionChoices(entities.data).map(([by, name]): [string, string] => [by, `side by side by ${name}`]),
      ],
    },
    several
      ? {
          ...{ key: 'eliminated', label: 'Group', value: options.eliminated ?? '' },
          onChange: (v) => set('eliminated', v),
          choices: [
            ['', 'companies added up'],
            ['yes', 'dealings within the group eliminated'],
          ],
        }
      : null,
  ];

  return (
    <SheetFrame
      {...props}
      sheet={`statement-${data?.kind ?? code}`}
      model={model}
      folding={folding}
      above={data && <Guards guards={data.guards} />}
      tools={
        <>
          <Choice
            label="Statement"
            value={code}
            onChange={(v) => set('statement', v)}
            choices={(list.data?.rows ?? []).map((s): [string, string] => [s.code, s.name])}
          />
          {data && (
            <ViewSentence
              parts={[
                data.kind === 'position'
                  ? {
                      ...{ key: 'by', label: 'Of each', value: data.by ?? '', onChange: (v: string) => set('by', v) },
                      choices: [
                        ...dimensionChoices(entities.data).flatMap(([by, name]): [string, string][] =>
                          by.includes('@') ? [] : [[by, `of each ${name}`]],
                        ),
                        ['account', 'of each cash account'],
                      ],
                    }
                  : null,
                ...(outlined ? outlinedParts : []),
                ...viewParts(options, data.languages ?? [], set),
              ]}
            />
          )}
          {data && outlined && <UnitChoice screen={screen} go={props.go} />}
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

/** Dimensions, with the levels of those that have several. */
const dimensionChoices = (data: Entities | undefined): [string, string][] =>
  splitChoices(data?.dimensions).flatMap(([by, name]): [string, string][] =>
    by.startsWith('dim:') ? [[by, name.toLowerCase()]] : [],
  );
