'use client';

import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useRef, useState } from 'react';
import { Failure } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';

const PATH = '/settings/entry-origins';

interface Row {
  at: number;
  pattern: string;
  name: string;
  leads: 'document' | 'entry';
}

/** What the numbers of entries tell of where these come from, pattern by pattern; the first that fits does. */
export function EntryOrigins({ owner }: { owner: boolean }) {
  const { data, error } = useQuery({ queryKey: [PATH], queryFn: () => ask('GET /settings/entry-origins') });
  return (
    <section className="mt-8 max-w-[860px]">
      <h2 className="mb-1 font-book text-[17px] font-semibold">What an entry’s number tells</h2>
      <p className="mb-3 max-w-[760px] text-soft">
        Write how numbers of an origin look, with * for any characters and ? for one, such as PI-*. The first pattern
        that fits tells the origin of an entry, and whether its detail is the document that it was booked from or the
        entry itself.
      </p>
      <Failure error={error} />
      {data && <Rows key={JSON.stringify(data.rows)} given={data.rows} owner={owner} />}
    </section>
  );
}

function Rows({ given, owner }: { given: Omit<Row, 'at'>[]; owner: boolean }) {
  const next = useRef(given.length);
  const [rows, setRows] = useState<Row[]>(() => given.map((row, at) => ({ ...row, at })));
  const keep = useChange(
    (kept: Omit<Row, 'at'>[]) => ask('PUT /settings/entry-origins', { body: { rows: kept } }),
    [PATH, '/entries', '/journals'],
  );
  const change = (at: number, to: Partial<Row>): void =>
    setRows(rows.map((row) => (row.at === at ? { ...row, ...to } : row)));
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const kept = rows.filter((row) => row.pattern.trim() || row.name.trim()).map(({ at: _, ...row }) => row);
    await keep.mutateAsync(kept).then(
      () => toast('The origins of entries are told so from now on.'),
      () => null,
    );
  };
  return (
    <form onSubmit={submit}>
      {rows.length === 0 && <p className="mb-2 text-soft">No pattern is written yet.</p>}
      <ul>
        {rows.map((row, i) => (
          <li key={row.at} className="mb-1.5 flex items-center gap-3">
            <input
              aria-label={`Pattern ${i + 1}`}
              value={row.pattern}
              disabled={!owner}
              onChange={(event) => change(row.at, { pattern: event.target.value })}
              placeholder="PI-*"
              className="field w-[150px]"
            />
            <input
              aria-label={`Origin ${i + 1}`}
              value={row.name}
              disabled={!owner}
              onChange={(event) => change(row.at, { name: event.target.value })}
              placeholder="Purchase invoices"
              className="field w-[260px]"
            />
            <Select
              aria-label={`Detail ${i + 1}`}
              value={row.leads}
              disabled={!owner}
              onChange={(event) => change(row.at, { leads: event.target.value as Row['leads'] })}
            >
              <option value="document">its document</option>
              <option value="entry">the entry itself</option>
            </Select>
            {owner && (
              <button
                type="button"
                aria-label={`Remove pattern ${i + 1}`}
                className="cursor-pointer text-soft hover:text-ink"
                onClick={() => setRows(rows.filter((one) => one.at !== row.at))}
              >
                Remove
              </button>
            )}
          </li>
        ))}
      </ul>
      {owner && (
        <p className="mt-3 flex gap-3">
          <button
            type="button"
            className="button"
            onClick={() => {
              next.current += 1;
              setRows([...rows, { at: next.current, pattern: '', name: '', leads: 'document' }]);
            }}
          >
            Add a pattern
          </button>
          <button type="submit" className="button" disabled={keep.isPending}>
            Keep
          </button>
        </p>
      )}
      <Failure error={keep.error} />
    </form>
  );
}
