'use client';

import { useState } from 'react';
import type { SavedThread } from '@/contracts/answers/threads';
import { countText, momentText } from '../amounts';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { INK } from '../sheet/ink';
import { useMe } from '../shell/me';
import { Said } from './Said';
import { TOUCHES } from './words';

/** Who signed what when, what stands in the way of the next signature, and what each of them signed. */
export function SignOffs({ thread }: { thread: SavedThread }) {
  const me = useMe();
  const [reopening, setReopening] = useState(false);
  const [read, setRead] = useState<number | null>(null);
  const sign = useChange(
    (as: 'preparer' | 'reviewer') => ask('POST /threads/{id}/sign-offs', { path: { id: thread.id }, body: { as } }),
    TOUCHES,
  );
  const live = thread.signOffs.filter((s) => s.ended === null);
  const ended = thread.signOffs.filter((s) => s.ended !== null);
  return (
    <section aria-labelledby="signatures" className="min-w-0">
      <h2 id="signatures" className="mb-1 font-book text-[16px] font-semibold">
        Signatures
      </h2>
      {(['preparer', 'reviewer'] as const).map((as) => {
        const signed = live.find((s) => s.as === as);
        const hindered = thread.hindered[as];
        const offered =
          !signed && me.role !== 'reader' && (as === 'preparer' || me.role === 'reviewer' || me.role === 'owner');
        return (
          <div key={as} className="border-t border-hair py-1.5">
            <p className="flex items-baseline justify-between gap-3">
              <span className="text-soft">{as === 'preparer' ? 'Preparer' : 'Reviewer'}</span>
              {signed ? (
                <button
                  type="button"
                  className={`link font-semibold ${INK[as]}`}
                  title="Reads the thread as it was signed"
                  onClick={() => setRead(signed.id)}
                >
                  {signed.by}
                </button>
              ) : offered ? (
                <button
                  type="button"
                  className="button-main h-7 px-2"
                  disabled={hindered !== null || sign.isPending}
                  title={hindered ?? 'Signs what the thread says and all that it gathered, as it is now'}
                  onClick={() => sign.mutate(as)}
                >
                  Sign as {as}
                </button>
              ) : (
                <span className="text-faint">not signed</span>
              )}
            </p>
            {signed && (
              <p className="text-right text-[12.5px] text-faint" title={`SHA-256 ${signed.digest}`}>
                {momentText(signed.at)}, load {signed.load} · {signed.digest.slice(0, 12)}…
              </p>
            )}
            {offered && hindered && <p className="text-[12.5px] text-soft">{hindered}.</p>}
          </div>
        );
      })}
      {!thread.conclusion && live.length === 0 && (
        <p className="border-t border-hair py-1.5 text-[12.5px] text-warn">No conclusion is written yet.</p>
      )}
      {thread.moved > 0 && (
        <p className="border-t border-hair py-1.5 text-[12.5px] text-warn">
          ≠ {countText(thread.moved)} {thread.moved === 1 ? 'figure has' : 'figures have'} moved since
          {live.length > 0 ? '; what was signed stays as it was signed.' : '.'}
        </p>
      )}
      <Failure error={sign.error} />
      {live.length > 0 && me.role !== 'reader' && (
        <button type="button" className="link text-[13px]" onClick={() => setReopening(true)}>
          Open it again
        </button>
      )}
      {ended.length > 0 && (
        <details className="mt-2 text-[12.5px] text-soft">
          <summary className="cursor-pointer">
            Signed before {ended.length === 1 ? 'once' : `${countText(ended.length)} times`}, and opened again
          </summary>
          <ul className="mt-1 flex flex-col gap-1">
            {ended.map((s) => (
              <li key={s.id}>
                <button type="button" className="link" onClick={() => setRead(s.id)}>
                  {s.by} as {s.as}
                </button>
                , {momentText(s.at)}; opened again by {s.ended?.by}, {momentText(s.ended?.at ?? '')}: {s.ended?.reason}
              </li>
            ))}
          </ul>
        </details>
      )}
      {reopening && <Reopen thread={thread} onClose={() => setReopening(false)} />}
      {read !== null && <Signed thread={thread.id} signOff={read} onClose={() => setRead(null)} />}
    </section>
  );
}

