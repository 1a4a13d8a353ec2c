/** A document of the demo world, before it is written as rows of a file. */
export interface DemoDocument {
  number: string;
  type: string;
  date: string;
  due?: string | undefined;
  counterparty?: [code: string, name: string] | undefined;
  /** In pence. */
  amount: number;
  account?: string;
  description: string;
  settles: { number: string; amount: number }[];
  attachment?: string;
  /** What it is made of, in pence without tax. */
  lines?: DemoDocumentLine[];
}

export interface DemoDocumentLine {
  description: string;
  amount: number;
  quantity?: [number, unit: string];
  /** In pence. */
  price?: number;
  /** In pence. */
  tax?: [code: string, amount: number];
}
