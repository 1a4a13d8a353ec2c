'use client';

import { useState } from 'react';
import { toast } from '../parts/toast';
import { useMe } from '../shell/me';
import { FileCard, FindingCard, NoteCard, PointCard, QuestionCard, TickCard } from './cards';
import { Draft, type Drafted } from './Draft';
import { TickPalette } from './TickPalette';
import { useAttach } from './useAttach';
import { useEvidence } from './useEvidence';

/** What was said of something that has a page of its own, and what can be said of it there. */
export function SaidOn({
  subject,
  label,
  address,
  ticks = false,
}: {
  subject: string;
  label: string;
  address: string;
  /** It can be ticked. */
  ticks?: boolean;
}) {
  const evidence = useEvidence({ subject });
  const attach = useAttach();
  const me = useMe();
  const [writing, setWriting] = useState<Drafted | null>(null);
  const [ticking, setTicking] = useState(false);
  const named = label.slice(0, 300);
  return (
    <section aria-label="What was said" className="flex flex-col gap-3">
      {evidence.ticks.length > 0 && <TickCard ticks={evidence.ticks} />}
      {evidence.points.map((p) => (
        <PointCard key={p.id} point={p} />
      ))}
      {evidence.notes
        .filter((n) => n.replyTo === null)
        .map((n) => (
          <NoteCard key={n.id} note={n} replies={evidence.notes.filter((r) => r.replyTo === n.id)} />
        ))}
      {evidence.questions.map((q) => (
        <QuestionCard key={q.id} question={q} />
      ))}
      {evidence.findings.map((f) => (
        <FindingCard key={f.id} finding={f} />
      ))}
      {evidence.files.map((f) => (
        <FileCard
          key={f.id}
          file={f}
          onOpen={() => window.open(`/api/v1/attachments/${f.digest}?show=yes`, '_blank', 'noopener')}
        />
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
          {(me.role === 'reviewer' || me.role === 'owner') && (
            <button type="button" className="link" onClick={() => setWriting('point')}>
              Raise a point
            </button>
          )}
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
