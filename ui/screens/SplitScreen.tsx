'use client';

import { useMemo, useState } from 'react';
import { fromFirstMoved } from '@/core/split';
import { type Step, scopeAt } from '../address/address';
import { measureAt } from '../address/measures';
import { splitChoices, splitName } from '../address/splitNames';
import type { Picture } from '../panels/PicturePanel';
import { later } from '../parts/later';
import { useAnswer, useEntities } from '../query/hooks';
import type { SheetModel } from '../sheet/model';
import { proofOf } from '../sheet/proof';
import { useFolding } from '../sheet/useFolding';
import { wholeRow } from '../sheet/wholeRow';
import { useKeys } from '../shell/keys';
import { columnsPart } from './ColumnsChoice';
import { type CrosstabShape, CrosstabTools } from './CrosstabTools';
import { comparedColumns } from './comparedSplit';
import { drawnRows, heldAgainst } from './drawnSplit';
import { type ScreenProps, SheetFrame } from './SheetFrame';
import { SplitPages } from './SplitPages';
import type { Shading } from './shading';
import { COLUMNS, crossColumns, TIME, unfolded } from './splitColumns';
import { othersRow, splitRows, splitTotal } from './splitRows';
import { comparedOf, pageOf, splitParams } from './steps';
import { ViewSentence } from './ViewSentence';

const PicturePanel = later(() => import('../panels/PicturePanel').then((m) => m.PicturePanel));

/** A figure broken down: by one thing or by several nested in place, and by another across the columns. */
export function SplitScreen(props: ScreenProps & { by: string }) {
  const { screen, by, memoryKey, replace } = props;
  const last = screen.steps.length - 1;
  const step = screen.steps[last];
  const { across = '', open = '', compare, picture } = step ?? {};
  const pages = useMemo(() => (step ? pageOf(step) : {}), [step]);
  const compared = useMemo(() => (step ? comparedOf(step) : []), [step]);
  const levels = useMemo(() => by.split('|'), [by]);
  const params = useMemo(() => (step ? splitParams(screen, step) : null), [screen, step]);
  const { data: answered, error, isPlaceholderData, isPending } = useAnswer('GET /sheets', params);
  const dimensions = useEntities().data?.dimensions;
  const folding = useFolding(memoryKey);
  const { folded, fold } = folding;
  const [shading, setShading] = useState<Shading>('no');
  const traced = measureAt(screen, screen.steps.length);
  const [chosen, setMeasure] = useState<'movement' | 'closing' | null>(null);
  const additive = answered?.additive.includes('closing') ?? true;
  // The parts of an opened column add up to it in what moved, not in what was.
  const closes = additive && open === '';
  // What was traced, but over time what moved in each.
  const usual = traced === 'closing' && !TIME.includes(across) ? 'closing' : 'movement';
  const measure = closes ? (chosen ?? usual) : 'movement';
  const data = useMemo(
    () => (answered && measure === 'movement' && TIME.includes(across) ? fromFirstMoved(answered) : answered),
    [answered, measure, across],
  );
  const nameOf = useMemo(() => {
    return (level: string): string => splitName(level, dimensions);
  }, [dimensions]);
  const title = levels.map(nameOf).join(', ');
  const listed = useMemo(() => unfolded(data?.rows ?? [], folded), [data, folded]);
  const crossed = (data?.columns.length ?? 0) > 0;
  const comparing = compare === 'closing' && additive ? 'closing' : 'movement';

  const model = useMemo((): SheetModel => {
    const rowAt = data && splitRows(listed, data, { levels, across, folded, shading, measure, comparing, dimensions });
    const total = data && splitTotal(data, measure);
    const keys = new Map(listed.map(({ key }, i) => [key, i]));
    return {
      label: `Split by ${title.toLowerCase()}`,
      columns: crossed
        ? crossColumns(title, data, shading)
        : data?.compared
          ? comparedColumns(title, data.compared, comparing)
          : COLUMNS(title, levels[0] === 'currency', traced === 'movement'),
      traced: crossed ? 'whole' : data?.compared ? 'window' : traced,
      shows: crossed ? measure : undefined,
      compared: data?.compared && { columns: compared, compare: comparing },
      count: listed.length + (data?.others ? 1 : 0),
      rowAt: (index) => (index === listed.length && data ? othersRow(data) : rowAt?.(index)),
      indexOf: (key) => keys.get(key) ?? -1,
      total,
      whole: data && total && wholeRow(total, data.address, { view: 'lines' }),
      parts: data?.parts ?? [],
      path: data && params ? `/sheets?${params}` : undefined,
      load: data?.load,
      empty: data?.empty,
      tie: proofOf(data?.tie),
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
    traced,
    dimensions,
    params,
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
  const choices = splitChoices(dimensions).map(([key, name]): [string, string] => [key, name.toLowerCase()]);
  const foldable = listed.some((l) => l.opens);
  return (
    <SheetFrame
      {...props}
      sheet={across ? 'crosstab' : traced === 'movement' ? 'split-movement' : 'split'}
      model={model}
      folding={folding}
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
              ...(ofTime || crossed ? ([['course', 'Trend']] as [Picture, string][]) : []),
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
            <ViewSentence
              parts={[
                columnsPart({
                  plansOf: scopeAt(screen, screen.steps.length).getAll('entity'),
                  ofLines: true,
                  sharesOf: 'the whole',
                  chosen: compared,
                  currency: data?.currency ?? '',
                  onChange: (keys) => setStep({ columns: keys.join(',') }),
                }),
                data?.compared && closes
                  ? {
                      ...{ key: 'compare', label: 'Compares', value: comparing, usual: 'movement' },
                      onChange: (v) => setStep({ compare: v }),
                      choices: [
                        ['movement', 'of movements'],
                        ['closing', 'of closing balances'],
                      ],
                    }
                  : null,
              ]}
            />
          )}
          <button
            type="button"
            aria-pressed={picture !== undefined}
            title="Draws the rows: bars, parts of the whole, or a trend (d)"
            className="cursor-pointer hover:text-ink"
            onClick={toggle}
          >
            {picture ? 'Without picture' : 'Picture'}
          </button>
          {data?.others && (
            <SplitPages
              others={data.others}
              shown={data.rows.filter((r) => r.depth === 0).length}
              nested={levels.length > 1}
              page={pages}
              onChange={(options) => setStep({ options })}
            />
          )}
          {foldable && (
            <button
              type="button"
              className="ml-auto cursor-pointer hover:text-ink"
              title="Folds or unfolds every row at once"
              onClick={() =>
                fold(
                  folded.size > 0 ? [] : unfolded(data?.rows ?? [], new Set()).flatMap((l) => (l.opens ? [l.key] : [])),
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

function without<Key extends keyof Step>(step: Step, key: Key): Omit<Step, Key> {
  const { [key]: _left, ...rest } = step;
  return rest;
}
