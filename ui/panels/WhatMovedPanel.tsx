'use client';

import { scaleBand, scaleLinear } from 'd3-scale';
import { useState } from 'react';
import type { WhatMoved } from '@/contracts/answers/sheets';
import { asPut, inBooks } from '../address/address';
import { amountText } from '../amounts';
import { Select } from '../parts/Select';
import { useAnswer } from '../query/hooks';
import { TieMark } from '../sheet/Strips';
import { Panel } from './Panel';

const AGAINST: [string, string][] = [
  ['year-before', 'the same window a year before'],
  ['window-before', 'the window before'],
  ['last-year', 'last fiscal year'],
];
/** Steps of the picture; what is smaller is in one step. */
const STEPS_MAX = 8;

interface Props {
  scope: URLSearchParams;
  label: string;
  measure: 'movement' | 'closing';
  onMember(put: Record<string, string[]>, name: string): void;
  onSplit(by: string): void;
  onClose(): void;
}

/** What explains the change of the focused figure: the dimensions in order of how telling they are, and the walk from before to now. */
export function WhatMovedPanel({ scope, label, measure, onMember, onSplit, onClose }: Props) {
  const [against, setAgainst] = useState('year-before');
  const [by, setBy] = useState<string | null>(null);
  const asked = inBooks(scope);
  asked.set('measure', measure);
  asked.set('against', against);
  const { data, error, isFetching } = useAnswer('GET /what-moved', asked);
  const shown = data?.dimensions.find((d) => d.by === by) ?? data?.dimensions[0];
  return (
    <Panel
      title="What moved"
      label={label}
      onClose={onClose}
      right={
        <>
          {data?.totals && (
            <span>
              {amountText(data.totals.before)} → <b>{amountText(data.totals.now)}</b>, {amountText(data.totals.change)}{' '}
              in {data.currency}
            </span>
          )}
          <label className="flex items-baseline gap-1 text-soft">
            against
            <Select
              value={against}
              onChange={(event) => setAgainst(event.target.value)}
              className="cursor-pointer bg-transparent underline decoration-rule"
            >
              {AGAINST.map(([value, name]) => (
                <option key={value} value={value}>
                  {name}
                </option>
              ))}
            </Select>
          </label>
          {data && <TieMark tie={data.tie} />}
        </>
      }
    >
      {error && <p className="px-3 py-2 text-warn">{error.message}</p>}
      {data && !shown && <p className="px-3 py-2 text-soft">Nothing was booked here in either window.</p>}
      {data && shown && (
        <div className={`grid grid-cols-[218px_minmax(0,1fr)] ${isFetching ? 'opacity-60' : ''}`}>
          <ul className="border-r border-hair py-1" aria-label="Dimensions, the most telling first">
            {data.dimensions.map((d) => (
              <li key={d.by}>
                <button
                  type="button"
                  aria-pressed={d === shown}
                  onClick={() => setBy(d.by)}
                  className={`block w-full cursor-pointer px-3 py-[3px] text-left ${d === shown ? 'bg-chosen' : 'hover:bg-chosen'}`}
                >
                  {d.name}
                  <span className="block text-[12px] leading-[14px] text-soft">
                    {d.concentration === 0
                      ? 'nothing moved'
                      : `${d.concentration} of ${d.members} ${d.members === 1 ? 'member makes' : 'make'} 80 %`}
                  </span>
                </button>
              </li>
            ))}
            {data.notWeighed.map((d) => (
              <li key={d.name} className="px-3 py-[3px] text-[12.5px] text-warn" title={d.problem}>
                {d.name}: not weighed
              </li>
            ))}
          </ul>
          <div className="min-w-0 px-3 py-1">
            <p className="flex items-baseline gap-4 text-[12.5px] text-soft">
              <span>
                {data.before} → {data.now}
              </span>
              <button type="button" className="link" onClick={() => onSplit(shown.by)}>
                Split by {shown.name.toLowerCase()}
              </button>
            </p>
            <Waterfall data={data} shown={shown} />
            <table className="w-full">
              <thead>
                <tr className="text-left text-[12.5px] text-soft">
                  <th className="py-1 font-normal">{shown.name}</th>
                  <th className="text-right font-normal">Before</th>
                  <th className="text-right font-normal">Now</th>
                  <th className="text-right font-normal">Change</th>
                  <th className="text-right font-normal">of the change</th>
                </tr>
              </thead>
              <tbody>
                {shown.movers.map((m) => (
                  <tr key={m.member} className="border-t border-hair">
                    <td className="py-[2px]">
                      <button
                        type="button"
                        className="cursor-pointer text-left hover:underline"
                        onClick={() => onMember(asPut(m.refine), m.name)}
                      >
                        {m.name}
                      </button>
                      {m.is !== 'there' && (
                        <span className="ml-2 text-[12.5px] text-soft">
                          {m.is === 'new' ? 'new' : 'no longer there'}
                        </span>
                      )}
                    </td>
                    <td className="text-right">{amountText(m.before)}</td>
                    <td className="text-right">{amountText(m.now)}</td>
                    <td className="text-right font-semibold">{amountText(m.change)}</td>
                    <td className="text-right text-soft">{m.share === null ? '' : `${amountText(m.share)} %`}</td>
                  </tr>
                ))}
                <tr className="border-t border-ink font-semibold">
                  <td className="py-[2px]">Together</td>
                  <td className="text-right">{amountText(data.totals?.before ?? '0')}</td>
                  <td className="text-right">{amountText(data.totals?.now ?? '0')}</td>
                  <td className="text-right">{amountText(data.totals?.change ?? '0')}</td>
                  <td />
                </tr>
              </tbody>
            </table>
          </div>
        </div>
      )}
    </Panel>
  );
}

