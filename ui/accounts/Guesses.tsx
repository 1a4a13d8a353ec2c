'use client';

import { useState } from 'react';
import { countText } from '../amounts';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';

/** What was guessed of a company when its ledger was begun with one file, to be looked at and confirmed. */
export function Guesses({ entity }: { entity: string }) {
  const { role } = useMe();
  const { data } = useAnswer('GET /guesses', new URLSearchParams());
  const [open, setOpen] = useState(false);
  const confirm = useChange(
    (key: string | null) => ask('PUT /guesses/{entity}', { path: { entity }, body: key === null ? {} : { key } }),
    ['/guesses'],
  );
  const rows = (data?.rows ?? []).filter((g) => g.entity === entity);
  if (rows.length === 0 || role === 'reader') return null;
  return (
    <section aria-label="What was guessed" className="mb-3 border border-rule bg-sheet px-3 py-2">
      <p className="flex items-baseline gap-4">
        <span>
          {rows.length === 1 ? 'One thing was' : `${countText(rows.length)} things were`} guessed when this ledger was
          made of one file.
        </span>
        <button type="button" className="link" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'hide' : 'look at them'}
        </button>
        {open && (
          <button type="button" className="link ml-auto" onClick={() => confirm.mutate(null)}>
            Confirm all
          </button>
        )}
      </p>
      {open && (
        <ul className="mt-2 max-h-[260px] overflow-auto border-t border-hair">
          {rows.map((g) => (
            <li key={g.key} className="flex items-baseline gap-3 border-b border-hair py-1">
              <span className="min-w-0 flex-1">{g.says}</span>
              <button type="button" className="link" onClick={() => confirm.mutate(g.key)}>
                confirm
              </button>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
