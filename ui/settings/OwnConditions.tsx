'use client';

import { type FormEvent, useMemo, useState } from 'react';
import type { z } from 'zod';
import type { markRulesSchema } from '@/contracts/bodies/all';
import { plainAmount } from '@/core/writtenAmounts';
import { changedScope } from '../address/address';
import { amountText, decimalMark } from '../amounts';
import { Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { useAnswer, useEntities } from '../query/hooks';
import { ScopeSentence } from '../scope/ScopeSentence';

type Condition = z.infer<typeof markRulesSchema>['own'][number];

/** What a condition is not about: whose books, when, and which lines count. */
const FRAME = ['entity', 'window', 'from', 'to', 'period', 'status', 'adjustments', 'in', 'load'];

/** Conditions of one's own, with the form to add one; kept with the other rules. */
export function OwnConditions({
  own,
  disabled,
  onChange,
}: {
  own: readonly Condition[];
  disabled: boolean;
  onChange(own: Condition[]): void;
}) {
  const [adding, setAdding] = useState<Condition['on'] | null>(null);
  return (
    <section className="mt-6">
      <h2 className="mb-1 font-book text-[18px] font-semibold">Conditions of your own</h2>
      {own.length === 0 && (
        <p className="text-soft">None yet. A line or an account that meets one is marked like the others.</p>
      )}
      <ul className={own.length > 0 ? 'border-t border-rule' : ''}>
        {own.map((condition, at) => (
          <li key={`${condition.on}/${condition.name}`} className="flex items-baseline gap-3 border-b border-hair py-2">
            <span className="min-w-0 flex-1">
              <strong className="font-semibold">{condition.name}</strong>{' '}
              <span className="text-soft">
                {condition.on === 'lines' ? <Lines query={condition.query} /> : accountsText(condition)}
              </span>
            </span>
            {!disabled && (
              <button type="button" className="link" onClick={() => onChange(own.filter((_, i) => i !== at))}>
                remove
              </button>
            )}
          </li>
        ))}
      </ul>
      {!disabled && adding === null && (
        <p className="mt-2 flex gap-4">
          <button type="button" className="link" onClick={() => setAdding('lines')}>
            Mark lines that …
          </button>
          <button type="button" className="link" onClick={() => setAdding('accounts')}>
            Mark accounts whose balance …
          </button>
        </p>
      )}
      {adding === 'lines' && (
        <AddLines onAdd={(condition) => onChange([...own, condition])} onDone={() => setAdding(null)} />
      )}
      {adding === 'accounts' && (
        <AddAccounts onAdd={(condition) => onChange([...own, condition])} onDone={() => setAdding(null)} />
      )}
    </section>
  );
}

function accountsText({ accounts, measure, least, most }: Extract<Condition, { on: 'accounts' }>): string {
  const limits = [least && `at least ${amountText(least)}`, most && `at most ${amountText(most)}`].filter(Boolean);
  return `accounts ${accounts} with a ${measure === 'closing' ? 'closing balance' : 'movement'} of ${limits.join(' and ')}`;
}

/** The clauses of a condition in the words of the scope. */
function Lines({ query }: { query: string }) {
  const { data: entities } = useEntities();
  const first = entities?.entities[0]?.code;
  const asked = useMemo(() => {
    const scope = new URLSearchParams(query);
    if (first) scope.set('entity', first);
    return first ? scope : null;
  }, [query, first]);
  const { data, error } = useAnswer('GET /sentence', asked);
  if (error) return <span className="text-warn">{error.message}</span>;
  const said = data?.parts.filter((p) => p.removable && p.control !== 'load').map((p) => p.text) ?? [];
  return <>lines with {said.join(' and ')}</>;
}

interface Adding {
  onAdd(condition: Condition): void;
  onDone(): void;
}

/** Lines are said as everywhere: in a scope sentence, of which the clauses are kept. */
function AddLines({ onAdd, onDone }: Adding) {
  const { data: entities } = useEntities();
  const first = entities?.entities[0]?.code ?? '';
  const [clauses, setClauses] = useState('');
  const [adding, setAdding] = useState(false);
  const scope = useMemo(() => {
    const all = new URLSearchParams(clauses);
    if (!all.has('entity') && first) all.set('entity', first);
    return all;
  }, [clauses, first]);
  const { data, error } = useAnswer('GET /sentence', first ? scope : null);
  const query = new URLSearchParams([...scope].filter(([name]) => !FRAME.includes(name))).toString();
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    onAdd({ on: 'lines', name: String(new FormData(event.currentTarget).get('name') ?? '').trim(), query });
    onDone();
  };
  return (
    <form onSubmit={submit} className="mt-2 border border-rule bg-sheet p-3">
      <ScopeSentence
        parts={data?.parts ?? []}
        scope={scope}
        onChange={(put) => {
          const next = new URLSearchParams(scope);
          changedScope(next, put);
          setClauses(next.toString());
        }}
        stale={false}
        adding={adding}
        onAdding={setAdding}
        inForm
      />
      <p className="mb-2 text-[12.5px] text-soft">
        / adds what the lines must have. Whose books and when do not count: the condition holds everywhere.
      </p>
      {error && <p className="text-warn">{error.message}</p>}
      <Buttons disabled={query === ''} onDone={onDone} />
    </form>
  );
}

function AddAccounts({ onAdd, onDone }: Adding) {
  const [measure, setMeasure] = useState<'closing' | 'movement'>('closing');
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    const amount = (name: string): string | null => (text(name) ? plainAmount(text(name), decimalMark()) : null);
    onAdd({
      ...{ on: 'accounts', name: text('name'), accounts: text('accounts'), measure },
      ...{ least: amount('least'), most: amount('most') },
    });
    onDone();
  };
  return (
    <form onSubmit={submit} className="mt-2 border border-rule bg-sheet p-3">
      <div className="mb-2 flex flex-wrap items-end gap-3">
        <Labelled label="Accounts">
          <input name="accounts" required placeholder="15*, type liability" className="field w-[200px]" />
        </Labelled>
        <Labelled label="Whose">
          <Select value={measure} onChange={(event) => setMeasure(event.target.value as 'closing' | 'movement')}>
            <option value="closing">closing balance</option>
            <option value="movement">movement</option>
          </Select>
        </Labelled>
        <Labelled label="Is at least">
          <input name="least" placeholder="credit is negative" className="field w-[150px] text-right" />
        </Labelled>
        <Labelled label="Or at most">
          <input name="most" className="field w-[150px] text-right" />
        </Labelled>
      </div>
      <Buttons disabled={false} onDone={onDone} />
    </form>
  );
}

const Buttons = ({ disabled, onDone }: { disabled: boolean; onDone(): void }) => (
  <div className="flex items-end gap-3">
    <Labelled label="What it means">
      <input name="name" required maxLength={80} placeholder="large and posted by hand" className="field w-[260px]" />
    </Labelled>
    <button type="submit" className="button" disabled={disabled}>
      Add
    </button>
    <button type="button" className="button" onClick={onDone}>
      Cancel
    </button>
  </div>
);
