'use client';

import { scaleBand, scaleLinear } from 'd3-scale';
import { type KeyboardEvent, useState } from 'react';
import type { OverTime } from '@/contracts/answers/sheets';
import { amountText } from '../amounts';
import { useAnswer } from '../query/hooks';
import { TieMark } from '../sheet/Strips';
import { useWidth } from '../sheet/useWidth';
import { Panel } from './Panel';
import { LEFT, Levels } from './picture/drawing';

const HIGH = 190;
const FOOT = 34;

interface Props {
  scope: URLSearchParams;
  label: string;
  measure: 'movement' | 'closing';
  onPeriod(period: string, name: string): void;
  onWindow(from: string, to: string): void;
  onClose(): void;
}

/** The focused figure by period: bars, the year before as a mark on each, and where it usually is. */
export function OverTimePanel({ scope, label, measure, onPeriod, onWindow, onClose }: Props) {
  const asked = new URLSearchParams(scope);
  asked.set('measure', measure);
  const { data, error, isFetching } = useAnswer('GET /over-time', asked);
  const [asTable, setAsTable] = useState(false);
  return (
    <Panel
      title="Over time"
      label={label}
      onClose={onClose}
      right={
        <>
          <span className="text-soft">
            {measure === 'closing' ? 'balance at the end of each period' : 'movement of each period'}
          </span>
          {data && <TieMark tie={data.tie} />}
          <button type="button" className="link" onClick={() => setAsTable(!asTable)}>
            {asTable ? 'As a picture' : 'As a table'}
          </button>
        </>
      }
    >
      {error && <p className="px-3 py-2 text-warn">{error.message}</p>}
      {data &&
        (asTable ? (
          <Figures data={data} />
        ) : (
          <Chart data={data} stale={isFetching} onPeriod={onPeriod} onWindow={onWindow} />
        ))}
    </Panel>
  );
}

