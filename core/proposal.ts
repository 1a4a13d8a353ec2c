import { type AccountType, DIMENSIONS_MAX } from './ledger';

/** What one file of lines says of an account. */
export interface AccountFacts {
  code: string;
  name: string;
  /** The type that the file itself gives. */
  said: AccountType | null;
  debits: number;
  credits: number;
}

/** What a type was taken from, the surest first. */
export type TypeWhy = 'file' | 'name' | 'class' | 'sides';

export interface ProposedAccount {
  code: string;
  name: string;
  type: AccountType;
  why: TypeWhy;
}

/**
 * Words in the names of accounts by which their type is told, in several languages of the trade (common practice, from
 * memory). The first that fits counts: “accumulated depreciation” is no expense, “interest received” no cost.
 */
const NAMES: [RegExp, AccountType][] = [
  [/accumulated depreciation|akkumulert|cumul[ée]e?s? d.amort|amortissements? des/i, 'asset'],
  [
    /\b(accounts? payable|creditors?|trade payables?|payables?|suppliers?|loans?|borrowings?|vat|sales tax|input tax|output tax|taxes? (payable|due)|accrued|accruals?|deferred income|provisions?|overdraft|owed|bank debt|lease liabilit)/i,
    'liability',
  ],
  [
    /leverandørgjeld|kortsiktig gjeld|langsiktig gjeld|skyldig|verbindlichkeit|rückstellung|umsatzsteuer|vorsteuer|fournisseurs|emprunts?|dettes?|tva\b|proveedores|acreedores|schulden|crediteuren/i,
    'liability',
  ],
  [
    /\b(share capital|share premium|retained earnings|reserves?|equity|owner.s? (capital|equity|draw)|capital and reserves|profit brought forward)/i,
    'equity',
  ],
  [
    /egenkapital|aksjekapital|eigenkapital|gezeichnetes kapital|gewinnvortrag|capital social|report à nouveau|r[ée]serve|reservas|eigen vermogen/i,
    'equity',
  ],
  [
    /\b(cost of|costs?|expenses?|depreciation|amorti[sz]ation|wages?|salar(y|ies)|payroll|rent(al)? (paid|expense)|insurance|purchases?|interest (paid|expense|on)|repairs?|maintenance|fuel|fees paid|advertising|travel|telephone|postage|losses? on|bank charges)/i,
    'expense',
  ],
  [
    /kostnad|utgift|lønn|varekjøp|avskrivning|husleie|aufwand|löhne|gehälter|abschreibung|miete|achats?|charges?|salaires|loyer|gastos?|compras|kosten|inkoop/i,
    'expense',
  ],
  [
    /\b(sales|revenues?|income|turnover|fees? (earned|received)|interest (received|income)|grants? (received|released|income)|gains? on)/i,
    'income',
  ],
  [
    /inntekt|salg|erlös|ertr[äa]ge?|umsatzerlöse|ventes?|produits?|prestations?|ingresos|ventas|omzet|opbrengst/i,
    'income',
  ],
  [
    /\b(cash|bank|receivables?|debtors?|customers?|inventor(y|ies)|stocks?|prepaid|prepayments?|equipment|machinery|vehicles?|buildings?|land|fixtures|furniture|goodwill|intangible|investments?|deposits? paid|petty)/i,
    'asset',
  ],
  [
    /kundefordring|bankinnskudd|kontanter|varelager|inventar|maskiner|forderung|kasse|vorräte|anlagen|clients?|banque|caisse|immobilis|stocks?|clientes|bancos|caja|debiteuren|voorraad/i,
    'asset',
  ],
];

/** Of the accounts of a class, this share must agree by their names before the others follow. */
const CLASS_SHARE = 0.6;
const CLASS_LEAST = 2;

const byName = (name: string): AccountType | null => NAMES.find(([words]) => words.test(name))?.[1] ?? null;

/**
 * The accounts of a file of lines with a type for each, and from what it was taken: the file itself, words of the name,
 * the others of the same leading digits, or the side on which most of its lines are. All but the first are guesses to be
 * looked at.
 */
export function proposeAccounts(facts: readonly AccountFacts[]): ProposedAccount[] {
  const known = new Map(facts.map((a) => [a.code, a.said ?? byName(a.name)]));
  const classes = new Map<string, Map<AccountType, number>>();
  for (const { code } of facts) {
    const type = known.get(code);
    if (!type) continue;
    for (const digits of [1, 2]) {
      const key = code.slice(0, digits);
      const votes = classes.get(key) ?? new Map<AccountType, number>();
      classes.set(key, votes.set(type, (votes.get(type) ?? 0) + 1));
    }
  }
  const ofClass = (code: string): AccountType | null => {
    for (const digits of [2, 1]) {
      const votes = [...(classes.get(code.slice(0, digits)) ?? [])].sort((a, b) => b[1] - a[1]);
      const all = votes.reduce((sum, [, n]) => sum + n, 0);
      const [best] = votes;
      if (best && best[1] >= CLASS_LEAST && best[1] >= all * CLASS_SHARE) return best[0];
    }
    return null;
  };
  return facts.map(({ code, name, said, debits, credits }): ProposedAccount => {
    if (said) return { code, name, type: said, why: 'file' };
    const named = byName(name);
    if (named) return { code, name, type: named, why: 'name' };
    const type = ofClass(code);
    if (type) return { code, name, type, why: 'class' };
    return { code, name, type: debits >= credits ? 'expense' : 'income', why: 'sides' };
  });
}

