'use client';

import { useState } from 'react';
import type { EvidenceFile } from '@/contracts/answers/evidence';
import { writtenSubject } from '@/contracts/subject';
import { later } from '../parts/later';
import { toast } from '../parts/toast';
import { useAnswer } from '../query/hooks';
import { useMe } from '../shell/me';
import { CopyToQuote } from './CopyToQuote';
import { FileCard, FindingCard, NoteCard, PointCard, QuestionCard, TickCard } from './cards';
import { Draft, type Drafted } from './Draft';
import { TickPalette } from './TickPalette';
import { useAttach } from './useAttach';
import { useDropped } from './useDropped';
import { useEvidence } from './useEvidence';

const FileInFront = later(() => import('./FileBeside').then((m) => m.FileInFront));

/** What was said of something that has a page of its own, and what can be said of it there. */
export function SaidOn({
  subject,
  label,
  address,
  ticks = false,
  quotes = false,
  points = true,
}: {
  subject: string;
  label: string;
  address: string;
  /** It can be ticked. */
  ticks?: boolean;
  /** It can be quoted in a text. */
  quotes?: boolean;
  /** Review points are shown here, and not elsewhere on the page. */
  points?: boolean;
}) {
  const evidence = useEvidence({ subject });
  const ofNotes = new URLSearchParams(evidence.notes.map((n) => ['subject', writtenSubject('note', n.id)]));
  const onNotes = useAnswer('GET /attachments', ofNotes.size > 0 ? ofNotes : null);
  const attach = useAttach();
  const me = useMe();
  const [writing, setWriting] = useState<Drafted | null>(null);
  const [ticking, setTicking] = useState(false);
  const [shown, setShown] = useState<EvidenceFile | null>(null);
  const named = label.slice(0, 300);
  const dropped = useDropped({ subject, label: named, address });
  return (
    <section aria-label="What was said" className="flex flex-col gap-3" {...dropped}>
      {shown && <FileInFront file={shown} onClose={() => setShown(null)} />}
      {evidence.ticks.length > 0 && <TickCard ticks={evidence.ticks} />}
      {points && evidence.points.map((p) => <PointCard key={p.id} point={p} />)}
      {evidence.notes
        .filter((n) => n.replyTo === null)
        .map((n) => (
          <NoteCard
            key={n.id}
            note={n}
            replies={evidence.notes.filter((r) => r.replyTo === n.id)}
            files={onNotes.data?.rows ?? []}
          />
        ))}
      {evidence.questions.map((q) => (
        <QuestionCard key={q.id} question={q} />
      ))}
      {evidence.findings.map((f) => (
        <FindingCard key={f.id} finding={f} />
      ))}
      {evidence.files.map((f) => (
        <FileCard key={f.id} file={f} onOpen={setShown} />
      ))}
      {writing ? (
        <Draft
          kind={writing}
          about={{ subject, measure: null, label: named }}
          address={address}
          thread={null}
          onDone={() => setWriting(null)}
        />
      ) : (
        <p className="flex flex-wrap gap-3 text-[13px]">
          {ticks && me.role !== 'reader' && (
            <button type="button" className="link" onClick={() => setTicking(true)}>
              Tick it
            </button>
          )}
          <button type="button" className="link" onClick={() => setWriting('note')}>
            Write a note
          </button>
          <button type="button" className="link" onClick={() => setWriting('question')}>
            Ask a colleague
          </button>
          {points && (me.role === 'reviewer' || me.role === 'owner') && (
            <button type="button" className="link" onClick={() => setWriting('point')}>
              Raise a point
            </button>
          )}
          {quotes && <CopyToQuote subject={subject} label={named} />}
          <label className="link">
            Attach a file
            <input
              type="file"
              className="sr-only"
              onChange={(event) => {
                const file = event.target.files?.[0];
                if (file)
                  attach.mutate(
                    { file, subject, label: named, address, thread: null },
                    { onError: (problem) => toast(problem.message) },
                  );
              }}
            />
          </label>
        </p>
      )}
      {ticking && (
        <TickPalette
          subjects={[{ subject, label: named }]}
          measure={null}
          address={address}
          thread={null}
          onDone={() => setTicking(false)}
        />
      )}
    </section>
  );
}
