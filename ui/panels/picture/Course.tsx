import { scaleBand } from 'd3-scale';
import {
  Beside,
  control,
  type Drawing,
  FOOT,
  filled,
  HIGH,
  LEFT,
  Legend,
  Levels,
  scaleOf,
  sideOf,
  spaced,
  worded,
} from './drawing';

/** A few bars need not fill the width. */
const BAR_MAX = 64;

/** Rows of time one after the other. */
export function Course({ rows, wide, besides, onTrace }: Drawing) {
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
      <svg width={wide} height={HIGH} role="group" aria-label="Trend over time; Enter traces a bar">
        <Levels y={y} wide={wide} />
        {rows.map((row, i) => {
          const bar = Math.min(BAR_MAX, x.bandwidth());
          const at = (x(String(row.index)) ?? 0) + (x.bandwidth() - bar) / 2;
          const value = Number(row.value);
          return (
            <g key={row.index} {...control(worded(row, besides), () => onTrace(row.index))}>
              <title>{worded(row, besides)}</title>
              <rect x={at} y={0} width={bar} height={HIGH - FOOT} fill="transparent" />
              <rect
                x={at}
                y={Math.min(y(value), y(0))}
                width={bar}
                height={Math.max(1, Math.abs(y(value) - y(0)))}
                {...filled(value, side)}
              />
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
