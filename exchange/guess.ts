import type { LoadKind } from '@/contracts/mapping';
import { plainDate } from './dialect';
import { COLUMNS, type Columns } from './tables';

/** What a guess may go by beside the names and the values: codes that the ledger knows. */
export interface KnownCodes {
  accounts: ReadonlySet<string>;
  entities: ReadonlySet<string>;
  /** dimension code → its name and members */
  dimensions: ReadonlyMap<string, { name: string; members: ReadonlySet<string> }>;
}

export interface Guess {
  field: string;
  why: 'name' | 'values';
}

/** Words by which the columns of ledgers go, in the trade's own terms in several languages. */
const WORDS: { [field: string]: readonly string[] } = {
  entity: [
    'entity',
    'company',
    'company code',
    'business unit',
    'firma',
    'selskap',
    'société',
    'sociedad',
    'empresa',
    'gesellschaft',
    'buchungskreis',
    'bolag',
  ],
  entry: [
    'entry',
    'entry number',
    'entry no',
    'journal entry',
    'journal number',
    'voucher',
    'voucher number',
    'voucher no',
    'transaction',
    'transaction number',
    'belegnummer',
    'beleg',
    'belegnr',
    'bilag',
    'bilagsnr',
    'bilagsnummer',
    'verifikation',
    'ver nr',
    'boekstuk',
    'boekstuknummer',
    'écriture',
    'asiento',
    'n asiento',
    'número de asiento',
    'numero pièce',
    'registrazione',
  ],
  line: ['line', 'line number', 'line no', 'position', 'pos', 'zeile', 'linje', 'ligne', 'línea', 'riga', 'regel'],
  date: [
    'date',
    'posting date',
    'booking date',
    'gl date',
    'accounting date',
    'effective date',
    'buchungsdatum',
    'datum',
    'belegdatum',
    'dato',
    'bokføringsdato',
    'bokföringsdatum',
    'boekdatum',
    'date comptable',
    'fecha',
    'fecha contable',
    'data',
    'data registrazione',
  ],
  account: [
    'account',
    'account number',
    'account no',
    'account code',
    'gl account',
    'ledger account',
    'konto',
    'kontonummer',
    'kontonr',
    'sachkonto',
    'compte',
    'numéro de compte',
    'cuenta',
    'conto',
    'rekening',
    'grootboek',
    'grootboekrekening',
  ],
  account_name: [
    'account name',
    'account description',
    'kontobezeichnung',
    'kontonavn',
    'kontonamn',
    'libellé compte',
    'nombre de cuenta',
    'rekeningnaam',
  ],
  debit: ['debit', 'debit amount', 'dr', 'soll', 'sollbetrag', 'debet', 'débit', 'debe', 'dare'],
  credit: ['credit', 'credit amount', 'cr', 'haben', 'habenbetrag', 'kredit', 'crédit', 'haber', 'avere'],
  amount: [
    'amount',
    'net amount',
    'base amount',
    'local amount',
    'betrag',
    'beløp',
    'belopp',
    'bedrag',
    'montant',
    'importe',
    'importo',
    'value',
    'saldo',
    'closing balance',
  ],
  side: [
    'side',
    'dc',
    'd c',
    'debit credit',
    'dr cr',
    'soll haben',
    's h',
    'soll haben kennzeichen',
    'sens',
    'debet kredit',
    'indicator',
  ],
  description: [
    'description',
    'text',
    'line text',
    'line description',
    'narrative',
    'memo',
    'details',
    'particulars',
    'buchungstext',
    'tekst',
    'bilagstekst',
    'libellé',
    'omschrijving',
    'concepto',
    'descripción',
    'descrizione',
  ],
  entry_description: ['entry description', 'header text', 'journal description', 'belegkopftext', 'kopftext'],
  period: ['period', 'fiscal period', 'posting period', 'periode', 'buchungsperiode', 'période', 'periodo'],
  year: ['year', 'fiscal year', 'jahr', 'geschäftsjahr', 'regnskapsår', 'exercice', 'ejercicio', 'boekjaar', 'år'],
  journal: [
    'journal',
    'journal code',
    'journal type',
    'source journal',
    'buchungskreis art',
    'bilagsart',
    'bilagstype',
    'dagboek',
    'diario',
    'belegart',
  ],
  document: [
    'document',
    'document number',
    'document no',
    'invoice',
    'invoice number',
    'reference',
    'ref',
    'referenz',
    'rechnungsnummer',
    'fakturanr',
    'pièce',
    'factura',
    'factuurnummer',
  ],
  document_date: ['document date', 'invoice date', 'rechnungsdatum', 'fakturadato', 'date pièce', 'factuurdatum'],
  due_date: [
    'due date',
    'fällig',
    'fälligkeit',
    'fälligkeitsdatum',
    'forfall',
    'forfallsdato',
    'échéance',
    'vencimiento',
    'vervaldatum',
  ],
  counterparty: [
    'counterparty',
    'customer',
    'supplier',
    'vendor',
    'partner',
    'debitor',
    'kreditor',
    'geschäftspartner',
    'kunde',
    'leverandør',
    'tiers',
    'tercero',
    'relatie',
  ],
  counterparty_name: [
    'counterparty name',
    'customer name',
    'supplier name',
    'vendor name',
    'kundenavn',
    'name des geschäftspartners',
  ],
  currency: ['currency', 'transaction currency', 'currency code', 'währung', 'valuta', 'devise', 'moneda'],
  currency_amount: [
    'currency amount',
    'transaction amount',
    'foreign amount',
    'fremdwährungsbetrag',
    'valutabeløp',
    'montant devise',
    'importe divisa',
  ],
  quantity: ['quantity', 'qty', 'units', 'menge', 'antall', 'antal', 'quantité', 'cantidad', 'aantal'],
  unit: ['unit', 'unit of measure', 'einheit', 'enhet', 'unité', 'unidad'],
  posted_by: [
    'posted by',
    'user',
    'entered by',
    'created by',
    'benutzer',
    'erfasst von',
    'bruker',
    'registrert av',
    'utilisateur',
    'usuario',
  ],
  entered_at: [
    'entered at',
    'entry date',
    'created at',
    'created on',
    'erfassungsdatum',
    'registrert',
    'date de saisie',
  ],
  source: [
    'source',
    'source system',
    'source code',
    'origin',
    'module',
    'herkunft',
    'kilde',
    'origine',
    'origen',
    'herkomst',
  ],
  status: ['status', 'posting status', 'buchungsstatus'],
  tax_code: [
    'tax code',
    'vat code',
    'steuerschlüssel',
    'steuerkennzeichen',
    'mva kode',
    'mvakode',
    'momskode',
    'code tva',
    'btw code',
  ],
  tax_amount: ['tax amount', 'vat amount', 'steuerbetrag', 'mva', 'moms', 'montant tva'],
  code: ['code', 'number', 'account', 'account number', 'konto', 'kontonummer', 'compte', 'cuenta', 'nummer', 'nr'],
  name: [
    'name',
    'title',
    'description',
    'bezeichnung',
    'navn',
    'namn',
    'nom',
    'nombre',
    'omschrijving',
    'kontonavn',
    'account name',
  ],
  type: ['type', 'account type', 'kontoart', 'kontotype', 'typ', 'art', 'document type'],
  parent: ['parent', 'parent account', 'belongs to', 'übergeordnet', 'overordnet', 'parent code'],
  number: ['number', 'no', 'nummer', 'nr', 'document number', 'invoice number', 'order number', 'purchase order'],
  rate: ['rate', 'exchange rate', 'kurs', 'wechselkurs', 'cours', 'tipo de cambio'],
  from: ['from', 'from currency', 'von', 'fra', 'start', 'start date', 'first day'],
  to: ['to', 'to currency', 'nach', 'til', 'end', 'end date', 'last day'],
  version: ['version', 'budget version', 'scenario', 'plan version'],
  closing: ['closing', 'closing balance', 'balance', 'saldo', 'endsaldo', 'utgående saldo', 'solde', 'ending balance'],
  opening: ['opening', 'opening balance', 'anfangssaldo', 'inngående saldo', 'beginning balance'],
};

