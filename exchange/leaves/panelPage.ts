import type { LeafColumn } from '@/core/leaf';
import { inPage as text, wholePage } from '../page';

/** What a panel shows, as it is drawn on a page elsewhere. */
export interface PanelDrawn {
  name: string;
  sentence: string;
  currency: string;
  load: number;
  columns: readonly Pick<LeafColumn, 'key' | 'label' | 'is'>[];
  rows: readonly {
    key: string;
    depth: number;
    look: string;
    cells: Readonly<Record<string, string | null>>;
    value: string | null;
  }[];
  count: number;
  total: Readonly<Record<string, string | null>> | null;
  proofs: readonly string[];
  figure: { measure: string; value: string } | null;
  course: readonly { period: string; name: string; value: string; inWindow: boolean }[];
}

interface Framed {
  kind: 'figure' | 'table' | 'picture';
  locale: string;
  by: string;
  at: Date;
  /** Where it is read live, for who may. */
  live: string;
}

/** A panel as one document without anything to run: words, figures, and a drawing of them (SVG 2). */
export function panelPage(panel: PanelDrawn, framed: Framed): string {
  const { kind, locale, by, at, live } = framed;
  const amount = amountsIn(locale);
  const body =
    kind === 'figure' ? figure(panel, amount) : kind === 'table' ? table(panel, amount, locale) : bars(panel, amount);
  const when = new Intl.DateTimeFormat(locale, { dateStyle: 'medium', timeStyle: 'short', timeZone: 'UTC' }).format(at);
  return wholePage({
    ...{ lang: locale, title: panel.name, style: STYLE },
    body: `<header><h1><a href="${text(live)}" target="_blank" rel="noopener noreferrer">${text(panel.name)}</a></h1><span>${text(panel.currency)}</span></header>
<p class="soft">${text(panel.sentence)}</p>
<main>${body}</main>
<p class="soft">${text(`As of load ${panel.load}; ${when} UTC; as ${by} may see it`)}</p>`,
  });
}

const STYLE = `:root{--ground:#fffdf6;--ink:#1f242b;--soft:#635d52;--rule:#d3c9b6;--hair:#ebe4d4;--bar:#8f99a6}
*{box-sizing:border-box}body{margin:0;padding:10px 14px;background:var(--ground);color:var(--ink);font:14px/1.4 "Source Sans 3","Segoe UI","Helvetica Neue",Arial,sans-serif}
header{display:flex;align-items:baseline;gap:12px;border-bottom:1px solid var(--rule);padding-bottom:3px}header span{margin-left:auto}
h1{margin:0;font:600 16px/1.3 "Source Serif 4",Georgia,serif}a{color:inherit;text-decoration:none}a:hover{text-decoration:underline}
.soft,header span,th{color:var(--soft);font-size:12.5px}p{margin:4px 0}.big{font:600 28px/1.25 "Source Serif 4",Georgia,serif;font-variant-numeric:tabular-nums}
table{border-collapse:collapse;width:100%;font-size:13px}th{font-weight:400;text-align:left;border-bottom:1px solid var(--rule);padding:2px 6px}
td{border-bottom:1px solid var(--hair);padding:2px 6px;vertical-align:top}.n{text-align:right;white-space:nowrap;font-variant-numeric:tabular-nums}
tr.sum td{font-weight:600}tfoot td{font-weight:600;border-top:1px solid var(--ink);border-bottom:3px double var(--ink)}
svg{display:block;width:100%;height:auto;margin:6px 0}:focus-visible{outline:2px solid var(--ink);outline-offset:2px}`;

type Amounts = (exact: string | null | undefined) => string;

/** Exact decimal strings as a reader writes numbers, with all of their decimals. */
function amountsIn(locale: string): Amounts {
  const formats = new Map<number, Intl.NumberFormat>();
  return (exact) => {
    if (exact === null || exact === undefined) return '';
    const digits = exact.split('.')[1]?.length ?? 0;
    const format =
      formats.get(digits) ??
      new Intl.NumberFormat(locale, { minimumFractionDigits: digits, maximumFractionDigits: digits });
    formats.set(digits, format);
    if (!/[1-9]/.test(exact)) return '–';
    // What is on the other side stands in brackets, as it does on every sheet.
    const size = format.format(exact.replace(/^-/, '') as Intl.StringNumericLiteral);
    return exact.startsWith('-') ? `(${size})` : size;
  };
}

const isFigure = ({ is }: Pick<LeafColumn, 'is'>): boolean => is !== 'text' && is !== 'date';

function figure({ figure: told, course, rows, columns, total }: PanelDrawn, amount: Amounts): string {
  const last = rows.filter((r) => r.look === 'total' || r.look === 'subtotal').at(-1);
  const column = columns.find((c) => c.key === 'closing') ?? columns.filter((c) => c.is === 'amount').at(-1);
  const ofStatement = total === null && last && column ? last.cells[column.key] : null;
  const value = ofStatement ?? told?.value ?? null;
  const says = ofStatement ? (last?.cells.name ?? '') : (told?.measure ?? '');
  return `<p class="big">${text(value === null ? '–' : amount(value))}</p><p class="soft">${text(says)}</p>${
    ofStatement || course.length < 2 ? '' : drawnCourse(course, amount)
  }`;
}

const WIDE = 560;
const HIGH = 110;

