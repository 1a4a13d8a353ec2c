'use client';

import { type FormEvent, useRef, useState } from 'react';
import type { TestHit } from '@/contracts/answers/tests';
import type { Judgement } from '@/contracts/work';
import { Draft } from '../evidence/Draft';
import { FindingDialog } from '../evidence/FindingDialog';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { subjectOfHit } from '../screens/hitRows';
import { TOUCHES } from './words';

export interface Judging {
  hit: TestHit;
  act: Judgement | 'ignore';
}

const ALIKE = ['account', 'party', 'person', 'journal'] as const;

/** Says what a hit is: with a reason, as a finding, by asking somebody; or has those like it ignored. */
export function JudgeDialog({ run, hit, act, onClose }: Judging & { run: number; onClose(moved: boolean): void }) {
  const judge = useChange(
    ({ judgement, note }: { judgement: Judgement; note: string }) =>
      ask('PUT /test-runs/{id}/hits/{key}', { path: { id: run, key: hit.key }, body: { judgement, note } }),
    TOUCHES,
  );
  const about = { subject: subjectOfHit(hit), measure: null, label: `${hit.name}: ${hit.what}`.slice(0, 300) };
  const place = `/tests/${run}`;
  const done = (judgement: Judgement, note: string): void =>
    judge.mutate({ judgement, note }, { onSuccess: () => onClose(true), onError: (problem) => toast(problem.message) });
  if (act === 'finding')
    return (
      <FindingDialog
        about={[about]}
        measure="movement"
        address={place}
        thread={null}
        onWritten={() => done('finding', '')}
        onClose={() => onClose(true)}
      />
    );
  if (act === 'asked')
    return (
      <Modal title="Ask somebody" className="top-[14vh] w-[560px]" onClose={() => onClose(true)}>
        <p className="mb-2 text-[13px] text-soft">{hit.reason}</p>
        <Draft
          kind="question"
          about={about}
          address={place}
          thread={null}
          onSent={() => done('asked', '')}
          onDone={() => onClose(true)}
        />
      </Modal>
    );
  if (act === 'ignore') return <IgnoreDialog run={run} hit={hit} onClose={onClose} />;
  return (
    <SayDialog
      hit={hit}
      act={act}
      error={judge.error}
      onSay={(note) => done(act, note)}
      onClose={() => onClose(true)}
    />
  );
}

function SayDialog({
  hit,
  act,
  error,
  onSay,
  onClose,
}: {
  hit: TestHit;
  act: Judgement;
  error: Error | null;
  onSay(note: string): void;
  onClose(): void;
}) {
  const note = useRef<HTMLTextAreaElement>(null);
  return (
    <Modal title={act === 'open' ? 'Open again' : 'Explained'} className="top-[14vh] w-[560px]" onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          onSay(note.current?.value.trim() ?? '');
        }}
      >
        <p className="text-[13px] text-soft">
          {hit.what}. {hit.reason}
        </p>
        <Labelled label={act === 'open' ? 'Why, if you like' : 'Why it is as it should be'}>
          <textarea
            ref={note}
            rows={4}
            maxLength={4_000}
            required={act === 'explained'}
            defaultValue={act === 'explained' ? (hit.judgement?.note ?? '') : ''}
            className="field h-auto w-full py-1"
            onKeyDown={(event) => {
              if (event.key !== 'Enter' || !(event.ctrlKey || event.metaKey)) return;
              event.preventDefault();
              event.currentTarget.form?.requestSubmit();
            }}
          />
        </Labelled>
        <p className="text-[12.5px] text-soft">It stays said in later runs until one of its lines changes.</p>
        <Failure error={error} />
        <div className="flex gap-2">
          <button type="submit" className="button-main">
            Keep
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}

function IgnoreDialog({ run, hit, onClose }: { run: number; hit: TestHit; onClose(moved: boolean): void }) {
  const offered = ALIKE.filter((word) => hit[word] !== null);
  const [alike, setAlike] = useState<readonly (typeof ALIKE)[number][]>(offered.slice(0, 1));
  const why = useRef<HTMLInputElement>(null);
  const ignore = useChange(
    () =>
      ask('POST /ignored-hits', {
        body: { run, key: hit.key, alike: [...alike], why: why.current?.value.trim() ?? '' },
      }),
    TOUCHES,
  );
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    ignore.mutate(undefined, { onSuccess: () => onClose(true) });
  };
  return (
    <Modal title="Ignore those alike" className="top-[14vh] w-[560px]" onClose={() => onClose(true)}>
      <form className="flex flex-col gap-3" onSubmit={submit}>
        <p className="text-[13px] text-soft">
          Hits of “{hit.name}” in {hit.entity} that have in common with this one:
        </p>
        <fieldset className="flex flex-col gap-1">
          <legend className="sr-only">What they have in common</legend>
          {offered.map((word) => (
            <label key={word} className="flex items-center gap-1.5">
              <input
                type="checkbox"
                checked={alike.includes(word)}
                onChange={(event) =>
                  setAlike((held) => (event.target.checked ? [...held, word] : held.filter((w) => w !== word)))
                }
              />
              the {word} {hit[word]}
            </label>
          ))}
        </fieldset>
        <Labelled label="Why">
          <input ref={why} required maxLength={1_000} className="field w-full" />
        </Labelled>
        <p className="text-[12.5px] text-soft">In every run, until somebody takes it back under Ignored.</p>
        <Failure error={ignore.error} />
        <div className="flex gap-2">
          <button type="submit" className="button-main" disabled={alike.length === 0}>
            Ignore
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}
