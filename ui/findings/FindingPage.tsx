'use client';

import Link from 'next/link';
import { type FormEvent, useRef, useState } from 'react';
import type { Finding } from '@/contracts/answers/evidence';
import { placeOfSubject } from '@/contracts/places';
import type { RichText } from '@/contracts/richText';
import { writtenSubject } from '@/contracts/subject';
import { FINDING_KINDS, FINDING_STATES, FINDING_WORDS, type FindingWord } from '@/contracts/work';
import { dateText } from '@/core/sentence';
import { amountText, countText, momentText } from '../amounts';
import { Prose } from '../evidence/Prose';
import { SaidOn } from '../evidence/SaidOn';
import { useColleagues } from '../evidence/useEvidence';
import { Written } from '../evidence/Written';
import { KeepOrCancel } from '../parts/KeepOrCancel';
import { Failure, Labelled, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { entityOf } from '../proposals/entityOf';
import { ProposeLink } from '../proposals/ProposeLink';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';

const NO_PARAMS = new URLSearchParams();

/** One finding: what was found on what, its amount, cause and effect, and what was said and attached since. */
export function FindingPage({ id }: { id: number }) {
  const { data, error } = useAnswer('GET /findings/{id}', NO_PARAMS, { id });
  const me = useMe();
  const [changing, setChanging] = useState(false);
  if (!data)
    return (
      <Place title="Finding" tabs={BACK} here="">
        <Failure error={error} />
      </Place>
    );
  return (
    <Place title={data.title} tabs={BACK} here="">
      <p className="-mt-2 mb-3 flex flex-wrap items-baseline gap-x-3 text-soft">
        <span>
          {data.kind}, {data.state}, by {data.by}, {momentText(data.at)}
          {data.owner && ` · owner ${data.owner.name}`}
          {data.due && ` · due ${dateText(data.due)}`}
        </span>
        {me.role !== 'reader' && !changing && (
          <button type="button" className="link" onClick={() => setChanging(true)}>
            Change
          </button>
        )}
        <ProposeLink
          subject={data.subject}
          links={[writtenSubject('finding', data.id)]}
          label={data.title}
          entity={entityOf(data.subject)}
          kind="factual"
          back={`/findings/${data.id}`}
          thread={data.thread}
        />
        {data.thread && (
          <Link href={`/threads/${data.thread}`} className="link">
            its thread
          </Link>
        )}
      </p>
      <div className="grid grid-cols-[minmax(0,1fr)_320px] gap-x-8">
        {changing ? <ChangeForm finding={data} onDone={() => setChanging(false)} /> : <Words finding={data} />}
        <SaidOn subject={writtenSubject('finding', data.id)} label={data.title} address={`/findings/${data.id}`} />
      </div>
    </Place>
  );
}

const BACK = [{ href: '/findings', name: 'All findings' }];

function Words({ finding }: { finding: Finding }) {
  return (
    <dl className="grid max-w-[820px] grid-cols-[130px_minmax(0,1fr)] content-start gap-y-2">
      <dt className="text-soft">Amount</dt>
      <dd>
        {finding.amount ? (
          <Link
            href={placeOfSubject(finding.amount.subject)}
            className="font-semibold hover:underline"
            title={`Its lines, as of load ${finding.amount.load}`}
          >
            {finding.amount.currency} {amountText(finding.amount.value)}
          </Link>
        ) : (
          <span className="text-faint">none</span>
        )}
        {finding.amount && (
          <span className="ml-2 text-[12.5px] text-soft">
            {countText(finding.amount.lines)} {finding.amount.lines === 1 ? 'line' : 'lines'}, as of load{' '}
            {finding.amount.load}
          </span>
        )}
      </dd>
      {FINDING_WORDS.map((name) => (
        <div key={name} className="contents">
          <dt className="text-soft">{NAMES[name]}</dt>
          <dd>
            {finding[name] === '' ? (
              <span className="text-faint">nothing said</span>
            ) : (
              <Written body={finding[name]} content={finding.written[name] ?? null} />
            )}
          </dd>
        </div>
      ))}
      <dt className="text-soft">About</dt>
      <dd>
        <ul>
          {finding.subjects.map((subject, i) => (
            <li key={subject}>
              <Link
                href={i === 0 && finding.address ? finding.address : placeOfSubject(subject)}
                className="hover:underline"
                title={subject}
              >
                <SubjectName subject={subject} />
              </Link>
            </li>
          ))}
        </ul>
      </dd>
    </dl>
  );
}

const NAMES = { cause: 'Cause', effect: 'Effect', recommendation: 'Recommendation' } as const;

/** What a finding is about, in words: a figure by its sentence. */
function SubjectName({ subject }: { subject: string }) {
  const figure = subject.startsWith('figure:') ? new URLSearchParams(subject.slice('figure:'.length)) : null;
  const { data } = useAnswer('GET /sentence', figure);
  if (figure === null) return subject.replace(':', ' ');
  return data ? data.parts.map((part) => part.text).join('') : '…';
}

function ChangeForm({ finding, onDone }: { finding: Finding; onDone(): void }) {
  const colleagues = useColleagues();
  const me = useMe();
  const [words, setWords] = useState<Partial<Record<FindingWord, RichText | string>>>({});
  const form = useRef<HTMLFormElement>(null);
  const keep = useChange(
    (body: object) => ask('PUT /findings/{id}', { path: { id: finding.id }, body }),
    ['/findings', '/desk', '/threads'],
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    await keep
      .mutateAsync({
        ...{ title: text('title'), kind: text('kind'), state: text('state'), due: text('due') || null },
        ...words,
        owner: Number(text('owner')) || null,
      })
      .then(onDone, () => null);
  };
  const people = [...(colleagues.data?.rows ?? []), { id: me.id, name: me.name }];
  return (
    <form ref={form} onSubmit={submit} className="flex max-w-[820px] flex-col gap-3">
      <Labelled label="What was found" wide>
        <input name="title" required maxLength={300} defaultValue={finding.title} className="field w-full" />
      </Labelled>
      <div className="flex flex-wrap gap-3">
        <Labelled label="Kind">
          <Select name="kind" defaultValue={finding.kind} className="w-[150px]">
            {FINDING_KINDS.map((k) => (
              <option key={k} value={k}>
                {k}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="State">
          <Select name="state" defaultValue={finding.state} className="w-[130px]">
            {FINDING_STATES.map((s) => (
              <option key={s} value={s}>
                {s}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Owner">
          <Select name="owner" defaultValue={finding.owner?.id ?? ''} className="w-[180px]">
            <option value="">nobody yet</option>
            {people.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Due">
          <input type="date" name="due" defaultValue={finding.due ?? ''} className="field" />
        </Labelled>
      </div>
      {FINDING_WORDS.map((name) => (
        <Prose
          key={name}
          label={NAMES[name]}
          begin={finding.written[name] ?? finding[name]}
          onChange={(text) => setWords((now) => ({ ...now, [name]: text }))}
          onDone={() => form.current?.requestSubmit()}
          onCancel={onDone}
        />
      ))}
      <Failure error={keep.error} />
      <KeepOrCancel pending={keep.isPending} onCancel={onDone} />
    </form>
  );
}
