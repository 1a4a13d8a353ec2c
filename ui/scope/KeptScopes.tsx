'use client';

import Link from 'next/link';
import { type FormEvent, useState } from 'react';
import { Failure } from '../plain/Place';
import type { KeptScope } from '../query/answers';
import { ask } from '../query/client';
import { useChange, useKeptScopes } from '../query/hooks';
import { readScreen, type Screen, screenPath } from '../thread/address';
import { SentencePopover } from './SentencePopover';

const TOUCHES = ['/scopes'];

/** Sentences by their names: to keep the one that is set, and to go to another. */
export function KeptScopes({ screen }: { screen: Screen }) {
  const [open, setOpen] = useState(false);
  const { data } = useKeptScopes();
  const rows = data?.rows ?? [];
  const own = rows.filter((r) => r.mine);
  const others = rows.filter((r) => !r.mine);
  return (
    <SentencePopover
      open={open}
      onOpen={setOpen}
      trigger="Kept"
      className="ml-3 align-middle font-sans text-[12.5px] text-faint underline decoration-rule underline-offset-4 hover:text-ink"
    >
      <KeepForm screen={screen} />
      {own.length > 0 && <List title="Yours" rows={own} onGone={() => setOpen(false)} />}
      {others.length > 0 && <List title="Shared by others" rows={others} onGone={() => setOpen(false)} />}
    </SentencePopover>
  );
}

const screenOf = (row: KeptScope): Screen => readScreen(row.place, new URLSearchParams(row.query));

function KeepForm({ screen }: { screen: Screen }) {
  const keep = useChange((body: object) => ask('/scopes', { method: 'POST', body }), TOUCHES);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const fields = new FormData(form);
    const [, query = ''] = screenPath({ ...screen, steps: [] }).split('?');
    const body = { name: fields.get('name'), place: screen.origin, query, shared: fields.has('shared'), opens: fields.has('opens') };
    await keep.mutateAsync(body).then(
      () => form.reset(),
      () => null,
    );
  };
  return (
    <form onSubmit={submit}>
      <label className="mb-1 block text-soft" htmlFor="kept-name">
        Keep this sentence as
      </label>
      <div className="flex gap-2">
        <input id="kept-name" name="name" required maxLength={120} autoComplete="off" autoFocus className="field min-w-0 flex-1" />
        <button type="submit" className="button-main" disabled={keep.isPending}>
          Keep
        </button>
      </div>
      <div className="mt-2 flex gap-5">
        <label className="flex items-center gap-2">
          <input type="checkbox" name="opens" /> this place opens with it
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" name="shared" /> share it
        </label>
      </div>
      <Failure error={keep.error} />
    </form>
  );
}

function List({ title, rows, onGone }: { title: string; rows: KeptScope[]; onGone(): void }) {
  const change = useChange(({ id, ...body }: { id: number; shared?: boolean; opens?: boolean }) => ask(`/scopes/${id}`, { method: 'PUT', body }), TOUCHES);
  const drop = useChange((id: number) => ask(`/scopes/${id}`, { method: 'DELETE' }), TOUCHES);
  return (
    <section className="mt-3 border-t border-rule pt-2">
      <h2 className="text-[12.5px] text-soft">{title}</h2>
      <ul>
        {rows.map((row) => (
          <li key={row.id} className="border-b border-hair py-1">
            <Link href={screenPath(screenOf(row))} onClick={onGone} className="block truncate leading-6 hover:underline">
              {row.name} <span className="text-[12.5px] text-faint">{PLACES[row.place]}</span>
            </Link>
            <p className="flex gap-4 text-[12.5px] text-soft">
              {row.mine ? (
                <>
                  <Turn on={row.opens} words={['opens its place', 'open its place with it']} onClick={() => change.mutate({ id: row.id, opens: !row.opens })} />
                  <Turn on={row.shared} words={['shared', 'share']} onClick={() => change.mutate({ id: row.id, shared: !row.shared })} />
                  <button type="button" className="min-h-6 cursor-pointer hover:text-ink" onClick={() => drop.mutate(row.id)}>
                    take away
                  </button>
                </>
              ) : (
                <span>by {row.by}</span>
              )}
            </p>
          </li>
        ))}
      </ul>
      <Failure error={change.error ?? drop.error} />
    </section>
  );
}

const PLACES: Record<KeptScope['place'], string> = { 'trial-balance': 'trial balance', statements: 'statement', lines: 'lines' };

const Turn = ({ on, words: [is, act], onClick }: { on: boolean; words: [string, string]; onClick(): void }) => (
  <button type="button" aria-pressed={on} className={`min-h-6 cursor-pointer hover:text-ink ${on ? 'font-semibold text-ink' : ''}`} onClick={onClick}>
    {on ? `✓ ${is}` : act}
  </button>
);
