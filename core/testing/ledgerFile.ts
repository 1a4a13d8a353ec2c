import { yearOf } from '../calendar';
import type { Ledger } from '../evaluate';
import type { Account, Tree } from '../ledger';
import { exponentOf, formatAmount } from '../money';

/** Lines as a file of ours has them. */
export function linesFile({ lines }: Pick<Ledger, 'lines'>): string[] {
  const quoted = (text: string | null): string => `"${(text ?? '').replaceAll('"', '""')}"`;
  return [
    'entity,entry,line,date,account,debit,credit,description,entry_description,period,year,status,kind,journal,counterparty,posted_by,document,currency,document_type,tax_code,unit,due_date,document_date,approved_by,entered_at,source,partner_entity,reversal_of,attachment,quantity,currency_amount,tax_amount,dim:unit,dim:fund',
    ...lines.map((l) =>
      [
        l.entity,
        l.entry,
        l.line,
        l.postingDate,
        l.account,
        l.side === 'debit' ? formatAmount(l.amount, 2) : '',
        l.side === 'credit' ? formatAmount(0 - l.amount, 2) : '',
        quoted(l.description),
        quoted(l.entryDescription),
        l.period % 100,
        yearOf(l.period),
        l.status,
        l.kind,
        l.journal ?? '',
        l.counterparty ?? '',
        l.postedBy ?? '',
        l.document ?? '',
        l.currency ?? '',
        l.documentType ?? '',
        l.taxCode ?? '',
        l.unit ?? '',
        l.dueDate ?? '',
        l.documentDate ?? '',
        l.approvedBy ?? '',
        l.enteredAt ?? '',
        l.source ?? '',
        l.partnerEntity ?? '',
        l.reversalOf ?? '',
        l.attachment ?? '',
        l.quantity ?? '',
        l.currency === null || l.currencyAmount === null ? '' : formatAmount(l.currencyAmount, exponentOf(l.currency)),
        l.taxAmount ?? '',
        l.dims.unit ?? '',
        l.dims.fund ?? '',
      ].join(','),
    ),
  ];
}

/** Members of dimensions as a file of ours has them. */
export const dimensionsFile = (trees: ReadonlyMap<string, Tree>): string[] => [
  'dimension,code,name,parent',
  ...[...trees].flatMap(([dim, tree]) => [...tree.values()].map((m) => `${dim},${m.code},${m.name},${m.parent ?? ''}`)),
];

/** A chart of accounts as a file of ours has it. */
export const chartFile = (chart: readonly Account[]): string[] => [
  'code,name,type,parent,posting,group',
  ...chart.map((a) => [a.code, a.name, a.type, a.parent ?? '', a.posting ? 'yes' : 'no', a.groups.join(';')].join(',')),
];
