/** How a report is shown on an overview: its figure alone with its course, its first rows, or its rows drawn. */
export const PANEL_KINDS = ['figure', 'table', 'picture'] as const;
export type PanelKind = (typeof PANEL_KINDS)[number];

/** Columns of the grid on which panels stand. */
export const PANEL_COLUMNS = 12;

/** A panel and where it stands, in columns and rows of the grid. */
export interface Panel {
  key: string;
  report: number;
  kind: PanelKind;
  x: number;
  y: number;
  w: number;
  h: number;
}
