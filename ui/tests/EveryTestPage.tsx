'use client';

import { countText } from '../amounts';
import { Failure, Place, TEST_TABS } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { useMe } from '../shell/me';
import { scopeOf } from './scopeOf';
import { TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();

/** Every test: what it looks for, where that is from, and what can be set of it. */
export function EveryTestPage() {
  const me = useMe();
  const { data, error } = useAnswer('GET /tests', NO_PARAMS);
  const { data: entities } = useEntities();
  const set = useChange((on: boolean) => {
    const all = entities?.entities ?? [];
    const scope = scopeOf(
      all.map((e) => e.code),
      'everything',
      all,
    );
    const tests = (data?.rows ?? []).map((t) => t.code);
    return ask('PUT /tests/by-themselves', { body: on ? { tests, scope: scope.toString() } : null });
  }, TOUCHES);
  return (
    <Place title="Tests" tabs={TEST_TABS} here="/tests/every">
      <Failure error={error ?? set.error} />
      {data && me.role !== 'reader' && (
        <p className="mb-4 flex items-baseline gap-3">
          {data.byThemselves ? (
            <span>
              {countText(data.byThemselves.tests.length)} tests run by themselves after each load, for{' '}
              {data.byThemselves.by}, who is told of what is new.
            </span>
          ) : (
            <span className="text-soft">None runs by itself.</span>
          )}
          <button
            type="button"
            className="link"
            onClick={() =>
              set.mutate(!data.byThemselves, {
                onSuccess: (now) =>
                  toast(now.byThemselves ? 'They run after each load from now on' : 'They run when asked alone'),
              })
            }
          >
            {data.byThemselves ? 'Run them when asked alone' : 'Run all of them after each load'}
          </button>
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
