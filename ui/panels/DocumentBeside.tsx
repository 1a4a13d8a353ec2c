'use client';

import Link from 'next/link';
import { useState } from 'react';
import { dateText } from '@/core/sentence';
import { otherSign } from '@/core/writtenAmounts';
import { amountText, countText } from '../amounts';
import { documentPath } from '../documents/address';
import { PaperShown } from '../documents/paper/PaperShown';
import { useAnswer } from '../query/hooks';
import { ProblemAnswer } from '../query/problemAnswer';
import { useDebounced } from '../query/useDebounced';
import type { Paper } from '../sheet/model';
import { Beside } from './Beside';

/** While somebody moves over the sheet nothing is asked. */
const DEBOUNCE_MS = 200;
/** What became of a document is told up to here. */
const EVENTS_SHOWN = 4;

interface Props {
  /** The document of the focused line; null where it names none. */
  paper: Paper | null;
  label: string;
  onOpen(): void;
  onClose(): void;
}

/** The document of the focused line beside the sheet, following along as the focus moves, with the line's amount marked on it. */
export function DocumentBeside({ paper, label, onOpen, onClose }: Props) {
  const settled = useDebounced(paper === null ? null : JSON.stringify(paper), DEBOUNCE_MS);
  const shown = settled === null ? null : (JSON.parse(settled) as Paper);
  return (
    <Beside
      name="Document beside"
      title={paper === null ? label : `Document ${paper.number}`}
      width="w-[34%] max-w-[620px] min-w-[360px]"
      onClose={onClose}
      more={
        paper !== null && (
          <button type="button" onClick={onOpen} className="cursor-pointer hover:text-ink">
            Open
          </button>
        )
      }
    >
      {shown === null ? (
        <p className="border border-rule bg-sheet p-4 text-soft">
          This row names no document; move to a line that does.
        </p>
      ) : (
        <Shown key={`${shown.entity}/${shown.number}`} paper={shown} />
      )}
    </Beside>
  );
}

function Shown({ paper }: { paper: Paper }) {
  const { data, error } = useAnswer('GET /documents/{id}', new URLSearchParams({ entity: paper.entity }), {
    id: paper.number,
  });
  const [at, setAt] = useState(0);
  if (error)
    return (
      <p className="border border-rule bg-sheet p-4 text-soft">
        {error instanceof ProblemAnswer && error.status === 404
          ? `The line names ${paper.number}; nothing of it was delivered.`
          : error.message}
      </p>
    );
  // What was there before is of another document.
  if (!data || data.number !== paper.number) return <p className="p-4 text-soft">Looking for it …</p>;
  const file = data.attachments[at] ?? data.attachments[0];
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <p className="pb-2 text-[12.5px] text-soft">
        {[data.type, data.state].filter(Boolean).join(', ')}, {dateText(data.date)}
        {data.counterpartyName && `, ${data.counterpartyName}`},{' '}
        <span className="text-ink">
          {amountText(data.amount)} {data.currency}
        </span>
        {/[1-9]/.test(data.open) &&
          !data.settling &&
          `, ${amountText(data.open)} ${data.promising ? 'not billed' : 'open'}`}
        {data.events.slice(1, 1 + EVENTS_SHOWN).map((event) => (
          <span key={`${event.document}/${event.date}/${event.open}`} className="block">
            {event.changes ? 'changed by' : data.promising ? 'billed by' : 'settled by'}{' '}
            <Link
              href={documentPath(data.entity, event.document)}
              className="underline decoration-rule underline-offset-4 hover:decoration-ink"
            >
              {event.document}
            </Link>{' '}
            on {dateText(event.date)}, {amountText(event.changes ? otherSign(event.applied) : event.applied)}
          </span>
        ))}
        {data.events.length - 1 > EVENTS_SHOWN && (
          <span className="block">and {countText(data.events.length - 1 - EVENTS_SHOWN)} more</span>
        )}
      </p>
      {data.attachments.length > 1 && (
        <p className="flex flex-wrap gap-x-3 pb-1 text-[12.5px]">
          {data.attachments.map((one, i) => (
            <button
              key={one.digest}
              type="button"
              aria-pressed={one === file}
              onClick={() => setAt(i)}
              className={`cursor-pointer ${one === file ? 'font-semibold' : 'text-soft hover:text-ink'}`}
            >
              {one.name}
            </button>
          ))}
        </p>
      )}
      {file ? (
        <PaperShown
          key={file.digest}
          file={file}
          sought={{ amounts: paper.amounts, numbers: [paper.number] }}
          height="min-h-0 flex-1"
        />
      ) : (
        <p className="border border-rule bg-sheet p-4 text-soft">No scan or file is attached to it.</p>
      )}
      {file && file.alsoOn.length > 0 && (
        <p className="pt-1 text-warn">! The very same file is attached to {file.alsoOn.join(', ')}</p>
      )}
    </div>
  );
}
