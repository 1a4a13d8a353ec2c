'use client';

import Link from 'next/link';
import { type FormEvent, useState } from 'react';
import type { KeptScope } from '@/contracts/answers/settings';
import type { BodySent } from '@/contracts/routes';
import { type KeptScreen, readScreen, screenPath } from '../address/address';
import { textIn } from '../parts/fields';
import { Failure } from '../parts/Place';
import { SharingDialog } from '../people/SharingDialog';
import { ask } from '../query/client';
import { useChange, useKeptScopes } from '../query/hooks';
import { ProblemAnswer } from '../query/problemAnswer';
import { SentencePopover } from './SentencePopover';

const TOUCHES = ['/scopes'];

/** Sentences by their names: to keep the one that is set, and to go to another. */
export function KeptScopes({ screen }: { screen: KeptScreen }) {
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
      hint="Keeps this question by name, and opens those that are kept"
      className="ml-3 align-middle font-sans text-[12.5px] text-faint underline decoration-rule underline-offset-4 hover:text-ink"
    >
      <KeepForm screen={screen} folders={[...new Set(rows.map((r) => r.folder))].filter(Boolean)} />
      {own.length > 0 && <List title="Yours" rows={own} screen={screen} onGone={() => setOpen(false)} />}
      {others.length > 0 && (
        <List title="Shared by others" rows={others} screen={screen} onGone={() => setOpen(false)} />
      )}
    </SentencePopover>
  );
}

/** Where a kept sentence leads. */
export const keptPath = (row: KeptScope): string => screenPath(readScreen(row.place, new URLSearchParams(row.query)));

function KeepForm({ screen, folders }: { screen: KeptScreen; folders: string[] }) {
  const keep = useChange((body: BodySent<'POST /scopes'>) => ask('POST /scopes', { body }), TOUCHES);
  const taken = keep.error instanceof ProblemAnswer && keep.error.status === 409;
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const replaces = (event.nativeEvent as SubmitEvent).submitter?.getAttribute('value') === 'replaces';
    const fields = new FormData(form);
    const [, query = ''] = screenPath(fields.has('steps') ? screen : { ...screen, steps: [] }).split('?');
    const body = {
      name: textIn(fields, 'name'),
      folder: textIn(fields, 'folder'),
      place: screen.origin,
      query,
      shared: fields.has('shared'),
      opens: fields.has('opens'),
      replaces,
    };
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
        <input
          id="kept-name"
          name="name"
          required
          maxLength={120}
          autoComplete="off"
          autoFocus
          className="field min-w-0 flex-1"
        />
        <button type="submit" className="button-main" disabled={keep.isPending}>
          Keep
        </button>
      </div>
      <label className="mt-2 flex items-baseline gap-2">
        <span className="shrink-0 text-soft">in the folder</span>
        <input
          name="folder"
          list="folders"
          maxLength={80}
          autoComplete="off"
          placeholder="none"
          className="field h-7 min-w-0 flex-1"
        />
      </label>
      <datalist id="folders">
        {folders.map((folder) => (
          <option key={folder} value={folder} />
        ))}
      </datalist>
      {screen.steps.length > 0 && (
        <label className="mt-2 flex items-center gap-2">
          <input type="checkbox" name="steps" defaultChecked /> with what it was broken down by
        </label>
      )}
      <div className="mt-2 flex gap-5">
        <label className="flex items-center gap-2">
          <input type="checkbox" name="opens" /> this place opens with it
        </label>
        <label className="flex items-center gap-2">
          <input type="checkbox" name="shared" /> share it
        </label>
      </div>
      <Failure error={keep.error} />
      {taken && (
        <button type="submit" value="replaces" className="button mt-2">
          Keep in its place
        </button>
      )}
    </form>
  );
}

