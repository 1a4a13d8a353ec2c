'use client';

import { Popover } from 'radix-ui';
import type { Entities } from '@/contracts/answers/charts';
import type { Tie } from '@/contracts/answers/head';
import { type Measure, PARTS_OF_LINES } from '@/contracts/traced';
import { otherSign } from '@/core/writtenAmounts';
import { backTo, carriedUp, ordersAsked, type Screen, scopeAt, splitWords } from '../address/address';
import { ledgerScope, measureAt } from '../address/measures';
import { firstSheet } from '../address/places';
import { StepLink } from '../address/StepLink';
import { amountText } from '../amounts';
import { useAnswer, useEntities } from '../query/hooks';
import { readerLocale } from '../readerLocale';
import { CellView } from './CellView';
import { amountCell, comparedCell } from './cell';
import type { Column } from './gridModel';
import type { Compared, SheetModel } from './model';
import { type Proof, proofOf } from './proof';

/** A sheet of more columns does not fit under its strips. */
const COLUMNS_MOST = 9;
/** More than this fold into a count. */
const STRIPS_MAX = 4;

interface Props {
  screen: Screen;
  columns: Column[];
  /** Key of the column in which the traced figure is the sum of the rows. */
  traced: string | undefined;
  /** What the cells of the sheet are of, where that is chosen on it. */
  shows: SheetModel['shows'];
  /** Columns to compare with, and what they compare. */
  compared: Compared | undefined;
  siblings: { before: string | null; after: string | null };
  onSibling(step: -1 | 1): void;
  /** Whether the sheet itself is still awaited: it comes first. */
  wait: boolean;
}

/** The thread: every step with the one figure that is traced there, in the column that adds up to it, on one red line. */
export function Strips({ screen, columns, traced, shows, compared, siblings, onSibling, wait }: Props) {
  const depths = screen.steps.map((_, i) => i + 1);
  const all = [0, ...depths];
  if (depths.length === 0) return null;
  const hidden = all.slice(0, Math.max(0, all.length - STRIPS_MAX));
  const shown = all.slice(hidden.length);
  return (
    <nav aria-label="Thread" className="relative shrink-0">
      {hidden.length > 0 && <Folded screen={screen} depths={hidden} />}
      {shown.map((depth) => (
        <Strip
          key={depth}
          screen={screen}
          depth={depth}
          columns={columns}
          traced={traced}
          shows={shows}
          compared={compared}
          wait={wait}
          {...(depth === screen.steps.length ? { siblings, onSibling } : {})}
        />
      ))}
    </nav>
  );
}

