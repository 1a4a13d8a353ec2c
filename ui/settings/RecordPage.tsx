'use client';

import { useInfiniteQuery, useQuery } from '@tanstack/react-query';
import { countText, momentText } from '../amounts';
import { Failure, Place, SETTINGS_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';

/** Who did what, newest first, with the head of its chain. */
export function RecordPage() {
  const pages = useInfiniteQuery({
    queryKey: ['/record'],
    queryFn: ({ pageParam }) =>
      ask('GET /record', { query: pageParam ? new URLSearchParams({ after: pageParam }) : undefined }),
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
      <Failure error={pages.error ?? check.error} />
      {pages.data && (
        <Table
          label="Record of who did what"
          fixed
          columns={[
            { label: 'No.', width: 'w-16', right: true },
            { label: 'When', width: 'w-36' },
            { label: 'Who', width: 'w-36' },
            { label: 'Did what', width: 'w-44' },
            { label: 'To what' },
            { label: 'More', width: 'w-[32%]' },
          ]}
        >
          {pages.data.pages
            .flatMap((page) => page.rows)
            .map((row) => (
              <Tr key={row.number}>
                <Td right>{row.number}</Td>
                <Td>{momentText(row.at)}</Td>
                <Td cut>{row.person}</Td>
                <Td>{row.act}</Td>
                <Td cut title={row.subject}>
                  {row.subject}
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

const detailText = (detail: Record<string, unknown>): string =>
  Object.entries(detail)
    .filter(([, value]) => value !== null && typeof value !== 'object')
    .map(([name, value]) => `${name} ${String(value)}`)
    .join(', ');
