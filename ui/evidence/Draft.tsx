'use client';

import { useState } from 'react';
import type { RichText } from '@/contracts/richText';
import type { Measure } from '@/contracts/traced';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { Compose } from './Compose';
import { useColleagues } from './useEvidence';

/** What a text that is being written is about. */
export interface About {
  subject: string;
  measure: Measure | null;
  label: string;
}
export type Drafted = 'note' | 'point' | 'question';

/** A note, a review point or a question that is being written on something. */
export function Draft({
  kind,
  about,
  address,
  thread,
  onDone,
  onSent,
}: {
  kind: Drafted;
  about: About;
  address: string;
  /** The thread that is being worked on, which gathers it. */
  thread: number | null;
  onDone(): void;
  /** It is sent, before it closes. */
  onSent?(): void;
}) {
  const { data } = useColleagues();
  const [to, setTo] = useState('');
  const write = useChange(
    (body: string | RichText): Promise<{ id: number }> => {
      const kept = { ...about, address, body, thread };
      if (kind === 'note') return ask('POST /notes', { body: kept });
      if (kind === 'point') return ask('POST /review-points', { body: kept });
      const receiver = Number(to) || data?.rows[0]?.id;
      return ask('POST /questions', { body: { ...kept, to: receiver ?? 0 } });
    },
    ['/notes', '/review-points', '/questions', '/threads', '/desk'],
  );
  const { label, send } = WORDS[kind];
  return (
    <Compose
      label={`${label} ${about.label}`}
      send={send}
      onCancel={onDone}
      onSend={async (body) => {
        await write.mutateAsync(body);
        if (kind === 'question') toast('Asked. You find the answer on your desk.');
        onSent?.();
        onDone();
      }}
    >
      {kind === 'question' && (
        <div className="mt-1 flex items-center gap-2 text-[12.5px]">
          <span className="text-soft">to</span>
          <Select
            value={to || String(data?.rows[0]?.id ?? '')}
            onChange={(event) => setTo(event.target.value)}
            aria-label="Whom to ask"
            className="h-7 flex-1"
          >
            {(data?.rows ?? []).map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </Select>
        </div>
      )}
    </Compose>
  );
}

const WORDS: Record<Drafted, { label: string; send: string }> = {
  note: { label: 'Note on', send: 'Write note' },
  point: { label: 'Review point on', send: 'Raise point' },
  question: { label: 'Question on', send: 'Ask' },
};
