'use client';

import Link from 'next/link';
import { type ReactNode, useState } from 'react';
import type { EvidenceFile, Finding, Note, Pin, Point, Question, Tick } from '@/contracts/answers/evidence';
import type { Expectation } from '@/contracts/answers/expectations';
import type { Proposed } from '@/contracts/answers/proposals';
import type { RichText } from '@/contracts/richText';
import { writtenSubject } from '@/contracts/subject';
import { amountText, countText, momentText } from '../amounts';
import { later } from '../parts/later';
import { toast } from '../parts/toast';
import { STATE_WORD } from '../proposals/words';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { INK, type Ink } from '../sheet/ink';
import { useMe } from '../shell/me';
import { Compose } from './Compose';
import { sizeText } from './sizeText';
import { TickShape } from './TickShape';
import { useDropped } from './useDropped';
import { Written } from './Written';

const SMALL = 'cursor-pointer underline decoration-rule underline-offset-2 hover:text-ink';

const By = ({ by, at, children }: { by: string; at: string; children?: ReactNode }) => (
  <p className="flex flex-wrap gap-x-2 text-[12.5px] leading-4 text-faint">
    <span>
      {by}, {momentText(at)}
    </span>
    {children}
  </p>
);

/** A note with what was answered to it; one's own is changed or taken away, any is answered. */
export function NoteCard({
  note,
  replies,
  files = [],
}: {
  note: Note;
  replies: readonly Note[];
  /** Attached to any of them. */
  files?: readonly EvidenceFile[];
}) {
  const on = (n: Note): EvidenceFile[] => files.filter((f) => f.subject === writtenSubject('note', n.id));
  const [writing, setWriting] = useState<'answer' | null>(null);
  const answer = useChange(
    (body: string | RichText) => ask('POST /notes', { body: { replyTo: note.id, body } }),
    ['/notes', '/desk'],
  );
  return (
    <article>
      <OneNote note={note} files={on(note)} onAnswer={() => setWriting('answer')} />
      {replies.length > 0 && (
        <ul className="mt-1 flex flex-col gap-1 border-l border-rule pl-2">
          {replies.map((reply) => (
            <li key={reply.id}>
              <OneNote note={reply} files={on(reply)} />
            </li>
          ))}
        </ul>
      )}
      {writing && (
        <div className="mt-1">
          <Compose
            label={`Answer to ${note.by}`}
            send="Answer"
            onCancel={() => setWriting(null)}
            onSend={async (body) => {
              await answer.mutateAsync(body);
              setWriting(null);
            }}
          />
        </div>
      )}
    </article>
  );
}

const FileInFront = later(() => import('./FileBeside').then((m) => m.FileInFront));

function OneNote({
  note,
  files,
  onAnswer,
}: {
  note: Note;
  /** Attached to it. */
  files: readonly EvidenceFile[];
  onAnswer?(): void;
}) {
  const [shown, setShown] = useState<EvidenceFile | null>(null);
  const [changing, setChanging] = useState(false);
  const touched = ['/notes', '/threads'];
  const restore = useChange((id: number) => ask('PUT /notes/{id}', { path: { id }, body: null }), touched);
  const remove = useChange((id: number) => ask('DELETE /notes/{id}', { path: { id } }), touched);
  const change = useChange(
    (body: string | RichText) => ask('PUT /notes/{id}', { path: { id: note.id }, body: { body } }),
    touched,
  );
  const takeAway = async (): Promise<void> => {
    try {
      await remove.mutateAsync(note.id);
      toast('Note removed', { action: { label: 'Undo', onClick: () => restore.mutate(note.id) } });
    } catch (problem) {
      toast((problem as Error).message);
    }
  };
  const dropped = useDropped({
    subject: writtenSubject('note', note.id),
    label: `a note on ${note.label}`.slice(0, 300),
    address: note.address,
  });
  if (changing)
    return (
      <Compose
        label={`Note on ${note.label}`}
        send="Keep"
        begin={note.content ?? note.body}
        onCancel={() => setChanging(false)}
        onSend={async (body) => {
          await change.mutateAsync(body);
          setChanging(false);
        }}
      />
    );
  return (
    <div className={INK[note.ink]} {...dropped}>
      <div className="leading-[18px]">
        <Written body={note.body} content={note.content} />
      </div>
      {files.map((file) => (
        <FileCard key={file.id} file={file} onOpen={setShown} />
      ))}
      {shown && <FileInFront file={shown} onClose={() => setShown(null)} />}
      <By by={note.by} at={note.at}>
        {note.edits > 0 && (
          <span title="What it said before is kept on record">
            changed {note.edits === 1 ? 'once' : `${countText(note.edits)} times`}
          </span>
        )}
        {onAnswer && (
          <button type="button" onClick={onAnswer} className={SMALL}>
            answer
          </button>
        )}
        {note.mine && (
          <>
            <button type="button" onClick={() => setChanging(true)} className={SMALL}>
              change
            </button>
            <button type="button" onClick={() => void takeAway()} className={SMALL}>
              remove
            </button>
          </>
        )}
      </By>
    </div>
  );
}

