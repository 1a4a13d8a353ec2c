import type { Problems } from '@/exchange/problem';
import type { Db } from '@/store/db';
import { replaceSame, rowWriter } from '@/store/deliveries';
import { foreignDocuments } from '@/store/documents';
import type { LoadJob } from './loadJob';
import { each, type Laid, needed } from './loadOthers';
import { text } from './values';

const NUMBER = /^-?\d+(\.\d+)?$/;

/**
 * What documents are made of, line by line. They may come before or after their documents; those of a document that is
 * given again replace its former ones, all of them.
 */
export async function loadDocumentLines(db: Db, job: LoadJob, problems: Problems): Promise<Laid> {
  const writer = rowWriter(db, 'document_line');
  const currencies = new Map<number, ReadonlyMap<string, string>>();
  const seen = new Map<string, number>();
  const lines = await each(job, problems, 'lines of documents', async ({ row, values }, fault, fields) => {
    const entity = fields.entity(values.entity, fault);
    const document = needed(values, 'document', fault);
    const description = needed(values, 'description', fault);
    if (!entity || !document) return null;
    const foreign = currencies.get(entity.id) ?? (await foreignDocuments(db, entity.id, entity.currency));
    currencies.set(entity.id, foreign);
    const currency = text(values, 'currency') || foreign.get(document) || entity.currency;
    const amount = values.amount ? fields.money('amount', values, currency, fault) : null;
    if (!values.amount) fault('amount', 'the amount is missing');
    const tax = values.tax_amount ? fields.money('tax_amount', values, currency, fault) : null;
    for (const column of ['quantity', 'unit_price'] as const)
      if (values[column] && !NUMBER.test(values[column])) fault(column, `“${values[column]}” is no number`);
    if (values.line && !/^\d{1,9}$/.test(values.line)) fault('line', `“${values.line}” is no number of a line`);
    if (text(values, 'account')) await fields.account(entity, values, fault);
    const last = seen.get(`${entity.id}|${document}`) ?? 0;
    const line = values.line ? Number(values.line) : last + 1;
    seen.set(`${entity.id}|${document}`, Math.max(last, line));
    const key = `${entity.id}|${document}|${line}`;
    if (seen.has(key)) fault('line', `line ${line} of ${document} stands twice, first in row ${seen.get(key)}`);
    seen.set(key, row);
    if (!description || amount === null) return null;
    return () =>
      writer.add({
        ...{ load: job.id, entity: entity.id, document, line_no: line, item: text(values, 'item'), description },
        ...{ quantity: values.quantity || null, unit: text(values, 'unit'), unit_price: values.unit_price || null },
        ...{ amount, tax_code: text(values, 'tax_code'), tax_amount: tax, account: text(values, 'account') },
      });
  });
  await writer.flush();
  const replaced = problems.count === 0 ? await replaceSame(db, 'document_line', job.id, ['entity', 'document']) : 0;
  return { lines, replaced };
}