function List({
  title,
  rows,
  screen,
  onGone,
}: {
  title: string;
  rows: KeptScope[];
  /** What is asked on the screen now, which may become the shape of one. */
  screen: KeptScreen;
  onGone(): void;
}) {
  const change = useChange(({ id, ...body }: Change) => ask('PUT /scopes/{id}', { path: { id }, body }), TOUCHES);
  const [changing, setChanging] = useState<number | null>(null);
  const [sharing, setSharing] = useState<KeptScope | null>(null);
  const drop = useChange((id: number) => ask('DELETE /scopes/{id}', { path: { id } }), TOUCHES);
  return (
    <section className="mt-3 border-t border-rule pt-2">
      <h2 className="text-[12.5px] text-soft">{title}</h2>
      <ul>
        {rows.map((row, i) => (
          <li key={row.id} className="border-b border-hair py-1">
            {row.folder !== (rows[i - 1]?.folder ?? '') && <h3 className="font-semibold">{row.folder}</h3>}
            <Link href={keptPath(row)} onClick={onGone} className="block truncate leading-6 hover:underline">
              {row.name} <span className="text-[12.5px] text-faint">{PLACES[row.place]}</span>
            </Link>
            <p className="flex gap-4 text-[12.5px] text-soft">
              <Turn
                on={row.atHand}
                words={['at hand', 'keep at hand']}
                onClick={() => change.mutate({ id: row.id, atHand: !row.atHand })}
              />
              {row.mine && (
                <Turn
                  on={row.opens}
                  words={['opens its place', 'open its place with it']}
                  onClick={() => change.mutate({ id: row.id, opens: !row.opens })}
                />
              )}
              {row.may === 'share' && (row.mine || row.shared) && (
                <>
                  <Turn
                    on={row.shared}
                    words={['shared', 'share']}
                    onClick={() => change.mutate({ id: row.id, shared: !row.shared })}
                  />
                  <Act onClick={() => setSharing(row)}>who</Act>
                </>
              )}
              {(row.may === 'share' || row.may === 'change') && (
                <Act onClick={() => setChanging(changing === row.id ? null : row.id)}>change</Act>
              )}
              {row.mine ? <Act onClick={() => drop.mutate(row.id)}>remove</Act> : <span>by {row.by}</span>}
            </p>
            {changing === row.id && (
              <ChangeForm
                row={row}
                screen={screen}
                onChange={(wanted) =>
                  change.mutateAsync({ id: row.id, ...wanted }).then(
                    () => setChanging(null),
                    () => null,
                  )
                }
              />
            )}
          </li>
        ))}
      </ul>
      {sharing && <SharingDialog kind="scopes" id={sharing.id} name={sharing.name} onClose={() => setSharing(null)} />}
      <Failure error={change.error ?? drop.error} />
    </section>
  );
}

interface Change {
  id: number;
  name?: string;
  folder?: string;
  query?: string;
  shared?: boolean;
  opens?: boolean;
  atHand?: boolean;
}

/** Another name, another folder, another shape. */
function ChangeForm({
  row,
  screen,
  onChange,
}: {
  row: KeptScope;
  screen: KeptScreen;
  onChange(wanted: { name: string; folder: string; query?: string }): void;
}) {
  const [, query = ''] = screenPath(screen).split('?');
  return (
    <form
      className="flex flex-wrap gap-2 pb-1"
      onSubmit={(event) => {
        event.preventDefault();
        const fields = new FormData(event.currentTarget);
        onChange({
          ...{ name: String(fields.get('name')), folder: String(fields.get('folder')) },
          ...(fields.has('shape') ? { query } : {}),
        });
      }}
    >
      <input
        name="name"
        required
        maxLength={120}
        defaultValue={row.name}
        aria-label="Name"
        autoFocus
        className="field h-7 min-w-0 flex-1"
      />
      <input
        name="folder"
        list="folders"
        maxLength={80}
        defaultValue={row.folder}
        aria-label="Folder"
        placeholder="folder"
        className="field h-7 w-[110px]"
      />
      <button type="submit" className="button h-7">
        Change
      </button>
      {row.place === screen.origin && query !== row.query && (
        <label className="flex w-full items-center gap-2">
          <input type="checkbox" name="shape" /> asks what is on the screen now
        </label>
      )}
    </form>
  );
}

const PLACES: Record<KeptScope['place'], string> = {
  'trial-balance': 'trial balance',
  statements: 'statement',
  lines: 'lines',
};

const Act = ({ children, onClick }: { children: string; onClick(): void }) => (
  <button type="button" className="min-h-6 cursor-pointer hover:text-ink" onClick={onClick}>
    {children}
  </button>
);

const Turn = ({ on, words: [is, act], onClick }: { on: boolean; words: [string, string]; onClick(): void }) => (
  <button
    type="button"
    aria-pressed={on}
    className={`min-h-6 cursor-pointer hover:text-ink ${on ? 'font-semibold text-ink' : ''}`}
    onClick={onClick}
  >
    {on ? `✓ ${is}` : act}
  </button>
);
