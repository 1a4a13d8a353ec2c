import type { QueryOf } from '@/contracts/routes';
import type { Leaf, LeafRow } from '@/core/leaf';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { statementScope, statementSheet } from '../statements/readStatement';
import { addressWith, besideColumn, factsOf, textColumn } from './parts';

const NAME_WIDTH = 46;
/** Rows of one account, below the row that they are part of. */
const ACCOUNT_WIDTH = 10;

/** A statement as it leaves: its rows in natural sign, subtotals as what their rows come to. */
export async function statementLeaf(
  ctx: Context,
  viewer: Viewer,
  code: string,
  query: QueryOf<'GET /statements/{code}'>,
): Promise<Leaf> {
  const asked = await statementScope(ctx, viewer, query);
  const sheet = await statementSheet(ctx, viewer, asked, code, query);
  const opened = sheet.rows.some((r) => r.account !== null);
  return {
    title: sheet.name,
    sentence: asked.sentence,
    facts: factsOf(asked),
    columns: [
      ...(opened ? [textColumn('account', 'Account', ACCOUNT_WIDTH)] : []),
      textColumn('name', '', NAME_WIDTH),
      ...sheet.columns.map((c) => ({ ...besideColumn(c, asked), adds: false })),
    ],
    rows: sheet.rows.map((row): LeafRow => {
      const params = row.refine && row.measure !== null ? addressWith(asked.address, row.refine) : null;
      return {
        key: row.key,
        depth: row.depth,
        look: row.emphasis ?? (row.kind === 'caption' ? 'heading' : 'plain'),
        counts: false,
        sums: row.terms ?? null,
        cells: { account: row.account, name: row.label, ...row.cells },
        subject: params && params.toString(),
        // A row of several accounts goes to them first, one of a single account to its lines.
        behind: params && (row.account === null ? `/sheets?${params}&by=account` : `/lines?${params}`),
      };
    }),
    total: null,
    proofs: () => sheet.proofs.map((p) => p.says),
    address: `/statements?${addressWith(asked.address, { statement: code })}`,
  };
}
