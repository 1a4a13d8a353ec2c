'use client';

import { scaleLinear, scaleTime } from 'd3-scale';
import { curveStepAfter, line } from 'd3-shape';
import Link from 'next/link';
import { useRouter, useSearchParams } from 'next/navigation';
import { type ReactNode, useMemo } from 'react';
import type { PartyStory } from '@/contracts/answers/documents';
import { dateText } from '@/core/sentence';
import { exactly } from '@/core/values';
import { amountText, countText } from '../amounts';
import { ACCOUNT_TABS, Failure, Labelled, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer, useEntities } from '../query/hooks';
import { TieMark } from '../sheet/Strips';
import { openDocumentsPath } from './address';
import { NumberCell } from './NumberCell';

const LINK = 'underline decoration-rule underline-offset-4 hover:decoration-ink';

/** The story of a customer or supplier: who it is, its documents by day with what was owed after each, its usual accounts. */
export function PartyPage({ code }: { code: string }) {
  const params = useSearchParams();
  const router = useRouter();
  const { data: books } = useEntities();
  const entity = params.get('entity') ?? books?.entities[0]?.code ?? null;
  const { data, error } = useAnswer(
    'GET /parties/{code}',
    useMemo(() => (entity === null ? null : new URLSearchParams({ entity })), [entity]),
    { code },
  );
  const of = useMemo(
    () =>
      entity === null
        ? null
        : new URLSearchParams({ entity, window: 'everything', counterparty: exactly(code), by: 'account' }),
    [entity, code],
  );
  const accounts = useAnswer('GET /sheets', of).data;
  return (
    <Place title="Accounts" tabs={ACCOUNT_TABS} here="/accounts/parties">
      <div className="mb-3 flex items-end gap-6">
        <div className="min-w-0 flex-1">
          <h2 className="font-book text-[19px] leading-6 font-semibold">
            {data?.party.name ?? code}{' '}
            <span className="font-normal">{data && data.party.name !== code ? code : ''}</span>
          </h2>
          {data && <Who data={data} />}
        </div>
        <Labelled label="In the books of">
          <Select
            value={entity ?? ''}
            onChange={(event) =>
              router.replace(
                `/accounts/parties/${encodeURIComponent(code)}?${new URLSearchParams({ entity: event.target.value })}`,
              )
            }
          >
            {books?.entities.map((e) => (
              <option key={e.code} value={e.code}>
                {e.name}
              </option>
            ))}
          </Select>
        </Labelled>
      </div>
      <Failure error={error} />
      {data && data.rows.length === 0 && (
        <p className="mb-4 text-soft">No document of this company names it. Its lines are below by account.</p>
      )}
      {data && data.rows.length > 0 && (
        <>
          <p className="mb-2 flex flex-wrap gap-x-5 text-soft">
            <span>
              Owed {data.owed}, by its documents <strong className="text-ink">{amountText(data.balance)}</strong>
            </span>
            <span>
              By the lines that name it, on{' '}
              {data.accounts.map((account, i) => (
                <span key={account}>
                  {i > 0 && ', '}
                  <Link
                    href={openDocumentsPath(
                      new URLSearchParams({ entity: data.entity, window: 'latest-period' }),
                      account,
                    )}
                    className={LINK}
                  >
                    {account}
                  </Link>
                </span>
              ))}{' '}
              <strong className="text-ink">{amountText(data.ledger)}</strong>
            </span>
            <TieMark tie={data.tie} what="documents and ledger agree" />
            {!data.tie.ok && (
              <span>
                {data.rows.some((r) => r.shared)
                  ? 'Payments of several at once name nobody in the ledger.'
                  : 'Lines with it that no document bears, or documents not booked, make the difference.'}
              </span>
            )}
          </p>
          <Course data={data} />
          <Told data={data} />
        </>
      )}
      {accounts && accounts.rows.length > 0 && entity && (
        <section className="mt-6">
          <h3 className="mb-1 font-semibold">
            Its accounts <span className="font-normal text-soft">({countText(accounts.rows.length)})</span>
          </h3>
          <Table
            label="Accounts of its lines"
            narrow
            columns={[
              { label: 'Account', width: 'w-[320px]' },
              { label: 'Lines', width: 'w-[90px]', right: true },
              { label: `Movement, ${accounts.currency}`, width: 'w-[150px]', right: true },
            ]}
          >
            {[...accounts.rows]
              .sort((a, b) => b.count - a.count)
              .map((row) => (
                <Tr key={row.member}>
                  <Td cut>
                    <Link
                      href={`/lines?${new URLSearchParams({ entity, window: 'everything', accounts: row.member, counterparty: exactly(code) })}`}
                      className={LINK}
                    >
                      {row.name}
                    </Link>
                  </Td>
                  <Td right>{countText(row.count)}</Td>
                  <Td right>{amountText(row.movement)}</Td>
                </Tr>
              ))}
          </Table>
        </section>
      )}
    </Place>
  );
}

