'use client';

import { JOURNAL_TABS, Place } from '../parts/Place';
import { useAnswer } from '../query/hooks';
import { ScopeSentence } from '../scope/ScopeSentence';
import { usePageScope } from '../scope/usePageScope';
import { EntriesInFull } from './EntriesInFull';
import { withMore } from './scopes';

/** What was entered last, whatever day it is booked on. */
export function LatestPage() {
  const { scope, asked, change } = usePageScope('/journals/latest');
  const query = asked && new URLSearchParams([...asked, ['order', 'entered']]);
  if (query && !['window', 'from', 'to'].some((name) => query.has(name))) query.set('window', 'everything');
  if (query && !query.has('status')) query.set('status', 'all');
  const { data } = useAnswer('GET /sentence', query && withMore(query, {}));
  return (
    <>
      {data && <ScopeSentence parts={data.parts} scope={scope} onChange={change} stale={false} />}
      <Place title="Journals" tabs={JOURNAL_TABS} here="/journals/latest">
        <p className="mb-3 text-soft">Entries in full, the last entered first, whatever day they are booked on.</p>
        {query && <EntriesInFull asked={query} />}
      </Place>
    </>
  );
}
