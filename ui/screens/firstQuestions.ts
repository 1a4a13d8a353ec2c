import type { AskedTogether } from '@/contracts/askedTogether';
import type { Screen } from '../address/address';
import { linesAsked } from '../address/measures';
import { keyOf } from '../query/keys';
import { pageAsked, pageKey, pagesOf } from './ledgerPages';
import { runsOf } from './runs';
import { splitParams, statementOf, statementParams, trialBalanceParams } from './steps';

/** A question that a screen asks before it can show a figure, and under which key its answer is remembered. */
export interface FirstQuestion {
  name: AskedTogether;
  path: Record<string, string>;
  query: URLSearchParams;
  key: readonly unknown[];
}

const question = (
  name: AskedTogether,
  query = new URLSearchParams(),
  path: Record<string, string> = {},
): FirstQuestion => ({ name, path, query, key: keyOf(name, path, query) });

/** What every sheet asks before its own figures: whose books there are, and how its columns are arranged. */
export const FIRST_OF_ALL: readonly FirstQuestion[] = [
  { ...question('GET /entities'), key: ['/entities'] },
  { ...question('GET /scopes'), key: ['/scopes'] },
  { ...question('GET /columns'), key: ['/columns'] },
];

/**
 * What the sheet of a screen asks for its own figures, so that a server can answer it before it draws the sheet. A sheet
 * that is not named here is drawn when its answers come.
 */
export function firstQuestions(screen: Screen): FirstQuestion[] {
  const step = screen.steps[screen.steps.length - 1];
  const depth = screen.steps.length;
  const view = step?.view ?? (screen.origin === 'trial-balance' ? 'trial-balance' : screen.origin);
  switch (view) {
    case 'trial-balance':
      return [question('GET /trial-balance', trialBalanceParams(screen))];
    case 'statements':
    case 'statement':
      return [question('GET /statements/{code}', statementParams(screen, depth), { code: statementOf(screen, depth) })];
    case 'split':
      return step ? [question('GET /sheets', splitParams(screen, step))] : [];
    case 'lines': {
      if (runsOf(screen) !== 'line') return [];
      const base = pagesOf(linesAsked(screen), screen.options.sort);
      return [{ ...question('GET /lines', pageAsked(base, 0, null)), key: pageKey(base, 0) }];
    }
    case 'entry':
      return [question('GET /entries/{id}', new URLSearchParams(), { id: step?.entry ?? '' })];
    default:
      return [];
  }
}

/** Where a place opens that names nobody's books yet: as its person has kept it, else at the first company. */
export function opened(
  { origin, ...screen }: Screen,
  first: string | undefined,
  kept: Screen | undefined,
): Screen | null {
  if (screen.scope.has('entity') || first === undefined) return null;
  if (screen.scope.size === 0 && screen.steps.length === 0 && kept) return { ...kept, steps: [] };
  const scope = new URLSearchParams(screen.scope);
  scope.append('entity', first);
  return { origin, ...screen, scope };
}
