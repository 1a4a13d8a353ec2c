'use client';

import { useMemo, useState } from 'react';
import type { LineRow } from '@/contracts/answers/lines';
import { dateText } from '@/core/sentence';
import { amountText, countText } from '../amounts';
import { useDebounced } from '../query/useDebounced';
import { Unread } from '../screens/NoSheet';
import { useLedger } from '../screens/useLedger';
import { amountCell } from '../sheet/cell';
import { Grid } from '../sheet/Grid';
import type { Column, GridRow } from '../sheet/gridModel';
import { TieMark } from '../sheet/Strips';
import { Beside } from './Beside';

const COLUMNS: Column[] = [
  { key: 'date', label: 'Date', width: '88px' },
  { key: 'entry', label: 'Entry', width: 'minmax(102px, 0.4fr)' },
  { key: 'description', label: 'Description', width: 'minmax(80px, 1fr)' },
  { key: 'amount', label: 'Amount', width: '104px', amount: true },
];

/** While somebody moves over the sheet nothing is asked. */
const DEBOUNCE_MS = 250;

interface Props {
  /** What the focused figure asks; null where it has no lines of its own. */
  scope: URLSearchParams | null;
  label: string;
  onLine(line: LineRow): void;
  onClose(): void;
}

/** The lines of the focused figure beside the sheet, following along as the focus moves. */
export function BesidePanel({ scope, label, onLine, onClose }: Props) {
  const settled = useDebounced(scope?.toString() ?? null, DEBOUNCE_MS);
  return (
    <Beside name="Lines beside" title={label} width="w-[40%] max-w-[640px] min-w-[400px]" onClose={onClose}>
      {settled === null ? (
        <p className="border border-rule bg-sheet p-4 text-soft">
          This figure has no lines of its own; move to one that can be traced.
        </p>
      ) : (
        <Lines key={settled} scope={settled} label={label} onLine={onLine} />
      )}
    </Beside>
  );
}

function Lines({ scope, label, onLine }: { scope: string; label: string; onLine(line: LineRow): void }) {
  const params = useMemo(() => new URLSearchParams(scope), [scope]);
  const { head, rows, error, loading, onRange, ending, unread, readAgain } = useLedger(params, undefined);
  const [focus, setFocus] = useState({ row: 0, column: 0 });
  const rowAt = (index: number): GridRow | undefined => {
    if (index === 0)
      return (
        head && {
          key: 'opening',
          look: 'quiet',
          cells: { description: 'Opening balance', amount: amountCell(head.opening) },
        }
      );
    const line = rows.get(index - 1);
    return (
      line && {
        key: line.id,
        opens: true,
        cells: {
          date: dateText(line.date),
          entry: line.entry,
          description: line.description,
          amount: amountCell(line.amount),
        },
      }
    );
  };
  if (error) return <p className="border border-rule bg-sheet p-4 text-warn">{error.message}</p>;
  return (
    <>
      <Grid
        label={`Lines of ${label}`}
        columns={COLUMNS}
        count={head ? head.totals.count + 1 : 0}
        rowAt={rowAt}
        total={
          head && {
            label: `${countText(head.totals.count)} ${head.totals.count === 1 ? 'line' : 'lines'}`,
            amount: amountCell(head.totals.movement),
          }
        }
        focus={focus}
        onFocus={setFocus}
        onTrace={({ row }) => {
          const line = rows.get(row - 1);
          if (line) onLine(line);
        }}
        onRange={(first, last) => onRange(Math.max(0, first - 1), last)}
        stale={loading}
      />
      <p className="flex flex-wrap gap-3 pt-1 text-[12.5px] text-soft">
        {head && <span>Closing balance {amountText(head.closing)}</span>}
        {ending && <TieMark tie={ending} what="ties to its last line" />}
        {unread && <Unread error={unread} readAgain={readAgain} />}
      </p>
    </>
  );
}
