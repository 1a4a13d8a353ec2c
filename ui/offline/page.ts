import { type Bundle, type BundledFigure, type BundledLine, type Performed, SPLITS, type Way } from '@/core/bundle';
import { periodText } from '@/core/calendar';
import { formatAmount, type Minor } from '@/core/money';
import type { FilesChecked } from './checked';
import type { Asked } from './worker';

/** The page of a bundle: opened from a folder, with no server and no network. All that it shows is inside. */

const source = document.getElementById('bundle')?.textContent ?? '{}';
const bundle = JSON.parse(source) as Bundle;

// The core works beside the page, so that a large figure never makes it stand still.
const script = document.getElementById('worker')?.textContent ?? '';
const worker = new Worker(URL.createObjectURL(new Blob([script], { type: 'text/javascript' })));
const waiting = new Map<number, { done(is: unknown): void; failed(error: Error): void }>();
let asking = 0;
worker.onmessage = ({ data: { id, is, failed } }: MessageEvent<{ id: number; is: unknown; failed?: string }>) => {
  const who = waiting.get(id);
  waiting.delete(id);
  if (failed === undefined) who?.done(is);
  else who?.failed(new Error(failed));
};
const inquire = <Is>(asked: Asked): Promise<Is> =>
  new Promise<Is>((done, failed) => {
    asking += 1;
    waiting.set(asking, { done: done as (is: unknown) => void, failed });
    worker.postMessage({ id: asking, asked });
  });

type Child = Node | string | null | false;

function make(tag: string, attributes: Record<string, string | (() => void)> = {}, ...children: Child[]): HTMLElement {
  const element = document.createElement(tag);
  for (const [name, value] of Object.entries(attributes)) {
    if (typeof value === 'function') element.addEventListener(name, value);
    else element.setAttribute(name, value);
  }
  element.append(...children.filter((c): c is Node | string => c !== null && c !== false));
  return element;
}

const amount = (minor: Minor, digits: number): string => {
  const text = formatAmount(Math.abs(minor), digits);
  const format = new Intl.NumberFormat(undefined, { minimumFractionDigits: digits, maximumFractionDigits: digits });
  const said = format.format(text as `${number}`);
  return minor === 0 ? '–' : minor < 0 ? `(${said})` : said;
};
const count = (many: number): string => new Intl.NumberFormat().format(many);
const moment = (iso: string): string => `${iso.slice(0, 10)} ${iso.slice(11, 16)} UTC`;

const BY: Record<string, string> = {
  ...{ account: 'account', period: 'period', day: 'day', journal: 'journal', counterparty: 'party' },
  ...{ postedBy: 'who posted', document: 'document', entry: 'entry' },
};
const nameOfSplit = (by: string): string =>
  BY[by] ?? bundle.dimensions.find((d) => `dim:${d.code}` === by)?.name.toLowerCase() ?? by;
const splits = (): string[] => [...SPLITS, ...bundle.dimensions.map((d) => `dim:${d.code}`)];

const accountName = (code: string): string =>
  Object.values(bundle.accounts)
    .map((of) => of[code])
    .find(Boolean) ?? '';
const parties = new Map(bundle.lines.map((l) => [l.counterparty, l.counterpartyName]));

function nameOfPart(by: string, key: string): string {
  if (key === '') return 'none';
  if (by === 'account') return `${key} ${accountName(key)}`;
  if (by === 'period') return periodText(Number(key));
  if (by === 'counterparty') return `${key} ${parties.get(key) ?? ''}`.trim();
  const dimension = bundle.dimensions.find((d) => `dim:${d.code}` === by);
  return dimension ? `${key} ${dimension.members[key] ?? ''}` : key;
}

interface At {
  figure: number;
  way: Way;
  by: string | null;
  line: number | null;
}
let at: At | null = null;

const main = make('main', { tabindex: '-1' });

function go(to: At | null): void {
  at = to;
  history.pushState(to, '');
  void show();
}
window.addEventListener('popstate', ({ state }) => {
  at = state as At | null;
  void show();
});
window.addEventListener('keydown', (event) => {
  if (event.key !== 'Backspace' || !at || (event.target as HTMLElement).closest('select')) return;
  event.preventDefault();
  go(up(at));
});

const up = (from: At): At | null =>
  from.line !== null
    ? { ...from, line: null }
    : from.by !== null
      ? { ...from, by: null }
      : from.way.length > 0
        ? { ...from, way: from.way.slice(0, -1), by: from.way.at(-1)?.by ?? null }
        : null;

