'use client';

import Link from 'next/link';
import { useEffect } from 'react';
import { useLoads } from '../query/hooks';

/** The loads of a ledger that is begun, one after the other; when all are done it is read. */
export function BegunLoads({ loads, onDone }: { loads: readonly number[]; onDone(): void }) {
  const { data } = useLoads();
  const mine = (data?.rows ?? []).filter((l) => loads.includes(l.id)).sort((a, b) => a.id - b.id);
  const refused = mine.find((l) => l.status === 'refused');
  const isDone = mine.length === loads.length && mine.every((l) => l.status === 'loaded');
  useEffect(() => {
    if (isDone) onDone();
  });
  return (
    <div aria-live="polite">
      <ul className="max-w-[640px] border-t border-rule">
        {mine.map((load) => (
          <li key={load.id} className="flex items-center gap-3 border-b border-hair py-2">
            <span className="min-w-0 flex-1 truncate">
              {load.file} <span className="text-faint">{load.kind}</span>
            </span>
            {load.status === 'loaded' ? (
              <span>✓ loaded</span>
            ) : load.status === 'refused' ? (
              <span className="text-warn">✗ refused</span>
            ) : (
              <progress value={load.progress} max={1} aria-label={load.file} className="h-2 w-40 accent-ink" />
            )}
          </li>
        ))}
      </ul>
      {refused ? (
        <p className="mt-3 text-warn">
          {refused.message}.{' '}
          <Link href={`/loads?load=${refused.id}`} className="underline underline-offset-4">
            See what is wrong, row by row
          </Link>
          ; the company and its chart are here, and the file can be sent again under Deliveries.
        </p>
      ) : (
        <p className="mt-3 text-soft">The trial balance opens when the last of them is done.</p>
      )}
    </div>
  );
}
