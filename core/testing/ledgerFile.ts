import type { Ledger } from '../evaluate';
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
        Math.floor(l.period / 100) + 2000,
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
