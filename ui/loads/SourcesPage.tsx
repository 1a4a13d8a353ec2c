'use client';

import Link from 'next/link';
import type { FormEvent } from 'react';
import type { Connection } from '@/contracts/answers/loads';
import type { BodySent } from '@/contracts/routes';
import { momentText } from '../amounts';
import { textIn } from '../parts/fields';
import { Failure, Labelled, LOAD_TABS, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useChange, useConnections, useEntities } from '../query/hooks';
import { useMe } from '../shell/me';

const STATES: Record<Connection['state'], string> = {
  idle: '✓ at rest',
  asked: 'asked',
  pulling: 'pulling …',
  loading: 'loading …',
  failed: '✗ failed',
};

/** Source ledgers from which new entries are pulled, by hand or on a schedule. */
export function SourcesPage() {
  const { role } = useMe();
  const sources = useConnections();
  const pull = useChange(
    (id: number) => ask('POST /connections/{id}/pull', { path: { id } }),
    ['/connections', '/loads'],
  );
  const allow = useChange(
    (id: number) => ask('PUT /connections/{id}', { path: { id }, body: { privateAllowed: true } }),
    ['/connections'],
  );
  const remove = useChange((id: number) => ask('DELETE /connections/{id}', { path: { id } }), ['/connections']);
  return (
    <Place title="Loads" tabs={LOAD_TABS} here="/loads/sources">
      <p className="mb-3 max-w-[80ch] text-soft">
        A source gives its new entries page by page. A pull that breaks off goes on where it stopped; what is pulled
        becomes a load, with the same checks as a file, and nothing comes twice.
      </p>
      {sources.data && sources.data.rows.length > 0 && (
        <Table
          label="Sources"
          columns={[
            { label: 'Source' },
            { label: 'Books', width: 'w-16' },
            { label: 'Every', width: 'w-24' },
            { label: 'State' },
            { label: 'Last pulled', width: 'w-40' },
            { label: '', width: 'w-72' },
          ]}
        >
          {sources.data.rows.map((c) => (
            <Tr key={c.id}>
              <Td>
                <b>{c.name}</b>
                <span className="block text-[13px] text-faint">
                  {c.url}
                  {c.privateAllowed && ', allowed in our own network'}
                </span>
                {role === 'owner' && !c.privateAllowed && c.message?.includes('no owner has allowed') && (
                  <button type="button" className="link text-[13px]" onClick={() => allow.mutate(c.id)}>
                    Allow this address in our own network
                  </button>
                )}
              </Td>
              <Td>{c.entity ?? 'all'}</Td>
              <Td>{c.everyMinutes === null ? 'by hand' : `${c.everyMinutes} min`}</Td>
              <Td>
                <span className={c.state === 'failed' ? 'text-warn' : ''} role="status">
                  {STATES[c.state]}
                  {c.message && <span className="block text-[13px]">{c.message}</span>}
                </span>
                {c.lastLoad !== null && (
                  <Link
                    href={`/loads?load=${c.lastLoad}`}
                    className="text-[13px] underline decoration-rule underline-offset-4"
                  >
                    load {c.lastLoad}
                  </Link>
                )}
              </Td>
              <Td>{c.pulledAt ? momentText(c.pulledAt) : 'never'}</Td>
              <Td>
                <span className="flex justify-end gap-2">
                  <button
                    type="button"
                    className="button h-7 whitespace-nowrap"
                    disabled={!['idle', 'failed'].includes(c.state)}
                    onClick={() => pull.mutate(c.id)}
                  >
                    {c.state === 'failed' ? 'Try again' : 'Pull what is new'}
                  </button>
                  {role === 'owner' && (
                    <button
                      type="button"
                      className="button h-7"
                      onClick={() => remove.mutate(c.id)}
                      aria-label={`Disconnect ${c.name}`}
                    >
                      Disconnect
                    </button>
                  )}
                </span>
              </Td>
            </Tr>
          ))}
        </Table>
      )}
      {sources.data?.rows.length === 0 && (
        <p>No source is connected{role === 'owner' ? '.' : '; an owner connects them.'}</p>
      )}
      <Failure error={sources.error ?? pull.error ?? allow.error ?? remove.error} />
      {role === 'owner' && <Connect />}
    </Place>
  );
}

function Connect() {
  const { data } = useEntities();
  const add = useChange((body: BodySent<'POST /connections'>) => ask('POST /connections', { body }), ['/connections']);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const text = (name: string): string => textIn(new FormData(form), name);
    const every = Number(text('every'));
    await add.mutateAsync({
      name: text('name'),
      url: text('url'),
      ...(text('entity') ? { entity: text('entity') } : {}),
      everyMinutes: every > 0 ? every : null,
      privateAllowed: text('private') === 'on',
    });
    form.reset();
  };
  return (
    <form onSubmit={submit} className="mt-5 flex flex-wrap items-end gap-3 border border-rule bg-sheet p-3">
      <Labelled label="Name">
        <input name="name" required className="field w-[170px]" />
      </Labelled>
      <Labelled label="Address of its feed">
        <input name="url" type="url" required placeholder="http://ledger.example/entries" className="field w-[320px]" />
      </Labelled>
      <Labelled label="Books">
        <Select name="entity" className="field">
          <option value="">as the source says</option>
          {data?.entities.map((e) => (
            <option key={e.code} value={e.code}>
              {e.code}
            </option>
          ))}
        </Select>
      </Labelled>
      <Labelled label="Every … minutes">
        <input name="every" type="number" min={1} max={10080} placeholder="by hand" className="field w-[110px]" />
      </Labelled>
      <label className="flex h-8 items-center gap-1.5">
        <input type="checkbox" name="private" /> it lies in our own network
      </label>
      <button type="submit" className="button-main" disabled={add.isPending}>
        Connect
      </button>
      <Failure error={add.error} />
    </form>
  );
}
