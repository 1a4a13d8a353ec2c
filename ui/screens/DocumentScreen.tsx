'use client';

import { useEffect, useRef } from 'react';
import { backTo, changed, scopeAt } from '../address/address';
import { DocumentShown } from '../documents/DocumentPage';
import { Failure } from '../parts/Place';
import { useAnswer } from '../query/hooks';
import { ScopeSentence } from '../scope/ScopeSentence';
import type { Column } from '../sheet/gridModel';
import { StatusLine } from '../sheet/StatusLine';
import { Strips } from '../sheet/Strips';
import { useKeys } from '../shell/keys';
import type { ScreenProps } from './SheetFrame';

const COLUMNS: Column[] = [
  { key: 'document', label: 'Document', width: 'minmax(0, 1fr)' },
  { key: 'amount', label: 'Amount', width: '150px', amount: true },
];

/** A document as a step of the thread: the strips above it are the way back. */
export function DocumentScreen({ screen, number, go }: ScreenProps & { number: string }) {
  const depth = screen.steps.length;
  const scope = scopeAt(screen, depth);
  const entity = scope.get('entity');
  const { data, error, isPending } = useAnswer('GET /documents/{id}', new URLSearchParams(entity ? { entity } : {}), {
    id: number,
  });
  const sentence = useAnswer('GET /sentence', scope).data;
  const page = useRef<HTMLElement>(null);
  // The keyboard scrolls the page, and goes back up from it.
  useEffect(() => page.current?.focus(), []);
  useKeys({ Backspace: () => go(backTo(screen, depth - 1)) });
  return (
    <>
      <ScopeSentence
        parts={sentence?.parts ?? []}
        scope={scope}
        onChange={(put) => go(changed(screen, put))}
        stale={false}
      />
      <div className="px-[26px]">
        <Strips
          screen={screen}
          columns={COLUMNS}
          traced="amount"
          shows={undefined}
          compared={undefined}
          siblings={NO_SIBLINGS}
          onSibling={() => {}}
          wait={isPending}
        />
      </div>
      <main
        ref={page}
        tabIndex={-1}
        aria-label={`Document ${number}`}
        className="min-h-0 flex-1 overflow-auto px-[26px] pt-3 pb-6 outline-none"
      >
        <Failure error={error} />
        {data && <DocumentShown data={data} screen={screen} />}
      </main>
      <StatusLine
        title={`Document ${number}.`}
        text="Backspace goes back up to the sheet that it was opened from."
        right={null}
      />
    </>
  );
}

const NO_SIBLINGS = { before: null, after: null };
