'use client';

import { type ReactNode, useState } from 'react';
import type { SentencePart } from '@/contracts/answers/head';
import type { SplitPhrase } from '@/core/typedClause';
import { partHint } from '../help/hints';
import { later } from '../parts/later';
import type { ScopeChange } from './clauseProps';
import { SentencePopover } from './SentencePopover';
// Whoever opens it goes on typing at once: it is there from the beginning.
import { TypedClause } from './TypedClause';

const PartEditor = later(() => import('./PartEditor').then((m) => m.PartEditor));

interface Props {
  parts: SentencePart[];
  scope: URLSearchParams;
  onChange(put: ScopeChange): void;
  stale: boolean;
  /** Whether a clause is being added; absent where the page takes no further ones. */
  adding?: boolean;
  onAdding?(adding: boolean): void;
  /** Splits the sheet; absent where it cannot be. */
  onSplit?(split: SplitPhrase): void;
  /** What is after the sentence. */
  kept?: ReactNode;
  /** It is no heading of the page, but a field of a form. */
  inForm?: boolean;
}

/** The scope as prose; every underlined part is a control, every clause can be taken away. */
export function ScopeSentence({ parts, scope, onChange, stale, adding, onAdding, onSplit, kept, inForm }: Props) {
  const Sentence = inForm ? 'p' : 'h1';
  const [open, setOpen] = useState<string | null>(null);
  const apply = (put: ScopeChange): void => {
    setOpen(null);
    onAdding?.(false);
    onChange(put);
  };
  return (
    <Sentence
      className={`${inForm ? 'mb-2' : 'min-h-[54px] px-[26px] pt-4 pb-2'} font-book text-[19px] leading-[27px] font-normal text-soft`}
      data-testid={inForm ? undefined : 'scope'}
    >
      {parts.map((part, i) => {
        const { control } = part;
        // biome-ignore lint/suspicious/noArrayIndexKey: the parts of one sentence are told apart by their place
        if (!control) return <span key={i}>{part.text}</span>;
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: see above
          <span key={i} className={part.removable || part.granted ? 'rounded-[2px] bg-chosen px-1' : undefined}>
            <SentencePopover
              open={open === control}
              onOpen={(to) => setOpen(to ? control : null)}
              trigger={part.text}
              hint={partHint(control)}
              className={`text-left text-ink ${part.removable || part.granted ? '' : 'underline decoration-faint decoration-1 underline-offset-[5px] hover:decoration-ink'}`}
            >
              <PartEditor control={control} scope={scope} onApply={apply} />
            </SentencePopover>
            {part.granted && <span className="text-soft"> (all that you may see)</span>}
            {part.removable && (
              <button
                type="button"
                aria-label={`Remove: ${part.text}`}
                title="Takes this clause away"
                // Sets count on a basis alone, and go with it.
                onClick={() => apply({ [control]: [], ...(control === 'basis' ? { set: [] } : {}) })}
                className="ml-1 cursor-pointer text-faint hover:text-ink"
              >
                ×
              </button>
            )}
          </span>
        );
      })}{' '}
      {onAdding && (
        <AddClause
          open={adding ?? false}
          onOpen={onAdding}
          scope={scope}
          onApply={apply}
          {...(onSplit
            ? {
                onSplit: (split: SplitPhrase) => {
                  onAdding(false);
                  onSplit(split);
                },
              }
            : {})}
        />
      )}
      {kept}
      {stale && <span className="ml-3 font-sans text-[12.5px] text-faint">updating …</span>}
    </Sentence>
  );
}

interface Adding {
  open: boolean;
  onOpen(open: boolean): void;
  scope: URLSearchParams;
  onApply(put: ScopeChange): void;
  onSplit?(split: SplitPhrase): void;
}

function AddClause({ open, onOpen, scope, onApply, onSplit }: Adding) {
  const [chosen, setChosen] = useState<string | null>(null);
  return (
    <SentencePopover
      open={open}
      onOpen={(to) => {
        setChosen(null);
        onOpen(to);
      }}
      trigger="/"
      label="Add a clause"
      hint="Adds a clause, or splits the sheet, by what you type ( / )"
      className="key align-middle font-sans hover:text-ink"
    >
      {chosen === null ? (
        <TypedClause scope={scope} onApply={onApply} onChoose={setChosen} {...(onSplit ? { onSplit } : {})} />
      ) : (
        <PartEditor
          control={chosen}
          scope={scope}
          onApply={(put) => {
            // The next one begins with what it is to be about.
            setChosen(null);
            onApply(put);
          }}
        />
      )}
    </SentencePopover>
  );
}