export function PinCard({ pin, onOpen }: { pin: Pin; onOpen(pin: Pin): void }) {
  const ink = `border-current ${INK[pin.ink]}`;
  return (
    <button
      type="button"
      onClick={() => onOpen(pin)}
      className={`block w-full cursor-pointer rounded-[2px] border bg-sheet px-2 py-1 text-left ${ink}`}
    >
      <strong className="block truncate font-semibold">Pinned {amountText(pin.value)}</strong>
      {pin.state === 'fresh' ? (
        <span className="block text-[12.5px] leading-4 text-soft">
          as of load {pin.load}, unchanged since · {countText(pin.lines)} {pin.lines === 1 ? 'line' : 'lines'}
        </span>
      ) : (
        <span className="block text-[12.5px] leading-4 text-warn">
          ≠ drifted: now {pin.now === null ? 'gone' : amountText(pin.now)}, {countText(pin.drift.length)}
          {pin.driftMore ? ' or more' : ''} {pin.drift.length === 1 ? 'line' : 'lines'} moved
        </span>
      )}
    </button>
  );
}

/** The ticks of a row, each with its meaning, its hand and its time. */
export function TickCard({ ticks }: { ticks: readonly Tick[] }) {
  const remove = useChange(
    (id: number) => ask('DELETE /ticks/{id}', { path: { id } }),
    ['/ticks', '/ticks/share', '/threads'],
  );
  return (
    <ul aria-label="Ticks">
      {ticks.map((t) => (
        <li key={t.id} className={`flex flex-wrap items-baseline gap-x-1.5 ${INK[t.ink]}`}>
          <TickShape shape={t.shape} />
          <span>{t.meaning}</span>
          {t.state === 'drifted' && <span className="text-[12.5px] text-warn">≠ moved since</span>}
          <span className="text-[12.5px] text-faint" title={momentText(t.at)}>
            {t.by}
          </span>
          {t.mine && (
            <button
              type="button"
              onClick={() => remove.mutate(t.id, { onError: (problem) => toast(problem.message) })}
              className={`text-[12.5px] text-faint ${SMALL}`}
            >
              take away
            </button>
          )}
        </li>
      ))}
    </ul>
  );
}

export function FileCard({ file, onOpen }: { file: EvidenceFile; onOpen(file: EvidenceFile): void }) {
  const remove = useChange(
    () => ask('DELETE /attachments/{digest}', { path: { digest: file.id } }),
    ['/attachments', '/threads'],
  );
  return (
    <div className={INK[file.ink]}>
      <button
        type="button"
        onClick={() => onOpen(file)}
        title={`Shows ${file.name} beside the sheet`}
        className="block max-w-full cursor-pointer truncate text-left font-semibold underline decoration-rule underline-offset-2"
      >
        {file.name}
      </button>
      <By by={file.by} at={file.at}>
        <span>{sizeText(file.bytes)}</span>
        {file.mine && (
          <button
            type="button"
            onClick={() => remove.mutate(undefined, { onError: (problem) => toast(problem.message) })}
            className={SMALL}
          >
            take away
          </button>
        )}
      </By>
      {file.sameAs.length > 0 && (
        <p className="text-[12.5px] leading-4 text-warn">
          the same file as “{file.sameAs[0]?.name}” on {file.sameAs[0]?.label}
          {file.sameAs.length > 1 && ` and ${countText(file.sameAs.length - 1)} more`}
        </p>
      )}
    </div>
  );
}

const Answers = ({ answers }: { answers: Point['answers'] }) =>
  answers.length === 0 ? null : (
    <ul className="mt-1 flex flex-col gap-1 border-l border-rule pl-2">
      {answers.map((a) => (
        <li key={a.id} className={INK[a.ink as Ink]}>
          <Written body={a.body} content={a.content} />
          <By by={a.by} at={a.at} />
        </li>
      ))}
    </ul>
  );

export const POINT_WORD = { open: '○ open', answered: '◐ answered', cleared: '● cleared' } as const;