async function show(): Promise<void> {
  if (at === null) return main.replaceChildren(...record());
  const figure = bundle.figures[at.figure] as BundledFigure;
  const here = at;
  const head = [
    make('nav', { 'aria-label': 'Thread', class: 'strips' }, ...strips(here, figure)),
    make('h2', {}, figure.label),
    make('p', { class: 'spoken' }, figure.sentence),
    make(
      'p',
      { class: 'soft' },
      `${figure.measure} ${figure.currency} ${amount(figure.value, figure.digits)}, ${count(figure.count)} lines, as of load ${figure.load}`,
    ),
    splitting(here),
  ];
  try {
    const body =
      here.line !== null
        ? entryTable(
            await inquire<BundledLine[]>({ ask: 'entry', figure: here.figure, way: here.way, line: here.line }),
            figure,
          )
        : here.by === null
          ? lineTable(await inquire<BundledLine[]>({ ask: 'lines', figure: here.figure, way: here.way }), figure, here)
          : partTable(
              await inquire<Part[]>({ ask: 'parts', figure: here.figure, way: here.way, by: here.by }),
              figure,
              here,
            );
    if (at === here) main.replaceChildren(...head, body);
  } catch (error) {
    main.replaceChildren(...head, make('p', { class: 'warn', role: 'alert' }, (error as Error).message));
  }
}

function strips(here: At, figure: BundledFigure): Node[] {
  const step = (says: string, to: At | null): Node => make('button', { type: 'button', click: () => go(to) }, says);
  return [
    step('The record', null),
    step(figure.label, { ...here, way: [], by: null, line: null }),
    ...here.way.map(({ by, key }, i) =>
      step(nameOfPart(by, key), { ...here, way: here.way.slice(0, i + 1), by: null, line: null }),
    ),
  ];
}

function splitting(here: At): Node {
  const choose = make('select', { 'aria-label': 'Split by' }) as HTMLSelectElement;
  choose.append(
    make('option', { value: '' }, 'lines'),
    ...splits().map((by) => make('option', { value: by }, `by ${nameOfSplit(by)}`)),
  );
  choose.value = here.by ?? '';
  choose.addEventListener('change', () => go({ ...here, by: choose.value || null, line: null }));
  return make('p', { class: 'tools' }, 'Shown as ', choose, make('span', { class: 'soft' }, ' Backspace goes back'));
}

interface Part {
  key: string;
  debit: Minor;
  credit: Minor;
  movement: Minor;
  count: number;
}

function table(heads: readonly [label: string, figures: boolean][], rows: readonly Node[], total: Node | null): Node {
  return make(
    'div',
    { class: 'scroll' },
    make(
      'table',
      {},
      make(
        'thead',
        {},
        make(
          'tr',
          {},
          ...heads.map(([label, figures]) => make('th', { scope: 'col', class: figures ? 'figure' : '' }, label)),
        ),
      ),
      make('tbody', {}, ...rows),
      total && make('tfoot', {}, total),
    ),
  );
}
const cell = (says: string, figures = false): Node => make('td', figures ? { class: 'figure' } : {}, says);

function partTable(parts: readonly Part[], figure: BundledFigure, here: At): Node {
  const by = here.by as string;
  const sum = (of: (p: Part) => Minor): Minor => parts.reduce((all, p) => all + of(p), 0);
  const money = (minor: Minor): Node => cell(amount(minor, figure.digits), true);
  return table(
    [
      [nameOfSplit(by), false],
      ['Debit', true],
      ['Credit', true],
      ['Movement', true],
      ['Lines', true],
    ],
    parts.map((p) =>
      make(
        'tr',
        {},
        make(
          'td',
          {},
          make(
            'button',
            {
              type: 'button',
              class: 'trace',
              click: () => go({ ...here, way: [...here.way, { by, key: p.key }], by: null }),
            },
            nameOfPart(by, p.key),
          ),
        ),
        money(p.debit),
        money(p.credit),
        money(p.movement),
        cell(count(p.count), true),
      ),
    ),
    make(
      'tr',
      {},
      cell(`${count(parts.length)} parts`),
      money(sum((p) => p.debit)),
      money(sum((p) => p.credit)),
      money(sum((p) => p.movement)),
      cell(count(sum((p) => p.count)), true),
    ),
  );
}

const SHOWN = 500;

function lineTable(lines: readonly BundledLine[], figure: BundledFigure, here: At): Node {
  let running = here.way.length === 0 ? figure.opening : 0;
  const rows = lines.map((line, i) => {
    running += line.amount as Minor;
    return lineRow(line, figure, running, () => go({ ...here, line: i }));
  });
  const more = make('button', { type: 'button', class: 'trace' }, `Show all ${count(rows.length)} lines`);
  const whole = table(LINE_HEADS, rows.slice(0, SHOWN), totalRow(lines, figure, running));
  if (rows.length <= SHOWN) return whole;
  more.addEventListener('click', () => {
    (whole as HTMLElement).querySelector('tbody')?.append(...rows.slice(SHOWN));
    more.remove();
  });
  return make('div', {}, whole, more);
}

