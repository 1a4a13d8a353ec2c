import type { Entities } from '@/contracts/answers/charts';
import type { Amounts } from '@/contracts/answers/head';
import type { SplitSheet } from '@/contracts/answers/sheets';
import { subjectText } from '@/contracts/subject';
import { asPut, type Step, together } from '../address/address';
import { amountText } from '../amounts';
import { amountCell, amountCells, type Cell } from '../sheet/cell';
import { cellFigure } from '../sheet/cellFigure';
import type { SheetRow } from '../sheet/model';
import { comparedCells, headsOf, isDerived } from './comparedSplit';
import { type Shading, shadedCell } from './shading';
import { splitStep } from './steps';
import { amountsOf } from './trialBalanceRows';

type Row = SplitSheet['rows'][number];
type Measure = 'movement' | 'closing';

/** What the rows of a split are made with, beside its answer. */
export interface SplitView {
  levels: readonly string[];
  across: string;
  folded: ReadonlySet<string>;
  shading: Shading;
  /** What the cells of a crosstab show. */
  measure: Measure;
  /** What columns to compare with compare. */
  comparing: Measure;
  dimensions: Entities['dimensions'] | undefined;
}

export interface ListedRow {
  row: Row;
  key: string;
  /** Whether there is anything beneath it to fold. */
  opens: boolean;
}

/** The rows of a split as the sheet has them. */
export function splitRows(
  listed: readonly ListedRow[],
  data: SplitSheet,
  view: SplitView,
): (at: number) => SheetRow | undefined {
  const { levels, measure, comparing } = view;
  const crossed = data.columns.length > 0;
  const [, dim = null] = /^dim:([^/@]+)/.exec(levels[levels.length - 1] ?? '') ?? [];
  const parents = new Set(view.dimensions?.find((d) => d.code === dim)?.members.map((m) => m.parent));
  const most = crossed
    ? Math.max(1, ...listed.flatMap(({ row }) => (row.cells ?? []).map((c) => Math.abs(Number(c[measure])))))
    : 1;
  const figures = (row: Row): Record<string, Cell> => {
    if (crossed)
      return {
        ...Object.fromEntries(
          (row.cells ?? []).map((cell, i) => [
            crossKey(i),
            {
              ...shadedCell(view.shading, data.columns, row.cells ?? [], i, measure, most),
              standsOut: cell.above?.includes(measure) ? materialText(data) : undefined,
            },
          ]),
        ),
        whole: amountCell(row[measure]),
      };
    return data.compared ? comparedCells(data.compared, row.values) : amountCells(amountsOf(row));
  };
  return (index) => {
    const found = listed[index];
    if (!found) return undefined;
    const { row, key, opens } = found;
    const put = asPut(row.refine);
    const ofAccount = levels[row.depth] === 'account';
    return {
      key,
      label: row.name,
      depth: row.depth,
      ...(row.member.startsWith('~') ? { look: 'quiet' as const } : {}),
      folded: opens ? view.folded.has(key) : null,
      opens: true,
      cells: {
        member: {
          is: 'words',
          text: row.name,
          code: ofAccount ? row.member : undefined,
          tie: row.tie,
        },
        ...figures(row),
        ...(row.inCurrency ? { inCurrency: amountCell(row.inCurrency, { unit: row.member }) } : {}),
      },
      count: row.count,
      standsOut: aboveMaterial(row, data, crossed ? measure : comparing),
      subject: subjectText({ is: 'figure', address: row.address }),
      put,
      figureAt: (column) =>
        cellFigure(data.compared && headsOf(row, column, data.compared), column, data.address, put, comparing),
      step: (column) => stepOf(row, column, data, view, dim !== null && parents.has(row.member) ? dim : null),
      say: (column) => sayOf(row, column, data, view),
    };
  };
}

/** That a row is above what is material, in what the sheet shows of it. */
const aboveMaterial = (row: Row, { material, additive }: SplitSheet, measure: Measure): string[] | undefined =>
  // Closings of windows that follow one another are one balance, told again and again.
  material !== undefined && row.above?.some((of) => of === measure || additive.includes(of))
    ? [`${row.name} is ${materialText({ material })}`]
    : undefined;

