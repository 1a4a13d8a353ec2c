'use client';

import { type KeyboardEvent, useEffect, useMemo, useState } from 'react';
import { isGuess, type Reading, type SplitPhrase, understood } from '@/core/typedClause';
import { plainAmount } from '@/core/writtenAmounts';
import { splitChoices } from '../address/splitNames';
import { decimalMark } from '../amounts';
import { useAnswer, useEntities } from '../query/hooks';
import type { ScopeChange } from './clauseProps';
import { clauseChoices, SAYABLE } from './clauses';
import { useCountOfClause } from './useCountOfClause';
import { timeOf, useTypedAbout } from './useTypedAbout';

/** A clause by typing: an account, a member, an amount, a clause by its name, words of a description; or a split of the sheet. */
export function TypedClause({
  scope,
  onApply,
  onChoose,
  onSplit,
}: {
  scope: URLSearchParams;
  onApply(put: ScopeChange): void;
  /** One that has an editor of its own. */
  onChoose(name: string): void;
  onSplit?(split: SplitPhrase): void;
}) {
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
