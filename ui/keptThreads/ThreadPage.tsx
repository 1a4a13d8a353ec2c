'use client';

import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { useState } from 'react';
import type { Former, Replayed, SavedThread, ThreadStep } from '@/contracts/answers/threads';
import { writtenSubject } from '@/contracts/subject';
import { screenPath, splitWords } from '../address/address';
import { amountText, countText, momentText } from '../amounts';
import { SaidOn } from '../evidence/SaidOn';
import { Failure, Labelled, Place, THREAD_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange, useThread } from '../query/hooks';
import { useMe } from '../shell/me';
import { BundleButton } from './BundleButton';
import { FanOut } from './FanOut';
import { GatheredList } from './Gathered';
import { ReplayForm } from './ReplayForm';
import { RollForward } from './RollForward';
import { ThreadMap } from './ThreadMap';
import { ThreadPoints } from './ThreadPoints';
import { ThreadRecord } from './ThreadRecord';
import { replayedAddress, screenOf } from './way';
import { STATE_WORD } from './words';

const VIEW: Record<ThreadStep['view'], string> = {
  sheet: 'first sheet',
  split: 'split',
  lines: 'lines',
  entry: 'entry',
  document: 'document',
  orders: 'open orders',
  statement: 'statement',
};

/** A saved thread: its map, its steps with figures then and now, and the same steps walked again. */
export function ThreadPage({ id }: { id: number }) {
  const thread = useThread(id);
  const params = useSearchParams();
  const router = useRouter();
  const me = useMe();
  const [chosen, setChosen] = useState<number | null>(null);
  const [rolling, setRolling] = useState(false);
  const fan = params.get('by');
  const asked = fan || params.size === 0 ? null : new URLSearchParams(params);
  const replay = useAnswer('GET /threads/{id}/replay', asked, { id });
  const remove = useChange(() => ask('DELETE /threads/{id}', { path: { id } }), ['/threads']);
  const { data } = thread;
  if (thread.error)
    return (
      <Place title="Thread" tabs={[]} here="">
        {<Failure error={thread.error} />}
      </Place>
    );
  if (!data)
    return (
      <Place title="Thread" tabs={[]} here="">
        {null}
      </Place>
    );
  const ordered = inOrder(data.steps);
  const may = data.mine && me.role !== 'reader';
  const open = data.state === 'open' || data.state === 'changed';
  const picked = data.steps.find((k) => k.id === chosen) ?? null;
  const show = (next: URLSearchParams): void => router.replace(`/threads/${id}${next.size > 0 ? `?${next}` : ''}`);
  return (
    <Place title={`${data.reference ? `${data.reference} ` : ''}${data.name}`} tabs={THREAD_TABS} here="">
      <p className="-mt-2 mb-3 flex flex-wrap items-baseline gap-x-4 text-soft">
        <span>
          {STATE_WORD[data.state]}, of {data.by}, begun {momentText(data.at)}, last step {momentText(data.changed)}
          {data.folder && ` · in ${data.folder}`}
          {data.reviewer && ` · reviewer ${data.reviewer.name}`}
        </span>
        {me.role !== 'reader' && (
          <button type="button" className="link" onClick={() => setRolling(true)}>
            Roll forward
          </button>
        )}
        <BundleButton threads={[id]} name="" />
        {may && open && (
          <button
            type="button"
            className="link"
            onClick={async () => {
              if (!window.confirm(`Remove “${data.name}”? The record keeps that it was there.`)) return;
              await remove.mutateAsync(undefined).then(
                () => router.push('/threads'),
                () => null,
              );
            }}
          >
            Remove
          </button>
        )}
      </p>
      {rolling && <RollForward threads={[id]} onClose={() => setRolling(false)} />}
      <ThreadRecord thread={data} />
      <div className="grid grid-cols-2 gap-x-8">
        <ThreadPoints thread={data} />
        <div className="mb-4">
          <h2 className="mb-1 font-book text-[16px] font-semibold">Said of it</h2>
          <SaidOn subject={writtenSubject('thread', id)} label={data.name} address={`/threads/${id}`} points={false} />
        </div>
      </div>
      <FormerWords former={data.former} />
      <Failure error={remove.error} />
      <ThreadMap
        steps={data.steps}
        name={data.name}
        chosen={chosen}
        onChoose={(k) => setChosen(k === chosen ? null : k)}
      />
      {picked && <Step key={picked.id} thread={data} step={picked} onGone={() => setChosen(null)} />}
      <ReplayForm params={params} onChange={show} />
      {fan ? (
        <FanOut id={id} by={fan} />
      ) : (
        <>
          <Failure error={asked ? replay.error : null} />
          {!asked && (
            <>
              <h2 className="mt-5 font-book text-[16px] font-semibold">Evidence gathered</h2>
              <GatheredList thread={data} />
              <h2 className="mt-4 mb-1 font-book text-[16px] font-semibold">Steps</h2>
            </>
          )}
          <Steps
            steps={ordered}
            replay={asked ? (replay.data ?? null) : null}
            chosen={chosen}
            onChoose={setChosen}
            thread={id}
          />
        </>
      )}
    </Place>
  );
}

