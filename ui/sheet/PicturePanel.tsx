'use client';

import { hierarchy, treemap } from 'd3-hierarchy';
import { scaleBand, scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { type KeyboardEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import { amountText } from '../amounts';
import { Panel } from './Panel';

/** As bars in order of size, as parts of the whole, or as a course over the columns or the rows. */
export type Picture = 'bars' | 'parts' | 'course';

/** A row of the sheet, as it is drawn. */
export interface Drawn {
  /** Where it stands in the sheet. */
  index: number;
  name: string;
  value: string;
  /** What it is held against. */
  beside: string | null;
  /** Its cells, where the sheet has columns of members. */
  cells: string[];
}

interface Props {
  label: string;
  rows: Drawn[];
  /** Names of the columns of members. */
  columns: string[];
  /** What each is held against, in words. */
  besides: string | null;
  kind: Picture;
  kinds: [Picture, string][];
  tie: ReactNode;
  onKind(kind: Picture): void;
  /** @param column which column of members; undefined for the row’s own figure */
  onTrace(index: number, column?: number): void;
  onClose(): void;
}

/** More parts than these nobody tells apart; what is left stands as one. */
const BARS_MAX = 12;
const COURSES_MAX = 5;
const HIGH = 226;

/** The rows of a sheet in a picture; each part traces as its row does. */
export function PicturePanel({ label, rows, columns, besides, kind, kinds, tie, onKind, onTrace, onClose }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const [wide, setWide] = useState(900);
  useEffect(() => {
    const watch = new ResizeObserver(([entry]) => entry && setWide(entry.contentRect.width));
    if (box.current) watch.observe(box.current);
    return () => watch.disconnect();
  }, []);
  const bySize = [...rows].sort((a, b) => Math.abs(Number(b.value)) - Math.abs(Number(a.value)));
  const drawing = { wide, besides, onTrace };
  return (
    <Panel
      title="Picture"
      label={label}
      onClose={onClose}
      right={
        <>
          {kinds.map(([key, name]) => (
            <button
              key={key}
              type="button"
              aria-pressed={key === kind}
              onClick={() => onKind(key)}
              className={`cursor-pointer ${key === kind ? 'font-semibold underline underline-offset-4' : 'hover:text-ink'}`}
            >
              {name}
            </button>
          ))}
          {tie}
        </>
      }
    >
      <div ref={box} className="px-3 py-1">
        {rows.length === 0 && <p className="py-1 text-soft">There are no rows to draw.</p>}
        {kind === 'bars' && <Bars {...drawing} rows={bySize} />}
        {kind === 'parts' && <Parts {...drawing} rows={bySize} />}
        {kind === 'course' && (columns.length > 0 ? <Courses {...drawing} rows={bySize} columns={columns} /> : <Course {...drawing} rows={rows} />)}
      </div>
    </Panel>
  );
}

type Drawing = Pick<Props, 'besides' | 'onTrace'> & { wide: number; rows: Drawn[] };

/** What makes a part of a drawing a control. */
function control(words: string, act: () => void) {
  return {
    role: 'button',
    tabIndex: 0,
    'aria-label': words,
    className: 'cursor-pointer outline-offset-2',
    onClick: act,
    onKeyDown: (event: KeyboardEvent) => {
      if (event.key !== 'Enter') return;
      event.preventDefault();
      event.stopPropagation();
      act();
    },
  };
}

const worded = (row: Drawn, besides: string | null): string =>
  `${row.name}: ${amountText(row.value)}${row.beside === null || besides === null ? '' : `, ${besides} ${amountText(row.beside)}`}`;

/** On which side most of it lies: that side is drawn upwards, or to the right, whether it is debit or credit. */
const sideOf = (rows: readonly Drawn[]): 1 | -1 => (rows.reduce((sum, r) => sum + Number(r.value), 0) < 0 ? -1 : 1);

/** What lies on the other side is hollow. */
const filled = (value: number, side: 1 | -1): { fill: string; stroke: string } => ({
  fill: value * side < 0 ? 'var(--sheet)' : 'var(--ink)',
  stroke: 'var(--ink)',
});

/** A scale of amounts over the screen, from nothing towards the side of the whole. */
const scaleOf = (ends: readonly number[], side: 1 | -1, [near, far]: [number, number]) =>
  scaleLinear([Math.min(0, ...ends), Math.max(0, ...ends)], side === 1 ? [near, far] : [far, near]);

const ROW = 20;
const NAMES = 230;
const AMOUNTS = 116;

function Bars({ rows, wide, besides, onTrace }: Drawing) {
  const shown = rows.slice(0, BARS_MAX);
  const ends = shown.flatMap((r) => [Number(r.value), Number(r.beside ?? 0)]);
  const side = sideOf(rows);
  const x = scaleOf(ends, side, [NAMES, Math.max(NAMES + 80, wide - AMOUNTS)]);
  return (
    <>
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset */}
      <svg width={wide} height={shown.length * ROW + 4} role="group" aria-label="Rows by size; Enter traces one">
        {shown.map((row, i) => {
          const value = Number(row.value);
          const from = Math.min(x(0), x(value));
          return (
            <g key={row.index} transform={`translate(0 ${i * ROW})`} {...control(worded(row, besides), () => onTrace(row.index))}>
              <title>{worded(row, besides)}</title>
              <rect width={wide} height={ROW} fill="transparent" />
              <text x={NAMES - 10} y={14} textAnchor="end" fontSize={13} fill="var(--ink)">
                {row.name.length > 34 ? `${row.name.slice(0, 33)}…` : row.name}
              </text>
              <rect x={from} y={4} width={Math.max(1, Math.abs(x(value) - x(0)))} height={12} {...filled(value, side)} />
              {row.beside !== null && <Beside x={x(Number(row.beside))} top={1} high={18} />}
              <text x={wide - 6} y={14} textAnchor="end" fontSize={13} fill="var(--ink)">
                {amountText(row.value)}
              </text>
            </g>
          );
        })}
        <line x1={x(0)} x2={x(0)} y1={0} y2={shown.length * ROW} stroke="var(--soft)" />
      </svg>
      <Legend rest={rows.length - shown.length} besides={besides} hollow={shown.some((r) => Number(r.value) * side < 0)} />
    </>
  );
}

/** A mark across a bar, for what it is held against. */
const Beside = ({ x, top, high }: { x: number; top: number; high: number }) => (
  <>
    <line x1={x} x2={x} y1={top} y2={top + high} stroke="var(--sheet)" strokeWidth={5} />
    <line x1={x} x2={x} y1={top} y2={top + high} stroke="var(--ink)" strokeWidth={1.6} />
  </>
);

function Legend({ rest = 0, besides, hollow }: { rest?: number; besides: string | null; hollow: boolean }) {
  const told = [
    rest > 0 && `${rest} smaller ${rest === 1 ? 'row is' : 'rows are'} not drawn`,
    hollow && 'hollow: on the other side than the whole',
    besides !== null && `the line across a bar: ${besides}`,
  ].filter(Boolean);
  return told.length > 0 && <p className="py-1 text-[12px] text-soft">{told.join(' · ')}</p>;
}

function Parts({ rows, wide, besides, onTrace }: Drawing) {
  const signs = new Set(rows.map((r) => Math.sign(Number(r.value))).filter((s) => s !== 0));
  if (signs.size !== 1)
    return <p className="py-1 text-soft">Some rows are above nothing and some below, so that they are no parts of a whole. Bars show them.</p>;
  const whole = rows.reduce((sum, r) => sum + Math.abs(Number(r.value)), 0);
  const root = hierarchy<{ row?: Drawn; children?: { row: Drawn }[] }>({ children: rows.filter((r) => Number(r.value) !== 0).map((row) => ({ row })) }).sum(
    ({ row }) => Math.abs(Number(row?.value ?? 0)),
  );
  const laid = treemap<{ row?: Drawn; children?: { row: Drawn }[] }>().size([wide, HIGH]).paddingInner(2)(root);
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset
    <svg width={wide} height={HIGH} role="group" aria-label="Parts of the whole; Enter traces one">
      {(laid.leaves() ?? []).map(({ x0, x1, y0, y1, data }) => {
        const { row } = data;
        if (!row) return null;
        const share = `${((Math.abs(Number(row.value)) / whole) * 100).toFixed(1)} %`;
        const [w, h] = [x1 - x0, y1 - y0];
        const letters = Math.floor((w - 12) / 7);
        return (
          <g key={row.index} transform={`translate(${x0} ${y0})`} {...control(`${worded(row, besides)}, ${share}`, () => onTrace(row.index))}>
            <title>{`${worded(row, besides)}, ${share}`}</title>
            <rect width={w} height={h} fill="var(--chosen)" stroke="var(--rule)" />
            {letters > 3 && h > 18 && (
              <text x={6} y={15} fontSize={13} fill="var(--ink)">
                {row.name.length > letters ? `${row.name.slice(0, letters - 1)}…` : row.name}
              </text>
            )}
            {letters > 8 && h > 36 && (
              <text x={6} y={32} fontSize={12} fill="var(--soft)">
                {letters > 20 ? `${amountText(row.value)}, ${share}` : share}
              </text>
            )}
          </g>
        );
      })}
    </svg>
  );
}

