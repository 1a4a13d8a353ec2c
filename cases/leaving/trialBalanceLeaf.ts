import type { QueryOf } from '@/contracts/routes';
import type { Leaf, LeafRow } from '@/core/leaf';
import type { CatalogueAccount } from '@/store/catalogue';
import type { Context } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { trialBalance } from '../sheets/readTrialBalance';
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

const CODE_WIDTH = 10;
const NAME_WIDTH = 38;

/** A trial balance as it leaves: accounts with their codes apart from their names. */
export async function trialBalanceLeaf(
  ctx: Context,
  viewer: Viewer,
  query: QueryOf<'GET /trial-balance'>,
): Promise<Leaf> {
  const sheet = await trialBalance(ctx, viewer, query);
  const { asked, rows, columns, whole } = sheet;
  const of = (key: string, label: string) => amountColumn(key, label, asked.digits);
  const [proof] = sheet.proofs;
  const amounts = [
    of('opening', 'Opening'),
    of('debit', 'Debit'),
    of('credit', 'Credit'),
    // What years rolled over is between opening and closing only where it is something.
    ...(isNowhere([{ cells: whole }, ...rows], 'roll') ? [] : [of('roll', 'Rolled over')]),
    of('closing', 'Closing'),
    ...(sheet.ofYear ? [of('yearToDate', 'Year to date')] : []),
  ];
  return {
    title: 'Trial balance',
    sentence: asked.sentence,
    facts: factsOf(asked),
    columns: [
      textColumn('code', 'Account', CODE_WIDTH),
      textColumn('name', 'Name', NAME_WIDTH),
      ...amounts,
      ...columns.map((c) => besideColumn(c, asked)),
    ],
    rows: rows.map(({ account, label, depth, cells, refine }): LeafRow => {
      const params = addressWith(asked.address, refine ?? {});
      return {
        key: account.code,
        depth,
        look: account.posting ? 'plain' : 'heading',
        counts: account.posting,
        sums: account.posting ? null : 'beneath',
        cells: { code: account.code, name: label, ...cells },
        subject: subjectOf(params),
        behind: behindOf(asked, params),
      };
    }),
    total: { label: 'Total', cells: { name: 'Total', ...whole } },
    proofs: () => [
      ...(proof
        ? [
            proofWords(
              proof,
              proof.means === 'balances' ? 'debits equal credits' : 'the rows come to the figure asked for by itself',
              asked,
            ),
          ]
        : []),
      ...(query.scheme === undefined ? [] : [codesSaid(query.scheme, rows)]),
    ],
    address: `/trial-balance?${asked.address}`,
  };
}

const NAMED = 20;

/** Whether every account that is listed bears a code of the scheme by which the sheet is handed over; those that do not. */
function codesSaid(scheme: string, rows: readonly { account: CatalogueAccount }[]): string {
  const without = rows.filter(({ account }) => account.posting && !account.codes[scheme]).map(({ account }) => account);
  if (without.length === 0) return `every account that is listed has a code of ${scheme}`;
  const named = without.slice(0, NAMED).map((a) => `${a.code} ${a.name}`);
  const more = without.length > NAMED ? ` and ${without.length - NAMED} more` : '';
  return `${without.length} of the accounts that are listed have no code of ${scheme}: ${named.join(', ')}${more}`;
}
