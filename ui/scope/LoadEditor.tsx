'use client';

import { momentText } from '../amounts';
import { useLoads } from '../query/hooks';
import type { ScopeChange } from './clauseProps';

/** Everything as it was as of a load: the loads of lines, the newest first. */
export function LoadEditor({ scope, onApply }: { scope: URLSearchParams; onApply(put: ScopeChange): void }) {
  const { data, error } = useLoads();
  const rows = (data?.rows ?? []).filter((l) => l.status === 'loaded');
  const chosen = scope.get('load');
  return (
    <div>
      <p className="mb-2 text-soft">Everything as it was as of</p>
      {error && <p className="text-warn">{error.message}</p>}
      <ul>
        <li>
          <button
            type="button"
            onClick={() => onApply({ load: [] })}
            className="block w-full cursor-pointer px-2 py-[3px] text-left hover:bg-chosen focus:bg-chosen"
          >
            {chosen === null ? '✓ ' : ''}the newest load, whichever it is
          </button>
        </li>
        {rows.map((l) => (
          <li key={l.id}>
            <button
              type="button"
              onClick={() => onApply({ load: [String(l.id)] })}
              className="block w-full cursor-pointer px-2 py-[3px] text-left hover:bg-chosen focus:bg-chosen"
            >
              {chosen === String(l.id) ? '✓ ' : ''}load {l.id}, {l.file}{' '}
              <span className="text-faint">{momentText(l.createdAt)}</span>
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
