import { scaleLinear } from 'd3-scale';
import { line } from 'd3-shape';
import { amountText } from '../../amounts';
import { control, type Drawing, FOOT, HIGH, LEFT, Legend, Levels, scaleOf, sideOf, spaced } from './drawing';

const COURSES_MAX = 5;
/** Names at the ends of lines are so far apart. */
const NAME_HIGH = 15;

const DASHES = ['', '7 3', '2 3', '10 3 2 3', '4 4'];

/** The largest rows over the columns, a line each, with its name at its end. */
export function Courses({ rows, columns, wide, onTrace }: Drawing & { columns: string[] }) {
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
  // Names at the ends of lines are apart, in the order of the ends.
  const names = shown
    .map((row) => ({ row, at: y(Number(row.cells[row.cells.length - 1] ?? 0)) }))
    .sort((a, b) => a.at - b.at);
  for (const [i, name] of names.entries()) name.at = Math.max(name.at, (names[i - 1]?.at ?? -10) + NAME_HIGH);
  for (const [i, name] of names.entries())
    name.at = Math.min(name.at, HIGH - FOOT - (names.length - 1 - i) * NAME_HIGH);
  return (
    <>
      {/* biome-ignore lint/a11y/useSemanticElements: a drawing cannot be a fieldset */}
      <svg width={wide} height={HIGH} role="group" aria-label="Trend of the largest rows; Enter traces a point">
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
            <path
              d={path(row.cells) ?? ''}
              fill="none"
              stroke="var(--ink)"
              strokeWidth={1.6}
              strokeDasharray={DASHES[k] ?? ''}
              opacity={1 - k * 0.12}
            />
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