const LEFT = 96;
/** A few bars need not fill the width. */
const BAR_MAX = 64;
const FOOT = 24;

/** Axis of amounts with its lines. */
function Levels({ y, wide }: { y: ReturnType<typeof scaleLinear<number, number>>; wide: number }) {
  return y.ticks(4).map((t) => (
    <g key={t}>
      <line x1={LEFT} x2={wide - 8} y1={y(t)} y2={y(t)} stroke="var(--rule)" strokeWidth={t === 0 ? 1.2 : 0.5} />
      <text x={LEFT - 8} y={y(t) + 4} textAnchor="end" fontSize={11.5} fill="var(--soft)">
        {amountText(String(Math.round(t)))}
      </text>
    </g>
  ));
}

/** Every so many names stand below, so that none covers another. */
const spaced = (count: number, wide: number): number => Math.max(1, Math.ceil((count * 96) / Math.max(1, wide - LEFT)));

/** Rows of time one after the other. */
function Course({ rows, wide, besides, onTrace }: Drawing) {
  const ends = rows.flatMap((r) => [Number(r.value), Number(r.beside ?? 0)]);
  const side = sideOf(rows);
  const y = scaleOf(ends, side, [HIGH - FOOT, 10]).nice(4);
  const x = scaleBand(
    rows.map((r) => String(r.index)),
    [LEFT, wide - 8],
  ).padding(0.28);
  const each = spaced(rows.length, wide);
  return (
    <>
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset */}
      <svg width={wide} height={HIGH} role="group" aria-label="Course over time; Enter traces a bar">
        <Levels y={y} wide={wide} />
        {rows.map((row, i) => {
          const bar = Math.min(BAR_MAX, x.bandwidth());
          const at = (x(String(row.index)) ?? 0) + (x.bandwidth() - bar) / 2;
          const value = Number(row.value);
          return (
            <g key={row.index} {...control(worded(row, besides), () => onTrace(row.index))}>
              <title>{worded(row, besides)}</title>
              <rect x={at} y={0} width={bar} height={HIGH - FOOT} fill="transparent" />
              <rect x={at} y={Math.min(y(value), y(0))} width={bar} height={Math.max(1, Math.abs(y(value) - y(0)))} {...filled(value, side)} />
              {row.beside !== null && (
                <g transform={`translate(0 ${y(Number(row.beside))}) rotate(-90)`}>
                  <Beside x={0} top={at - 4} high={bar + 8} />
                </g>
              )}
              {i % each === 0 && (
                <text x={at + bar / 2} y={HIGH - 7} textAnchor="middle" fontSize={11.5} fill="var(--soft)">
                  {row.name}
                </text>
              )}
            </g>
          );
        })}
      </svg>
      <Legend besides={besides} hollow={rows.some((r) => Number(r.value) * side < 0)} />
    </>
  );
}

