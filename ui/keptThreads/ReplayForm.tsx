'use client';

import type { Entities } from '@/contracts/answers/charts';
import { calendar, periodText, yearOf } from '@/core/calendar';
import { memberOptions } from '../parts/memberOptions';
import { Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { useEntities, useLoads } from '../query/hooks';

/** The periods of a company in which anything was booked, as 2027.06. */
function periodsOf({ calendar: spec, reach }: Entities['entities'][number]): string[] {
  if (!reach) return [];
  const years = Array.from(
    { length: yearOf(reach.lastPeriod) - yearOf(reach.firstPeriod) + 1 },
    (_, i) => yearOf(reach.firstPeriod) + i,
  );
  return years
    .flatMap((y) => calendar(spec).periodsOf(y))
    .flatMap((p) => (p.ordinal >= reach.firstPeriod && p.ordinal <= reach.lastPeriod ? [periodText(p.ordinal)] : []));
}

/** What the address asks now: it is ahead of what was drawn, where one chooses quickly. */
const asked = (): URLSearchParams => new URLSearchParams(window.location.search);

/** What to walk the steps again for: a window, an entity, a member, a load; or once for every member. */
export function ReplayForm({
  params,
  onChange,
}: {
  params: { get(name: string): string | null; toString(): string };
  onChange(next: URLSearchParams): void;
}) {
  const { data } = useEntities();
  const loads = useLoads();
  const set = (put: Record<string, string>): void => {
    const next = asked();
    next.delete('by');
    for (const [name, value] of Object.entries(put)) {
      next.delete(name);
      if (value !== '') next.set(name, value);
    }
    onChange(next);
  };
  const choices = [...new Set((data?.entities ?? []).flatMap(periodsOf))].sort().reverse();
  return (
    <div className="mt-4 mb-2 flex flex-wrap items-end gap-3">
      <Labelled label="Walk it again for periods">
        <span className="flex gap-1">
          {(['from', 'to'] as const).map((end) => (
            <Select
              key={end}
              aria-label={end === 'from' ? 'From period' : 'To period'}
              value={params.get(end) ?? ''}
              onChange={(e) =>
                set({
                  from: asked().get('from') ?? e.target.value,
                  to: asked().get('to') ?? e.target.value,
                  [end]: e.target.value,
                  window: '',
                })
              }
              className="field"
            >
              <option value="">as kept</option>
              {choices.map((p) => (
                <option key={p}>{p}</option>
              ))}
            </Select>
          ))}
        </span>
      </Labelled>
      <Labelled label="in the books of">
        <Select value={params.get('entity') ?? ''} onChange={(e) => set({ entity: e.target.value })} className="field">
          <option value="">as kept</option>
          {data?.entities.map((e) => (
            <option key={e.code} value={e.code}>
              {e.name}
            </option>
          ))}
        </Select>
      </Labelled>
      <Labelled label="for">
        <Select
          value={params.get('member') ?? ''}
          onChange={(e) => set({ member: e.target.value })}
          className="field max-w-[200px]"
        >
          <option value="">as kept</option>
          {memberOptions(data?.dimensions ?? [])}
        </Select>
      </Labelled>
      <Labelled label="as of">
        <Select
          value={params.get('load') ?? ''}
          onChange={(e) => set({ load: e.target.value })}
          className="field max-w-[180px]"
        >
          <option value="">the newest load</option>
          {loads.data?.rows
            .filter((l) => l.status === 'loaded' && l.kind === 'lines')
            .map((l) => (
              <option key={l.id} value={l.id}>
                load {l.id}, {l.file}
              </option>
            ))}
        </Select>
      </Labelled>
      <Labelled label="or once for every">
        <Select
          value={params.get('by') ?? ''}
          onChange={(e) => onChange(new URLSearchParams(e.target.value ? { by: e.target.value } : {}))}
          className="field"
        >
          <option value="">–</option>
          {data?.dimensions.map((d) => (
            <option key={d.code} value={`dim:${d.code}`}>
              {d.name.toLowerCase()}
            </option>
          ))}
        </Select>
      </Labelled>
      {params.toString() !== '' && (
        <button type="button" className="button" onClick={() => onChange(new URLSearchParams())}>
          As kept
        </button>
      )}
    </div>
  );
}
