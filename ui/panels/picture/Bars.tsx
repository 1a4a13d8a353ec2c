import { amountText } from '../../amounts';
import { Beside, control, type Drawing, filled, Legend, scaleOf, sideOf, worded } from './drawing';

/** More parts than these nobody tells apart; what is left is as one. */
const BARS_MAX = 12;
const ROW = 20;
const NAMES = 230;
const AMOUNTS = 116;

/** Rows in order of size. */
export function Bars({ rows, wide, besides, onTrace }: Drawing) {
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
            <g
              key={row.index}
              transform={`translate(0 ${i * ROW})`}
              {...control(worded(row, besides), () => onTrace(row.index))}
            >
              <title>{worded(row, besides)}</title>
              <rect width={wide} height={ROW} fill="transparent" />
              <text x={NAMES - 10} y={14} textAnchor="end" fontSize={13} fill="var(--ink)">
                {row.name.length > 34 ? `${row.name.slice(0, 33)}…` : row.name}
              </text>
              <rect
                x={from}
                y={4}
                width={Math.max(1, Math.abs(x(value) - x(0)))}
                height={12}
                {...filled(value, side)}
              />
              {row.beside !== null && <Beside x={x(Number(row.beside))} top={1} high={18} />}
              <text x={wide - 6} y={14} textAnchor="end" fontSize={13} fill="var(--ink)">
                {amountText(row.value)}
              </text>
            </g>
          );
        })}
        <line x1={x(0)} x2={x(0)} y1={0} y2={shown.length * ROW} stroke="var(--soft)" />
      </svg>
      <Legend
        rest={rows.length - shown.length}
        besides={besides}
        hollow={shown.some((r) => Number(r.value) * side < 0)}
      />
    </>
  );
}