function Folded({ screen, depths }: { screen: Screen; depths: number[] }) {
  return (
    <Popover.Root>
      <div className="flex h-[26px] items-center pl-3 text-[12.5px] text-soft">
        <Popover.Trigger className="cursor-pointer underline decoration-rule underline-offset-2 hover:text-ink">
          {depths.length} {depths.length === 1 ? 'step' : 'steps'} before
        </Popover.Trigger>
      </div>
      <Popover.Portal>
        <Popover.Content align="start" className="panel p-2">
          <ul>
            {depths.map((depth) => (
              <li key={depth}>
                <StepLink to={backTo(screen, depth)} className="block px-2 py-1 hover:bg-chosen">
                  {labelOf(screen, depth)} <span className="text-soft">{kindOf(screen, depth)}</span>
                </StepLink>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const labelOf = (screen: Screen, depth: number): string =>
  depth > 0 ? (screen.steps[depth - 1]?.label ?? '') : firstSheet(screen);

/** Whether figures of the thread are in different currencies. */
const inSeveral = ({ scope, steps }: Screen): boolean => scope.has('in') || steps.some((s) => 'in' in s.put);

/** What the strip's own sheet shows of it. */
function kindOf(screen: Screen, depth: number, dimensions?: Entities['dimensions']): string {
  const step = screen.steps[depth - 1];
  if (!step) return '';
  if (step.view === 'orders') return 'open orders';
  if (step.view !== 'split') return step.view;
  return splitWords(step.by ?? '', step.across, dimensions);
}

/** The figure that is traced at a step: its totals, the value of its measure, and of which entry a line is a part. */
function useFigureAt(
  screen: Screen,
  depth: number,
  { shows, compared, wait }: Pick<Props, 'shows' | 'compared' | 'wait'>,
) {
  const step = screen.steps[depth - 1];
  const here = depth === screen.steps.length;
  const measure = (here && shows) || measureAt(screen, depth);
  const asked = here ? ledgerScope(screen) : scopeAt(screen, depth);
  const part = PARTS_OF_LINES.find((p) => p === measure);
  if (part) asked.set('part', part);
  for (const column of compared?.columns ?? []) asked.append('column', column);
  if (compared) asked.set('compare', compared.compare);
  const isEntry = step?.view === 'entry';
  // What an income statement comes to is the result: one figure, unless accounts were chosen before. A document and other
  // statements are none.
  const isResult = step?.view === 'statement' && step.options?.statement === 'income' && !asked.has('accounts');
  if (isResult) asked.set('accounts', 'type income, type expense');
  const isFigure = step === undefined || step.view === 'split' || step.view === 'lines' || isResult;
  // What a whole sheet comes to is no figure of the thread.
  const totals = useAnswer('GET /totals', !isFigure || depth <= 0 || wait ? null : asked).data;
  const orders = useAnswer(
    'GET /commitments',
    isOrders(screen, depth) && !wait ? ordersAsked(screen, depth) : null,
  ).data;
  const entry = useAnswer('GET /entries/{id}', isEntry && !wait ? new URLSearchParams() : null, {
    id: step?.entry ?? '',
  }).data;
  const line = entry?.lines.find(({ id }) => id === step?.row);
  return {
    totals,
    measure,
    // What proves whole lines proves no part of them.
    tie: part ? null : (totals?.tie ?? orders?.tie ?? null),
    currency: totals?.currency ?? orders?.currency ?? null,
    value: isEntry
      ? (line?.amount ?? null)
      : orders
        ? orders.total.open
        : totals
          ? written((part ? totals.part : totals.total[measure as Measure]) ?? null, isResult)
          : null,
    of: line ? `of ${amountText(entry?.totals.debit ?? '0')}` : '',
  };
}

/** A figure as its sheet writes it: a statement has what income exceeds expenses by without a sign. */
const written = (value: string | null, isResult: boolean): string | null =>
  value !== null && isResult ? otherSign(value) : value;

const isOrders = (screen: Screen, depth: number): boolean => screen.steps[depth - 1]?.view === 'orders';

function Strip({
  screen,
  depth,
  columns,
  traced,
  shows,
  compared,
  wait,
  siblings,
  onSibling,
}: {
  screen: Screen;
  depth: number;
  columns: Column[];
  traced: string | undefined;
  shows: Props['shows'];
  compared: Compared | undefined;
  wait: boolean;
  siblings?: Props['siblings'];
  onSibling?: Props['onSibling'];
}) {
  const here = depth === screen.steps.length;
  const figure = useFigureAt(screen, depth, { shows, compared, wait });
  const above = useFigureAt(screen, depth - 1, { shows, compared, wait });
  const { data: entities } = useEntities();
  const { totals } = figure;
  const only = Object.keys(screen.steps[depth - 1]?.only ?? {});
  const narrowedBy = (totals?.parts ?? []).filter((p) => p.control && only.includes(p.control)).map((p) => p.text);
  // Beside a sheet that is wider than the screen the figure stands at its edge; else in the column that adds up to it.
  const isWide = columns.length > COLUMNS_MOST;
  const found = columns.findIndex((c) => c.key === traced);
  const last = columns.findLastIndex((c) => c.amount);
  const at = Math.max(1, found >= 0 ? found : last >= 0 ? last : columns.length - 1);
  const texts = isWide
    ? 1
    : compared
      ? Math.max(
          1,
          columns.findIndex((c) => c.amount),
        )
      : at;
  const label = labelOf(screen, depth);
  const said = [
    kindOf(screen, depth, entities?.dimensions),
    depth > 0 &&
      !isOrders(screen, depth) &&
      figure.value !== null &&
      figure.measure !== measureAt(screen, screen.steps.length) &&
      figure.measure,
    figure.currency && inSeveral(screen) && `in ${figure.currency}`,
    depth > 1 && !isOrders(screen, depth) && figure.measure === above.measure && figure.currency === above.currency
      ? shareText(figure.value, above.value)
      : null,
    figure.of,
  ].filter(Boolean);
  return (
    <div
      className="relative grid items-center border-b border-rule px-1.5 leading-[27px]"
      style={{ gridTemplateColumns: isWide ? 'minmax(0, 1fr) 150px' : columns.map((c) => c.width).join(' ') }}
    >
      <div className="flex min-w-0 items-baseline gap-1.5 pl-1.5" style={{ gridColumn: `span ${texts}` }}>
        {here ? (
          <strong className="truncate font-semibold" aria-current="step">
            {label}
          </strong>
        ) : (
          <StepLink to={backTo(screen, depth)} className="truncate hover:underline" title="Back up to this sheet">
            {label}
          </StepLink>
        )}
        <span className="min-w-0 shrink-[6] truncate text-[12.5px] text-faint">{said.join(', ')}</span>
        {narrowedBy.length > 0 && (
          <span className="flex min-w-0 shrink-[3] items-baseline gap-2 text-[12.5px] text-soft">
            <span className="truncate">from here on only {narrowedBy.join(' and ')}</span>
            <StepLink
              to={carriedUp(screen, depth - 1)}
              className="shrink-0 underline decoration-rule underline-offset-2 hover:text-ink"
              title="The sheets above are narrowed by it too"
            >
              for the whole thread
            </StepLink>
          </span>
        )}
        {siblings && onSibling && (siblings.before || siblings.after) && (
          <span className="ml-2 flex min-w-0 shrink-[12] items-baseline gap-1.5 overflow-hidden text-[12.5px] text-faint">
            <Sibling label={siblings.before} mark="[" onClick={() => onSibling(-1)} />
            <Sibling label={siblings.after} mark="]" onClick={() => onSibling(1)} />
          </span>
        )}
        <span className="ml-auto shrink-0 pr-3 text-[12.5px]">{figure.tie && <TieMark tie={figure.tie} />}</span>
      </div>
      {(isWide ? columns.slice(at, at + 1) : columns.slice(texts, compared ? undefined : at + 1)).map((c) => (
        <div
          key={c.key}
          className={`relative self-stretch pr-2 text-right ${c === columns[at] ? 'font-semibold' : ''}`}
        >
          {c === columns[at] && <Bead first={depth === 0} />}
          {compared && totals && (
            <CellView cell={comparedCell(totals.values?.[c.key], c.percent ? 'percent' : 'amount')} amount />
          )}
          {!compared && figure.value !== null && <CellView cell={amountCell(figure.value)} amount />}
        </div>
      ))}
    </div>
  );
}

/** The red thread beside a figure, which runs down through all of them. */
const Bead = ({ first }: { first: boolean }) => (
  <span aria-hidden>
    <span className={`absolute bottom-[-1px] left-[3px] w-[2px] bg-thread ${first ? 'top-[14px]' : 'top-[-1px]'}`} />
    <span className="absolute top-[9px] left-[-1px] size-[10px] rounded-full bg-thread" />
  </span>
);

/** What a figure is of the one that it was traced from; nothing where that says nothing. */
export function shareText(value: string | null, of: string | null): string | null {
  const [part, whole] = [Number(value), Number(of)];
  if (value === null || of === null || whole === 0) return null;
  if (value === of) return 'all of it';
  const percent = (part / whole) * 100;
  if (percent <= 0 || percent >= 1_000) return null;
  return `${new Intl.NumberFormat(readerLocale(), { maximumFractionDigits: 1 }).format(percent)} % of it`;
}

function Sibling({ label, mark, onClick }: { label: string | null; mark: string; onClick(): void }) {
  if (!label) return null;
  return (
    <button
      type="button"
      onClick={onClick}
      className="max-w-[110px] cursor-pointer truncate hover:text-ink"
      title={mark === '[' ? 'Previous row of the sheet above' : 'Next row of the sheet above'}
    >
      {mark === '[' ? `[ ${label}` : `${label} ]`}
    </button>
  );
}

/** Parts equal the whole, or by how much they do not; said in words as well as by the mark. What nothing proves is not said to tie. */
export const TieMark = ({ tie, what }: { tie: Tie | null; what?: string }) => <ProofMark proof={proofOf(tie, what)} />;

export function ProofMark({ proof }: { proof: Proof | null }) {
  if (proof === null) return null;
  if (proof.ok) return <span className="whitespace-nowrap">✓ {proof.says}</span>;
  return <strong className="whitespace-nowrap text-warn">✗ {proof.says}</strong>;
}