const LINE_HEADS: [string, boolean][] = [
  ...([
    ['Date', false],
    ['Entry', false],
    ['Account', false],
    ['Description', false],
    ['Party', false],
    ['Document', false],
    ['Coding', false],
  ] as [string, boolean][]),
  ...([
    ['Debit', true],
    ['Credit', true],
    ['Balance', true],
  ] as [string, boolean][]),
];

function lineRow(line: BundledLine, { digits }: BundledFigure, running: Minor | null, open: (() => void) | null): Node {
  const size = line.amount as Minor;
  return make(
    'tr',
    {},
    cell(String(line.postingDate)),
    make(
      'td',
      {},
      open ? make('button', { type: 'button', class: 'trace', click: open }, String(line.entry)) : String(line.entry),
    ),
    cell(`${line.account} ${bundle.accounts[String(line.entity)]?.[String(line.account)] ?? ''}`),
    cell(String(line.description ?? '')),
    cell(line.counterpartyName ?? String(line.counterparty ?? '')),
    cell(String(line.document ?? '')),
    cell(Object.values(line.members).join(' · ')),
    cell(line.side === 'debit' ? amount(size, digits) : '', true),
    cell(line.side === 'credit' ? amount(-size, digits) : '', true),
    cell(running === null ? '' : amount(running, digits), true),
  );
}

function totalRow(lines: readonly BundledLine[], { digits }: BundledFigure, running: Minor): Node {
  const of = (side: string): Minor => lines.reduce((all, l) => (l.side === side ? all + (l.amount as Minor) : all), 0);
  return make(
    'tr',
    {},
    cell(`${count(lines.length)} lines`),
    ...Array.from({ length: 6 }, () => cell('')),
    cell(amount(of('debit'), digits), true),
    cell(amount(-of('credit'), digits), true),
    cell(amount(running, digits), true),
  );
}

function entryTable(lines: readonly BundledLine[], figure: BundledFigure): Node {
  const [first] = lines;
  return make(
    'div',
    {},
    make('h3', {}, `Entry ${first?.entry ?? ''}: ${first?.entryDescription ?? ''}`),
    make('p', { class: 'soft' }, 'Those of its lines that are inside.'),
    table(
      LINE_HEADS,
      lines.map((line) => lineRow(line, figure, null, null)),
      null,
    ),
  );
}

const performances = new Map<string, Performed | Error>();

function sign(key: string | null): Node | null {
  const found = key === null ? undefined : performances.get(key);
  if (key === null) return null;
  if (!found) return make('span', { class: 'soft' }, ' …');
  if (found instanceof Error) return make('span', { class: 'warn' }, ' cannot be worked out');
  return found.ok
    ? make('span', { class: 'good', title: 'Worked out again from the lines inside' }, ' ✓')
    : make('span', { class: 'warn' }, ' ≠ its lines come to something else');
}

function figureOf(key: string | null, label: string): Node {
  const index = bundle.figures.findIndex((f) => f.key === key);
  const figure = bundle.figures[index];
  if (!figure) return make('span', {}, label);
  return make(
    'span',
    {},
    make(
      'button',
      { type: 'button', class: 'trace', click: () => go({ figure: index, way: [], by: null, line: null }) },
      label,
    ),
    ` ${figure.currency} ${amount(figure.value, figure.digits)}`,
    sign(key),
  );
}

