import { NAMED_PLACES, type NamedPlace } from '@/contracts/places';
import { calendar, type Ordinal, periodText } from '@/core/calendar';
import type { Sought } from '@/core/searchWords';
import { windowText } from '@/core/sentence';
import { type SpokenPlace, spokenPlaces } from '@/core/spokenPlace';
import type { CatalogueEntity } from '@/store/catalogue';
import type { Known } from '../asking/context';
import type { Viewer } from '../asking/viewer';
import { BARE, detailOf, type Found, fitting, ranked } from './hits';

/** Places of the application by name, and places of the books with a company and a window as they were said. */
export function placesFound(
  viewer: Viewer,
  { extents }: Known,
  entities: readonly CatalogueEntity[],
  typed: string,
  sought: readonly Sought[],
) {
  const open = NAMED_PLACES.filter(
    (place) => place.only === undefined || viewer.role === 'owner' || place.only === viewer.role,
  );
  const companies = entities.flatMap((e) => {
    const latest = extents.get(e.code)?.lastPosted;
    return latest === undefined ? [] : [{ code: e.code, name: e.name, calendar: calendar(e.calendar), latest }];
  });
  const said = spokenPlaces(
    typed,
    open.filter((place) => place.ofBooks),
    companies,
    companies[0] ?? null,
  );
  const found = said.map((one) => spokenHit(one));
  const named = new Set(said.filter(({ company, window }) => !company && !window).map(({ place }) => place.name));
  for (const { name, path } of fitting(open, sought, (place) => [place.name, place.also]))
    if (!named.has(name))
      found.push({ ...BARE, label: name, detail: 'place', address: path, own: [name], order: name });
  return ranked('page', found, sought);
}

function spokenHit({ place, company, window }: SpokenPlace<NamedPlace>): Found {
  const [path = '', query = ''] = place.path.split('?');
  const params = new URLSearchParams(query);
  if (company) params.set('entity', company.code);
  const end = (at: Ordinal | string): string => (typeof at === 'number' ? periodText(at) : at);
  if (window) {
    params.set('from', end(window.from));
    params.set('to', end(window.to));
  }
  const text = params.toString();
  const by = company?.calendar;
  const when = window ? (by ? windowText(window, by) : `${end(window.from)} to ${end(window.to)}`) : '';
  return {
    ...BARE,
    label: [place.name, company && `of ${company.name}`].filter(Boolean).join(' '),
    detail: detailOf('place', when),
    address: text ? `${path}?${text}` : path,
    // What was said whole is exactly what was meant.
    own: [place.name],
    order: company || window ? '' : place.name,
  };
}
