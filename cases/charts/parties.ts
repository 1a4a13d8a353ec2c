import { doubledParties } from '@/core/parties';
import { type PartyRecord, readParties } from '@/store/parties';
import { type Context, known } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import { maySee, seesWhole, type Viewer } from '../asking/viewer';
import { splitOfSums } from '../balances/splitParts';

/**
 * Customers, suppliers and other parties with what is known of them, and which of them may be one and the same. Who sees
 * a part of the books sees those that its lines name, without their bank accounts and tax numbers.
 */
export async function listParties(ctx: Context, viewer: Viewer) {
  const whole = seesWhole(viewer) && viewer.entities === null;
  const parties = (await readParties(ctx.read, whole ? null : await partiesSeen(ctx, viewer))).map((p) =>
    whole ? p : { ...p, bank_account: '', tax_number: '' },
  );
  const doubled = doubledParties(
    parties.map((p) => ({ code: p.code, name: p.name, bankAccount: p.bank_account, taxNumber: p.tax_number })),
  );
  return {
    withheld: !whole,
    rows: parties.map((p) => ({
      ...shownParty(p),
      ...(doubled.get(p.code) ?? { sameBank: [], sameTax: [], nearName: [] }),
    })),
  };
}

const shownParty = (p: PartyRecord) => ({
  code: p.code,
  name: p.name,
  kind: p.kind,
  groups: p.groups,
  address: p.address,
  postalCode: p.postal_code,
  city: p.city,
  country: p.country,
  bankAccount: p.bank_account,
  taxNumber: p.tax_number,
  status: p.status,
});

/** The parties of all lines that the viewer may see, whenever they were booked. */
async function partiesSeen(ctx: Context, viewer: Viewer): Promise<string[]> {
  const { catalogue } = await known(ctx.read);
  const seen = new Set<string>();
  for (const code of [...catalogue.entities.keys()].filter((c) => maySee(viewer, c))) {
    const asked = await resolveFigure(ctx, viewer, {
      entity: [code],
      dims: {},
      window: 'everything',
      status: 'all',
    });
    const { rows } = await splitOfSums(ctx, asked, [{ by: 'counterparty' }], null);
    for (const { path } of rows) seen.add(path[path.length - 1] ?? '');
  }
  return [...seen];
}
