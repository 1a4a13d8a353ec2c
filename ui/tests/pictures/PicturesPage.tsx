'use client';

import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { type ComponentType, type FormEvent, useRef } from 'react';
import { Labelled, Place, TEST_TABS } from '../../parts/Place';
import { Select } from '../../parts/Select';
import { useEntities } from '../../query/hooks';
import { Digits } from './Digits';
import { EnteredTimes } from './EnteredTimes';
import { isPicture, PICTURES, type Picture } from './list';
import { MissingNumbers } from './MissingNumbers';
import { MonthsMap } from './MonthsMap';
import { PeopleMap } from './PeopleMap';
import { Sizes } from './Sizes';

const DRAWN: Record<Picture, ComponentType<{ scope: URLSearchParams }>> = {
  entered: EnteredTimes,
  months: MonthsMap,
  people: PeopleMap,
  digits: Digits,
  sizes: Sizes,
  numbers: MissingNumbers,
};

/** Lines of a figure drawn in ways that show what a list of them hides; each part leads to its lines. */
export function PicturesPage({ picture }: { picture: Picture }) {
  const params = useSearchParams();
  const { data: entities } = useEntities();
  const [first] = entities?.entities ?? [];
  const own = new URLSearchParams(params);
  const scope = own.has('entity')
    ? own
    : first
      ? new URLSearchParams({ entity: first.code, window: 'everything' })
      : null;
  const Drawn = DRAWN[picture];
  return (
    <Place title="Tests" tabs={TEST_TABS} here="/tests/pictures">
      <nav aria-label="Pictures" className="-mt-1 mb-4 flex flex-wrap gap-x-5 gap-y-1">
        {Object.entries(PICTURES).map(([name, title]) => (
          <Link
            key={name}
            href={`/tests/pictures/${name}${scope ? `?${withoutLimit(scope, name)}` : ''}`}
            aria-current={name === picture ? 'page' : undefined}
            className={name === picture ? 'font-semibold' : 'text-soft hover:text-ink'}
          >
            {title}
          </Link>
        ))}
      </nav>
      {scope && entities && <Of key={scope.toString()} scope={scope} picture={picture} entities={entities.entities} />}
      {scope && <Drawn scope={scope} />}
    </Place>
  );
}

/** Only the picture of sizes knows a limit. */
function withoutLimit(scope: URLSearchParams, picture: string): URLSearchParams {
  const kept = new URLSearchParams(scope);
  if (isPicture(picture) && picture !== 'sizes') kept.delete('limit');
  return kept;
}

const WINDOWS = [
  ['everything', 'everything'],
  ['year-to-date', 'the year to date'],
  ['last-year', 'the year before'],
  ['trailing-12', 'the last twelve months'],
  ['latest-period', 'the latest period'],
] as const;

interface OfProps {
  scope: URLSearchParams;
  picture: Picture;
  entities: readonly { code: string; name: string }[];
}

function Of({ scope, picture, entities }: OfProps) {
  const router = useRouter();
  const form = useRef<HTMLFormElement>(null);
  const go = (event: FormEvent): void => {
    event.preventDefault();
    const fields = new FormData(form.current as HTMLFormElement);
    const next = new URLSearchParams(scope);
    const put = (name: string): void => {
      const value = String(fields.get(name) ?? '').trim();
      if (value) next.set(name, value);
      else next.delete(name);
    };
    put('entity');
    put('accounts');
    if (fields.get('window')) {
      put('window');
      for (const end of ['from', 'to']) next.delete(end);
    }
    if (picture === 'sizes') put('limit');
    router.replace(`/tests/pictures/${picture}?${next}`, { scroll: false });
  };
  const dated = scope.has('from') || scope.has('to');
  return (
    <form ref={form} onSubmit={go} className="mb-3 flex flex-wrap items-end gap-x-5 gap-y-2">
      <Labelled label="Of">
        <Select name="entity" defaultValue={scope.get('entity') ?? ''} className="w-[230px]">
          {entities.map((e) => (
            <option key={e.code} value={e.code}>
              {e.name}
            </option>
          ))}
        </Select>
      </Labelled>
      <Labelled label="over">
        <Select name="window" defaultValue={dated ? '' : (scope.get('window') ?? 'everything')} className="w-[190px]">
          {dated && <option value="">{[scope.get('from'), scope.get('to')].filter(Boolean).join(' to ')}</option>}
          {WINDOWS.map(([code, name]) => (
            <option key={code} value={code}>
              {name}
            </option>
          ))}
        </Select>
      </Labelled>
      <Labelled label="accounts">
        <input
          name="accounts"
          defaultValue={scope.get('accounts') ?? ''}
          placeholder="all; or 6000 to 6999"
          className="field w-[190px]"
        />
      </Labelled>
      {picture === 'sizes' && (
        <Labelled label="limit">
          <input
            name="limit"
            defaultValue={scope.get('limit') ?? ''}
            placeholder="found in the lines"
            className="field w-[150px]"
          />
        </Labelled>
      )}
      <button type="submit" className="button">
        Show
      </button>
    </form>
  );
}
