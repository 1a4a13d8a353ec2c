import type { SentencePart, Tie } from '../query/answers';

/** A document as every answer has it. */
interface Plain {
  number: string;
  type: string;
  date: string;
  dueDate: string | null;
  currency: string;
  counterparty: string | null;
  counterpartyName: string | null;
  amount: string;
  description: string;
}

export interface OpenDocuments {
  entity: string;
  at: string;
  parts: SentencePart[];
  address: string;
  currency: string;
  controls: { account: string; name: string }[];
  rows: (Plain & { account: string; open: string; band: number; daysPast: number })[];
  bands: { name: string; open: string }[];
  total: { documents: number; open: string; inOtherCurrencies: number };
  ledger: string;
  tie: Tie;
}

interface Applied {
  date: string;
  document: string;
  applied: string;
  open: string;
}

export interface OneDocument extends Plain {
  entity: string;
  load: number;
  settling: boolean;
  account: string | null;
  open: string;
  events: Applied[];
  settles: Applied[];
  chain: { documents: Plain[]; links: { source: string; target: string; date: string; applied: string }[] };
  attachments: { name: string; digest: string; bytes: number; alsoOn: string[] }[];
}
