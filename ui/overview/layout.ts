import { PANEL_COLUMNS, type Panel } from '@/contracts/panels';

type Item = { i: string; x: number; y: number; w: number; h: number };

/** Panels where a drag or a pull has put them; null where nothing has changed. */
export function placed(panels: readonly Panel[], layout: readonly Item[]): Panel[] | null {
  let changed = false;
  const next = panels.map((panel) => {
    const to = layout.find((l) => l.i === panel.key);
    if (!to || (to.x === panel.x && to.y === panel.y && to.w === panel.w && to.h === panel.h)) return panel;
    changed = true;
    return { ...panel, x: to.x, y: to.y, w: to.w, h: to.h };
  });
  return changed ? next : null;
}

const LEAST = 2;
const HIGHEST = 40;

/** A panel moved, or with its size changed, by an arrow; the grid makes room for it. */
export function moved(panels: readonly Panel[], key: string, arrow: string, stretch: boolean): Panel[] {
  const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[arrow] ?? [0, 0];
  const [dx = 0, dy = 0] = by;
  return panels.map((panel) => {
    if (panel.key !== key) return panel;
    if (stretch)
      return {
        ...panel,
        w: Math.min(PANEL_COLUMNS - panel.x, Math.max(LEAST, panel.w + dx)),
        h: Math.min(HIGHEST, Math.max(LEAST, panel.h + dy)),
      };
    return {
      ...panel,
      x: Math.min(PANEL_COLUMNS - panel.w, Math.max(0, panel.x + dx)),
      // A step up goes past what is above it, which then makes room.
      y: Math.max(0, panel.y + dy * (dy < 0 ? 2 : 1)),
    };
  });
}