function record(): Node[] {
  const { thread, made, leftOut, files, loads } = bundle;
  const words = (name: string, text: string): Node | null =>
    text ? make('section', {}, make('h3', {}, name), ...text.split('\n').map((line) => make('p', {}, line))) : null;
  const list = (name: string, items: Node[]): Node | null =>
    items.length > 0
      ? make('section', {}, make('h3', {}, name), make('ol', {}, ...items.map((i) => make('li', {}, i))))
      : null;
  const parts: (Node | null)[] = [
    make('h2', {}, `${thread.reference} ${thread.name}`.trim()),
    make(
      'p',
      { class: 'soft' },
      `${thread.state}; made by ${made.by}, ${moment(made.at)}; ${made.record}; from ${made.source}`,
    ),
    words('Purpose', thread.purpose),
    list(
      'Steps',
      thread.steps.map((s) =>
        make(
          'div',
          {},
          figureOf(s.figure, s.label),
          s.note && make('p', { class: 'spoken' }, s.note),
          make('p', { class: 'soft' }, `${s.by}, ${moment(s.at)}`),
        ),
      ),
    ),
    list(
      'Gathered',
      thread.gathered.map((g) =>
        make(
          'div',
          {},
          `${g.kind}: `,
          figureOf(g.figure, g.label),
          g.kind === 'pin' ? null : ` ${g.says}`,
          make('p', { class: 'soft' }, `${g.by}, ${moment(g.at)}${g.state ? `, ${g.state}` : ''}`),
        ),
      ),
    ),
    words('Result', thread.result),
    words('Conclusion', thread.conclusion),
    list(
      'Signed',
      thread.signOffs.map((s) =>
        make('span', {}, `${s.as}: ${s.by}, ${moment(s.at)}${s.ended ? ` (ended: ${s.ended})` : ''}`),
      ),
    ),
    list(
      'Files',
      files.map((f) => make('span', {}, make('a', { href: f.path }, f.name), ` on ${f.label}, ${f.by}`)),
    ),
    list(
      'The files that its lines came with',
      loads.map((l) => make('span', {}, `load ${l.load}: ${l.file}`, make('code', {}, ` SHA-256 ${l.sha256 ?? ''}`))),
    ),
    list(
      'Not inside',
      leftOut.map((says) => make('span', {}, says)),
    ),
  ];
  return parts.filter((p): p is Node => p !== null);
}

const status = make('p', { role: 'status', class: 'status' }, 'Working every figure out again …');

async function perform(): Promise<void> {
  for (const [i, figure] of bundle.figures.entries())
    performances.set(
      figure.key,
      await inquire<Performed>({ ask: 'perform', figure: i }).catch((error: Error) => error),
    );
  const wrong = bundle.figures.filter((f) => {
    const found = performances.get(f.key);
    return !found || found instanceof Error || !found.ok;
  });
  status.textContent =
    wrong.length === 0
      ? `✓ All ${count(bundle.figures.length)} figures were worked out again from the ${count(bundle.lines.length)} lines inside, and agree.`
      : `≠ ${wrong.map((f) => f.label).join(', ')}: the lines inside come to something else.`;
  status.className = wrong.length === 0 ? 'status good' : 'status warn';
  document.documentElement.dataset.performed = wrong.length === 0 ? 'agrees' : 'differs';
  if (at === null) await show();
}

const checked = make('p', { role: 'status', class: 'status', id: 'checked' });

/** Holds all files of the bundle against the list that was signed. */
async function check(asked: Asked): Promise<void> {
  checked.textContent = 'Looking at every file …';
  checked.className = 'status';
  const found = await inquire<FilesChecked>(asked).catch(
    (error: Error): FilesChecked => ({ ok: false, wrong: [error.message], files: 0, key: '' }),
  );
  checked.textContent = found.ok
    ? `✓ All ${count(found.files)} files are as they left, and the signature holds. Signed by the key ${found.key}; hold it against what the installation says of itself.`
    : `≠ Not as it left: ${found.wrong.join('; ')}.`;
  checked.className = found.ok ? 'status good' : 'status warn';
}

/** A button that has files chosen. */
function choosing(label: string, more: Record<string, string>, take: (files: File[]) => Promise<Asked>): Node {
  const input = make('input', { type: 'file', class: 'hidden', 'aria-label': label, ...more }) as HTMLInputElement;
  input.addEventListener('change', () => {
    const files = [...(input.files ?? [])];
    if (files.length > 0) void take(files).then(check);
    input.value = '';
  });
  return make('span', {}, make('button', { type: 'button', class: 'trace', click: () => input.click() }, label), input);
}

const choices = make(
  'p',
  { class: 'soft' },
  'Whether all of it is as it left: ',
  choosing('choose its ZIP', { accept: '.zip' }, async ([zip]) => ({
    ...{ ask: 'check', zip: await (zip as File).arrayBuffer() },
  })),
  ', or ',
  choosing('its folder', { webkitdirectory: '' }, async (files) => ({
    ask: 'check',
    files: await Promise.all(
      files.map(
        async (f): Promise<[string, ArrayBuffer]> => [
          f.webkitRelativePath.split('/').slice(1).join('/'),
          await f.arrayBuffer(),
        ],
      ),
    ),
  })),
  '; or, without this page, ',
  make('code', {}, 'node verify.mjs'),
  ' in its folder.',
);

document.title = bundle.thread.name;
document.body.append(
  make('header', {}, make('h1', {}, 'Just Thread', make('span', { class: 'dot' }, '.')), status, choices, checked),
  main,
);
void (async () => {
  await inquire({ ask: 'begin', bundle: source });
  await show();
  await perform();
})();
