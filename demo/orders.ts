import type { DemoDocument } from './document';

/** An order of the ferries for a project, of which a part is still to come. In pence. */
interface ProjectOrder {
  number: string;
  date: string;
  due: string;
  ordered: number;
  delivered: number;
  supplier: [code: string, name: string];
  description: string;
  project: string;
}

const ORDERS = [
  ['LINK-BRE', 'V-STEEL', 'Brenna Steelworks', 'Linkspan, span and bearings', 4_800_000],
  ['LINK-TOL', 'V-STEEL', 'Brenna Steelworks', 'Linkspan, survey', 620_000],
  ['TICKET', 'V-SOFT', 'Sound Software', 'Ticketing, second stage', 2_750_000],
  ['HYBRID', 'V-ELEC', 'Sound Electrical', 'Battery study', 1_190_000],
  ['SHOP-HAR', 'V-JOIN', 'Harrowick Joinery', 'Shop counters', 830_000],
  ['QUAY-LIN', 'V-ELEC', 'Sound Electrical', 'Quay lamps', 545_000],
] as const;
const DUE = ['2026-09-15', '2026-10-31', '2027-01-31'] as const;

/** Half of each has come. */
export const projectOrders = (): ProjectOrder[] =>
  ORDERS.flatMap(([project, code, name, text, amount], i) =>
    DUE.map((due, k) => ({
      ...{ number: `PO-${4_101 + i * DUE.length + k}`, date: '2026-08-10', due, project },
      ...{ ordered: amount * (k + 1) * 2, delivered: amount * (k + 1) },
      supplier: [code, name] as [string, string],
      description: `${text}, part ${k + 1}`,
    })),
  );

/** Their papers: the order, and what was signed for when the first half came. It is not billed yet. */
export const orderPapers = (): DemoDocument[] =>
  projectOrders().flatMap(({ number, date, due, ordered, delivered, supplier, description }) => [
    {
      ...{ number, type: 'order', date, due, amount: ordered, counterparty: supplier, description, settles: [] },
    },
    {
      ...{ number: number.replace('PO', 'PR'), type: 'receipt of goods', date: '2026-09-04', amount: delivered },
      ...{ counterparty: supplier, description: `First half of ${description}` },
      settles: [{ number, amount: 0 }],
    },
  ]);