/** Which account the results of earlier years are kept on: by its name, else the last of equity. @returns null where there is none */
export function proposeRetained(accounts: readonly ProposedAccount[]): string | null {
  const equity = accounts.filter((a) => a.type === 'equity');
  const named = equity.find((a) =>
    /retained|brought forward|annen egenkapital|opptjent|gewinnvortrag|report à nouveau|resultados acumulados|onverdeelde/i.test(
      a.name,
    ),
  );
  return (named ?? equity[equity.length - 1])?.code ?? null;
}

/** What is told of a file's dates and periods. */
export interface TimeFacts {
  /** First and last day with a line. */
  first: string;
  last: string;
  /** Calendar months (1 to 12) of the lines that the file itself puts into a numbered period, with how many lines. */
  monthsOfPeriod: ReadonlyMap<number, ReadonlyMap<number, number>>;
  /** Months at whose last day income and expense accounts were brought to nothing, with how many accounts. */
  closings: ReadonlyMap<number, number>;
}

/** Accounts that a closing entry clears, at the least. */
const CLOSED_LEAST = 3;

/** The month in which the fiscal year begins, and what that was taken from. */
export function proposeYearStart({ first, last, monthsOfPeriod, closings }: TimeFacts): { month: number; why: string } {
  const ofFirst = [...(monthsOfPeriod.get(1) ?? [])].sort((a, b) => b[1] - a[1])[0];
  if (ofFirst) return { month: ofFirst[0], why: 'the file puts its lines of that month into period 1' };
  const [closing] = [...closings].filter(([, n]) => n >= CLOSED_LEAST).sort((a, b) => b[1] - a[1]);
  if (closing)
    return { month: (closing[0] % 12) + 1, why: `income and expense are closed at the end of the month before` };
  const months =
    (Number(last.slice(0, 4)) - Number(first.slice(0, 4))) * 12 + Number(last.slice(5, 7)) - Number(first.slice(5, 7));
  const begins = Number(first.slice(5, 7));
  if (months === 11 && Number(first.slice(8)) <= 7)
    return { month: begins, why: 'the file holds twelve months that begin with it' };
  return { month: 1, why: 'nothing in the file tells; most fiscal years begin in January' };
}

/** A column that may be a dimension: words that many lines share. */
export interface ColumnFacts {
  name: string;
  lines: number;
  filled: number;
  /** Its values, as far as they are few; null where there are too many to be members. */
  values: ReadonlySet<string> | null;
}

/** So many lines share a member, on average, at the least. */
const LINES_A_MEMBER = 3;
/** Of the lines, this share has one. */
const FILLED_SHARE = 0.02;

/** The columns of a file that look like dimensions, those that most lines have first. */
export const proposeDimensions = (
  columns: readonly ColumnFacts[],
): { column: string; code: string; members: string[] }[] =>
  columns
    .filter(
      ({ values, filled, lines }) =>
        values !== null &&
        values.size >= 2 &&
        filled >= values.size * LINES_A_MEMBER &&
        filled >= lines * FILLED_SHARE &&
        ![...values].every((v) => /^-?[\d.,\s]+$/.test(v) && /[.,]\d{2}$/.test(v)),
    )
    .sort((a, b) => b.filled - a.filled)
    .slice(0, DIMENSIONS_MAX)
    .map(({ name, values }) => ({
      column: name,
      code: dimensionCode(name),
      members: [...(values ?? [])].sort(),
    }));

/** A code for a dimension made of the name of its column. */
export function dimensionCode(name: string): string {
  const [, own] = /^dim:([A-Za-z][A-Za-z0-9_-]*)$/.exec(name) ?? [];
  if (own) return own;
  const plain = name
    .normalize('NFKD')
    .replace(/[^A-Za-z0-9]+/g, '')
    .toLowerCase();
  return /^[a-z]/.test(plain) ? plain.slice(0, 20) : `d${plain.slice(0, 19)}`;
}

/** What a file is called, without what tells its format. */
export const stemOf = (fileName: string): string => fileName.replace(/\.[A-Za-z0-9.]{1,8}$/, '');

/** A code for a company made of the name of its file. */
export const companyCode = (fileName: string): string =>
  (
    stemOf(fileName)
      .normalize('NFKD')
      .toUpperCase()
      .match(/[A-Z0-9]+/g) ?? ['BOOKS']
  )
    .join('-')
    .slice(0, 12)
    .replace(/-$/, '');