const HIGH = 118;
const WIDE = 760;

/** The walk from before to now, member by member; the table below it says the same in figures. */
function Waterfall({ data, shown }: { data: WhatMoved; shown: WhatMoved['dimensions'][number] }) {
  const before = Number(data.totals?.before ?? 0);
  const now = Number(data.totals?.now ?? 0);
  const first = shown.movers.slice(0, STEPS_MAX);
  let at = before;
  const steps = first.map((m) => {
    const from = at;
    at += Number(m.change);
    return { key: m.member, name: m.name, from, to: at, text: amountText(m.change) };
  });
  if (Math.abs(now - at) > 0.004) steps.push({ key: '', name: 'all others', from: at, to: now, text: '' });
  const bars = [
    { key: '~before', name: 'before', from: 0, to: before, text: '' },
    ...steps,
    { key: '~now', name: 'now', from: 0, to: now, text: '' },
  ];
  const levels = [before, now, ...steps.map((s) => s.to)];
  // Where the whole is far larger than its change, the picture begins near the change.
  const [least, most] = [Math.min(...levels), Math.max(...levels)];
  const cut =
    least > 0 && most - least < least / 2
      ? least - (most - least) * 0.3
      : most < 0 && most - least < -most / 2
        ? most + (most - least) * 0.3
        : 0;
  const y = scaleLinear([Math.min(cut, least), Math.max(cut, most)], [HIGH - 22, 6]);
  const x = scaleBand(
    bars.map((b) => b.key),
    [0, WIDE],
  ).padding(0.22);
  return (
    <svg
      viewBox={`0 0 ${WIDE} ${HIGH}`}
      className="mt-1 block h-[118px] w-full max-w-[760px]"
      role="img"
      aria-label="From before to now, member by member"
    >
      {bars.map((b, i) => {
        const whole = b.key === '~before' || b.key === '~now';
        const [from, to] = [y(whole ? cut : b.from), y(b.to)];
        const left = x(b.key) ?? 0;
        const next = bars[i + 1];
        return (
          <g key={b.key}>
            <title>
              {b.name} {b.text}
            </title>
            <rect
              x={left}
              y={Math.min(from, to)}
              width={x.bandwidth()}
              height={Math.max(1, Math.abs(from - to))}
              fill={whole ? 'var(--ink)' : b.to >= b.from ? 'var(--soft)' : 'var(--sheet)'}
              stroke="var(--ink)"
              strokeWidth={whole ? 0 : 1}
            />
            {next && <line x1={left + x.bandwidth()} x2={x(next.key)} y1={to} y2={to} stroke="var(--faint)" />}
            <text x={left + x.bandwidth() / 2} y={HIGH - 6} textAnchor="middle" fontSize={11.5} fill="var(--soft)">
              {b.name.length > 11 ? `${b.name.slice(0, 10)}…` : b.name}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
