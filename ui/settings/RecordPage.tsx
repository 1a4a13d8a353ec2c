'use client';

import { keepPreviousData, useInfiniteQuery, useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { useState } from 'react';
import { ACTS } from '@/contracts/acts';
import { placeOfSubject } from '@/contracts/places';
import { countText, momentText } from '../amounts';
import { useColleagues } from '../evidence/useEvidence';
import { Failure, Labelled, Place, SETTINGS_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useMe } from '../shell/me';

/** Who did what, newest first, with the head of its chain. */
export function RecordPage() {
  const router = useRouter();
  const asked = new URLSearchParams(useSearchParams().toString());
  const set = (change: Record<string, string>): void => {
    const next = new URLSearchParams(asked);
    for (const [name, value] of Object.entries(change)) {
      if (value === '') next.delete(name);
      else next.set(name, value);
    }
    router.replace(`/settings/record${next.size > 0 ? `?${next}` : ''}`);
  };
  const pages = useInfiniteQuery({
    queryKey: ['/record', asked.toString()],
    queryFn: ({ pageParam }) => {
      const query = new URLSearchParams(asked);
      if (pageParam) query.set('after', pageParam);
      return ask('GET /record', { query });
    },
    placeholderData: keepPreviousData,
    initialPageParam: '',
    getNextPageParam: (page) => page.next,
  });
  const check = useQuery({
    queryKey: ['/record/check'],
    queryFn: () => ask('GET /record/check'),
    enabled: false,
  });
  const head = pages.data?.pages[0]?.head;
  return (
    <Place title="Settings" tabs={SETTINGS_TABS} here="/settings/record">
      <p className="mb-3 max-w-[90ch] text-soft">
        Everything that was done, added to and never changed: each entry holds the hash of the one before it. The last
        hash stands for all of them. Whoever writes it down elsewhere can tell later whether anything was taken out or
        rewritten.
      </p>
      {head && (
        <p className="mb-3 flex flex-wrap items-baseline gap-x-4 gap-y-1">
          <span>
            {countText(head.number)} {head.number === 1 ? 'entry' : 'entries'}, last hash{' '}
            <code className="text-[13px] break-all">{head.hash}</code>
          </span>
          <button
            type="button"
            className="link text-soft"
            onClick={() => void check.refetch()}
            disabled={check.isFetching}
          >
            {check.isFetching ? 'Checking …' : 'Check the chain'}
          </button>
          {check.data && (
            <span role="status" className={check.data.ok ? '' : 'text-warn'}>
              {check.data.ok
                ? `✓ the chain of ${countText(check.data.entries)} entries holds, with ${countText(check.data.anchors)} anchors outside of the database`
                : check.data.brokenAt
                  ? `✗ the chain does not hold at entry ${countText(check.data.brokenAt)}`
                  : '✗ nothing was anchored outside of the database, so an end that was cut off cannot be told'}
            </span>
          )}
        </p>
      )}
      <Filter asked={asked} onChange={set} />
      <Failure error={pages.error ?? check.error} />
      {pages.data?.pages[0]?.rows.length === 0 && (
        <p className="text-soft">
          {pages.hasNextPage ? 'Nothing of it among the newest entries.' : 'Nothing of it is on record.'}
        </p>
      )}
      {pages.data && (
        <Table
          label="Record of who did what"
          fixed
          columns={[
            { label: 'No.', width: 'w-16', right: true },
            { label: 'When', width: 'w-[138px]' },
            { label: 'Who', width: 'w-28' },
            { label: 'From where', width: 'w-28' },
            { label: 'Did what', width: 'w-44' },
            { label: 'To what' },
            { label: 'More', width: 'w-[26%]' },
          ]}
        >
          {pages.data.pages
            .flatMap((page) => page.rows)
            .map((row) => (
              <Tr key={row.number}>
                <Td right>{row.number}</Td>
                <Td>{momentText(row.at)}</Td>
                <Td cut>{row.person}</Td>
                <Td cut>{typeof row.detail.cameFrom === 'string' ? row.detail.cameFrom : ''}</Td>
                <Td>{row.act}</Td>
                <Td cut title={row.subject}>
                  <SubjectInWords subject={row.subject} />
                </Td>
                <Td cut title={`${JSON.stringify(row.detail)}\n${row.hash}`}>
                  <span className="text-[13px] text-soft">{detailText(row.detail)}</span>
                </Td>
              </Tr>
            ))}
        </Table>
      )}
      {pages.hasNextPage && (
        <button
          type="button"
          className="button mt-3"
          onClick={() => void pages.fetchNextPage()}
          disabled={pages.isFetchingNextPage}
        >
          Earlier entries
        </button>
      )}
    </Place>
  );
}

/** What was done to: a link to it in words, where it has a place of its own; else as the record has it. */
function SubjectInWords({ subject }: { subject: string }) {
  if (!/^(figure|line|entry|document|thread|note|finding):/.test(subject)) return subject;
  return (
    <Link href={placeOfSubject(subject)} className="hover:underline">
      {subjectWords(subject)}
    </Link>
  );
}

/** A figure by what its address asks, without the parts that every figure has. */
function subjectWords(subject: string): string {
  if (!subject.startsWith('figure:')) return subject.replace(':', ' ');
  const asked = new URLSearchParams(subject.slice('figure:'.length));
  const window = asked.has('from') ? `${asked.get('from')} to ${asked.get('to') ?? asked.get('from')}` : '';
  const others = [...asked].filter(([name]) => !['entity', 'from', 'to', 'accounts'].includes(name));
  return [
    asked.has('accounts') ? `accounts ${asked.get('accounts')}` : 'figure',
    asked.getAll('entity').join(', '),
    window,
    ...others.map(([name, value]) => `${name.replace(/^dim\./, '')} ${value}`),
  ]
    .filter(Boolean)
    .join(' · ');
}

/** What of the record is shown: by who did it, what, to what, and when. */
function Filter({ asked, onChange }: { asked: URLSearchParams; onChange(change: Record<string, string>): void }) {
  const me = useMe();
  const colleagues = useColleagues();
  const [about, setAbout] = useState(asked.get('about') ?? '');
  const names = [...new Set([me.name, ...(colleagues.data?.rows ?? []).map((p) => p.name), 'command line'])].sort();
  return (
    <form
      aria-label="What of the record is shown"
      className="mb-3 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onChange({ about: about.trim() });
      }}
    >
      <Labelled label="About">
        <input
          value={about}
          maxLength={300}
          placeholder="account 6320, a number, a name"
          className="field w-[200px]"
          onChange={(event) => setAbout(event.target.value)}
          onBlur={() => about.trim() !== (asked.get('about') ?? '') && onChange({ about: about.trim() })}
        />
      </Labelled>
      <Labelled label="Who">
        <Select
          value={asked.get('person') ?? ''}
          className="w-[140px]"
          onChange={(event) => onChange({ person: event.target.value })}
        >
          <option value="">anybody</option>
          {names.map((name) => (
            <option key={name} value={name}>
              {name}
            </option>
          ))}
        </Select>
      </Labelled>
      <Labelled label="Did what">
        <Select
          value={asked.get('act') ?? ''}
          className="w-[180px]"
          onChange={(event) => onChange({ act: event.target.value })}
        >
          <option value="">anything</option>
          {[...ACTS].sort().map((act) => (
            <option key={act} value={act}>
              {act}
            </option>
          ))}
        </Select>
      </Labelled>
      {(['from', 'to'] as const).map((end) => (
        <Labelled key={end} label={end === 'from' ? 'From' : 'To'}>
          <input
            type="date"
            value={asked.get(end) ?? ''}
            className="field"
            onChange={(event) => onChange({ [end]: event.target.value })}
          />
        </Labelled>
      ))}
      {asked.size > 0 && (
        <button
          type="button"
          className="button"
          onClick={() => {
            setAbout('');
            onChange({ about: '', person: '', act: '', from: '', to: '' });
          }}
        >
          All of it
        </button>
      )}
      <a className="button ml-auto" href={`/api/v1/record/table${asked.size > 0 ? `?${asked}` : ''}`}>
        Save as CSV
      </a>
    </form>
  );
}

const detailText = (detail: Record<string, unknown>): string =>
  Object.entries(detail)
    .filter(([name, value]) => value !== null && typeof value !== 'object' && name !== 'cameFrom')
    .map(([name, value]) => `${name} ${String(value)}`)
    .join(', ');