/** Names at the ends of lines are so far apart. */
const NAME_HIGH = 15;

const DASHES = ['', '7 3', '2 3', '10 3 2 3', '4 4'];

/** The largest rows over the columns, a line each, with its name at its end. */
function Courses({ rows, columns, wide, onTrace }: Drawing & { columns: string[] }) {
  const shown = rows.slice(0, COURSES_MAX);
  const y = scaleOf(
    shown.flatMap((r) => r.cells.map(Number)),
    sideOf(rows),
    [HIGH - FOOT, 10],
  ).nice(4);
  const right = wide - 190;
  const x = scaleLinear([0, Math.max(1, columns.length - 1)], [LEFT + 16, right]);
  const path = line<string>(
    (_, i) => x(i),
    (cell) => y(Number(cell)),
  );
  const each = spaced(columns.length, wide - 190);
  // Names at the ends of lines stand apart, in the order of the ends.
  const names = shown.map((row) => ({ row, at: y(Number(row.cells[row.cells.length - 1] ?? 0)) })).sort((a, b) => a.at - b.at);
  for (const [i, name] of names.entries()) name.at = Math.max(name.at, (names[i - 1]?.at ?? -10) + NAME_HIGH);
  for (const [i, name] of names.entries()) name.at = Math.min(name.at, HIGH - FOOT - (names.length - 1 - i) * NAME_HIGH);
  return (
    <>
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset */}
      <svg width={wide} height={HIGH} role="group" aria-label="Course of the largest rows; Enter traces a point">
        <Levels y={y} wide={right + 24} />
        {columns.map((name, i) =>
          i % each === 0 ? (
            <text key={name} x={x(i)} y={HIGH - 7} textAnchor="middle" fontSize={11.5} fill="var(--soft)">
              {name}
            </text>
          ) : null,
        )}
        {shown.map((row, k) => (
          <g key={row.index}>
            <path d={path(row.cells) ?? ''} fill="none" stroke="var(--ink)" strokeWidth={1.6} strokeDasharray={DASHES[k] ?? ''} opacity={1 - k * 0.12} />
            {row.cells.map((cell, i) => {
              const words = `${row.name}, ${columns[i]}: ${amountText(cell)}`;
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: a point is told by its column
                <g key={i} {...control(words, () => onTrace(row.index, i))}>
                  <title>{words}</title>
                  <circle cx={x(i)} cy={y(Number(cell))} r={9} fill="transparent" />
                  <circle cx={x(i)} cy={y(Number(cell))} r={3} fill="var(--ink)" />
                </g>
              );
            })}
          </g>
        ))}
        {names.map(({ row, at }) => (
          <text key={row.index} x={right + 12} y={at + 4} fontSize={12.5} fill="var(--ink)">
            {row.name.length > 26 ? `${row.name.slice(0, 25)}…` : row.name}
          </text>
        ))}
      </svg>
      <Legend rest={rows.length - shown.length} besides={null} hollow={false} />
    </>
  );
}
