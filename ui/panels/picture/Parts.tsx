import { hierarchy, treemap } from 'd3-hierarchy';
import { amountText } from '../../amounts';
import { control, type Drawing, type Drawn, HIGH, worded } from './drawing';

/** Rows as parts of the whole, which they are where all lie on one side. */
export function Parts({ rows, wide, besides, onTrace }: Drawing) {
  const signs = new Set(rows.map((r) => Math.sign(Number(r.value))).filter((s) => s !== 0));
  if (signs.size !== 1)
    return (
      <p className="py-1 text-soft">
        Some rows are above nothing and some below, so that they are no parts of a whole. Bars show them.
      </p>
    );
  const whole = rows.reduce((sum, r) => sum + Math.abs(Number(r.value)), 0);
  const root = hierarchy<{ row?: Drawn; children?: { row: Drawn }[] }>({
    children: rows.filter((r) => Number(r.value) !== 0).map((row) => ({ row })),
  }).sum(({ row }) => Math.abs(Number(row?.value ?? 0)));
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
          <g
            key={row.index}
            transform={`translate(${x0} ${y0})`}
            {...control(`${worded(row, besides)}, ${share}`, () => onTrace(row.index))}
          >
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