function Who({ data: { party } }: { data: PartyStory }) {
  const alike: [string, readonly string[]][] = [
    ['the same bank account as', party.sameBank],
    ['the same tax number as', party.sameTax],
    ['nearly the name of', party.nearName],
  ];
  const said = [
    party.kind === 'both' ? 'customer and supplier' : party.kind,
    party.address,
    [party.postalCode, party.city].filter(Boolean).join(' '),
    party.country,
    party.bankAccount && `bank account ${party.bankAccount}`,
    party.taxNumber && `tax number ${party.taxNumber}`,
    party.status === 'active' ? '' : party.status,
  ].filter(Boolean);
  return (
    <>
      <p className="text-soft">{said.length > 0 ? said.join(' · ') : 'Known by lines and documents alone.'}</p>
      {alike.map(([what, codes]) =>
        codes.length === 0 ? null : (
          <p key={what} className="text-warn">
            ! {what}{' '}
            {codes.map((code, i) => (
              <span key={code}>
                {i > 0 && ', '}
                <Link href={`/accounts/parties/${encodeURIComponent(code)}`} className="underline underline-offset-4">
                  {code}
                </Link>
              </span>
            ))}
          </p>
        ),
      )}
    </>
  );
}

const WIDE = 720;
const HIGH = 84;

/** What was owed, from the first document to the last. */
function Course({ data }: { data: PartyStory }): ReactNode {
  const points = data.rows.filter((r) => r.counts).map((r) => ({ at: new Date(r.date), owed: Number(r.balance) }));
  const [first, last] = [points[0], points.at(-1)];
  if (!first || !last || points.length < 3) return null;
  const x = scaleTime([first.at, last.at], [2, WIDE - 2]);
  const all = points.map((p) => p.owed);
  const y = scaleLinear([Math.min(0, ...all), Math.max(0, ...all)], [HIGH - 2, 2]);
  const path = line<(typeof points)[number]>(
    (p) => x(p.at),
    (p) => y(p.owed),
  ).curve(curveStepAfter)(points);
  return (
    <figure className="mb-3 w-fit max-w-full border border-rule bg-sheet px-3 pt-2 pb-1">
      <svg width={WIDE} height={HIGH} role="img" aria-label="What was owed over time" className="block max-w-full">
        <line x1={0} x2={WIDE} y1={y(0)} y2={y(0)} stroke="var(--rule)" />
        <path d={path ?? ''} fill="none" stroke="var(--ink)" strokeWidth={1.4} />
      </svg>
      <figcaption className="flex justify-between text-[12.5px] text-soft">
        <span>{dateText(data.rows.find((r) => r.counts)?.date ?? '')}</span>
        <span>
          what was owed {data.owed}, {data.currency}
        </span>
        <span>{dateText(data.rows.findLast((r) => r.counts)?.date ?? '')}</span>
      </figcaption>
    </figure>
  );
}

const Told = ({ data }: { data: PartyStory }) => (
  <>
    <Table
      label="Its documents by day"
      fixed
      sideways
      columns={[
        { label: 'Date', width: 'w-[96px]' },
        { label: 'Document', width: 'w-[140px]' },
        { label: 'Kind', width: 'w-[174px]' },
        { label: 'Description' },
        { label: 'Amount', width: 'w-[124px]', right: true },
        { label: 'Left of it', width: 'w-[124px]', right: true },
        { label: 'How far', width: 'w-[130px]' },
        { label: `Owed ${data.owed}`, width: 'w-[124px]', right: true },
      ]}
    >
      {data.rows.map((r) => (
        <Tr key={`${r.number}/${r.date}/${r.shared}`}>
          <Td>{dateText(r.date)}</Td>
          <NumberCell entity={data.entity} number={r.number} />
          <Td cut>
            {r.type}
            {!r.counts && <span className="text-faint"> not owed</span>}
          </Td>
          <Td cut title={r.description}>
            {r.description}
          </Td>
          <Td right>
            {amountText(r.amount)}
            {r.currency !== data.currency && <span className="text-faint"> {r.currency}</span>}
          </Td>
          <Td right>{r.state && amountText(r.open)}</Td>
          <Td cut>{r.state}</Td>
          <Td right>
            {r.counts ? amountText(r.balance) : <span className="text-faint">{amountText(r.balance)}</span>}
          </Td>
        </Tr>
      ))}
    </Table>
    {data.more && (
      <p className="mt-1 text-soft">The newest {countText(data.rows.length)} documents; there are older ones.</p>
    )}
  </>
);
