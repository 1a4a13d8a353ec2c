'use client';

import { type FormEvent, useMemo, useState } from 'react';
import type { Entities, TrialBalance } from '../query/answers';
import { ask } from '../query/client';
import { useAnswer, useEntities } from '../query/hooks';
import { LoadEditor } from './LoadEditor';
import type { Put } from './put';

interface Props {
  name: string;
  scope: URLSearchParams;
  onApply(put: Put): void;
}

const TEXTS: Record<string, { label: string; hint: string }> = {
  accounts: { label: 'accounts', hint: 'Such as 4000 to 4999, 52*, type expense, group Vessel running, except 5210' },
  text: { label: 'words in a description', hint: 'Found in the line’s or the entry’s description, any case' },
  journal: { label: 'a journal', hint: 'The journal’s code; * stands for any run of characters' },
  counterparty: { label: 'a counterparty', hint: 'The counterparty’s code' },
  postedBy: { label: 'who posted', hint: 'The posting user’s id' },
  document: { label: 'a document number', hint: 'The whole number, as booked' },
  min: { label: 'a least amount', hint: 'Lines of this amount and over, debit or credit' },
  max: { label: 'a greatest amount', hint: 'Lines up to this amount, debit or credit' },
  kind: { label: 'a kind of line', hint: 'normal, opening, adjustment, closing or reversal' },
  period: { label: 'a period', hint: 'Written as 2027.04' },
  currency: { label: 'a transaction currency', hint: 'Such as NOK' },
  entry: { label: 'an entry', hint: 'Its number; * stands for any run of characters' },
  documentType: { label: 'a type of document', hint: 'As the ledger has it, such as invoice' },
  taxCode: { label: 'a tax code', hint: 'As the ledger has it; * stands for any run of characters' },
  unit: { label: 'a unit of quantity', hint: 'Such as l or h' },
  dueDate: { label: 'a due date', hint: 'Such as 2026-07-31; 2026-07-* for a month' },
  documentDate: { label: 'a document date', hint: 'Such as 2026-07-31; 2026-07-* for a month' },
  approvedBy: { label: 'who approved', hint: 'As the ledger has it' },
  enteredAt: { label: 'when it was entered', hint: 'Such as 2026-07-31; 2026-07* for a month' },
  opposite: { label: 'an account on the other side', hint: 'The account’s code' },
  week: { label: 'a week', hint: 'Written as 2026-W31' },
  load: { label: 'an earlier load', hint: 'Everything as it was as of that load’s number' },
};

/** Everything that can be added to a scope. */
export function clauseChoices(entities: Entities | undefined): { name: string; label: string }[] {
  return [
    { name: 'accounts', label: 'accounts' },
    ...(entities?.dimensions ?? []).map((d) => ({ name: `dim.${d.code}`, label: d.name.toLowerCase() })),
    ...[
      'text',
      'min',
      'max',
      'journal',
      'counterparty',
      'postedBy',
      'entry',
      'document',
      'documentType',
      'taxCode',
      'unit',
      'dueDate',
      'documentDate',
      'approvedBy',
      'enteredAt',
      'opposite',
      'kind',
      'currency',
      'load',
    ].map((name) => ({
      name,
      label: TEXTS[name]?.label ?? name,
    })),
  ];
}

/** One clause of the scope: typed, or picked from a dimension's tree. It is asked of the server before it is set. */
export function ClauseEditor({ name, scope, onApply }: Props) {
  if (name === 'accounts') return <AccountEditor name={name} scope={scope} onApply={onApply} />;
  if (name === 'load') return <LoadEditor scope={scope} onApply={onApply} />;
  return name.startsWith('dim.') ? <MemberEditor name={name} scope={scope} onApply={onApply} /> : <TextEditor name={name} scope={scope} onApply={onApply} />;
}

/** Asks the server whether a clause can be used before it is set; otherwise says why not. */
function useTrial({ name, scope, onApply }: Props) {
  const [fault, setFault] = useState<string | null>(null);
  const set = async (...values: string[]): Promise<void> => {
    const trial = new URLSearchParams(scope);
    trial.delete(name);
    for (const value of values) trial.append(name, value);
    try {
      await ask(`/totals?${trial}`);
      onApply({ [name]: values });
    } catch (problem) {
      setFault((problem as Error).message);
    }
  };
  return { fault, set };
}

function Hint({ fault, hint }: { fault: string | null; hint: string | undefined }) {
  return (
    <p id="clause-hint" className={`mt-1 text-[12.5px] ${fault ? 'text-warn' : 'text-faint'}`} role={fault ? 'alert' : undefined}>
      {fault ?? hint}
    </p>
  );
}

/** Clauses of one value, in which a comma is part of it. */
const ONE_VALUE = ['text', 'min', 'max', 'load'];

/** "GL, not AP, none" ⇄ the values of the parameter. */
const valuesWritten = (text: string): string[] =>
  text
    .split(',')
    .map((part) => part.trim())
    .filter(Boolean)
    .map((part) => part.replace(/^(?:not|all but)\s+/i, '~not:').replace(/(^|:)none$/i, '$1~none'));
const valuesShown = (values: readonly string[]): string => values.map((v) => v.replace(/^~not:/, 'not ').replace('~none', 'none')).join(', ');

