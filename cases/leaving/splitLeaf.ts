import type { QueryOf } from '@/contracts/routes';
import { readSplit } from '@/contracts/splits';
import { splitsWindow } from '@/core/figure';
import type { Leaf, LeafColumn, LeafRow } from '@/core/leaf';
import { asOne, type Cells } from '@/core/sheet';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { type BrokenDown, brokenDown } from '../sheets/readSheet';
import {
  addressWith,
  amountColumn,
  behindOf,
  besideColumn,
  factsOf,
  isNowhere,
  proofWords,
  subjectOf,
  textColumn,
} from './parts';

const CODE_WIDTH = 14;
const NAME_WIDTH = 38;
/** So many rows of a split of very many are asked for at once. */
const PAGE = 2_000;

/** A figure broken down as it leaves, whole: of a split that screens read page by page, every page. */
export async function splitLeaf(ctx: Context, viewer: Viewer, query: QueryOf<'GET /sheets'>): Promise<Leaf> {
  const { first: _first, after: _after, ...whole } = query;
  const ask = (after?: string): Promise<BrokenDown> =>
    brokenDown(ctx, viewer, after === undefined ? whole : { ...whole, first: PAGE, after });
  const sheet = await ask();
  const { asked, additive, across, columns, empty: _empty } = sheet;
  const digits = asked.digits;
  const { dimensions } = asked.known.catalogue;
  const said = (by: string): string =>
    (by.startsWith('dim:') ? (dimensions.get(by.slice('dim:'.length).split('/')[0] ?? '')?.name ?? by) : by)
      .replace(/[A-Z]/g, (letter) => ` ${letter}`)
      .toLowerCase();
  // Over time what moved in each, as on the screen; what was open at each end is no part of a whole.
  const overTime = query.across !== undefined && splitsWindow(asked.figure.window, readSplit(query.across, 'across'));
  const measure = additive.includes('closing') && !overTime ? 'closing' : 'movement';
  const measures = (['opening', 'debit', 'credit', 'roll', 'closing'] as const).filter(
    (m) => m !== 'roll' || !isNowhere([sheet.others ?? { cells: {} }, { cells: sheet.whole }, ...sheet.rows], 'roll'),
  );
  const LABEL = { opening: 'Opening', debit: 'Debit', credit: 'Credit', roll: 'Rolled over', closing: 'Closing' };
  const own: LeafColumn[] =
    across.length > 0
      ? [
          ...across.map((c, i) =>
            amountColumn(`x${i}`, c.within === null ? c.name : `${c.name} of ${c.within}`, digits),
          ),
          amountColumn(measure, 'Together', digits, additive.includes(measure)),
        ]
      : columns.length > 0
        ? columns.map((c) => besideColumn(c, asked))
        : measures.map((m) => amountColumn(m, LABEL[m], digits, additive.includes(m)));
  const crossed = (cells: readonly { cells: Cells }[]): Cells =>
    Object.fromEntries(cells.map(({ cells: of }, i) => [`x${i}`, of[measure] ?? null]));
  const rowsOf = (page: BrokenDown): LeafRow[] =>
    page.rows.map((row, i) => {
      const isParent = (page.rows[i + 1]?.depth ?? 0) > row.depth;
      const params = addressWith(asked.address, row.refine);
      return {
        key: row.key,
        depth: row.depth,
        look: isParent ? 'heading' : 'plain',
        counts: !isParent,
        sums: isParent ? 'beneath' : null,
        cells: {
          code: row.member,
          // Where a member has no name but its code it is said once.
          name: row.label === row.member ? '' : row.label.replace(`${row.member} `, ''),
          ...row.cells,
          ...crossed(row.across ?? []),
        },
        subject: subjectOf(params),
        behind: behindOf(asked, params),
      };
    });
  const pages = async function* (): AsyncGenerator<LeafRow> {
    for (let page = sheet; ; ) {
      yield* rowsOf(page);
      const next = page.others?.next ?? null;
      if (next === null) return;
      page = await ask(next);
    }
  };
  return {
    title: `By ${whole.by.map(said).join(', then ')}${query.across === undefined ? '' : `, across ${said(query.across)}`}`,
    sentence: asked.sentence,
    facts: factsOf(asked),
    columns: [textColumn('code', 'Code', CODE_WIDTH), textColumn('name', 'Name', NAME_WIDTH), ...own],
    rows: sheet.others ? pages() : rowsOf(sheet),
    total: { label: 'Total', cells: { name: 'Total', ...sheet.whole, ...crossed(across) } },
    proofs: () => [proofWords(asOne(sheet.proofs), 'the rows come to the figure asked for by itself', asked)],
    address: `/lines?${asked.address}`,
  };
}