/** A review point with its answers. Others answer it; whoever raised it clears it, or opens it again. */
export function PointCard({ point, writing: begun = false }: { point: Point; writing?: boolean }) {
  const me = useMe();
  const [writing, setWriting] = useState(begun);
  const change = useChange(
    (body: { state: Point['state']; body?: string | RichText }) =>
      ask('PUT /review-points/{id}', { path: { id: point.id }, body }),
    ['/review-points', '/threads', '/desk', '/notes'],
  );
  const set = (state: Point['state']): void =>
    change.mutate({ state }, { onError: (problem) => toast(problem.message) });
  return (
    <article aria-label={`Review point on ${point.label}`} className="border-l-2 border-reviewer pl-2">
      <p className="text-[12.5px] leading-4 text-soft">Review point, {POINT_WORD[point.state]}</p>
      <div className={INK[point.ink]}>
        <Written body={point.body} content={point.content} />
      </div>
      <By by={point.by} at={point.at}>
        {point.mine && point.state !== 'cleared' && (
          <button type="button" onClick={() => set('cleared')} className={SMALL}>
            clear
          </button>
        )}
        {point.mine && point.state !== 'open' && (
          <button type="button" onClick={() => set('open')} className={SMALL}>
            open again
          </button>
        )}
        {!point.mine && point.state !== 'cleared' && me.role !== 'reader' && (
          <button type="button" onClick={() => setWriting(true)} className={SMALL}>
            answer
          </button>
        )}
      </By>
      <Answers answers={point.answers} />
      {writing && (
        <div className="mt-1">
          <Compose
            label={`Answer to ${point.by}`}
            send="Answer"
            onCancel={() => setWriting(false)}
            onSend={async (body) => {
              await change.mutateAsync({ state: 'answered', body });
              setWriting(false);
            }}
          />
        </div>
      )}
    </article>
  );
}

const ageText = (age: number | null): string =>
  age === null
    ? 'answered'
    : age === 0
      ? 'open since today'
      : `open for ${countText(age)} ${age === 1 ? 'day' : 'days'}`;

/** A question to a colleague with its answers. */
export function QuestionCard({ question, writing: begun = false }: { question: Question; writing?: boolean }) {
  const [writing, setWriting] = useState(begun);
  const answer = useChange(
    (body: string | RichText) => ask('POST /questions/{id}/answers', { path: { id: question.id }, body: { body } }),
    ['/questions', '/desk', '/threads'],
  );
  return (
    <article aria-label={`Question on ${question.label}`} className="border-l-2 border-soft pl-2">
      <p className="text-[12.5px] leading-4 text-soft">
        {question.by} asks {question.to}, {ageText(question.age)}
      </p>
      <div className={INK[question.ink]}>
        <Written body={question.body} content={question.content} />
      </div>
      <By by={question.by} at={question.at}>
        {(question.forMe || question.mine) && !writing && (
          <button type="button" onClick={() => setWriting(true)} className={SMALL}>
            {question.mine ? 'ask again' : 'answer'}
          </button>
        )}
      </By>
      <Answers answers={question.answers} />
      {writing && (
        <div className="mt-1">
          <Compose
            label={question.mine ? `Ask ${question.to} again` : `Answer to ${question.by}`}
            send={question.mine ? 'Ask again' : 'Answer'}
            onCancel={() => setWriting(false)}
            onSend={async (body) => {
              await answer.mutateAsync(body);
              setWriting(false);
            }}
          />
        </div>
      )}
    </article>
  );
}

export function FindingCard({ finding }: { finding: Finding }) {
  return (
    <article className="rounded-[2px] border border-warn bg-sheet px-2 py-1">
      <p className="text-[12.5px] leading-4 text-soft">
        Finding, {finding.kind}, {finding.state}
      </p>
      <Link href={`/findings/${finding.id}`} className="block font-semibold hover:underline">
        {finding.title}
      </Link>
      {finding.amount && (
        <p className="text-[12.5px]">
          {finding.amount.currency} {amountText(finding.amount.value)}
        </p>
      )}
    </article>
  );
}

/** What a figure should be, what it is, and whether that needs explaining. */
export function ExpectationCard({ expectation: e }: { expectation: Expectation }) {
  const needs = e.state === 'needs explaining';
  return (
    <article className={`rounded-[2px] border bg-sheet px-2 py-1 ${needs ? 'border-warn' : 'border-rule'}`}>
      <p className="text-[12.5px] leading-4 text-soft">
        Expected{e.expected === null ? '' : ` ${e.currency} ${amountText(e.expected)}`}
      </p>
      <Link href={`/threads/expectations/${e.id}`} className="block font-semibold hover:underline">
        {e.difference === null ? e.state : `${amountText(e.difference)}: ${e.state}`}
      </Link>
      <p className="text-[12.5px] leading-4 text-soft">
        {e.reckoned}; {e.by}
      </p>
    </article>
  );
}

/** What is proposed to put it right. */
export function ProposedCard({ proposed: p }: { proposed: Proposed }) {
  return (
    <article className="rounded-[2px] border border-rule border-l-[3px] bg-proposed px-2 py-1">
      <p className="text-[12.5px] leading-4 text-soft">
        {p.number}, {p.currency} {amountText(p.debit)}
      </p>
      <Link href={`/proposals/${p.id}`} className="block font-semibold hover:underline">
        {p.title || p.reason.slice(0, 120)}
      </Link>
      <p className="text-[12.5px] leading-4 text-soft">
        {STATE_WORD[p.state]}; {p.by}
      </p>
    </article>
  );
}
