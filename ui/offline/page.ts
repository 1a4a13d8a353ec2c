import {
  type Bundle,
  type BundledFigure,
  type BundledLine,
  type BundledPart,
  type BundledSheet,
  type LinesOn,
  type Performed,
  SPLITS,
  type Way,
} from '@/core/bundle';
import { periodText } from '@/core/calendar';
import { formatAmount, type Minor } from '@/core/money';
import type { FilesChecked } from './checked';
import type { Asked, Brought, Wanted } from './worker';

/** The page of a bundle: opened from a folder, with no server and no network. All that it shows is inside. */

const source = document.getElementById('bundle')?.textContent ?? '{}';
const bundle = JSON.parse(source) as Bundle;

// The core works beside the page, so that a large figure never makes it stand still.
const script = document.getElementById('worker')?.textContent ?? '';
const worker = new Worker(URL.createObjectURL(new Blob([script], { type: 'text/javascript' })));
const waiting = new Map<number, { done(is: unknown): void; failed(error: Error): void }>();
let asking = 0;
worker.onmessage = ({ data }: MessageEvent<{ id: number; is: unknown; failed?: string } | Wanted>) => {
  if ('part' in data) return bring(data.part);
  const who = waiting.get(data.id);
  waiting.delete(data.id);
  if (data.failed === undefined) who?.done(data.is);
  else who?.failed(new Error(data.failed));
};
const inquire = <Is>(asked: Asked): Promise<Is> =>
  new Promise<Is>((done, failed) => {
    asking += 1;
    waiting.set(asking, { done: done as (is: unknown) => void, failed });
    worker.postMessage({ id: asking, asked });
  });

/** Called by the script of a part with its lines, which go to the worker. */
(window as unknown as { partOf(part: number, lines: string): void }).partOf = (part, lines) =>
  worker.postMessage({ part, lines } satisfies Brought);

/** Brings the lines of a part: from within the page, or by its script, which is all that a page may read of a folder. */
function bring(part: number): void {
  const script = document.createElement('script');
  const within = document.getElementById('lines')?.textContent ?? '';
  const file = bundle.parts[part]?.file ?? '';
  if (within !== '') script.textContent = within;
  else {
    script.src = file;
    script.onload = () => script.remove();
    script.onerror = () => {
      script.remove();
      const failed = `${file} cannot be read: unfold the ZIP into a folder first, and open index.html there`;
      worker.postMessage({ part, failed } satisfies Brought);
    };
  }
  document.head.append(script);
  if (within !== '') script.remove();
}

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

function nameOfPart(by: string, key: string): string {
  if (key === '') return 'none';
  if (by === 'account') return `${key} ${accountName(key)}`;
  if (by === 'period') return periodText(Number(key));
  if (by === 'counterparty') return `${key} ${bundle.parties[key] ?? ''}`.trim();
  const dimension = bundle.dimensions.find((d) => `dim:${d.code}` === by);
  return dimension ? `${key} ${dimension.members[key] ?? ''}` : key;
}

/** Where one is: on a figure and the way down from it, or at a table that belongs to what was gathered. */
interface At {
  figure: number;
  way: Way;
  by: string | null;
  entry: { entity: string; entry: string } | null;
  sheet: string | null;
}
const AT: At = { figure: 0, way: { of: 'lines', steps: [] }, by: null, entry: null, sheet: null };
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

const up = (from: At): At | null => {
  const { steps, of } = from.way;
  if (from.entry !== null) return { ...from, entry: null };
  if (from.by !== null) return { ...from, by: null };
  return steps.length > 0
    ? { ...from, way: { of, steps: steps.slice(0, -1) }, by: steps.at(-1)?.by ?? null }
    : of === 'before'
      ? { ...from, way: { of: 'lines', steps: [] } }
      : null;
};

async function show(): Promise<void> {
  if (at === null) return main.replaceChildren(...record());
  const here = at;
  const sheet = bundle.sheets.find((s) => s.key === here.sheet);
  if (sheet) return main.replaceChildren(...sheetShown(sheet));
  const figure = bundle.figures[at.figure] as BundledFigure;
  const head = [
    make('nav', { 'aria-label': 'Thread', class: 'strips' }, ...strips(here, figure)),
    make('h2', {}, figure.label),
    make('p', { class: 'spoken' }, figure.sentence),
    make(
      'p',
      { class: 'soft' },
      `${figure.measure} ${figure.currency} ${amount(figure.value, figure.digits)}, ${count(figure.count)} lines, as of load ${figure.load}`,
    ),
    begun(here, figure),
    splitting(here),
  ].filter((node): node is HTMLElement => node !== null);
  main.replaceChildren(...head, make('p', { class: 'soft' }, 'Looking through the lines …'));
  try {
    const body =
      here.entry !== null
        ? entryTable(await inquire<BundledLine[]>({ ask: 'entry', ...here.entry }), figure)
        : here.by === null
          ? await lineTable(figure, here, SHOWN)
          : partTable(
              await inquire<BundledPart[]>({ ask: 'parts', figure: here.figure, way: here.way, by: here.by }),
              figure,
              here,
            );
    if (at === here) main.replaceChildren(...head, body);
  } catch (error) {
    main.replaceChildren(...head, make('p', { class: 'warn', role: 'alert' }, (error as Error).message));
  }
}

