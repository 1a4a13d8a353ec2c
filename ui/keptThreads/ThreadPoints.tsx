'use client';
import { useState } from 'react';
import type { SavedThread } from '@/contracts/answers/threads';
import { writtenSubject } from '@/contracts/subject';
import { countText } from '../amounts';
import { PointCard } from '../evidence/cards';
import { Draft } from '../evidence/Draft';
import { useAnswer } from '../query/hooks';
import { useMe } from '../shell/me';

/** Review points of a thread, those that are not cleared first; a reviewer raises further ones. */
export function ThreadPoints({ thread }: { thread: SavedThread }) {
  const me = useMe();
  const [raising, setRaising] = useState(false);
  const { data } = useAnswer('GET /review-points', new URLSearchParams({ thread: String(thread.id) }));
  const rows = [...(data?.rows ?? [])].sort((a, b) => Number(a.state === 'cleared') - Number(b.state === 'cleared'));
  const may = (me.role === 'reviewer' || me.role === 'owner') && thread.state !== 'signed';
  if (rows.length === 0 && !may) return null;
  return (
    <section aria-labelledby="points" className="mb-4">
      <h2 id="points" className="mb-1 font-book text-[16px] font-semibold">
        Review points
        {thread.openPoints > 0 && (
          <span className="ml-2 font-sans text-[13px] font-normal text-soft">
            {countText(thread.openPoints)} not cleared
          </span>
        )}
      </h2>
      <ul className="flex flex-col gap-3">
        {rows.map((point) => (
          <li key={point.id}>
            {point.subject !== writtenSubject('thread', thread.id) && (
              <p className="text-[12.5px] text-soft">on {point.label}</p>
            )}
            <PointCard point={point} />
          </li>
        ))}
      </ul>
      {may &&
        (raising ? (
          <div className="mt-2 w-[420px]">
            <Draft
              kind="point"
              about={{
                subject: writtenSubject('thread', thread.id),
                measure: null,
                label: thread.reference || thread.name,
              }}
              address={`/threads/${thread.id}`}
              thread={null}
              onDone={() => setRaising(false)}
            />
          </div>
        ) : (
          <button type="button" className="link mt-1 text-[13px]" onClick={() => setRaising(true)}>
            Raise a point
          </button>
        ))}
    </section>
  );
}