function Steps({
  steps,
  replay,
  chosen,
  onChoose,
  thread,
}: {
  steps: (ThreadStep & { depth: number })[];
  replay: Replayed | null;
  chosen: number | null;
  onChoose(id: number): void;
  thread: number;
}) {
  const again = new Map(replay?.steps.map((k) => [k.id, k]));
  return (
    <Table
      label="Steps"
      fixed
      columns={[
        { label: 'Step' },
        { label: 'Seen as', width: 'w-[96px]' },
        { label: 'When kept', width: 'w-[140px]', right: true },
        { label: replay ? 'Walked again' : 'Today', width: 'w-[140px]', right: true },
        { label: replay ? 'Change' : '', width: replay ? 'w-[140px]' : 'w-[90px]', right: replay !== null },
        { label: replay ? 'What is different' : 'What was found', width: 'w-[32%]' },
      ]}
    >
      {steps.map((k) => {
        const walked = again.get(k.id);
        const address = replay ? replayedAddress(k.address, replay.put) : k.address;
        const goOn = screenOf(address);
        return (
          <Tr key={k.id} chosen={k.id === chosen}>
            <Td cut title={k.label}>
              <span style={{ paddingLeft: `${k.depth * 14}px` }}>
                <Link
                  href={
                    replay
                      ? screenPath(goOn)
                      : screenPath({ ...goOn, options: { ...goOn.options, thread: String(thread) } })
                  }
                  className="hover:underline"
                >
                  {k.label}
                </Link>
              </span>
            </Td>
            <Td>{k.view === 'split' && k.by ? splitWords(k.by) : VIEW[k.view]}</Td>
            <Td right>{k.value === null ? '' : amountText(k.value)}</Td>
            <Td right>{replay ? (walked?.now ? amountText(walked.now) : '') : k.now ? amountText(k.now) : ''}</Td>
            <Td right={replay !== null}>
              {replay ? (
                walked?.change ? (
                  amountText(walked.change)
                ) : (
                  ''
                )
              ) : k.value === null ? (
                ''
              ) : k.moved ? (
                <span className="text-warn">≠ moved</span>
              ) : (
                '✓ the same'
              )}
            </Td>
            <Td>
              {(walked?.problem ?? k.problem) ? (
                <span className="text-warn">{walked?.problem ?? k.problem}</span>
              ) : null}
              {walked?.empty}
              {walked?.members && walked.members.vanished.length > 0 && (
                <span className="block">gone: {listed(walked.members.vanished)}</span>
              )}
              {walked?.members && walked.members.appeared.length > 0 && (
                <span className="block">new: {listed(walked.members.appeared)}</span>
              )}
              {!replay && (
                <button
                  type="button"
                  onClick={() => onChoose(k.id)}
                  className="cursor-pointer text-left text-preparer hover:underline"
                >
                  {k.note || <span className="text-faint">annotate</span>}
                </button>
              )}
            </Td>
          </Tr>
        );
      })}
    </Table>
  );
}

const NAMED_MAX = 6;
const listed = (names: string[]): string =>
  names.length > NAMED_MAX
    ? `${names.slice(0, NAMED_MAX).join(', ')} and ${countText(names.length - NAMED_MAX)} more`
    : names.join(', ');

