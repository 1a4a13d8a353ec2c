'use client';

import { useEffect, useMemo, useRef } from 'react';
import { scopeAt } from '../address/address';
import { recall } from '../address/memory';
import { useAnswer, useEntities } from '../query/hooks';
import type { SheetModel } from '../sheet/model';
import { proofOf } from '../sheet/proof';
import { useFolding } from '../sheet/useFolding';
import { useMarks } from '../sheet/useMarks';
import { wholeRow } from '../sheet/wholeRow';
import { columnsPart } from './ColumnsChoice';
import { type ScreenProps, SheetFrame } from './SheetFrame';
import { trialBalanceParams } from './steps';
import { columnsOf, rowsOf, trialBalanceRow, trialBalanceTotal } from './trialBalanceRows';
import { UnitChoice } from './UnitChoice';
import { ViewSentence } from './ViewSentence';
import { scaleOf, scaleWord, viewParts } from './viewParts';

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
  const folding = useFolding(memoryKey);
  const { folded, fold } = folding;
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
    const view = { folded, scale, sides, labels: screen.options.labels, measure, marks, controls } as const;
    const total = data && trialBalanceTotal(data, view, scaleWord(screen.options));
    const keys = new Map(listed.map((l, i) => ['part' in l ? l.key : l.row.account, i]));
    return {
      label: 'Trial balance',
      columns: columnsOf(data, sides),
      count: listed.length,
      rowAt: (index) => listed[index] && data && trialBalanceRow(listed[index], data, view),
      indexOf: (key) => keys.get(key) ?? -1,
      standingOut: listed.flatMap((l, i) => (!('part' in l) && marks.has(l.row.account) ? [i] : [])),
      total,
      whole: data && total && wholeRow(total, data.address, { view: 'split', by: 'type' }),
      parts: data?.parts ?? [],
      path: data && `/trial-balance?${trialBalanceParams(screen)}`,
      load: data?.load,
      empty: data?.empty,
      tie: proofOf(data?.tie, data?.tie?.means === 'balances' ? 'debits equal credits' : 'ties'),
      stale: isPlaceholderData,
      loading: isPending,
      error,
    };
  }, [data, listed, folded, marks, controls, sides, scale, measure, screen, isPlaceholderData, isPending, error]);

  const chosen = (screen.options.columns ?? '').split(',').filter(Boolean);
  const set = (name: string, value: string): void =>
    replace({ ...screen, options: { ...screen.options, [name]: value } });
  const headings = (data?.rows ?? []).filter((r) => r.heading);
  const deepest = headings.reduce((most, r) => Math.max(most, r.depth + 1), 0);
  /** The headings at a level, counted from one, and below it. */
  const below = (level: number): string[] => headings.filter((r) => r.depth >= level - 1).map((r) => r.account);
  /** Folds all headings below a level, which stays in the address; 0 opens all. */
  const toLevel = (level: number): void => {
    fold(level === 0 ? [] : below(level));
    const { level: _former, ...options } = screen.options;
    replace({ ...screen, options: level === 0 ? options : { ...options, level: String(level) } });
  };
  const asked = Number(screen.options.level ?? 0);
  const isFolded = useRef(false);
  useEffect(() => {
    // Coming back to a sheet finds it as it was left; from a link it is folded as the address says.
    if (isFolded.current || !data) return;
    isFolded.current = true;
    if (asked > 0 && recall(memoryKey).folded === undefined) fold(below(asked));
  });
  const level =
    folded.size === 0
      ? 0
      : 1 + headings.reduce((least, r) => (folded.has(r.account) ? Math.min(least, r.depth) : least), deepest);
  return (
    <SheetFrame
      {...props}
      sheet="trial-balance"
      model={model}
      folding={folding}
      tools={
        <>
          <ViewSentence
            parts={[
              {
                ...{ key: 'as', label: 'Rows' },
                value: byName ? 'name' : tree === 'yes' && screen.options.scheme ? screen.options.scheme : tree,
                onChange: (v) => replace({ ...screen, options: listedAs(screen.options, v) }),
                choices: [
                  ['yes', 'as a tree'],
                  ['no', 'as a list'],
                  ['name', 'as a list by name'],
                  ...(data?.schemes ?? []).map((s): [string, string] => [s, `by ${s} codes`]),
                ],
              },
              {
                ...{ key: 'zero', label: 'Which accounts', value: zero, onChange: (v) => set('zero', v) },
                choices: [
                  ['hide', 'of accounts with a balance'],
                  ['moved', 'of accounts that moved'],
                  ['active', 'of active accounts'],
                  ['show', 'of all accounts'],
                ],
              },
              tree === 'yes' && deepest > 0
                ? {
                    ...{ key: 'level', label: 'Levels', value: String(level), usual: '0' },
                    onChange: (v) => toLevel(Number(v)),
                    choices: [
                      ['0', 'to the last level'],
                      ...Array.from({ length: deepest }, (_, i): [string, string] => [
                        String(i + 1),
                        `to level ${i + 1}`,
                      ]),
                    ],
                  }
                : null,
              {
                ...{ key: 'retained', label: 'Retained earnings', value: retained, usual: 'one' },
                onChange: (v) => set('retained', v),
                choices: [
                  ['one', 'retained earnings as one'],
                  ['parts', 'retained earnings in parts'],
                ],
              },
              columnsPart({
                plansOf: [],
                sharesOf: null,
                chosen,
                currency: data?.currency ?? '',
                onChange: (keys) => set('columns', keys.join(',')),
              }),
              ...viewParts(screen.options, data?.languages ?? [], set, !data?.columns),
            ]}
          />
          <UnitChoice screen={screen} go={props.go} />
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
