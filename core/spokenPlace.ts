import type { Calendar, Ordinal } from './calendar';
import type { Window } from './figure';
import { folded } from './folded';
import { typedWindow } from './typedWindow';

/** What is known of a company when a place in its books is said. */
export interface SpokenCompany {
  code: string;
  name: string;
  calendar: Calendar;
  /** The latest period with lines. */
  latest: Ordinal;
}

/** A place of the books as it was said: “trial balance of Sound Terminals, June”. */
export interface SpokenPlace<Place> {
  place: Place;
  company: SpokenCompany | null;
  window: Window | null;
}

const LEAST_LETTERS = 3;
const BETWEEN = /^(?:[,;]|of|for|in|at|as of|to)?\s*/;

/**
 * Understands a place with a company and a window, in any order, after “go to”, “open” or “show” or without.
 * @param places with their names
 * @param usual whose calendar tells a window where no company is named
 * @returns those places that the words can mean; none where a part of them means nothing
 */
export function spokenPlaces<Place extends { name: string }>(
  typed: string,
  places: readonly Place[],
  companies: readonly SpokenCompany[],
  usual: SpokenCompany | null,
): SpokenPlace<Place>[] {
  const words = folded(typed.trim())
    .replace(/\s+/g, ' ')
    .replace(/^(?:please )?(?:go to|goto|open|show(?: me)?)\s+(?:the )?/, '');
  return places.flatMap((place) => {
    const rest = withoutName(words, folded(place.name));
    if (rest === null) return [];
    const said = companyAndWindow(rest, companies, usual);
    return said ? [{ place, ...said }] : [];
  });
}

/** What is left of words that begin with a name, or with enough of its beginning; null where they do not. */
function withoutName(words: string, name: string): string | null {
  if (words === name) return '';
  if (words.startsWith(`${name} `) || words.startsWith(`${name},`)) return words.slice(name.length).trim();
  return words.length >= LEAST_LETTERS && name.startsWith(words) ? '' : null;
}

function companyAndWindow(
  words: string,
  companies: readonly SpokenCompany[],
  usual: SpokenCompany | null,
): Omit<SpokenPlace<never>, 'place'> | null {
  const parts = words
    .replace(BETWEEN, '')
    .split(/\s*[,;]\s*|\s+(?:of|for|in|as of)\s+/)
    .filter((part) => part !== '');
  let company: SpokenCompany | null = null;
  const left: string[] = [];
  for (const part of parts) {
    const named = companies.filter((c) => isNamed(c, part));
    if (company === null && named.length === 1) company = named[0] ?? null;
    else left.push(part);
  }
  if (left.length === 0) return { company, window: null };
  // “sound terminals june” without a comma: the longest beginning that names a company, and what is left.
  if (company === null && left.length === 1) {
    const [only = ''] = left;
    const pieces = only.split(' ');
    for (let many = pieces.length - 1; many > 0; many--) {
      const named = companies.filter((c) => isNamed(c, pieces.slice(0, many).join(' ')));
      if (named.length !== 1) continue;
      company = named[0] ?? null;
      left[0] = pieces.slice(many).join(' ');
      break;
    }
  }
  const by = company ?? usual;
  const said = by && left.length === 1 ? typedWindow(left[0] ?? '', by.calendar, by.latest) : null;
  return said ? { company, window: said.window } : null;
}

const isNamed = ({ code, name }: SpokenCompany, words: string): boolean => {
  const own = folded(name);
  return folded(code) === words || own === words || (words.length >= LEAST_LETTERS && own.startsWith(words));
};
