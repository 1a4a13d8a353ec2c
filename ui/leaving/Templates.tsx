'use client';

import { useState } from 'react';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { howOf, type Wanted } from './how';

const NO_PARAMS = new URLSearchParams();
const TOUCHED = ['/paper-templates'];

/** Ways in which sheets leave that are kept under names, such as that of the house: taken, kept, taken away. */
export function Templates({ wanted, onWanted }: { wanted: Wanted; onWanted(wanted: Wanted): void }) {
  const { data } = useAnswer('GET /paper-templates', NO_PARAMS);
  const me = useMe();
  const [naming, setNaming] = useState<string | null>(null);
  const [taken, setTaken] = useState<number | null>(null);
  const keep = useChange((name: string) => {
    const { title: _title, ...how } = howOf(wanted);
    return ask('POST /paper-templates', { body: { name, format: wanted.format, how } });
  }, TOUCHED);
  const drop = useChange((id: number) => ask('DELETE /paper-templates/{id}', { path: { id } }), TOUCHED);
  const rows = data?.rows ?? [];
  const one = rows.find((t) => t.id === taken);
  const keepIt = async (): Promise<void> => {
    const name = naming?.trim() ?? '';
    if (name === '') return;
    const done = await keep.mutateAsync(name).catch(() => null);
    if (!done) return;
    toast(`“${name}” is kept for everybody`);
    setNaming(null);
  };
  return (
    <div className="flex flex-wrap items-end gap-3">
      {rows.length > 0 && (
        <Labelled label="As in the template">
          <Select
            aria-label="As in the template"
            className="w-[215px]"
            value={taken === null ? '' : String(taken)}
            onChange={(event) => {
              const found = rows.find((t) => t.id === Number(event.target.value));
              setTaken(found?.id ?? null);
              if (found)
                onWanted({ ...(wanted.title ? { title: wanted.title } : {}), ...found.how, format: found.format });
            }}
          >
            <option value="">none</option>
            {rows.map((t) => (
              <option key={t.id} value={t.id}>
                {t.name}
              </option>
            ))}
          </Select>
        </Labelled>
      )}
      {me.role !== 'reader' && naming === null && (
        <button type="button" className="link pb-1.5" onClick={() => setNaming('')}>
          keep these choices as a template
        </button>
      )}
      {one?.mayRemove && naming === null && (
        <button
          type="button"
          className="link pb-1.5"
          onClick={() => {
            setTaken(null);
            drop.mutate(one.id);
          }}
        >
          take it away
        </button>
      )}
      {naming !== null && (
        <span className="flex items-end gap-2">
          <Labelled label="Template called">
            <input
              autoFocus
              maxLength={120}
              className="field w-[200px]"
              value={naming}
              onChange={(event) => setNaming(event.target.value)}
              onKeyDown={(event) => {
                if (event.key !== 'Enter') return;
                event.preventDefault();
                void keepIt();
              }}
            />
          </Labelled>
          <button type="button" className="button" disabled={keep.isPending} onClick={() => void keepIt()}>
            Keep it
          </button>
          <button type="button" className="link pb-1.5" onClick={() => setNaming(null)}>
            cancel
          </button>
        </span>
      )}
      <Failure error={keep.error ?? drop.error} />
    </div>
  );
}
