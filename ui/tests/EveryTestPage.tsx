'use client';

import { countText } from '../amounts';
import { Failure, Place, TEST_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { useMe } from '../shell/me';
import { scopeOf } from './scopeOf';
import { TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();

const CHOICES = {
  'first look': 'after each load, over the companies that it brought',
  load: 'after each load, over all companies',
  day: 'each day, over all companies',
  week: 'each week, over all companies',
  month: 'each month, over all companies',
  none: 'never',
} as const;
type Choice = keyof typeof CHOICES;

/** Every test: what it looks for, where that is from, and what can be set of it. */
export function EveryTestPage() {
  const me = useMe();
  const { data, error } = useAnswer('GET /tests', NO_PARAMS);
  const { data: entities } = useEntities();
  const set = useChange((choice: Choice) => {
    if (choice === 'none') return ask('PUT /tests/by-themselves', { body: null });
    if (choice === 'first look') return ask('PUT /tests/by-themselves', { body: { firstLook: true } });
    const all = entities?.entities ?? [];
    const codes = all.map((e) => e.code);
    const tests = (data?.rows ?? []).map((t) => t.code);
    const scope = scopeOf(codes, 'everything', all).toString();
    return ask('PUT /tests/by-themselves', { body: { tests, scope, when: choice } });
  }, TOUCHES);
  return (
    <Place title="Tests" tabs={TEST_TABS} here="/tests/every">
      <Failure error={error ?? set.error} />
      {data && me.role !== 'reader' && (
        <p className="mb-4 flex flex-wrap items-baseline gap-x-2">
          <span>All tests run by themselves</span>
          <Select
            aria-label="When all tests run by themselves"
            look="word"
            value={data.byThemselves?.when ?? (data.firstLook ? 'first look' : 'none')}
            onChange={(event) =>
              set.mutate(event.target.value as Choice, { onSuccess: () => toast('It is so from now on') })
            }
          >
            {Object.entries(CHOICES).map(([choice, words]) => (
              <option key={choice} value={choice}>
                {words}
              </option>
            ))}
          </Select>
          {data.byThemselves && (
            <span className="text-soft">
              {countText(data.byThemselves.tests.length)} tests, for {data.byThemselves.by}, who is told of what is new.
            </span>
          )}
        </p>
      )}
      {data?.groups.map((group) => (
        <section key={group} className="mb-6 max-w-[1040px]">
          <h2 className="mb-1 border-b border-ink font-book text-[17px] font-semibold">{group}</h2>
          <dl>
            {data.rows
              .filter((t) => t.group === group)
              .map((t) => (
                <div key={t.code} className="grid grid-cols-[250px_minmax(0,1fr)] gap-x-6 border-b border-rule py-2">
                  <dt className="font-semibold">{t.name}</dt>
                  <dd>
                    <p className="max-w-[80ch]">{t.looksFor}</p>
                    <p className="mt-0.5 text-[12.5px] text-soft">
                      {t.source}
                      {t.needs.includes('whole entries') && ' · looks at whole entries'}
                      {t.needs.includes('periods') && ' · needs whole periods'}
                      {t.parameters.length > 0 &&
                        ` · set by ${t.parameters.map((p) => p.label.toLowerCase()).join(', ')}`}
                    </p>
                  </dd>
                </div>
              ))}
          </dl>
        </section>
      ))}
    </Place>
  );
}
