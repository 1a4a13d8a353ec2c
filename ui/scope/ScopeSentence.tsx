'use client';

import { type KeyboardEvent, type ReactNode, useEffect, useMemo, useState } from 'react';
import type { SentencePart } from '@/contracts/answers/head';
import { isGuess, type Reading, type SplitPhrase, understood } from '@/core/typedClause';
import { plainAmount } from '@/core/writtenAmounts';
import { splitChoices } from '../address/splitNames';
import { decimalMark } from '../amounts';
import { partHint } from '../help/hints';
import { useAnswer, useEntities } from '../query/hooks';
import { AccountingEditor } from './AccountingEditor';
import { ClauseEditor } from './ClauseEditor';
import type { ScopeChange } from './clauseProps';
import { clauseChoices, SAYABLE } from './clauses';
import { CurrencyEditor, EntityEditor, StatusEditor, WindowEditor } from './editors';
import { SentencePopover } from './SentencePopover';
import { useCountOfClause } from './useCountOfClause';
import { timeOf, useTypedAbout } from './useTypedAbout';

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
              <Editor control={control} scope={scope} onApply={apply} />
            </SentencePopover>
            {part.granted && <span className="text-soft"> (all that you may see)</span>}
            {part.removable && (
              <button
                type="button"
                aria-label={`Remove: ${part.text}`}
                title="Takes this clause away"
                onClick={() => apply({ [control]: [] })}
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

function Editor({
  control,
  scope,
  onApply,
}: {
  control: string;
  scope: URLSearchParams;
  onApply(put: ScopeChange): void;
}) {
  switch (control) {
    case 'entity':
      return <EntityEditor scope={scope} onApply={onApply} />;
    case 'window':
      return <WindowEditor scope={scope} onApply={onApply} />;
    case 'status':
      return (
        <>
          <StatusEditor
            title="Which lines count"
            choices={[
              ['posted', 'Posted lines'],
              ['all', 'Posted and unposted lines'],
              ['unposted', 'Unposted lines only'],
            ]}
            value={scope.get('status') ?? 'posted'}
            onApply={(value) => onApply({ status: [value] })}
          />
          <AccountingEditor scope={scope} onApply={onApply} />
        </>
      );
    case 'in':
      return <CurrencyEditor scope={scope} onApply={onApply} />;
    case 'adjustments':
      return (
        <StatusEditor
          title="Adjustment periods of the years touched"
          choices={[
            ['with', 'With adjustment periods'],
            ['without', 'Without adjustment periods'],
          ]}
          value={scope.get('adjustments') ?? 'with'}
          onApply={(value) => onApply({ adjustments: [value] })}
        />
      );
    default:
      return <ClauseEditor name={control} scope={scope} onApply={onApply} />;
  }
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
        <ClauseEditor
          name={chosen}
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

/** A clause by typing: an account, a member, an amount, a clause by its name, words of a description; or a split of the sheet. */
function TypedClause({
  scope,
  onApply,
  onChoose,
  onSplit,
}: Omit<Adding, 'open' | 'onOpen'> & { onChoose(name: string): void }) {
  const { data } = useEntities();
  const [words, setWords] = useState('');
  const [at, setAt] = useState(0);
  const everything = useMemo(
    () => new URLSearchParams([['zero', 'show'], ...scope.getAll('entity').map((e) => ['entity', e])]),
    [scope],
  );
  const chart = useAnswer('GET /trial-balance', everything);
  const plain = (text: string): string => plainAmount(text, decimalMark());
  const splits = onSplit ? splitChoices(data?.dimensions) : [];
  const { chart: selectable, parties, captions } = useTypedAbout(scope, words);
  const time = useMemo(() => timeOf(data, scope), [data, scope]);
  const readings = understood(words, {
    clauses: clauseChoices(data),
    dimensions: data?.dimensions ?? [],
    accounts: chart.data?.rows ?? [],
    chart: selectable,
    parties,
    captions,
    companies: data?.entities ?? [],
    time,
    plain,
    splits,
    sayable: SAYABLE,
  });
  const [wanted, setWanted] = useState<string | null>(null);
  const current = readings[at];
  // What is typed as a value may be none; accounts and members are there.
  const [name, values] = Object.entries((isGuess(current) && current?.put) || {})[0] ?? ['text', []];
  const counted = useCountOfClause(name, values, scope);
  const take = (reading: Reading | undefined): void => {
    if (reading?.split) onSplit?.(reading.split);
    else if (reading?.put) onApply(reading.put);
    else if (reading?.opens) onChoose(reading.opens);
  };
  const asked = wanted !== null && wanted === current?.key;
  useEffect(() => {
    if (!asked || !counted.isKnown) return;
    if (!counted.isNone) return take(current);
    // A number that no entry has may be that of a document, or stand in a description.
    const next = current?.orNext ? readings[at + 1] : undefined;
    if (!next) return;
    setAt(at + 1);
    setWanted(next.key);
  });
  const choose = (reading: Reading | undefined): void => {
    // A second Enter asks for it all the same.
    if (reading && isGuess(reading) && !(asked && counted.isKnown && reading === current)) {
      setAt(readings.indexOf(reading));
      setWanted(reading.key);
    } else take(reading);
  };
  const onKey = (event: KeyboardEvent): void => {
    const act: Record<string, () => void> = {
      ArrowDown: () => setAt(Math.min(readings.length - 1, at + 1)),
      ArrowUp: () => setAt(Math.max(0, at - 1)),
      Enter: () => choose(readings[at]),
    };
    if (!act[event.key]) return;
    event.preventDefault();
    act[event.key]?.();
  };
  return (
    <>
      <label className="mb-1 block text-soft" htmlFor="clause-words">
        Only …
      </label>
      <input
        id="clause-words"
        role="combobox"
        aria-expanded
        aria-controls="clause-readings"
        aria-activedescendant={`reading-${at}`}
        autoFocus
        autoComplete="off"
        value={words}
        onChange={(event) => {
          setWords(event.target.value);
          setAt(0);
          setWanted(null);
        }}
        onKeyDown={onKey}
        placeholder="An account, 6300 to 6399, July, over 5000, by vessel …"
        className="field mb-2 w-full"
      />
      <p className="mb-1 min-h-[18px] text-[12.5px]" aria-live="polite">
        {asked && counted.isNone ? (
          <span className="text-warn">No line of this window has that. Enter once more asks for it all the same.</span>
        ) : (
          <span className="text-soft">{counted.fault ?? counted.said}</span>
        )}
      </p>
      <div role="listbox" id="clause-readings" aria-label="What it can mean">
        {readings.map((reading, i) => (
          // biome-ignore lint/a11y/useFocusableInteractive: the field above keeps the focus and names the option
          // biome-ignore lint/a11y/useKeyWithClickEvents: see above
          <div
            key={reading.key}
            id={`reading-${i}`}
            role="option"
            aria-selected={i === at}
            onClick={() => choose(reading)}
            className={`cursor-pointer px-2 py-1 hover:bg-chosen ${i === at ? 'bg-chosen' : ''}`}
          >
            <span className="text-faint">{reading.kind}</span> {reading.name}
          </div>
        ))}
      </div>
    </>
  );
}