/** One step to be renamed, annotated, gone on from, or taken away with all below it. */
function Step({ thread, step, onGone }: { thread: SavedThread; step: ThreadStep; onGone(): void }) {
  const me = useMe();
  const path = { id: thread.id, step: step.id };
  const keep = useChange(
    (body: { label: string; note: string }) => ask('PUT /threads/{id}/steps/{step}', { path, body }),
    ['/threads'],
  );
  const remove = useChange(() => ask('DELETE /threads/{id}/steps/{step}', { path }), ['/threads']);
  const below = thread.steps.filter((k) => isBelow(k, step, thread.steps)).length;
  const goOn = screenOf(step.address);
  const open = (thread.state === 'open' || thread.state === 'changed') && me.role !== 'reader';
  const may = open && step.mine;
  return (
    <form
      aria-label={`Step ${step.label}`}
      className="mt-3 flex flex-wrap items-end gap-3 border border-rule bg-sheet p-3"
      onSubmit={async (event) => {
        event.preventDefault();
        const form = new FormData(event.currentTarget);
        await keep.mutateAsync({ label: String(form.get('label')), note: String(form.get('note')) }).then(
          () => toast('Kept'),
          () => null,
        );
      }}
    >
      <p className="w-full text-[13px] text-soft">
        {step.sentence ?? step.problem} Kept by {step.who}, {momentText(step.at)}, as of load {step.load}
        {step.lines !== null && `, over ${countText(step.lines)} ${step.lines === 1 ? 'line' : 'lines'}`}.
      </p>
      <Labelled label="Called">
        <input
          name="label"
          required
          maxLength={300}
          defaultValue={step.label}
          className="field w-[260px]"
          disabled={!may}
        />
      </Labelled>
      <div className="min-w-[280px] flex-1">
        <Labelled label="What was found here" wide>
          <input name="note" maxLength={4000} defaultValue={step.note} className="field w-full" disabled={!may} />
        </Labelled>
      </div>
      {may && (
        <button type="submit" className="button-main">
          Keep
        </button>
      )}
      <Link href={screenPath({ ...goOn, options: { ...goOn.options, thread: String(thread.id) } })} className="button">
        Go on from here
      </Link>
      {may && (
        <button
          type="button"
          className="button"
          onClick={async () => {
            if (below > 0 && !window.confirm(`Remove this step and the ${below} below it?`)) return;
            await remove.mutateAsync(undefined).then(onGone, () => null);
          }}
        >
          Remove{below > 0 ? ` with ${below} below` : ''}
        </button>
      )}
      {!may && open && (
        <p className="w-full text-[13px] text-soft">These are {step.who}’s words; only they change them.</p>
      )}
      <FormerWords former={step.former} />
      <Failure error={keep.error ?? remove.error} />
    </form>
  );
}

const FORMER: Record<string, string> = { label: 'called', note: 'found', name: 'named' };

/** What was said before, oldest first, behind a line that says how often it was changed. */
function FormerWords({ former }: { former: Former[] }) {
  if (former.length === 0) return null;
  return (
    <details className="mb-2 w-full text-[13px] text-soft">
      <summary className="cursor-pointer">
        Changed {former.length === 1 ? 'once' : `${countText(former.length)} times`}; what it said before is kept
      </summary>
      <ul className="mt-1 ml-4">
        {former.map((f) => (
          <li key={f.at}>
            until {momentText(f.at)}, changed by {f.by}:{' '}
            {Object.entries(f.words)
              .filter(([, words]) => words !== '')
              .map(([what, words]) => `${FORMER[what] ?? what} “${words}”`)
              .join(', ')}
          </li>
        ))}
      </ul>
    </details>
  );
}

function isBelow(step: ThreadStep, above: ThreadStep, all: ThreadStep[]): boolean {
  for (
    let at: ThreadStep | undefined = all.find((k) => k.id === step.parent);
    at;
    at = all.find((k) => k.id === (at as ThreadStep).parent)
  )
    if (at.id === above.id) return true;
  return false;
}

/** Steps as a tree is read: each with all below it before the next. */
function inOrder(steps: ThreadStep[], parent: number | null = null, depth = 0): (ThreadStep & { depth: number })[] {
  return steps.filter((k) => k.parent === parent).flatMap((k) => [{ ...k, depth }, ...inOrder(steps, k.id, depth + 1)]);
}