/** The same figure by period, as columns from nothing; those of its window are darker. */
function drawnCourse(course: PanelDrawn['course'], amount: Amounts): string {
  const values = course.map((p) => Number(p.value));
  const [least, most] = [Math.min(0, ...values), Math.max(0, ...values)];
  const y = (value: number): number => 6 + ((most - value) / (most - least || 1)) * (HIGH - 26);
  const step = WIDE / course.length;
  const columns = course.map((p, i) => {
    const [from, to] = [y(Math.max(0, values[i] as number)), y(Math.min(0, values[i] as number))];
    return `<rect x="${(i * step + 3).toFixed(1)}" y="${from.toFixed(1)}" width="${(step - 6).toFixed(1)}" height="${Math.max(1, to - from).toFixed(1)}" fill="${p.inWindow ? '#1f242b' : '#b9b2a4'}"><title>${text(`${p.name}: ${amount(p.value)}`)}</title></rect>`;
  });
  const names = [course[0], course.at(-1)].map(
    (p, i) =>
      `<text x="${i === 0 ? 3 : WIDE - 3}" y="${HIGH - 4}" font-size="12" fill="#635d52" text-anchor="${i === 0 ? 'start' : 'end'}">${text(p?.name ?? '')}</text>`,
  );
  const label = course.map((p) => `${p.name} ${amount(p.value)}`).join(', ');
  return `<svg viewBox="0 0 ${WIDE} ${HIGH}" role="img" aria-label="${text(label)}">${columns.join('')}<line x1="0" x2="${WIDE}" y1="${y(0).toFixed(1)}" y2="${y(0).toFixed(1)}" stroke="#1f242b"/>${names.join('')}</svg>`;
}

function table({ columns: all, rows, total, count }: PanelDrawn, amount: Amounts, locale: string): string {
  const columns = [...all.filter((c) => !isFigure(c)).slice(0, 2), ...all.filter(isFigure).slice(-3)];
  const cell = (
    cells: Readonly<Record<string, string | null>>,
    column: (typeof columns)[number],
    depth = 0,
  ): string => {
    const is = column.is;
    const exact = cells[column.key] ?? '';
    const said = exact === '' || !isFigure(column) ? exact : is === 'share' ? `${amount(exact)} %` : amount(exact);
    const indent = column.key === 'name' && depth > 0 ? ` style="padding-left:${6 + depth * 12}px"` : '';
    return `<td${isFigure(column) ? ' class="n"' : ''}${indent}>${text(said)}</td>`;
  };
  const head = columns.map((c) => `<th scope="col"${isFigure(c) ? ' class="n"' : ''}>${text(c.label)}</th>`).join('');
  const body = rows
    .map(
      (r) =>
        `<tr${r.look === 'plain' ? '' : ' class="sum"'}>${columns.map((c) => cell(r.cells, c, r.depth)).join('')}</tr>`,
    )
    .join('');
  const more = count - rows.length;
  const foot = [
    ...(total ? [`<tr>${columns.map((c) => cell(total, c)).join('')}</tr>`] : []),
    ...(more > 0
      ? [
          `<tr><td colspan="${columns.length}">${text(`and ${new Intl.NumberFormat(locale).format(more)} more`)}</td></tr>`,
        ]
      : []),
  ].join('');
  return `<table><thead><tr>${head}</tr></thead><tbody>${body}</tbody>${foot ? `<tfoot>${foot}</tfoot>` : ''}</table>`;
}

const BAR_HIGH = 22;
const NAMED = 190;
const BARS_MOST = 20;

/** Rows as bars from a common nothing, the largest first, each with its name and its amount. */
function bars({ rows, columns, count }: PanelDrawn, amount: Amounts): string {
  const names = columns.filter((c) => !isFigure(c));
  const nameOf = (cells: Readonly<Record<string, string | null>>): string =>
    names.flatMap((c) => cells[c.key] ?? []).join(' ');
  const drawn = rows
    .filter((r) => r.look === 'plain' && r.value !== null && r.depth === 0)
    .sort((a, b) => Math.abs(Number(b.value)) - Math.abs(Number(a.value)))
    .slice(0, BARS_MOST);
  if (drawn.length === 0) return '<p>There is nothing to draw.</p>';
  const values = drawn.map((r) => Number(r.value));
  const [least, most] = [Math.min(0, ...values), Math.max(0, ...values)];
  const room = WIDE - NAMED - 110;
  const x = (value: number): number => NAMED + ((value - least) / (most - least || 1)) * room;
  const parts = drawn.map((r, i) => {
    const value = values[i] as number;
    const at = i * BAR_HIGH;
    const name = nameOf(r.cells);
    const [from, to] = [x(Math.min(0, value)), x(Math.max(0, value))];
    return `<g><title>${text(`${name}: ${amount(r.value)}`)}</title><text x="0" y="${at + 15}" font-size="12.5" fill="#1f242b">${text(name.length > 28 ? `${name.slice(0, 27)}…` : name)}</text><rect x="${from.toFixed(1)}" y="${at + 4}" width="${Math.max(1, to - from).toFixed(1)}" height="${BAR_HIGH - 8}" fill="${value < 0 ? '#b9b2a4' : '#8f99a6'}"/><text x="${WIDE}" y="${at + 15}" font-size="12.5" fill="#1f242b" text-anchor="end">${text(amount(r.value))}</text></g>`;
  });
  const more = count - drawn.length;
  return `<svg viewBox="0 0 ${WIDE} ${drawn.length * BAR_HIGH + 2}" role="img" aria-label="${text(drawn.map((r) => `${nameOf(r.cells)} ${amount(r.value)}`).join(', '))}">${parts.join('')}<line x1="${x(0).toFixed(1)}" x2="${x(0).toFixed(1)}" y1="0" y2="${drawn.length * BAR_HIGH}" stroke="#1f242b"/></svg>${more > 0 ? `<p class="soft">and ${more} more</p>` : ''}`;
}
