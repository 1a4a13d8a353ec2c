import { ORIGINS, type Origin, readScreen, type Screen, scopeAt } from './address';

const NAMES: Record<Origin, string> = {
  ...{ lines: 'Lines', 'trial-balance': 'Trial balance', statements: 'Statement' },
  hits: 'What tests found',
};
const STATEMENTS: Record<string, string> = {
  income: 'Income statement',
  balance: 'Balance sheet',
  cashflow: 'Cash flow',
  position: 'Position',
  tax: 'Tax return',
};

/** What the first sheet of a thread is called. */
export const firstSheet = ({ origin, options }: Screen): string =>
  (origin === 'statements' && STATEMENTS[options.statement ?? 'income']) || NAMES[origin];

const originOf = (path: string): Origin | undefined => ORIGINS.find((origin) => path === `/${origin}`);

/**
 * Where a place is from here: from one sheet to another with the same company, window and clauses, to the lines with those
 * of the figure that is shown. A place opens as it usually does from elsewhere, and where it is already.
 * @param params what the address that one is at asks
 */
export function placeWith(href: string, path: string, params: URLSearchParams): string {
  const [from, to] = [originOf(path), originOf(href)];
  if (!from || !to || from === to) return href;
  const screen = readScreen(from, params);
  const scope = scopeAt(screen, to === 'lines' ? screen.steps.length : 0);
  const text = scope.toString();
  return text ? `${href}?${text}` : href;
}
