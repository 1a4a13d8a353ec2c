'use client';

import { useMemo, useState } from 'react';
import type { Amounts, Tie } from '@/contracts/answers/head';
import { subjectText } from '@/contracts/subject';
import { fromFirstMoved } from '@/core/sheet';
import { asPut, type Step, scopeAt, together } from '../address/address';
import { recall, remember } from '../address/memory';
import { splitChoices, splitName } from '../address/splitNames';
import { amountText } from '../amounts';
import { type Picture, PicturePanel } from '../panels/PicturePanel';
import { useAnswer, useEntities } from '../query/hooks';
import { cellFigure } from '../sheet/cellFigure';
import type { SheetModel, SheetRow } from '../sheet/model';
import { useKeys } from '../shell/keys';
import { Choice } from './Choice';
import { ColumnsChoice } from './ColumnsChoice';
import { type CrosstabShape, CrosstabTools } from './CrosstabTools';
import { comparedAmounts, comparedCells, comparedColumns, headsOf, isDerived } from './comparedSplit';
import { drawnRows, heldAgainst } from './drawnSplit';
import { NamedAccount } from './NamedAccount';
import { type ScreenProps, SheetFrame, ties } from './SheetFrame';
import { type Shading, shadedCell } from './shading';
import { COLUMNS, crossColumns, TIME, unfolded } from './splitColumns';
import { splitStep } from './steps';
import { amountCells } from './trialBalanceRows';

