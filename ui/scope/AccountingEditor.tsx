'use client';

import { useQuery, useQueryClient } from '@tanstack/react-query';
import Link from 'next/link';
import { useEffect } from 'react';
import { documentPath } from '../documents/address';
import { ask } from '../query/client';
import { useChange, useEntities } from '../query/hooks';
import { useMe } from '../shell/me';
import type { EditorProps } from './clauseProps';

/** While a cash basis is being worked out it is looked so often whether it is there. */
const LOOK_EVERY_MS = 1_000;

/** Whether income and expense count when they are booked, or when they are settled. */
export function AccountingEditor({ scope, onApply }: EditorProps) {
  const { data } = useEntities();
  const companies = (data?.entities ?? []).filter((e) => scope.getAll('entity').includes(e.code));
  const lacking = companies.filter((e) => e.cashSince === null);
  const cash = scope.get('accounting') === 'cash';
  return (
    <fieldset className="mt-3 border-t border-hair pt-3">
      <legend className="sr-only">Accounting basis</legend>
      <p className="mb-2 text-soft">Accounting basis</p>
      <label className="flex items-center gap-2 py-1">
        <input type="radio" name="basis" checked={!cash} onChange={() => onApply({ accounting: [] })} /> Accrual: as
        booked
      </label>
      <label className={`flex items-center gap-2 py-1 ${lacking.length > 0 ? 'text-faint' : ''}`}>
        <input
          type="radio"
          name="basis"
          checked={cash}
          disabled={lacking.length > 0}
          onChange={() => onApply({ accounting: ['cash'] })}
        />{' '}
        Cash: when it is settled
      </label>
      <p className="mt-1 text-[12.5px] text-soft">
        On the cash basis what a document bears counts on the days on which it was settled, in proportion.
      </p>
      {companies.map((e) => (
        <OfCompany key={e.code} code={e.code} name={e.name} kept={e.cashSince !== null} />
      ))}
    </fieldset>
  );
}

/** Of one company: what cannot be on the cash basis, or the way to have one kept. */
function OfCompany({ code, name, kept }: { code: string; name: string; kept: boolean }) {
  const { data, error } = useQuery({
    queryKey: ['/entities', code, 'cash-basis'],
    queryFn: () => ask('GET /entities/{code}/cash-basis', { path: { code } }),
    refetchInterval: ({ state }) => (state.data?.job != null ? LOOK_EVERY_MS : false),
  });
  const { role } = useMe();
  const keep = useChange(() => ask('POST /entities/{code}/cash-basis', { path: { code } }), ['/entities']);
  // The list of companies says that it is kept once the job is through.
  const client = useQueryClient();
  const through = data?.since != null && !kept;
  useEffect(() => {
    if (through) void client.invalidateQueries({ queryKey: ['/entities'], exact: true });
  }, [through, client]);
  if (error || !data) return null;
  if (data.since === null)
    return (
      <p className="mt-2 text-[12.5px]">
        {name} keeps no cash basis.{' '}
        {data.job !== null || keep.isPending ? (
          <span role="status">It is being worked out …</span>
        ) : role === 'owner' || role === 'preparer' ? (
          <button type="button" className="link" onClick={() => keep.mutate(undefined as never)}>
            Keep one from now on
          </button>
        ) : (
          'A preparer can have one kept.'
        )}
        {keep.error && <span className="text-warn">{keep.error.message}</span>}
      </p>
    );
  if (data.rows.length === 0) return null;
  return (
    <details className="mt-2 text-[12.5px]">
      <summary className="cursor-pointer">
        {data.rows.length}
        {data.more ? ' and more' : ''} {data.rows.length === 1 ? 'document' : 'documents'} of {name} cannot be on it
      </summary>
      <ul className="mt-1 max-h-[180px] overflow-auto">
        {data.rows.map((r) => (
          <li key={`${r.document} ${r.reason}`} className="py-[2px]">
            <Link className="link" href={documentPath(code, r.document)}>
              {r.document}
            </Link>
            : {r.reason}
          </li>
        ))}
      </ul>
    </details>
  );
}