const plain = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[_./\-#:()]+/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();

/** Share of a column's values that must be of a kind for a guess by values. */
const SHARE = 0.9;
/** Fewer different values than this say nothing. */
const VALUES_LEAST = 3;

/**
 * What each column probably is, by its name and else by what is in it. No field is given to two columns; a column
 * without a good guess has none.
 */
export function guessColumns(
  header: readonly string[],
  sample: readonly (readonly string[])[],
  kind: LoadKind,
  known: KnownCodes,
): (Guess | null)[] {
  const columns = COLUMNS[kind];
  const taken = new Set<string>();
  const guesses = header.map((): Guess | null => null);
  const take = (i: number, field: string, why: Guess['why']): void => {
    if (guesses[i] || taken.has(field)) return;
    guesses[i] = { field, why };
    taken.add(field);
  };
  const words = header.map(plain);
  // Exact names first, so that "Account name" does not take what "Account" is.
  for (const [i, word] of words.entries()) {
    const own =
      columns.known.find((field) => plain(field) === word) ??
      (header[i]?.includes(':') ? prefixed(header[i] as string, columns) : undefined);
    if (own) take(i, own, 'name');
  }
  for (const [i, word] of words.entries()) {
    const field = columns.known.find((f) => WORDS[f]?.includes(word));
    if (field) take(i, field, 'name');
  }
  const valuesOf = (i: number): string[] => sample.map((cells) => (cells[i] ?? '').trim()).filter((v) => v !== '');
  if (columns.prefixes.includes('dim:')) {
    for (const [i, word] of words.entries()) {
      for (const [code, { name }] of known.dimensions)
        if (word === plain(code) || word === plain(name)) take(i, `dim:${code}`, 'name');
    }
    for (const i of header.keys()) {
      const values = valuesOf(i);
      if (new Set(values).size < 2) continue;
      for (const [code, { members }] of known.dimensions)
        if (mostly(values, (v) => members.has(v))) take(i, `dim:${code}`, 'values');
    }
  }
  for (const i of header.keys()) {
    const values = valuesOf(i);
    if (values.length < VALUES_LEAST) continue;
    if (columns.known.includes('entity') && known.entities.size > 0 && mostly(values, (v) => known.entities.has(v)))
      take(i, 'entity', 'values');
    if (columns.known.includes('account') && mostly(values, (v) => known.accounts.has(v))) take(i, 'account', 'values');
    if (columns.known.includes('date') && mostly(values, isDateLike)) take(i, 'date', 'values');
    if (
      columns.known.includes('side') &&
      new Set(values).size === 2 &&
      mostly(values, (v) => /^(d|c|s|h|k|dr|cr)$/i.test(v))
    )
      take(i, 'side', 'values');
    if (columns.known.includes('currency') && mostly(values, (v) => /^[A-Z]{3}$/.test(v)))
      take(i, 'currency', 'values');
  }
  // A column of amounts beside debit and credit is their difference, or a balance: not needed twice.
  if (taken.has('debit') && taken.has('credit'))
    for (const [i, g] of guesses.entries()) if (g?.field === 'amount' || g?.field === 'side') guesses[i] = null;
  return guesses;
}

const prefixed = (name: string, columns: Columns): string | undefined =>
  columns.prefixes.some((p) => name.startsWith(p)) ? name : undefined;

const mostly = (values: readonly string[], is: (value: string) => boolean): boolean =>
  values.filter(is).length >= values.length * SHARE;

const isDateLike = (value: string): boolean =>
  /^\d{1,4}[-./]\d{1,2}[-./]\d{1,4}$/.test(value) ||
  (/^\d{8}$/.test(value) && /^\d{4}-\d\d-\d\d$/.test(plainDate(value, 'ymd')));
