import type { ScopeParams } from '@/contracts/scope';
import { formatAmount, type Minor } from '@/core/money';
import type { Written } from '@/exchange/writers';
import type { Context } from '../asking/context';
import { resolveFigure } from '../asking/resolveFigure';
import type { Viewer } from '../asking/viewer';
import { lineTable } from './exportData';

export type AuditFormat = 'saft' | 'fec' | 'ads';

interface Wanted {
  /** As the published structure calls it. */
  field: string;
  /** What it is taken from. */
  of: keyof Written & string;
}

const wanted = (field: string, of: string): Wanted => ({ field, of });

/**
 * What each published structure asks of every line. The French file: the 18 fields of article A47 A-1 of the livre des
 * procédures fiscales, those that may be empty left out. The OECD file: what is mandatory in GeneralLedgerEntries of the
 * Standard Audit File for Tax 2.0. The AICPA audit data standards: what is level 1 in GL detail. All three from memory.
 */
const STRUCTURES: Record<AuditFormat, readonly Wanted[]> = {
  fec: [
    wanted('JournalCode', 'journal'),
    wanted('JournalLib', 'journal'),
    wanted('EcritureNum', 'entry'),
    wanted('EcritureDate', 'date'),
    wanted('CompteNum', 'account'),
    wanted('CompteLib', 'account_name'),
    wanted('PieceRef', 'document'),
    wanted('PieceDate', 'document_date'),
    wanted('EcritureLib', 'description'),
    wanted('ValidDate', 'entered_at'),
  ],
  saft: [
    wanted('TransactionID', 'entry'),
    wanted('TransactionDate', 'date'),
    wanted('Description (of the transaction)', 'entry_description'),
    wanted('SystemEntryDate', 'entered_at'),
    wanted('AccountID', 'account'),
    wanted('Description (of the line)', 'description'),
  ],
  ads: [
    wanted('Journal_ID', 'entry'),
    wanted('Journal_ID_Line_Number', 'line'),
    wanted('JE_Header_Description', 'entry_description'),
    wanted('JE_Line_Description', 'description'),
    wanted('Source', 'journal'),
    wanted('Business_Unit_Code', 'entity'),
    wanted('Effective_Date', 'date'),
    wanted('Fiscal_Year', 'year'),
    wanted('Period', 'period'),
    wanted('GL_Account_Number', 'account'),
    wanted('Entered_By', 'posted_by'),
    wanted('Entered_Date', 'entered_at'),
  ],
};

/** Entries that do not balance are told so many of. */
const ENTRIES_TOLD = 20;

/** What an audit file would lack, before it is handed over: fields that lines do not have, and entries that do not balance. */
export async function checkExport(
  ctx: Context,
  viewer: Viewer,
  { format, ...scope }: ScopeParams & { format: AuditFormat },
) {
  const wide = scope.from || scope.to || scope.window ? scope : { ...scope, window: 'everything' as const };
  const asked = await resolveFigure(ctx, viewer, wide, { translates: false });
  const missing = new Map<string, { lines: number; first: string }>();
  const entries = new Map<string, Minor>();
  let [lines, debit, credit] = [0, 0, 0];
  const { lines: all } = await lineTable(ctx, asked, null);
  for await (const { line, record } of all) {
    lines += 1;
    if (line.side === 'debit') debit += line.amount;
    else credit -= line.amount;
    const key = `${line.entity} ${line.entry}`;
    const sum = (entries.get(key) ?? 0) + line.amount;
    // What balances is forgotten, so that only what does not is held.
    if (sum === 0) entries.delete(key);
    else entries.set(key, sum);
    for (const { field, of } of STRUCTURES[format]) {
      if (record[of]) continue;
      const found = missing.get(field) ?? { lines: 0, first: `${line.entry}/${line.line}` };
      found.lines += 1;
      missing.set(field, found);
    }
  }
  const text = (amount: Minor): string => formatAmount(amount, asked.digits);
  return {
    format,
    sentence: asked.sentence,
    currency: asked.currency,
    load: asked.asOf,
    ...{ lines, debit: text(debit), credit: text(credit) },
    /** A part of the books holds parts of entries. */
    unbalanced: [...entries.keys()].slice(0, ENTRIES_TOLD),
    unbalancedCount: entries.size,
    missing: STRUCTURES[format].flatMap(({ field, of }) => {
      const found = missing.get(field);
      return found ? [{ field, of, ...found }] : [];
    }),
    companies: asked.entities.length,
    ok: lines > 0 && entries.size === 0 && missing.size === 0 && (format === 'ads' || asked.entities.length === 1),
  };
}
