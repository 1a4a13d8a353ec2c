'use client';

import Link from 'next/link';
import { type FormEvent, useEffect, useRef, useState } from 'react';
import { type Screen, screenPath } from '../address/address';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange, useThread, useThreads } from '../query/hooks';
import { useMe } from '../shell/me';
import { type WayStep, wayOf } from './way';

/**
 * Keeps the way to this screen as a thread. While a thread is open every further step is added to it, so that the
 * record of an investigation is made by making it.
 */
export function KeepThread({ screen }: { screen: Screen }) {
  const me = useMe();
  const id = Number(screen.options.thread) || null;
  const thread = useThread(id);
  const [asking, setAsking] = useState(false);
  const add = useChange(
    (way: { id: number; steps: WayStep[] }) =>
      ask('POST /threads/{id}/steps', { path: { id: way.id }, body: { steps: way.steps } }),
    ['/threads'],
  );
  const added = useRef('');
  const open = (thread.data?.state === 'open' || thread.data?.state === 'changed') && me.role !== 'reader';
  const way = wayOf(screen);
  const here = `${id} ${way.at(-1)?.address}`;
  useEffect(() => {
    if (!id || !open || added.current === here) return;
    added.current = here;
    add.mutate({ id, steps: way }, { onError: (problem) => toast(`This step is not kept: ${problem.message}`) });
  });
  if (me.role === 'reader' && !id) return null;
  if (id && thread.data) {
    return (
      <Link
        href={`/threads/${id}`}
        className="max-w-[220px] truncate hover:text-ink"
        title="Every further step is kept in this thread"
      >
        {open ? 'kept in' : 'seen from'} “{thread.data.name}”
      </Link>
    );
  }
  if (id) return thread.error ? <span className="text-warn">this thread is not there for you</span> : null;
  return (
    <>
      <button
        type="button"
        onClick={() => setAsking(true)}
        className="cursor-pointer hover:text-ink"
        title="Keeps the way from the first sheet to here, to be walked again, shared and signed"
      >
        Keep this thread
      </button>
      {asking && <KeepDialog screen={screen} onClose={() => setAsking(false)} />}
    </>
  );
}

function KeepDialog({ screen, onClose }: { screen: Screen; onClose(): void }) {
  const threads = useThreads();
  const open = (threads.data?.rows ?? []).filter((t) => t.state === 'open' || t.state === 'changed');
  const way = wayOf(screen);
  const [into, setInto] = useState('');
  const keep = useChange(
    (name: string) =>
      into
        ? ask('POST /threads/{id}/steps', { path: { id: into }, body: { steps: way } })
        : ask('POST /threads', { body: { name, steps: way } }),
    ['/threads'],
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const name = String(new FormData(event.currentTarget).get('name') ?? '');
    const kept = await keep.mutateAsync(name).catch(() => null);
    if (!kept) return;
    onClose();
    window.history.replaceState(
      null,
      '',
      screenPath({ ...screen, options: { ...screen.options, thread: String(kept.id) } }),
    );
    toast('Kept. Every further step is added to it.');
  };
  return (
    <Modal title="Keep this thread" className="top-[16vh] w-[460px]" onClose={onClose}>
      <form onSubmit={submit} className="flex flex-col gap-3">
        {open.length > 0 && (
          <Labelled label="In" wide>
            <Select value={into} onChange={(event) => setInto(event.target.value)} className="field w-full">
              <option value="">a new thread</option>
              {open.map((t) => (
                <option key={t.id} value={t.id}>
                  {t.name}, of {t.by}
                </option>
              ))}
            </Select>
          </Labelled>
        )}
        {!into && (
          <Labelled label="Name" wide>
            <input name="name" required maxLength={200} defaultValue={way.at(-1)?.label} className="field w-full" />
          </Labelled>
        )}
        <ol className="text-[13px] text-soft">
          {way.map((k, i) => (
            <li key={k.address} style={{ paddingLeft: `${i * 12}px` }} className="truncate">
              {k.label}
            </li>
          ))}
        </ol>
        <Failure error={keep.error} />
        <div className="flex gap-2">
          <button type="submit" className="button-main" disabled={keep.isPending}>
            Keep
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}