function Chart({
  data,
  stale,
  onPeriod,
  onWindow,
}: { data: OverTime; stale: boolean } & Pick<Props, 'onPeriod' | 'onWindow'>) {
  const { box, wide } = useWidth();
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  const { points, usual } = data;
  const all = [
    ...points.flatMap((p) => [Number(p.value), Number(p.before ?? 0)]),
    0,
    Number(usual?.low ?? 0),
    Number(usual?.high ?? 0),
  ];
  const y = scaleLinear([Math.min(...all), Math.max(...all)], [HIGH - FOOT, 12]).nice(4);
  const x = scaleBand(
    points.map((p) => p.period),
    [LEFT, wide - 12],
  ).padding(0.28);
  const marked = (i: number): boolean =>
    drag !== null && i >= Math.min(drag.from, drag.to) && i <= Math.max(drag.from, drag.to);
  const dropped = (i: number): void => {
    const from = drag?.from ?? i;
    setDrag(null);
    const [a, b] = [points[Math.min(from, i)], points[Math.max(from, i)]];
    if (!a || !b) return;
    if (a === b) onPeriod(a.period, a.name);
    else onWindow(a.period, b.period);
  };
  const onKey = (event: KeyboardEvent, i: number): void => {
    if (event.key === 'Enter') {
      event.preventDefault();
      event.stopPropagation();
      const p = points[i];
      if (drag) dropped(i);
      else if (p) onPeriod(p.period, p.name);
    }
    const step = event.key === 'ArrowLeft' ? -1 : event.key === 'ArrowRight' ? 1 : 0;
    if (step === 0) return;
    event.preventDefault();
    event.stopPropagation();
    setDrag(event.shiftKey ? { from: drag?.from ?? i, to: i + step } : null);
    box.current?.querySelectorAll<SVGElement>('[role=button]')[i + step]?.focus();
  };
  return (
    <div ref={box} className={`select-none ${stale ? 'opacity-60' : ''}`}>
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset */}
      <svg
        width={wide}
        height={HIGH}
        role="group"
        aria-label="Periods; Enter traces one, Shift with the arrows marks several and Enter makes them the window"
        onPointerLeave={() => setDrag(null)}
      >
        {usual && (
          <>
            <rect
              x={LEFT}
              width={wide - LEFT - 12}
              y={y(Number(usual.high))}
              height={Math.max(1, y(Number(usual.low)) - y(Number(usual.high)))}
              fill="var(--hair)"
              opacity={0.6}
            />
            <line
              x1={LEFT}
              x2={wide - 12}
              y1={y(Number(usual.mean))}
              y2={y(Number(usual.mean))}
              stroke="var(--faint)"
              strokeDasharray="5 4"
            />
          </>
        )}
        <Levels y={y} wide={wide} />
        {points.map((p, i) => {
          const [at, bar] = [x(p.period) ?? 0, x.bandwidth()];
          const [top, bottom] = [Math.min(y(Number(p.value)), y(0)), Math.max(y(Number(p.value)), y(0))];
          const words = `${p.name}: ${amountText(p.value)}${p.before === null ? '' : `, a year before ${amountText(p.before)}`}`;
          return (
            // biome-ignore lint/a11y/useSemanticElements: a bar of a drawing cannot be a button element
            <g
              key={p.period}
              role="button"
              tabIndex={0}
              aria-label={words}
              className="cursor-pointer outline-offset-2"
              onPointerDown={(event) => {
                (event.target as Element).releasePointerCapture?.(event.pointerId);
                setDrag({ from: i, to: i });
              }}
              onPointerEnter={() => drag && setDrag({ ...drag, to: i })}
              onPointerUp={() => dropped(i)}
              onKeyDown={(event) => onKey(event, i)}
            >
              <title>{words}</title>
              <rect
                x={at - bar * 0.2}
                y={0}
                width={bar * 1.4}
                height={HIGH}
                fill={marked(i) ? 'var(--chosen)' : 'transparent'}
              />
              <rect
                x={at}
                y={top}
                width={bar}
                height={Math.max(1, bottom - top)}
                fill="var(--ink)"
                opacity={p.inWindow ? 1 : 0.32}
              />
              {p.before !== null &&
                [
                  ['var(--sheet)', 5],
                  ['var(--ink)', 1.6],
                ].map(([stroke, strokeWidth]) => (
                  <line
                    key={stroke}
                    x1={at - 4}
                    x2={at + bar + 4}
                    y1={y(Number(p.before))}
                    y2={y(Number(p.before))}
                    stroke={String(stroke)}
                    strokeWidth={strokeWidth}
                  />
                ))}
              {(points.length <= 16 || i % Math.ceil(points.length / 16) === 0) && (
                <text x={at + bar / 2} y={HIGH - 18} textAnchor="middle" fontSize={11.5} fill="var(--soft)">
                  {p.period.slice(2)}
                </text>
              )}
            </g>
          );
        })}
        <text x={LEFT} y={HIGH - 3} fontSize={11.5} fill="var(--soft)">
          dark: the window · the line across a bar: a year before
          {usual ? ' · the band: one standard deviation about the mean before the window' : ''} · drag over bars to set
          the window
        </text>
      </svg>
    </div>
  );
}

function Figures({ data }: { data: OverTime }) {
  return (
    <table className="w-full max-w-[640px]">
      <thead>
        <tr className="text-left text-[12.5px] text-soft">
          <th className="px-3 py-1 font-normal">Period</th>
          <th className="text-right font-normal">{data.currency}</th>
          <th className="text-right font-normal">A year before</th>
          <th className="pr-3 text-right font-normal">Lines</th>
        </tr>
      </thead>
      <tbody>
        {data.points.map((p) => (
          <tr key={p.period} className={`border-t border-hair ${p.inWindow ? 'font-semibold' : ''}`}>
            <td className="px-3 py-[2px]">{p.name}</td>
            <td className="text-right">{amountText(p.value)}</td>
            <td className="text-right">{p.before === null ? '' : amountText(p.before)}</td>
            <td className="pr-3 text-right">{p.count}</td>
          </tr>
        ))}
        {data.usual && (
          <tr className="border-t border-ink">
            <td className="px-3 py-[2px]">Mean before the window, and one standard deviation about it</td>
            <td className="text-right">{amountText(data.usual.mean)}</td>
            <td className="text-right" colSpan={2}>
              {amountText(data.usual.low)} to {amountText(data.usual.high)}
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}