/** A figure broken down: by one thing or by several nested in place, and by another across the columns. */
export function SplitScreen(props: ScreenProps & { by: string }) {
  const { screen, by, memoryKey, replace } = props;
  const last = screen.steps.length - 1;
  const { across = '', open = '', columns: beside = '', compare, picture } = screen.steps[last] ?? {};
  const compared = useMemo(() => (across ? [] : beside.split(',').filter(Boolean)), [across, beside]);
  const levels = useMemo(() => by.split('|'), [by]);
  const params = useMemo(() => {
    const scope = scopeAt(screen, screen.steps.length);
    for (const level of levels) scope.append('by', level);
    if (across) scope.set('across', across);
    if (across && open) scope.set('open', open);
    for (const column of compared) scope.append('column', column);
    if (compared.length > 0 && compare) scope.set('compare', compare);
    return scope;
  }, [screen, levels, across, open, compared, compare]);
  const { data: answered, error, isPlaceholderData, isPending } = useAnswer('GET /sheets', params);
  const { data: entities } = useEntities();
  const [folded, setFolded] = useState<ReadonlySet<string>>(() => new Set(recall(memoryKey).folded));
  const [shading, setShading] = useState<Shading>('no');
  const [chosen, setMeasure] = useState<'movement' | 'closing'>('movement');
  const additive = answered?.additive.includes('closing') ?? true;
  // The parts of an opened column add up to it in what moved, not in what was.
  const closes = additive && open === '';
  const measure = closes ? chosen : 'movement';
  const fold = (next: ReadonlySet<string>): void => {
    setFolded(next);
    remember(memoryKey, { folded: [...next] });
  };
  const data = useMemo(
    () => (answered && measure === 'movement' && TIME.includes(across) ? fromFirstMoved(answered) : answered),
    [answered, measure, across],
  );
  const nameOf = useMemo(() => {
    return (level: string): string => splitName(level, entities?.dimensions);
  }, [entities]);
  const title = levels.map(nameOf).join(', ');
  const listed = useMemo(() => unfolded(data?.rows ?? [], folded), [data, folded]);
  const crossed = (data?.columns.length ?? 0) > 0;
  const comparing = compare === 'closing' && additive ? 'closing' : 'movement';

  const model = useMemo((): SheetModel => {
    const innermost = levels[levels.length - 1] ?? '';
    const [, dim = null] = /^dim:([^/@]+)/.exec(innermost) ?? [];
    const parents = new Set(entities?.dimensions.find((d) => d.code === dim)?.members.map((m) => m.parent));
    const most = crossed
      ? Math.max(1, ...listed.flatMap(({ row }) => (row.cells ?? []).map((c) => Math.abs(Number(c[measure])))))
      : 1;
    const rowAt = (index: number): SheetRow | undefined => {
      const found = listed[index];
      if (!found) return undefined;
      const { row, key, opens } = found;
      const put = asPut(row.refine);
      const opensMembers = row.depth === levels.length - 1 && parents.has(row.member);
      const level = levels[row.depth] ?? '';
      const cells = crossed
        ? Object.fromEntries(
            (row.cells ?? []).map((_, i) => [
              `x${i}`,
              shadedCell(shading, data?.columns ?? [], row.cells ?? [], i, measure, most),
            ]),
          )
        : data?.compared
          ? comparedCells(data.compared, row.values)
          : amountCells(row);
      return {
        key,
        label: row.name,
        depth: row.depth,
        ...(row.member.startsWith('~') ? { look: 'quiet' as const } : {}),
        folded: opens ? folded.has(key) : null,
        opens: true,
        cells: {
          member: (
            <>
              {level === 'account' ? <NamedAccount code={row.member} name={row.name} /> : row.name}
              {row.tie && <NodeTie {...row.tie} />}
            </>
          ),
          ...cells,
          ...(crossed ? { whole: amountText(row[measure]) } : {}),
          ...(row.inCurrency ? { inCurrency: `${amountText(row.inCurrency)} ${row.member}` } : {}),
        },
        count: row.count,
        amounts: crossed
          ? Object.fromEntries([...(row.cells ?? []).map((c, i) => [`x${i}`, c[measure]]), ['whole', row[measure]]])
          : data?.compared
            ? comparedAmounts(data.compared, row.values)
            : { opening: row.opening, debit: row.debit, credit: row.credit, closing: row.closing },
        subject: subjectText({ is: 'figure', address: row.address }),
        put,
        figureAt: (column) =>
          cellFigure(
            data?.compared && headsOf(row, column, data.compared),
            column,
            data?.address ?? '',
            put,
            comparing,
          ),
        step: (column): Step | null => {
          if (!data) return null;
          const at = data.columns[Number(/^x(\d+)$/.exec(column)?.[1] ?? Number.NaN)];
          const more = asPut(at?.refine ?? {});
          const cell = at && row.cells?.[Number(column.slice(1))];
          if (at && isNothing(cell, measure)) return null;
          if (data.compared && column !== 'member' && isDerived(data.compared, column, row)) return null;
          const both = { ...together(put, more), ...(cell?.accounts ? { accounts: [cell.accounts] } : {}) };
          const step = splitStep(row, column, data, {
            put: at ? both : put,
            oneAccount: at !== undefined && across === 'account',
          });
          const narrowed = at ? { ...step, label: `${step.label}, ${at.name}`, column: measure } : step;
          if (narrowed.view === 'split' && narrowed.by === levels.join('|') && !at) return null;
          return opensMembers && !at
            ? { ...narrowed, view: 'split' as const, by: `dim:${dim}/${row.member}` }
            : narrowed;
        },
        say: (column) => {
          const at = data?.columns[Number(/^x(\d+)$/.exec(column)?.[1] ?? Number.NaN)];
          if (at) return `${MEASURES[measure]} of ${row.name}, ${at.name}.`;
          const head = data?.compared?.find((c) => c.key === column);
          if (head) return `${MEASURES[comparing]}${head.title ? `, ${head.title}` : ''}: ${head.hint}`;
          return `Opening ${amountText(row.opening)} plus ${amountText(row.debit)} debit less ${amountText(row.credit)} credit makes ${amountText(row.closing)}.`;
        },
      };
    };
    const keys = new Map(listed.map(({ key }, i) => [key, i]));
    const top = data?.rows.filter((r) => r.depth === 0).length ?? 0;
    return {
      label: `Split by ${title.toLowerCase()}`,
      columns: crossed
        ? crossColumns(title, data, shading)
        : data?.compared
          ? comparedColumns(title, data.compared, comparing)
          : COLUMNS(title, levels[0] === 'currency'),
      compared: data?.compared && { columns: compared, compare: comparing },
      count: listed.length,
      rowAt,
      indexOf: (key) => keys.get(key) ?? -1,
      total: data && {
        label: `${top} ${top === 1 ? 'row' : 'rows'}, in ${data.currency}`,
        ...(crossed
          ? {
              ...Object.fromEntries(data.columns.map((c, i) => [`x${i}`, amountText(c.total[measure])])),
              whole: amountText(data.total[measure]),
            }
          : data.compared
            ? comparedCells(data.compared, data.values)
            : amountCells(data.total)),
      },
      parts: data?.parts ?? [],
      load: data?.load,
      translated: data?.translated,
      empty: data?.empty,
      tie: ties(data?.tie),
      stale: isPlaceholderData,
      loading: isPending,
      error,
    };
  }, [
    data,
    listed,
    folded,
    levels,
    across,
    crossed,
    compared,
    comparing,
    shading,
    measure,
    entities,
    title,
    isPlaceholderData,
    isPending,
    error,
  ]);

  const set = ({ rows, across: next, open: opened }: CrosstabShape): void =>
    replace({
      ...screen,
      steps: screen.steps.map((s, i) => {
        if (i !== last) return s;
        const { across: _former, open: _opened, ...bare } = s;
        // A column that was split further is one of what is across.
        const still = opened && next === across ? { open: opened } : {};
        return { ...bare, view: 'split' as const, by: rows.join('|'), ...(next ? { across: next, ...still } : {}) };
      }),
    });
  const setStep = (more: Partial<Step>): void =>
    replace({ ...screen, steps: screen.steps.map((s, i) => (i === last ? { ...s, ...more } : s)) });
  const drawn = useMemo(
    () => drawnRows(listed, data, crossed, measure, comparing),
    [listed, data, crossed, measure, comparing],
  );
  const ofTime = TIME.includes(levels[0] ?? '') || TIME.includes(across);
  const draw = (kind: Picture | undefined): void =>
    replace({
      ...screen,
      steps: screen.steps.map((s, i) =>
        i === last ? { ...without(s, 'picture'), ...(kind ? { picture: kind } : {}) } : s,
      ),
    });
  const toggle = (): void => draw(picture ? undefined : ofTime ? 'course' : 'bars');
  useKeys({ d: toggle });
  const choices = splitChoices(entities?.dimensions).map(([key, name]): [string, string] => [key, name.toLowerCase()]);
  const foldable = listed.some((l) => l.opens);
  return (
    <SheetFrame
      {...props}
      sheet={across ? 'crosstab' : 'split'}
      model={model}
      onFold={(index) => {
        const found = listed[index];
        if (!found?.opens) return;
        const next = new Set(folded);
        if (!next.delete(found.key)) next.add(found.key);
        fold(next);
      }}
      below={(trace) =>
        picture &&
        data && (
          <PicturePanel
            label={`${screen.steps[last]?.label ?? ''}, by ${title.toLowerCase()}`}
            rows={drawn}
            columns={crossed ? data.columns.map((c) => c.name) : []}
            besides={heldAgainst(data)?.label.toLowerCase() ?? null}
            kind={picture === 'parts' || (picture === 'course' && (ofTime || crossed)) ? picture : 'bars'}
            kinds={[
              ['bars', 'Bars'],
              ['parts', 'Parts of the whole'],
              ...(ofTime || crossed ? ([['course', 'Course']] as [Picture, string][]) : []),
            ]}
            tie={model.tie}
            onKind={draw}
            onTrace={(index, column) =>
              trace(
                index,
                column === undefined ? (crossed ? 'whole' : data.compared ? 'window' : 'closing') : `x${column}`,
              )
            }
            onClose={() => draw(undefined)}
          />
        )
      }
      tools={
        <>
          <CrosstabTools
            layout={{ rows: levels, across }}
            choices={choices}
            nameOf={nameOf}
            columns={data?.columns ?? []}
            open={open}
            onChange={set}
            measure={crossed && closes ? measure : null}
            onMeasure={setMeasure}
            shading={crossed ? shading : null}
            onShading={setShading}
          />
          {!across && (
            <ColumnsChoice
              plansOf={scopeAt(screen, screen.steps.length).getAll('entity')}
              ofLines
              sharesOf="the whole"
              chosen={compared}
              currency={data?.currency ?? ''}
              onChange={(keys) => setStep({ columns: keys.join(',') })}
            />
          )}
          {data?.compared && closes && (
            <Choice
              label="Compares"
              value={comparing}
              onChange={(v) => setStep({ compare: v })}
              choices={[
                ['movement', 'movement'],
                ['closing', 'closing'],
              ]}
            />
          )}
          <button
            type="button"
            aria-pressed={picture !== undefined}
            className="cursor-pointer hover:text-ink"
            onClick={toggle}
          >
            {picture ? 'Without picture' : 'Picture'}
          </button>
          {foldable && (
            <button
              type="button"
              className="ml-auto cursor-pointer hover:text-ink"
              onClick={() =>
                fold(
                  folded.size > 0
                    ? new Set()
                    : new Set(unfolded(data?.rows ?? [], new Set()).flatMap((l) => (l.opens ? [l.key] : []))),
                )
              }
            >
              {folded.size > 0 ? 'Unfold all' : 'Fold all'}
            </button>
          )}
        </>
      }
    />
  );
}

/** Whether the rows below a row add up to it. */
const NodeTie = ({ ok, offBy }: Tie) =>
  ok ? (
    <span className="ml-2 text-[12px] text-faint" title="The rows below add up to this one">
      ✓<span className="sr-only"> ties</span>
    </span>
  ) : (
    <span className="ml-2 text-[12.5px] text-warn">off by {amountText(offBy)}</span>
  );

/** A cell with nothing to trace. */
const isNothing = (cell: Amounts | undefined, measure: 'movement' | 'closing'): boolean =>
  cell === undefined || (cell.count === 0 && !/[1-9]/.test(cell[measure]));

const MEASURES = { movement: 'Movement', closing: 'Closing balance' } as const;

function without<Key extends keyof Step>(step: Step, key: Key): Omit<Step, Key> {
  const { [key]: _left, ...rest } = step;
  return rest;
}