function Reopen({ thread, onClose }: { thread: SavedThread; onClose(): void }) {
  const reopen = useChange(
    (reason: string) => ask('POST /threads/{id}/reopen', { path: { id: thread.id }, body: { reason } }),
    TOUCHES,
  );
  return (
    <Modal title="Open a signed thread again" className="top-[20vh] w-[480px]" onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={async (event) => {
          event.preventDefault();
          const reason = String(new FormData(event.currentTarget).get('reason') ?? '');
          await reopen.mutateAsync(reason).then(onClose, () => null);
        }}
      >
        <p className="text-soft">
          Its signatures are kept and count no more; those who signed are told. What was signed can be read as it was.
        </p>
        <Labelled label="Why" wide>
          <textarea name="reason" required rows={2} maxLength={2_000} className="field h-auto w-full py-1" />
        </Labelled>
        <Failure error={reopen.error} />
        <div className="flex gap-2">
          <button type="submit" className="button-main" disabled={reopen.isPending}>
            Open it again
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}

interface SignedContent {
  thread?: Record<string, unknown>;
  steps?: { id: number; label: string; note: string; by: string }[];
  evidence?: { kind: string; id: number; label: string; by: string; own?: Record<string, unknown> }[];
  points?: { id: number; body: string; state: string; by: string }[];
}

/** A thread as it was when it was signed. */
function Signed({ thread, signOff, onClose }: { thread: number; signOff: number; onClose(): void }) {
  const { data, error } = useAnswer('GET /threads/{id}/sign-offs/{signOff}', NO_PARAMS, { id: thread, signOff });
  const content = (data?.content ?? {}) as SignedContent;
  const words = Object.entries(content.thread ?? {}).filter(([name, said]) => name !== 'id' && String(said) !== '');
  return (
    <Modal title="As it was signed" className="top-[8vh] max-h-[84vh] w-[720px] overflow-auto" onClose={onClose}>
      <Failure error={error} />
      {data && (
        <>
          <p className="mb-3 text-soft">
            {data.signOff.by} as {data.signOff.as}, {momentText(data.signOff.at)}, on load {data.signOff.load}.{' '}
            {data.holds ? '✓ What is kept gives the digest that was signed.' : ''}
            {!data.holds && (
              <span className="text-warn">≠ What is kept no longer gives the digest that was signed.</span>
            )}
            <code className="block text-[12px] break-all">{data.signOff.digest}</code>
          </p>
          <dl className="grid grid-cols-[110px_minmax(0,1fr)] gap-y-1">
            {words.map(([name, said]) => (
              <Said key={name} name={name}>
                {Array.isArray(said) ? said.join(', ') : String(said)}
              </Said>
            ))}
          </dl>
          <SignedList
            name="Steps"
            rows={(content.steps ?? []).map((k) => `${k.label}${k.note ? `: ${k.note}` : ''} (${k.by})`)}
          />
          <SignedList
            name="Evidence"
            rows={(content.evidence ?? []).map((e) => `${e.kind} on ${e.label}${saidOf(e.own)} (${e.by})`)}
          />
          <SignedList
            name="Review points"
            rows={(content.points ?? []).map((p) => `${p.body}: ${p.state} (${p.by})`)}
          />
        </>
      )}
      <ModalClose className="button-main mt-4">Close</ModalClose>
    </Modal>
  );
}

const NO_PARAMS = new URLSearchParams();
const saidOf = (own: Record<string, unknown> = {}): string => {
  const said = own.body ?? own.title ?? own.file_name ?? own.mark;
  return said === undefined ? '' : `: ${String(said)}`;
};

const SignedList = ({ name, rows }: { name: string; rows: readonly string[] }) =>
  rows.length === 0 ? null : (
    <>
      <h3 className="mt-3 font-semibold">{name}</h3>
      <ul className="ml-4 list-disc">
        {rows.map((row, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a list that was signed does not change
          <li key={i}>{row}</li>
        ))}
      </ul>
    </>
  );