function TextEditor(props: Props) {
  const { name, scope } = props;
  const { fault, set } = useTrial(props);
  const { label, hint } = TEXTS[name] ?? { label: name, hint: '' };
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const text = String(new FormData(event.currentTarget).get('value') ?? '').trim();
    void set(...(ONE_VALUE.includes(name) ? [text].filter(Boolean) : valuesWritten(text)));
  };
  return (
    <form onSubmit={submit}>
      <label className="mb-1 block text-soft" htmlFor="clause">
        Only {label}
      </label>
      <input
        id="clause"
        name="value"
        autoFocus
        autoComplete="off"
        defaultValue={valuesShown(scope.getAll(name))}
        className="field w-full"
        aria-describedby="clause-hint"
      />
      <Hint fault={fault} hint={ONE_VALUE.includes(name) ? hint : `${hint}. Several with commas; not X for all but X; none for those without`} />
      <button type="submit" className="button-main mt-3">
        Set
      </button>
    </form>
  );
}

/** Accounts written as a person says them, or ticked in the list; what is written can be found in the list as well. */
function AccountEditor(props: Props) {
  const { name, scope } = props;
  const { fault, set } = useTrial(props);
  const [text, setText] = useState(() => scope.get(name) ?? '');
  const everything = useMemo(() => {
    const asked = new URLSearchParams({ zero: 'show' });
    for (const entity of scope.getAll('entity')) asked.append('entity', entity);
    return asked;
  }, [scope]);
  const { data } = useAnswer<TrialBalance>('/trial-balance', everything);
  const written = text.split(',').map((part) => part.trim());
  const last = written[written.length - 1]?.toLowerCase() ?? '';
  const known = data?.rows ?? [];
  const isCode = known.some((a) => a.account === last);
  const listed = last === '' || isCode ? known : known.filter((a) => `${a.account} ${a.name}`.toLowerCase().includes(last));
  const toggle = (code: string, on: boolean): void => {
    const others = (isCode || last === '' || !listed.some((a) => a.account === code) ? written : written.slice(0, -1)).filter(
      (part) => part !== '' && part !== code,
    );
    setText([...others, ...(on ? [code] : [])].join(', '));
  };
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    void set(...[text.trim()].filter(Boolean));
  };
  return (
    <form onSubmit={submit}>
      <label className="mb-1 block text-soft" htmlFor="clause">
        Only accounts
      </label>
      <input
        id="clause"
        autoFocus
        autoComplete="off"
        value={text}
        onChange={(event) => setText(event.target.value)}
        className="field w-full"
        aria-describedby="clause-hint"
      />
      <Hint fault={fault} hint={TEXTS.accounts?.hint} />
      <div className="my-2 max-h-[220px] overflow-auto border-y border-hair py-1">
        {listed.map((a) => (
          <label key={a.account} className="flex items-center gap-2 py-[2px]">
            <input type="checkbox" checked={written.includes(a.account)} onChange={(event) => toggle(a.account, event.target.checked)} />
            <span className="min-w-9 text-faint">{a.account}</span> {a.name}
          </label>
        ))}
      </div>
      <button type="submit" className="button-main">
        Set
      </button>
    </form>
  );
}

function MemberEditor({ name, scope, onApply }: Props) {
  const { data } = useEntities();
  const [words, setWords] = useState('');
  const [chosen, setChosen] = useState(() => scope.getAll(name));
  const dimension = data?.dimensions.find((d) => `dim.${d.code}` === name);
  if (!dimension) return null;
  const wanted = words.trim().toLowerCase();
  const rows = inTreeOrder(dimension.members).filter(({ code, name: label }) => `${code} ${label}`.toLowerCase().includes(wanted));
  const toggle = (code: string, on: boolean): void => setChosen(on ? [...chosen, code] : chosen.filter((c) => c !== code));
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onApply({ [name]: chosen });
      }}
    >
      <label className="mb-1 block text-soft" htmlFor="member">
        Only {dimension.name.toLowerCase()}; a parent stands for all beneath it
      </label>
      <input
        id="member"
        autoFocus
        autoComplete="off"
        value={words}
        onChange={(event) => setWords(event.target.value)}
        placeholder="Code or name"
        className="field w-full"
      />
      <div className="my-2 max-h-[260px] overflow-auto border-y border-hair py-1">
        {rows.map(({ code, name: label, depth }) => (
          <label key={code} className="flex items-center gap-2 py-[2px]" style={{ paddingLeft: wanted ? 0 : depth * 16 }}>
            <input type="checkbox" checked={chosen.includes(code)} onChange={(event) => toggle(code, event.target.checked)} />
            {label} <span className="text-faint">{code}</span>
          </label>
        ))}
        {wanted === '' && (
          <label className="flex items-center gap-2 py-[2px] text-soft">
            <input type="checkbox" checked={chosen.includes('~none')} onChange={(event) => toggle('~none', event.target.checked)} />
            (no {dimension.name.toLowerCase()})
          </label>
        )}
        {rows.length === 0 && wanted !== '' && <p className="text-soft">Nothing is called that.</p>}
      </div>
      <button type="submit" className="button-main">
        Set
      </button>
    </form>
  );
}

function inTreeOrder(members: { code: string; name: string; parent: string | null }[]) {
  const found: { code: string; name: string; depth: number }[] = [];
  const walk = (parent: string | null, depth: number): void => {
    for (const m of members) {
      if (m.parent !== parent) continue;
      found.push({ code: m.code, name: m.name, depth });
      walk(m.code, depth + 1);
    }
  };
  walk(null, 0);
  return found;
}
