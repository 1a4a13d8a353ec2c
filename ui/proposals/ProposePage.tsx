'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import type { Entities } from '@/contracts/answers/charts';
import type { Proposed } from '@/contracts/answers/proposals';
import { FIRST_SET } from '@/core/figure';
import { PROPOSED_KINDS, type ProposedKind } from '@/core/proposedEntry';
import { decimalMark } from '../amounts';
import { PastedFigure } from '../expectations/PastedFigure';
import { Labelled, Place, PROPOSAL_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { type CarriedDraft, carriedDraft, dropDraft } from './carriedDraft';
import { EntryForm, type Filled } from './EntryForm';
import { momentOf, rowsOf, sentEntry } from './entryRows';
import { KIND_SAYS, KIND_WORD, TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();

/** An entry that is proposed freely, from a sheet on which an error was seen, or from a template. */
export function ProposePage({ template }: { template?: number | undefined }) {
  // What was carried here is known to the browser alone.
  const [carried, setCarried] = useState<CarriedDraft | null | undefined>(undefined);
  useEffect(() => setCarried(carriedDraft()), []);
  const { data } = useEntities();
  if (carried === undefined || !data)
    return (
      <Place title="Propose an entry" tabs={PROPOSAL_TABS} here="/proposals/new">
        {null}
      </Place>
    );
  return (
    <NewEntry
      key={carried ? carried.draft.date + carried.label : 'free'}
      carried={carried}
      entities={data.entities}
      today={data.entities.find((e) => e.code === carried?.draft.entity)?.reach?.lastDay ?? data.today}
      template={template}
    />
  );
}

function NewEntry({
  carried,
  entities,
  today,
  template,
}: {
  carried: CarriedDraft | null;
  entities: Entities['entities'];
  today: string;
  template: number | undefined;
}) {
  const router = useRouter();
  const spec = entities.find((e) => e.code === carried?.draft.entity)?.calendar;
  const moment = momentOf(carried?.draft ?? { date: '', period: '' }, spec);
  const [said, setSaid] = useState({
    kind: (carried?.kind ?? 'factual') as ProposedKind,
    ...{ title: carried?.title ?? '', reason: '', set: FIRST_SET as string, taxPercent: '' },
  });
  // What it goes back to: lines that it puts right, and figures that are pasted.
  const [links, setLinks] = useState((carried?.links ?? []).map((subject) => ({ subject, label: wordOf(subject) })));
  const propose = useChange(
    (filled: Filled) =>
      ask('POST /proposed-entries', {
        body: {
          ...said,
          entity: filled.entity,
          ...sentEntry(filled, decimalMark()),
          links: links.map((l) => l.subject),
          ...(carried?.subject ? { subject: carried.subject } : {}),
          ...{ address: carried?.back ?? '', label: carried?.label ?? '', thread: carried?.thread ?? null },
        },
      }),
    TOUCHES,
  );
  const keep = async (filled: Filled): Promise<void> => {
    const made = await propose.mutateAsync(filled).catch(() => null);
    if (!made) return;
    dropDraft();
    toast(`${made.number} is proposed`, {
      action: { label: 'Open', onClick: () => router.push(`/proposals/${made.id}`) },
    });
    router.push(carried?.back || `/proposals/${made.id}`);
  };
  return (
    <Place title="Propose an entry" tabs={PROPOSAL_TABS} here="/proposals/new">
      {carried && (
        <p className="-mt-2 mb-3 text-soft">
          From {carried.label}.{' '}
          <button
            type="button"
            className="link"
            onClick={() => {
              dropDraft();
              router.push(carried.back);
            }}
          >
            Back without proposing
          </button>
        </p>
      )}
      <EntryForm
        entities={entities}
        first={{
          entity: carried?.draft.entity || (entities[0]?.code ?? ''),
          ...(carried?.draft.date ? moment : { date: today, period: '' }),
          turnsAround: '',
          rows: carried ? rowsOf(carried.draft.lines, moment, spec) : [],
        }}
        fixedEntity={carried !== null && carried.draft.entity !== ''}
        template={template}
        taxPercent={said.taxPercent}
        pending={propose.isPending}
        error={propose.error}
        action="Propose it"
        ready={said.reason.trim() !== ''}
        onKeep={(filled) => void keep(filled)}
        onTemplate={(words) => setSaid((s) => ({ ...s, ...words }))}
      >
        <Words said={said} onSaid={(more) => setSaid((s) => ({ ...s, ...more }))} />
        <Links links={links} onLinks={setLinks} />
      </EntryForm>
    </Place>
  );
}

const wordOf = (subject: string): string =>
  subject.startsWith('figure:') ? 'a figure' : subject.replace(/^[a-z]+:/, '').replace('/', ' ');

interface LinkTo {
  subject: string;
  label: string;
}

/** What the entry goes back to; a figure is added by pasting it. */
function Links({ links, onLinks }: { links: LinkTo[]; onLinks(links: LinkTo[]): void }) {
  const [times, setTimes] = useState(0);
  return (
    <div className="mt-3 grid max-w-[900px] grid-cols-[250px_minmax(0,1fr)] items-end gap-x-6">
      <PastedFigure
        key={times}
        label="It goes back to a figure, too"
        held={null}
        onFigure={(figure) => {
          onLinks([...links, { subject: figure.subject, label: figure.label }]);
          setTimes(times + 1);
        }}
      />
      <ul className="flex flex-wrap gap-x-4 gap-y-1 pb-1 text-[13px] text-soft" aria-label="What it goes back to">
        {links.slice(0, LINKS_SHOWN).map((l) => (
          <li key={l.subject}>
            {l.label}{' '}
            <button
              type="button"
              aria-label={`Take ${l.label} away`}
              className="cursor-pointer px-1 text-faint hover:text-ink"
              onClick={() => onLinks(links.filter((one) => one !== l))}
            >
              ×
            </button>
          </li>
        ))}
        {links.length > LINKS_SHOWN && <li>and {links.length - LINKS_SHOWN} more</li>}
      </ul>
    </div>
  );
}
const LINKS_SHOWN = 8;

interface Said {
  kind: ProposedKind;
  title: string;
  reason: string;
  set: string;
  taxPercent: string;
}

/** Why it is proposed, as what, and in which set. */
function Words({ said, onSaid }: { said: Said; onSaid(more: Partial<Said>): void }) {
  const { data } = useAnswer('GET /proposed-sets', NO_PARAMS);
  const sets = data?.rows ?? [];
  return (
    <div className="mt-4 grid max-w-[900px] grid-cols-[250px_minmax(0,1fr)] gap-x-6 gap-y-3">
      <Labelled label="Kind (ISA 450)" wide>
        <Select
          value={said.kind}
          className="w-full"
          onChange={(event) => onSaid({ kind: event.target.value as ProposedKind })}
        >
          {PROPOSED_KINDS.map((kind) => (
            <option key={kind} value={kind}>
              {KIND_WORD[kind]}
            </option>
          ))}
        </Select>
        <span className="mt-1 block text-[12.5px] text-soft">{KIND_SAYS[said.kind]}</span>
      </Labelled>
      <Labelled label="Why it should be booked" wide>
        <textarea
          required
          rows={2}
          maxLength={4_000}
          value={said.reason}
          onChange={(event) => onSaid({ reason: event.target.value })}
          className="field h-auto w-full py-1"
        />
      </Labelled>
      <div className="flex gap-3">
        <Labelled label="In the set" wide>
          <Select value={said.set} className="w-full" onChange={(event) => onSaid({ set: event.target.value })}>
            {sets.map((s) => (
              <option key={s.name} value={s.name}>
                {s.name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Tax, %">
          <input
            className="field w-[72px] text-right"
            inputMode="decimal"
            value={said.taxPercent}
            onChange={(event) => onSaid({ taxPercent: event.target.value.trim() })}
          />
        </Labelled>
      </div>
      <Labelled label="In a few words" wide>
        <input
          className="field w-full"
          maxLength={200}
          placeholder="what lists and ledgers call it"
          value={said.title}
          onChange={(event) => onSaid({ title: event.target.value })}
        />
      </Labelled>
    </div>
  );
}

/** What an entry that was proposed says, changed on the same sheet. */
export function ChangeEntry({ held, onDone }: { held: Proposed; onDone(): void }) {
  const { data } = useEntities();
  const [said, setSaid] = useState<Said>({
    ...{ kind: held.kind, title: held.title, reason: held.reason, set: held.set, taxPercent: held.taxPercent },
  });
  const change = useChange(
    (filled: Filled) =>
      ask('PUT /proposed-entries/{id}', {
        path: { id: held.id },
        body: {
          ...said,
          ...sentEntry(filled, decimalMark()),
        },
      }),
    TOUCHES,
  );
  if (!data) return null;
  const spec = data.entities.find((e) => e.code === held.entity)?.calendar;
  const moment = momentOf(held.lines[0] ?? { date: held.date, period: '' }, spec);
  return (
    <EntryForm
      entities={[{ code: held.entity, name: held.entityName }]}
      first={{
        ...{ entity: held.entity, turnsAround: '', ...moment },
        rows: rowsOf(held.lines, moment, spec),
      }}
      fixedEntity
      taxPercent={said.taxPercent}
      pending={change.isPending}
      error={change.error}
      action="Keep"
      ready={said.reason.trim() !== ''}
      onKeep={(filled) =>
        void change
          .mutateAsync(filled)
          .then(onDone)
          .catch(() => null)
      }
      onCancel={onDone}
    >
      <Words said={said} onSaid={(more) => setSaid((s) => ({ ...s, ...more }))} />
    </EntryForm>
  );
}