const materialText = ({ material = '0' }: Pick<SplitSheet, 'material'>): string =>
  `above ${amountText(material)}, which is material`;

const crossKey = (at: number): string => `x${at}`;
const crossAt = (column: string): number => Number(/^x(\d+)$/.exec(column)?.[1] ?? Number.NaN);

/** @param opens the dimension whose members the row's own member has beneath it */
function stepOf(row: Row, column: string, data: SplitSheet, view: SplitView, opens: string | null): Step | null {
  const { levels, measure } = view;
  const at = data.columns[crossAt(column)];
  const cell = at && row.cells?.[crossAt(column)];
  if (at && isNothing(cell, measure)) return null;
  if (data.compared && column !== 'member' && isDerived(data.compared, column, row)) return null;
  const put = asPut(row.refine);
  const both = { ...together(put, asPut(at?.refine ?? {})), ...(cell?.accounts ? { accounts: [cell.accounts] } : {}) };
  const step = splitStep(row, column, data, {
    put: at ? both : put,
    oneAccount: at !== undefined && view.across === 'account',
    comparing: view.comparing,
  });
  if (at) return { ...step, label: `${step.label}, ${at.name}`, column: measure };
  if (step.view === 'split' && step.by === levels.join('|')) return null;
  return opens !== null && row.depth === levels.length - 1
    ? { ...step, view: 'split', by: `dim:${opens}/${row.member}` }
    : step;
}

function sayOf(row: Row, column: string, data: SplitSheet, { measure, comparing }: SplitView): string {
  const at = data.columns[crossAt(column)];
  if (at) return `${MEASURES[measure]} of ${row.name}, ${at.name}.`;
  const head = data.compared?.find((c) => c.key === column);
  if (head) return `${MEASURES[comparing]}${head.title ? `, ${head.title}` : ''}: ${head.hint}`;
  if (column === 'movement')
    return `${amountText(row.debit)} debit less ${amountText(row.credit)} credit was booked in the window.`;
  return `Opening ${amountText(row.opening)} plus ${amountText(row.debit)} debit less ${amountText(row.credit)} credit makes ${amountText(row.closing)}.`;
}

/** What the rows of other pages come to, as the last row of a page. */
export function othersRow(data: SplitSheet): SheetRow | undefined {
  const { others } = data;
  if (!others) return undefined;
  const text = 'All others: on other pages, or with nothing booked in the window';
  return {
    ...{ key: '~others', label: text, depth: 0, look: 'quiet', folded: null, opens: false },
    cells: { member: { is: 'words', text }, ...(data.compared ? {} : amountCells(amountsOf(others))) },
    count: others.count,
    subject: null,
    put: {},
    step: () => null,
    say: () => 'What the rows on other pages come to. Show more rows, or the next page, to see them.',
  };
}

/** The totals of a split, by column. */
export function splitTotal(data: SplitSheet, measure: Measure): Record<string, Cell> {
  const top = data.rows.filter((r) => r.depth === 0).length;
  const rows = `${top} ${top === 1 ? 'row' : 'rows'}${data.others ? ' and all others' : ''}`;
  const figures: Record<string, Cell> =
    data.columns.length > 0
      ? {
          ...Object.fromEntries(data.columns.map((c, i) => [crossKey(i), amountCell(c.total[measure])])),
          whole: amountCell(data.total[measure]),
        }
      : data.compared
        ? comparedCells(data.compared, data.values)
        : amountCells(amountsOf(data.total));
  return { label: `${rows}, in ${data.currency}`, ...figures };
}

/** A cell with nothing to trace. */
const isNothing = (cell: Amounts | undefined, measure: Measure): boolean =>
  cell === undefined || (cell.count === 0 && !/[1-9]/.test(cell[measure]));

const MEASURES = { movement: 'Movement', closing: 'Closing balance' } as const;
