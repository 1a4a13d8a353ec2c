'use client';

import { Popover } from 'radix-ui';
import type { Entities } from '@/contracts/answers/charts';
import type { Tie } from '@/contracts/answers/head';
import { backTo, ledgerScope, type Screen, scopeAt, splitWords } from '../address/address';
import { StepLink } from '../address/StepLink';
import { useAnswer, useEntities } from '../query/hooks';
import { CellView } from './CellView';
import { amountCell, comparedCell } from './cell';
import type { Column } from './gridModel';
import { type Proof, proofOf } from './proof';

export interface Compared {
  columns: string[];
  compare: 'movement' | 'closing';
}

/** More than this fold into a count. */
const STRIPS_MAX = 4;

interface Props {
  screen: Screen;
  columns: Column[];
  /** Columns to compare with, and what they compare. */
  compared: Compared | undefined;
  siblings: { before: string | null; after: string | null };
  onSibling(step: -1 | 1): void;
  /** Whether the sheet itself is still awaited: it comes first. */
  wait: boolean;
}

/** The thread: every ancestor with its figures in the sheet's own columns, joined by one red line. */
export function Strips({ screen, columns, compared, siblings, onSibling, wait }: Props) {
  const depths = screen.steps.map((_, i) => i + 1);
  const all = [0, ...depths];
  if (depths.length === 0) return null;
  const hidden = all.slice(0, Math.max(0, all.length - STRIPS_MAX));
  const shown = all.slice(hidden.length);
  return (
    <nav aria-label="Thread" className="relative shrink-0">
      <span aria-hidden className="absolute top-[14px] bottom-[-1px] left-[14px] w-[2px] bg-thread" />
      {hidden.length > 0 && <Folded screen={screen} depths={hidden} />}
      {shown.map((depth) => (
        <Strip
          key={depth}
          screen={screen}
          depth={depth}
          columns={columns}
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
      <div className="flex h-[26px] items-center pl-8 text-[12.5px] text-soft">
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

const ORIGIN = { lines: 'Lines', 'trial-balance': 'Trial balance', statements: 'Statement' } as const;

const labelOf = (screen: Screen, depth: number): string =>
  depth === 0 ? ORIGIN[screen.origin] : (screen.steps[depth - 1]?.label ?? '');

/** Whether figures of the thread are in different currencies. */
const inSeveral = ({ scope, steps }: Screen): boolean => scope.has('in') || steps.some((s) => 'in' in s.put);

/** What the strip's own sheet shows of it. */
function kindOf(screen: Screen, depth: number, dimensions?: Entities['dimensions']): string {
  const step = screen.steps[depth - 1];
  if (!step) return '';
  if (step.view === 'lines') return 'lines';
  if (step.view === 'entry') return 'entry';
  return splitWords(step.by ?? '', step.across, dimensions);
}

function Strip({
  screen,
  depth,
  columns,
  compared,
  wait,
  siblings,
  onSibling,
}: {
  screen: Screen;
  depth: number;
  columns: Column[];
  compared: Compared | undefined;
  wait: boolean;
  siblings?: Props['siblings'];
  onSibling?: Props['onSibling'];
}) {
  const here = depth === screen.steps.length;
  const isEntry = screen.steps[depth - 1]?.view === 'entry';
  const asked = here ? ledgerScope(screen) : scopeAt(screen, depth);
  for (const column of compared?.columns ?? []) asked.append('column', column);
  if (compared) asked.set('compare', compared.compare);
  const { data } = useAnswer('GET /totals', isEntry || wait ? null : asked);
  const { data: entities } = useEntities();
  const amounts = columns.filter((c) => c.amount);
  // Where the sheet's columns are not the figure's own, as in a crosstab, the words have the whole width.
  const own = compared !== undefined || amounts.some((c) => STRIP_FIGURE[c.key]);
  const texts = own
    ? Math.max(
        1,
        columns.findIndex((c) => c.amount),
      )
    : columns.length;
  const label = labelOf(screen, depth);
  return (
    <div
      className="relative grid items-center border-b border-rule px-1.5 leading-[27px]"
      style={{ gridTemplateColumns: columns.map((c) => c.width).join(' ') }}
    >
      <span aria-hidden className="absolute left-[10px] size-[10px] rounded-full bg-thread" />
      <div className="flex min-w-0 items-baseline gap-1.5 pl-[26px]" style={{ gridColumn: `span ${texts}` }}>
        {here ? (
          <strong className="truncate font-semibold" aria-current="step">
            {label}
          </strong>
        ) : (
          <StepLink to={backTo(screen, depth)} className="truncate hover:underline" title="Back up to this sheet">
            {label}
          </StepLink>
        )}
        <span className="min-w-0 shrink-[6] truncate text-[12.5px] text-faint">
          {[kindOf(screen, depth, entities?.dimensions), data && inSeveral(screen) && `in ${data.currency}`]
            .filter(Boolean)
            .join(', ')}
        </span>
        {siblings && onSibling && (siblings.before || siblings.after) && (
          <span className="ml-2 flex min-w-0 shrink-[12] items-baseline gap-1.5 overflow-hidden text-[12.5px] text-faint">
            <Sibling label={siblings.before} mark="[" onClick={() => onSibling(-1)} />
            <Sibling label={siblings.after} mark="]" onClick={() => onSibling(1)} />
          </span>
        )}
        <span className="ml-auto shrink-0 pr-3 text-[12.5px]">{data && <TieMark tie={data.tie} />}</span>
      </div>
      {(own ? columns.slice(texts) : []).map((c) => (
        <div key={c.key} className="pr-2 text-right">
          {data && compared && (
            <CellView cell={comparedCell(data.values?.[c.key], c.percent ? 'percent' : 'amount')} amount />
          )}
          {data && !compared && STRIP_FIGURE[c.key] && (
            <CellView cell={amountCell(data.total[STRIP_FIGURE[c.key] ?? 'closing'])} amount />
          )}
        </div>
      ))}
    </div>
  );
}

/** Which of a figure's amounts is under a column. */
const STRIP_FIGURE: Record<string, 'opening' | 'debit' | 'credit' | 'closing' | 'movement'> = {
  opening: 'opening',
  debit: 'debit',
  credit: 'credit',
  closing: 'closing',
  balance: 'closing',
  movement: 'movement',
};

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
