'use client';

import { scaleLinear } from 'd3-scale';
import { linkHorizontal } from 'd3-shape';
import type { OtherSide } from '@/contracts/answers/sheets';
import { amountText } from '../amounts';

type Row = OtherSide['rows'][number];

const WIDE = 760;
const LABEL_PX = 250;
const BAR_PX = 10;
const SLOT_PX = 26;
const FLOW_PX = 14;
/** What is smaller is in one flow. */
const ACCOUNTS_MAX = 7;

interface Flow {
  account: string | null;
  name: string;
  amount: string;
  size: number;
}

/**
 * The other side as a drawing: what came from which accounts on the left, what went to which on the right, each as wide
 * as its amount. The table beside it has the same figures.
 */
export function OtherSideFlow({ rows, onAccount }: { rows: Row[]; onAccount(account: string, name: string): void }) {
  const from = flowsOf(rows.filter((r) => r.movement.startsWith('-')));
  const to = flowsOf(rows.filter((r) => !r.movement.startsWith('-') && Number(r.movement) !== 0));
  const most = Math.max(1, ...[...from, ...to].map((f) => f.size));
  const thick = scaleLinear([0, most], [1, FLOW_PX]);
  const high = Math.max(from.length, to.length, 2) * SLOT_PX + 18;
  const middle = high / 2;
  const bar = (flows: Flow[]): number => flows.reduce((px, f) => px + thick(f.size) + 1, 0);
  const barHigh = Math.max(bar(from), bar(to), 20);
  const link = linkHorizontal<unknown, [number, number]>();
  const side = (flows: Flow[], left: boolean) => {
    const top = middle - (flows.length * SLOT_PX) / 2 + 8;
    let at = middle - bar(flows) / 2;
    return flows.map((f, i) => {
      const px = thick(f.size);
      const y = top + i * SLOT_PX + SLOT_PX / 2;
      const end: [number, number] = [left ? LABEL_PX : WIDE - LABEL_PX, y];
      const hub: [number, number] = [left ? WIDE / 2 - BAR_PX / 2 : WIDE / 2 + BAR_PX / 2, at + px / 2];
      at += px + 1;
      const d = link({ source: left ? end : hub, target: left ? hub : end }) ?? '';
      return (
        <g key={f.account ?? 'rest'}>
          <path d={d} fill="none" stroke="var(--soft)" strokeOpacity={0.45} strokeWidth={px} />
          <foreignObject x={left ? 0 : WIDE - LABEL_PX + 6} y={y - 11} width={LABEL_PX - 6} height={22}>
            {f.account === null ? (
              <span className={`block truncate text-[12.5px] leading-[22px] text-soft ${left ? 'text-right' : ''}`}>
                {f.name} {amountText(f.amount)}
              </span>
            ) : (
              <button
                type="button"
                title={`The lines with ${f.account} ${f.name} on the other side`}
                onClick={() => onAccount(f.account as string, f.name)}
                className={`flex w-full cursor-pointer gap-2 text-[12.5px] leading-[22px] hover:underline ${left ? 'justify-end' : ''}`}
              >
                <span className="text-faint">{f.account}</span>
                <span className="truncate">{f.name}</span>
                <span className="shrink-0 tabular-nums">{amountText(f.amount)}</span>
              </button>
            )}
          </foreignObject>
        </g>
      );
    });
  };
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset
    <svg
      viewBox={`0 0 ${WIDE} ${high}`}
      width="100%"
      style={{ maxWidth: WIDE }}
      role="group"
      aria-label="From and to which accounts"
      className="block"
    >
      <text x={LABEL_PX} y={11} textAnchor="end" className="fill-[var(--soft)] text-[12px]">
        came from (credit)
      </text>
      <text x={WIDE - LABEL_PX + 6} y={11} className="fill-[var(--soft)] text-[12px]">
        went to (debit)
      </text>
      {side(from, true)}
      {side(to, false)}
      <rect x={WIDE / 2 - BAR_PX / 2} y={middle - barHigh / 2} width={BAR_PX} height={barHigh} fill="var(--ink)" />
    </svg>
  );
}

/** The largest flows one by one, the rest in one. */
function flowsOf(rows: Row[]): Flow[] {
  const flow = (r: Row): Flow => ({
    account: r.account,
    name: r.name,
    amount: r.movement.replace('-', ''),
    size: Math.abs(Number(r.movement)),
  });
  if (rows.length <= ACCOUNTS_MAX) return rows.map(flow);
  const rest = rows.slice(ACCOUNTS_MAX - 1);
  const size = rest.reduce((all, r) => all + Math.abs(Number(r.movement)), 0);
  return [
    ...rows.slice(0, ACCOUNTS_MAX - 1).map(flow),
    { account: null, name: `${rest.length} more accounts,`, amount: size.toFixed(2), size },
  ];
}