/** What was there before the lines of a figure, and the way to the lines that it is the sum of. */
function begun(here: At, { before, opening, digits }: BundledFigure): HTMLElement | null {
  if (here.way.of === 'before')
    return make('p', { class: 'soft' }, 'The lines before, of which its opening is the sum.');
  if (opening === 0 && (before?.count ?? 0) === 0) return null;
  const says = `opening ${amount(opening, digits)}`;
  return make(
    'p',
    { class: 'soft' },
    ...(before
      ? [
          make(
            'button',
            {
              type: 'button',
              class: 'trace',
              click: () => go({ ...AT, figure: here.figure, way: { of: 'before', steps: [] } }),
            },
            says,
          ),
          `, the sum of ${count(before.count)} lines before`,
        ]
      : [`${says}, of which the lines before are not inside`]),
  );
}

/** A table that belongs to what was gathered: what tests found, items of a sample, a finding in full. */
function sheetShown({ title, heads, rows, note }: BundledSheet): Node[] {
  const figures = heads.map((h) => h.figures);
  return [
    make(
      'nav',
      { 'aria-label': 'Thread', class: 'strips' },
      make('button', { type: 'button', click: () => go(null) }, 'The record'),
    ),
    make('h2', {}, title),
    make('p', { class: 'soft' }, `${count(rows.length)} rows${note ? `; ${note}` : ''}`),
    table(
      heads.map((h) => [h.label, h.figures]),
      rows.map((r) => make('tr', {}, ...r.map((text, i) => cell(text, figures[i])))),
      null,
    ),
  ];
}

function strips(here: At, figure: BundledFigure): Node[] {
  const step = (says: string, to: At | null): Node => make('button', { type: 'button', click: () => go(to) }, says);
  const { of, steps } = here.way;
  const top = { ...AT, figure: here.figure };
  return [
    step('The record', null),
    step(figure.label, top),
    ...(of === 'before' ? [step('before', { ...top, way: { of, steps: [] } })] : []),
    ...steps.map(({ by, key }, i) => step(nameOfPart(by, key), { ...top, way: { of, steps: steps.slice(0, i + 1) } })),
  ];
}

function splitting(here: At): Node {
  const choose = make('select', { 'aria-label': 'Split by' }) as HTMLSelectElement;
  choose.append(
    make('option', { value: '' }, 'lines'),
    ...splits().map((by) => make('option', { value: by }, `by ${nameOfSplit(by)}`)),
  );
  choose.value = here.by ?? '';
  choose.addEventListener('change', () => go({ ...here, by: choose.value || null, entry: null }));
  return make('p', { class: 'tools' }, 'Shown as ', choose, make('span', { class: 'soft' }, ' Backspace goes back'));
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

function partTable(parts: readonly BundledPart[], figure: BundledFigure, here: At): Node {
  const by = here.by as string;
  const sum = (of: (p: BundledPart) => Minor): Minor => parts.reduce((all, p) => all + of(p), 0);
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
              click: () =>
                go({ ...here, way: { ...here.way, steps: [...here.way.steps, { by, key: p.key }] }, by: null }),
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
/** More lines than these no page shows; what all of them come to it says. */
const SHOWN_MOST = 20_000;

async function lineTable(figure: BundledFigure, here: At, most: number): Promise<Node> {
  const { lines, total } = await inquire<LinesOn>({ ask: 'lines', figure: here.figure, way: here.way, most });
  const { of, steps } = here.way;
  let running = of === 'lines' && steps.length === 0 ? figure.opening : 0;
  const end = running + total.movement;
  const rows = lines.map((line) => {
    running += line.amount as Minor;
    const entry = { entity: String(line.entity), entry: String(line.entry) };
    return lineRow(line, figure, running, () => go({ ...here, entry }));
  });
  const whole = table(LINE_HEADS, rows, totalRow(total, figure, end));
  if (total.count <= lines.length) return whole;
  const next = Math.min(total.count, SHOWN_MOST);
  const holder = make('div', {}, whole);
  if (most >= SHOWN_MOST)
    holder.append(
      make('p', { class: 'soft' }, `The first ${count(lines.length)} lines are shown; all of them are in lines.csv.`),
    );
  else
    holder.append(
      make(
        'button',
        {
          type: 'button',
          class: 'trace',
          click: () => void lineTable(figure, here, SHOWN_MOST).then((more) => holder.replaceWith(more)),
        },
        next === total.count
          ? `Show all ${count(total.count)} lines`
          : `Show the first ${count(next)} of ${count(total.count)} lines`,
      ),
    );
  return holder;
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
    cell(bundle.parties[String(line.counterparty)] ?? String(line.counterparty ?? '')),
    cell(String(line.document ?? '')),
    cell(Object.values(line.members).join(' · ')),
    cell(line.side === 'debit' ? amount(size, digits) : '', true),
    cell(line.side === 'credit' ? amount(-size, digits) : '', true),
    cell(running === null ? '' : amount(running, digits), true),
  );
}

function totalRow(total: LinesOn['total'], { digits }: BundledFigure, running: Minor): Node {
  return make(
    'tr',
    {},
    cell(`${count(total.count)} lines`),
    ...Array.from({ length: 6 }, () => cell('')),
    cell(amount(total.debit, digits), true),
    cell(amount(total.credit, digits), true),
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
    make('button', { type: 'button', class: 'trace', click: () => go({ ...AT, figure: index }) }, label),
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
          g.sheet === null
            ? figureOf(g.figure, g.label)
            : make('button', { type: 'button', class: 'trace', click: () => go({ ...AT, sheet: g.sheet }) }, g.label),
          g.kind === 'pin' || g.says === g.label ? null : ` ${g.says}`,
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
      ? `✓ All ${count(bundle.figures.length)} figures were worked out again from the ${count(bundle.lines)} lines inside, and agree.`
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
