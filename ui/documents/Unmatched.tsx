'use client';

import Link from 'next/link';
import type { UnmatchedDocuments } from '@/contracts/answers/documents';
import { dateText } from '@/core/sentence';
import { amountText, countText } from '../amounts';
import { Failure } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer } from '../query/hooks';
import { TieMark } from '../sheet/Strips';
import { documentPath, linesOfDocument, linesOfEntry } from './address';

type Account = UnmatchedDocuments['accounts'][number];
type Row = Account['rows'][number];

const WHY: Record<Row['kind'], string> = {
  'no-document': 'in the ledger only',
  'no-lines': 'a document only',
  differs: 'amounts differ',
  'other-currency': 'document in another currency',
  applied: 'applied across accounts',
};

/** What makes the difference between documents and their control accounts, item by item. */
export function Unmatched({ asked }: { asked: URLSearchParams | null }) {
  const { data, error } = useAnswer('GET /unmatched-documents', asked);
  if (error) return <Failure error={error} />;
  if (!data) return <p className="text-soft">Holding each document against the ledger …</p>;
  return (
    <>
      {data.accounts.map((account) => (
        <section key={account.account} className="mb-6">
          <h2 className="mb-1 font-semibold">
            {account.account} {account.name}
          </h2>
          <p className="mb-2 flex flex-wrap gap-x-5 text-soft">
            <span>
              Documents <strong className="text-ink">{amountText(account.documents)}</strong>
            </span>
            <span>
              Ledger <strong className="text-ink">{amountText(account.ledger)}</strong>
            </span>
            <span>
              Ledger less documents <strong className="text-ink">{amountText(account.difference)}</strong>
            </span>
            <TieMark tie={account.tie} what="all differences come to that" />
          </p>
          <p className="mb-2 text-soft">{saidOf(account)}</p>
          {account.rows.length > 0 && <Rows entity={data.entity} currency={data.currency} account={account} />}
        </section>
      ))}
    </>
  );
}

function saidOf({ compared, unmatched, alike, rows }: Account): string {
  const held = `${countText(compared)} documents and entries held against each other`;
  const paired =
    alike > 0
      ? ` ${countText(alike)} without each other’s number ${alike === 1 ? 'agrees' : 'agree'} by day and amount.`
      : '';
  if (unmatched === 0) return `${held}: every one matches.${paired}`;
  const shown = rows.length < unmatched ? `, the largest ${countText(rows.length)} shown` : '';
  return `${held}: ${countText(unmatched)} ${unmatched === 1 ? 'does' : 'do'} not match${shown}.${paired}`;
}

const Rows = ({ entity, currency, account }: { entity: string; currency: string; account: Account }) => (
  <Table
    label={`What does not match on ${account.account}`}
    fixed
    sideways
    columns={[
      { label: 'Document or entry', width: 'w-[150px]' },
      { label: 'Date', width: 'w-[96px]' },
      { label: 'With' },
      { label: 'Description' },
      { label: 'Why', width: 'w-[190px]' },
      { label: 'Document', width: 'w-[112px]', right: true },
      { label: `Ledger, ${currency}`, width: 'w-[112px]', right: true },
      { label: 'Difference', width: 'w-[112px]', right: true },
    ]}
  >
    {account.rows.map((row) => (
      <Tr key={[row.kind, row.number, row.entry, row.other, row.date].join('|')}>
        <Td cut title={row.number ?? row.entry ?? undefined}>
          <Link
            href={whereTo(entity, row)}
            className="underline decoration-rule underline-offset-4 hover:decoration-ink"
          >
            {row.number ?? row.entry}
          </Link>
        </Td>
        <Td>{dateText(row.date)}</Td>
        <Td cut title={row.counterpartyName ?? undefined}>
          {row.counterpartyName ?? row.counterparty}
        </Td>
        <Td cut title={row.description}>
          {row.description}
        </Td>
        <Td>
          {WHY[row.kind]}
          {row.other !== null && (
            <Link
              href={documentPath(entity, row.other)}
              className="block underline decoration-rule underline-offset-4 hover:decoration-ink"
            >
              by {row.other}
            </Link>
          )}
        </Td>
        <Td right>{row.documents === null ? '' : amountText(row.documents)}</Td>
        <Td right>
          {row.ledger === null ? (
            ''
          ) : (
            <Link
              href={row.number === null ? linesOfEntry(entity, row.entry ?? '') : linesOfDocument(entity, row.number)}
              className="hover:underline"
            >
              {amountText(row.ledger)}
            </Link>
          )}
        </Td>
        <Td right>
          <strong className="font-semibold">{amountText(row.difference)}</strong>
        </Td>
      </Tr>
    ))}
  </Table>
);

/** A document where there is one, else the lines. */
const whereTo = (entity: string, { number, entry, type }: Row): string =>
  number === null
    ? linesOfEntry(entity, entry ?? '')
    : type === null
      ? linesOfDocument(entity, number)
      : documentPath(entity, number);
