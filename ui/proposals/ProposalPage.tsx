'use client';

import Link from 'next/link';
import { type FormEvent, useMemo, useState } from 'react';
import type { Proposed, RestsOn as RestsOnAnswer } from '@/contracts/answers/proposals';
import { placeOfSubject } from '@/contracts/places';
import type { BodySent } from '@/contracts/routes';
import { writtenSubject } from '@/contracts/subject';
import { FIRST_SET } from '@/core/figure';
import { dateText } from '@/core/sentence';
import { amountText, momentText, sideText } from '../amounts';
import { SaidOn } from '../evidence/SaidOn';
import { Failure, Labelled, Place } from '../parts/Place';
import { Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { EffectShown } from './EffectShown';
import { HandOver } from './HandOver';
import { ChangeEntry } from './ProposePage';
import { KIND_SAYS, KIND_WORD, STATE_WORD, TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();
const BACK = [{ href: '/proposals', name: 'All proposed entries' }];
type RestsOnRow = RestsOnAnswer['rows'][number];
type Change = BodySent<'PUT /proposed-entries/{id}'>;

/** One entry that is proposed: its lines, what it does, who approved it, what loads brought in its place. */
export function ProposalPage({ id }: { id: number }) {
  const me = useMe();
  const { data, error } = useAnswer('GET /proposed-entries/{id}', NO_PARAMS, { id });
  const effect = useAnswer(
    'GET /proposed-entries/effect',
    useMemo(() => new URLSearchParams({ ids: String(id) }), [id]),
  );
  const [changing, setChanging] = useState(false);
  if (!data)
    return (
      <Place title="Proposed entry" tabs={BACK} here="">
        <Failure error={error} />
      </Place>
    );
  const may = me.role !== 'reader' && data.outside === 0;
  return (
    <Place title={`${data.number} ${data.title}`} tabs={BACK} here="">
      <p className="-mt-2 mb-3 max-w-[110ch] text-soft">
        {KIND_WORD[data.kind]}: {KIND_SAYS[data.kind]}; {data.entityName}, in the set {data.set}; proposed by {data.by},{' '}
        {momentText(data.at)}.{' '}
        {data.thread && (
          <Link href={`/threads/${data.thread}`} className="link">
            Its thread
          </Link>
        )}
      </p>
      <State data={data} />
      {changing ? (
        <ChangeEntry held={data} onDone={() => setChanging(false)} />
      ) : (
        <>
          <p className="mb-4 max-w-[90ch] whitespace-pre-wrap">{data.reason}</p>
          <Lines data={data} />
          <Links data={data} />
          <RestsOn id={data.id} />
          {may && <Acts data={data} onChange={() => setChanging(true)} />}
          <section aria-label="What it does" className="mt-6">
            <h2 className="mb-2 font-book text-[16px] font-semibold">What it does</h2>
            {effect.data ? <EffectShown effect={effect.data} /> : <Failure error={effect.error} />}
          </section>
          <section aria-label="What is said of it" className="mt-6 max-w-[760px]">
            <SaidOn
              subject={writtenSubject('proposed', data.id)}
              label={`${data.number} ${data.title}`}
              address={`/proposals/${data.id}`}
              ticks
            />
          </section>
        </>
      )}
    </Place>
  );
}

/** How far it has come, and what loads brought. */
function State({ data }: { data: Proposed }) {
  return (
    <div className="mb-4" role="status">
      <p className="font-semibold">
        {STATE_WORD[data.state][0]?.toUpperCase()}
        {STATE_WORD[data.state].slice(1)}
        <span className="font-normal text-soft">
          {data.stateBy ? ` by ${data.stateBy}, ${momentText(data.stateAt)}` : ''}
          {data.stateReason ? `: ${data.stateReason}` : ''}
          {data.exported ? `; handed over ${momentText(data.exported.at)}` : ''}
        </span>
      </p>
      {data.booked.map((b) => (
        <p key={b.number} className={b.how === 'differs' || b.how === 'not booked' ? 'text-warn' : ''}>
          {data.entries.length > 1 ? `${b.number}: ` : ''}
          {b.how === 'not booked' ? (
            `not booked by load ${b.load}, which brought its period`
          ) : (
            <>
              {b.how === 'differs' ? 'load ' : 'booked in load '}
              {b.load}
              {b.how === 'differs' ? ' brought what may be it, ' : ' as '}
              <Link
                className="link"
                href={`/lines?${new URLSearchParams({ entity: data.entity, window: 'everything', status: 'all', entry: `~is:${b.entry ?? ''}` })}`}
              >
                {b.entry}
              </Link>
              {b.fields.length > 0 ? `; these differ: ${b.fields.join(', ')}` : ', as it was proposed'}
            </>
          )}
        </p>
      ))}
    </div>
  );
}

/** Its lines as they stand in ledgers that are shown with what is proposed. */
function Lines({ data }: { data: Proposed }) {
  const dims = [...new Map(data.lines.flatMap((l) => l.dims).map((d) => [d.dimension, d.dimensionName]))];
  const days = new Set(data.lines.map((l) => l.date)).size;
  const says = data.lines.some((l) => l.description !== '');
  const has = (field: 'counterparty' | 'taxCode' | 'inCurrency'): boolean => data.lines.some((l) => l[field] !== null);
  const ledger = (account: string, period: string): string =>
    `/lines?${new URLSearchParams({
      ...{ entity: data.entity, accounts: account, from: period, to: period, basis: 'with-proposed' },
      ...(data.set === FIRST_SET ? {} : { set: data.set }),
    })}`;
  return (
    <div className="overflow-x-auto">
      <table className="border border-rule bg-sheet" aria-label="Lines">
        <thead>
          <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
            {[
              'Account',
              ...(says ? ['Text'] : []),
              ...dims.map(([, name]) => name),
              ...(has('counterparty') ? ['Party'] : []),
              ...(has('taxCode') ? ['Tax code'] : []),
              ...(has('inCurrency') ? ['In its currency'] : []),
              ...(days > 1 ? ['Day'] : []),
            ].map((label) => (
              <th key={label} scope="col" className="px-2 py-1 font-normal first:pl-3">
                {label}
              </th>
            ))}
            <th scope="col" className="w-[130px] px-2 py-1 text-right font-normal">
              Debit
            </th>
            <th scope="col" className="w-[130px] px-2 py-1 pr-3 text-right font-normal">
              Credit
            </th>
          </tr>
        </thead>
        <tbody>
          {data.lines.map((l, i) => (
            <Tr
              // biome-ignore lint/suspicious/noArrayIndexKey: lines stay in their order
              key={i}
            >
              <Td>
                {data.counts ? (
                  <Link href={ledger(l.account, l.period)} className="hover:underline">
                    {l.account} {l.accountName}
                  </Link>
                ) : (
                  `${l.account} ${l.accountName}`
                )}
              </Td>
              {says && <Td>{l.description}</Td>}
              {dims.map(([code]) => {
                const member = l.dims.find((d) => d.dimension === code);
                return (
                  <Td key={code} title={member?.code}>
                    {member?.name}
                  </Td>
                );
              })}
              {has('counterparty') && <Td>{l.counterparty}</Td>}
              {has('taxCode') && <Td>{l.taxCode}</Td>}
              {has('inCurrency') && (
                <Td right>{l.inCurrency ? `${l.inCurrency.currency} ${amountText(l.inCurrency.amount)}` : ''}</Td>
              )}
              {days > 1 && (
                <Td>
                  <span className="whitespace-nowrap">{dateText(l.date)}</span>
                </Td>
              )}
              <Td right>{sideText(l.debit)}</Td>
              <Td right>{sideText(l.credit)}</Td>
            </Tr>
          ))}
          <tr className="border-t-[1.5px] border-ink font-semibold">
            <td
              colSpan={
                1 +
                dims.length +
                [says, has('counterparty'), has('taxCode'), has('inCurrency'), days > 1].filter(Boolean).length
              }
              className="px-3 py-[5px]"
            >
              {days > 1 ? `${data.lines.length} lines on ${days} days` : dateText(data.date)}
              {data.outside > 0 && (
                <span className="ml-3 font-normal text-soft">{data.outside} lines lie outside of what you may see</span>
              )}
            </td>
            <td className="px-2 py-[5px] text-right tabular-nums">{amountText(data.debit)}</td>
            <td className="px-2 py-[5px] pr-3 text-right tabular-nums">{amountText(data.credit)}</td>
          </tr>
        </tbody>
      </table>
    </div>
  );
}

function Links({ data }: { data: Proposed }) {
  return (
    <p className="mt-2 flex flex-wrap gap-x-4 gap-y-1 text-[12.5px] leading-6 text-soft">
      {data.counts && (
        <Link
          className="link"
          href={`/trial-balance?${new URLSearchParams([
            ['entity', data.entity],
            ['from', data.lines[0]?.period ?? ''],
            ['to', data.lines[0]?.period ?? ''],
            ['basis', 'with-proposed'],
            ...(data.set === FIRST_SET ? [] : [['set', data.set]]),
            ['columns', 'booked,proposed'],
          ])}`}
        >
          Trial balance as booked, proposed and adjusted
        </Link>
      )}
      {(data.links.length > 0 ? data.links : [data.subject]).slice(0, 12).map((subject) => (
        <Link key={subject} className="link max-w-[320px] truncate" href={placeOfSubject(subject)}>
          {subject.startsWith('figure:') ? `${data.label}` : subject.replace(/^[a-z]+:/, '')}
        </Link>
      ))}
    </p>
  );
}

const RESTS_WORD: Record<RestsOnRow['is'], string> = {
  pin: 'Pinned',
  file: 'File',
  finding: 'Finding',
  hit: 'Found by a test',
};

/** What was kept or found about the figures, lines and entries that it goes back to. */
function RestsOn({ id }: { id: number }) {
  const { data } = useAnswer('GET /proposed-entries/{id}/rests-on', NO_PARAMS, { id });
  if (!data || data.rows.length === 0) return null;
  return (
    <section aria-label="What it rests on" className="mt-5">
      <h2 className="mb-1 font-book text-[16px] font-semibold">What it rests on</h2>
      <ul className="max-w-[110ch]">
        {data.rows.map((r) => (
          <li key={`${r.is} ${r.address} ${r.label}`} className="grid grid-cols-[130px_minmax(0,1fr)] gap-x-3 py-[3px]">
            <span className="text-soft">{RESTS_WORD[r.is]}</span>
            <span>
              {r.is === 'file' ? (
                <a href={r.address} className="link">
                  {r.label}
                </a>
              ) : (
                <Link href={r.address} className="link">
                  {r.label}
                </Link>
              )}
              {r.by && <span className="text-soft"> {r.by}</span>}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What can be done with it by whoever reads it. */
function Acts({ data, onChange }: { data: Proposed; onChange(): void }) {
  const [asking, setAsking] = useState<'waived' | 'retired' | 'booked' | null>(null);
  const change = useChange(
    (body: Change) => ask('PUT /proposed-entries/{id}', { path: { id: data.id }, body }),
    TOUCHES,
  );
  const go = (body: Change): void =>
    void change
      .mutateAsync(body)
      .then(() => setAsking(null))
      .catch(() => null);
  const { state } = data;
  const open = state === 'proposed' || state === 'approved';
  const near = data.booked.find((b) => b.how === 'differs');
  const submit = (event: FormEvent<HTMLFormElement>): void => {
    event.preventDefault();
    const said = String(new FormData(event.currentTarget).get('said') ?? '').trim();
    if (asking === 'booked') go({ state: 'booked', booked: said });
    else if (asking) go({ state: asking, stateReason: said });
  };
  return (
    <div className="mt-4">
      <div className="flex flex-wrap items-center gap-2">
        {data.mayApprove && (
          <button
            type="button"
            className="button-main"
            disabled={change.isPending}
            onClick={() => go({ state: 'approved' })}
          >
            Approve
          </button>
        )}
        {state === 'approved' && <HandOver ids={[data.id]} many={1} />}
        {state === 'proposed' && (
          <button type="button" className="button" onClick={onChange}>
            Change
          </button>
        )}
        {open && near?.entry && (
          <button
            type="button"
            className="button"
            onClick={() => go({ state: 'booked', booked: near.entry as string })}
          >
            {near.entry} is it
          </button>
        )}
        {open && (
          <>
            <button type="button" className="button" onClick={() => setAsking('waived')}>
              Leave uncorrected
            </button>
            <button type="button" className="button" onClick={() => setAsking('retired')}>
              Take back
            </button>
            <button type="button" className="button" onClick={() => setAsking('booked')}>
              It is booked as …
            </button>
          </>
        )}
        {!open && (
          <button type="button" className="button" onClick={() => go({ state: 'proposed' })}>
            Propose it again
          </button>
        )}
      </div>
      {state === 'proposed' && !data.mayApprove && (
        <p className="mt-2 text-[12.5px] text-soft">Somebody else than who proposed or changed it approves it.</p>
      )}
      {asking && (
        <form onSubmit={submit} className="mt-3 flex max-w-[640px] items-end gap-2">
          <Labelled
            wide
            label={
              asking === 'booked'
                ? 'Number of the entry in the ledger that is it, though it differs'
                : asking === 'waived'
                  ? 'Why it is left uncorrected'
                  : 'Why it is taken back'
            }
          >
            <input
              name="said"
              required
              autoFocus
              className="field w-full"
              maxLength={asking === 'booked' ? 200 : 4_000}
            />
          </Labelled>
          <button type="submit" className="button-main" disabled={change.isPending}>
            Say so
          </button>
          <button type="button" className="button" onClick={() => setAsking(null)}>
            Cancel
          </button>
        </form>
      )}
      <Failure error={change.error} />
    </div>
  );
}
