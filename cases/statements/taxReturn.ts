import { wrong } from '@/contracts/problem';
import { add, type Minor } from '@/core/money';
import { amountOf } from '@/core/sheet';
import { byBooks } from '@/store/catalogue';
import { type TaxCodeRow, taxCodesOf, taxSums } from '@/store/taxes';
import type { Context } from '../asking/context';
import { explainEmpty } from '../asking/explainEmpty';
import { asBooked, type ResolvedFigure } from '../asking/resolvedFigure';
import { spokenAmount } from '../asking/spokenNumbers';
import { figureTotal } from '../balances/accountBalances';
import type { StatementRow, StatementSheet } from './sheet';

interface Part {
  code: string;
  name: string;
  /** Whether it is the tax itself or the amounts that it is on. */
  is: 'tax' | 'net';
  amount: Minor;
  refine: Record<string, string>;
}

/**
 * The boxes of a tax return: in each the tax of some codes, or the amounts that codes are on. A code of which nothing is
 * known, or that goes nowhere, is under no box, so that nothing of what has a code is lost.
 */
export async function taxReturn(ctx: Context, asked: ResolvedFigure): Promise<StatementSheet> {
  const { digits, figure } = asked;
  asBooked(asked, 'A tax return');
  if (asked.translates)
    throw wrong('in', 'a tax return is in the currency of the books; ask for companies of one currency, in it');
  const known = await taxCodesOf(
    ctx.read,
    asked.entities.map((e) => e.id),
    asked.asOf,
  );
  const { db, question } = await asked.ask(ctx, [{ by: 'taxCode' }]);
  const sums = await taxSums(db, question, digits);
  const coded = asked.narrowed({ where: [...figure.where, { on: 'taxCode', any: [null], not: true }] });
  const whole = await figureTotal(ctx, coded);
  const several = asked.entities.length > 1;
  const entityOf = byBooks(asked.known.catalogue);
  const boxes = new Map<string, Part[]>();
  let net: Minor = 0;
  for (const sum of sums) {
    const own = entityOf.get(sum.entity);
    const entity = own?.code ?? '';
    const about = known.find((k) => k.entity === own?.id && k.code === sum.code);
    const refine = { taxCode: sum.code, ...(several ? { entity } : {}) };
    const name = [about?.name ?? '', several ? entity : ''].filter(Boolean).join(', ');
    net = add(net, sum.net);
    for (const [box, is, amount] of placesOf(about, sum))
      boxes.set(box, [...(boxes.get(box) ?? []), { code: sum.code, name, is, amount, refine }]);
  }
  const shown = { account: null, opens: false } as const;
  const rows = [...boxes]
    .sort(([a], [b]) => inOrder(a, b))
    .flatMap(([box, parts]): StatementRow[] => {
      const sum = parts.reduce((all, p) => add(all, p.amount), 0);
      const sign = sum < 0 ? ('credit' as const) : ('debit' as const);
      const valuesOf = (amount: Minor): StatementRow['cells'] => ({
        window: amountOf(sign === 'credit' ? -amount || 0 : amount),
      });
      // A box of tax and of amounts together is what its parts are; no lines come to it by one measure.
      const kinds = new Set(parts.map((p) => p.is));
      const codes = [...new Set(parts.map((p) => p.refine.taxCode as string))];
      return [
        {
          key: `box:${box}`,
          label: box === '' ? 'Without a box' : box,
          kind: 'accounts',
          depth: 0,
          emphasis: 'subtotal' as const,
          sign,
          ...shown,
          cells: valuesOf(sum),
          refine: several || kinds.size > 1 ? null : { taxCode: codes.length === 1 ? (codes[0] as string) : codes },
          measure: kinds.has('tax') ? 'tax' : 'movement',
        },
        ...parts.map((p): StatementRow => {
          const label = `${p.code}${p.name ? ` ${p.name}` : ''}, ${p.is === 'tax' ? 'tax' : 'amounts that it is on'}`;
          return {
            key: `box:${box}/${p.refine.entity ?? ''}${p.code}/${p.is}`,
            label,
            kind: 'account',
            depth: 1,
            emphasis: undefined,
            sign,
            ...shown,
            cells: valuesOf(p.amount),
            refine: p.refine,
            measure: p.is === 'tax' ? 'tax' : 'movement',
          };
        }),
      ];
    });
  const nowhere = boxes.get('')?.map((p) => p.code) ?? [];
  const off = whole.movement - net;
  return {
    code: 'tax',
    name: 'Tax return',
    kind: 'tax',
    shareOf: null,
    columns: [
      {
        key: 'window',
        label: 'This window',
        title: '',
        unit: 'amount',
        scope: {},
        favourable: null,
        hint: 'The tax on lines with such a code, or the amounts of those lines, as the box says. Tax lies on the side of its line.',
      },
    ],
    rows,
    whole: null,
    proofs: [
      {
        guard: 'boxes',
        ok: nowhere.length === 0,
        off: 0,
        accounts: [],
        says:
          nowhere.length === 0
            ? 'every tax code goes into a box'
            : `no box is known for ${[...new Set(nowhere)].join(', ')}`,
      },
      {
        guard: 'lines',
        ok: off === 0,
        off: off,
        accounts: [],
        says:
          off === 0
            ? 'the codes have every line that bears one'
            : `lines with a code are off by ${spokenAmount(off, digits)}`,
      },
    ],
    empty: rows.length === 0 ? explainEmpty(asked) : null,
  };
}

/** Into which boxes a code goes, and with what. */
function placesOf(
  about: TaxCodeRow | undefined,
  sum: { net: Minor; tax: Minor },
): [box: string, is: Part['is'], amount: Minor][] {
  const places: [string, Part['is'], Minor][] = [
    [about?.box ?? '', 'tax', sum.tax],
    [about?.net_box ?? '', 'net', sum.net],
  ];
  const boxed = places.filter(([box]) => box !== '');
  return boxed.length > 0 ? boxed : [['', 'net', sum.net]];
}

/** Boxes by number where they have one; what has none comes last. */
const inOrder = (a: string, b: string): number =>
  a === '' ? 1 : b === '' ? -1 : a.localeCompare(b, 'en', { numeric: true });
