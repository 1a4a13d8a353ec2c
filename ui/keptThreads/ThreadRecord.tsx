'use client';

import Link from 'next/link';
import { type FormEvent, type ReactNode, useRef, useState } from 'react';
import type { SavedThread } from '@/contracts/answers/threads';
import type { RichText } from '@/contracts/richText';
import { ASSERTIONS, THREAD_WORDS, type ThreadWord } from '@/contracts/work';
import { Prose } from '../evidence/Prose';
import { useColleagues } from '../evidence/useEvidence';
import { Written } from '../evidence/Written';
import { KeepOrCancel } from '../parts/KeepOrCancel';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { SharingDialog } from '../people/SharingDialog';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { Said } from './Said';
import { SignOffs } from './SignOffs';
import { TOUCHES } from './words';

/** What a thread says of the work that was done: its purpose and conclusion, what it gathered, who signed it. */
export function ThreadRecord({ thread }: { thread: SavedThread }) {
  const me = useMe();
  const open = thread.state === 'open' || thread.state === 'changed';
  const may = (thread.may === 'change' || thread.may === 'share') && open && me.role !== 'reader';
  const [sharing, setSharing] = useState(false);
  const [changing, setChanging] = useState(false);
  return (
    <div className="mb-5 grid grid-cols-[minmax(0,1fr)_300px] gap-x-8 border-b border-rule pb-4">
      <div className="flex min-w-0 flex-col gap-3">
        {changing ? (
          <WordsForm thread={thread} onDone={() => setChanging(false)} />
        ) : (
          <Words thread={thread}>
            {may && (
              <button type="button" className="link" onClick={() => setChanging(true)}>
                Change what it says
              </button>
            )}
            {thread.may === 'share' && me.role !== 'reader' && (
              <button type="button" className="link" onClick={() => setSharing(true)}>
                Who may do what
              </button>
            )}
          </Words>
        )}
        {sharing && (
          <SharingDialog kind="threads" id={thread.id} name={thread.name} onClose={() => setSharing(false)} />
        )}
      </div>
      <SignOffs thread={thread} />
    </div>
  );
}

function Words({ thread, children }: { thread: SavedThread; children: ReactNode }) {
  const none = <span className="font-normal text-faint">nothing yet</span>;
  const said = (name: ThreadWord): ReactNode =>
    thread[name] === '' ? none : <Written body={thread[name]} content={thread.written[name] ?? null} />;
  return (
    <>
      <dl className="grid grid-cols-[110px_minmax(0,1fr)] gap-y-1.5">
        <Said name="Purpose">{said('purpose')}</Said>
        <Said name="Assertions">{thread.assertions.length > 0 ? thread.assertions.join(', ') : none}</Said>
        <Said name="Result">{said('result')}</Said>
        <Said name="Conclusion">
          <div className="font-semibold">{said('conclusion')}</div>
        </Said>
        {thread.rolledFrom && (
          <Said name="Last period">
            <Link href={`/threads/${thread.rolledFrom.id}`} className="link">
              {thread.rolledFrom.name}
            </Link>
            {thread.rolledFrom.conclusion ? `: ${thread.rolledFrom.conclusion}` : ', not concluded'}
          </Said>
        )}
      </dl>
      <p className="flex gap-4">{children}</p>
    </>
  );
}

function WordsForm({ thread, onDone }: { thread: SavedThread; onDone(): void }) {
  const colleagues = useColleagues();
  const [words, setWords] = useState<Partial<Record<ThreadWord, RichText | string>>>({});
  const form = useRef<HTMLFormElement>(null);
  const keep = useChange((body: object) => ask('PUT /threads/{id}', { path: { id: thread.id }, body }), TOUCHES);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '');
    await keep
      .mutateAsync({
        ...{ name: text('name'), reference: text('reference'), folder: text('folder') },
        ...words,
        assertions: form.getAll('assertions'),
        reviewer: Number(text('reviewer')) || null,
      })
      .then(onDone, () => null);
  };
  return (
    <form ref={form} onSubmit={submit} aria-label="What the thread says" className="flex flex-col gap-3">
      <div className="flex flex-wrap gap-3">
        <Labelled label="Name">
          <input name="name" required maxLength={200} defaultValue={thread.name} className="field w-[280px]" />
        </Labelled>
        <Labelled label="Reference, such as C-3">
          <input name="reference" maxLength={40} defaultValue={thread.reference} className="field w-[130px]" />
        </Labelled>
        <Labelled label="Folder, by period and area">
          <input
            name="folder"
            maxLength={200}
            defaultValue={thread.folder}
            placeholder="2027 Q2/Receivables"
            className="field w-[210px]"
          />
        </Labelled>
        <Labelled label="Reviewer">
          <Select name="reviewer" defaultValue={thread.reviewer?.id ?? ''} className="w-[170px]">
            <option value="">nobody yet</option>
            {(colleagues.data?.rows ?? [])
              .filter((p) => p.role === 'reviewer' || p.role === 'owner')
              .map((p) => (
                <option key={p.id} value={p.id}>
                  {p.name}
                </option>
              ))}
          </Select>
        </Labelled>
      </div>
      {THREAD_WORDS.map((name) => (
        <Prose
          key={name}
          label={PROSE[name]}
          begin={thread.written[name] ?? thread[name]}
          onChange={(text) => setWords((now) => ({ ...now, [name]: text }))}
          onDone={() => form.current?.requestSubmit()}
          onCancel={onDone}
        />
      ))}
      <fieldset>
        <legend className="mb-1 text-[12.5px] text-soft">Assertions that it addresses</legend>
        <div className="flex flex-wrap gap-x-4 gap-y-1">
          {ASSERTIONS.map((a) => (
            <label key={a} className="flex items-center gap-1.5">
              <input type="checkbox" name="assertions" value={a} defaultChecked={thread.assertions.includes(a)} />
              {a}
            </label>
          ))}
        </div>
      </fieldset>
      <Failure error={keep.error} />
      <KeepOrCancel pending={keep.isPending} onCancel={onDone} />
    </form>
  );
}

const PROSE = {
  purpose: 'Purpose: what is to be shown',
  result: 'Result: what was found',
  conclusion: 'Conclusion',
} as const;
