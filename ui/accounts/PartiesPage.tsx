'use client';

import Link from 'next/link';
import type { Party } from '@/contracts/answers/charts';
import { exactly } from '@/core/values';
import { ListFilters } from '../parts/ListFilters';
import type { ListAttribute } from '../parts/listing';
import { ACCOUNT_TABS, Failure, Place } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { useListing } from '../parts/useListing';
import { useAnswer } from '../query/hooks';

/** What may be wrong with a party, beside others. */
const doubts = (p: Party): string[] => [
  ...(p.sameBank.length > 0 ? ['same bank account'] : []),
  ...(p.sameTax.length > 0 ? ['same tax number'] : []),
  ...(p.nearName.length > 0 ? ['nearly the same name'] : []),
];

const kindOf = ({ kind }: Party): string => (kind === 'both' ? 'customer and supplier' : (kind ?? 'not said'));

const ATTRIBUTES: ListAttribute<Party>[] = [
  { key: 'code', label: 'Code', of: (p) => [p.code], unlimited: true },
  { key: 'name', label: 'Name', of: (p) => [p.name], unlimited: true },
  { key: 'kind', label: 'Kind', of: (p) => [kindOf(p)] },
  { key: 'group', label: 'Group', of: (p) => p.groups },
  { key: 'city', label: 'City', of: (p) => (p.city ? [p.city] : []) },
  { key: 'country', label: 'Country', of: (p) => (p.country ? [p.country] : []) },
  { key: 'status', label: 'Status', of: (p) => [p.status] },
  { key: 'doubts', label: 'Possible duplicates', of: doubts },
  { key: 'bank', label: 'Bank account', of: (p) => (p.bankAccount ? [p.bankAccount] : []), unlimited: true },
  { key: 'tax', label: 'Tax number', of: (p) => (p.taxNumber ? [p.taxNumber] : []), unlimited: true },
];

const textOf = (p: Party): string =>
  [p.code, p.name, p.address, p.postalCode, p.city, p.country, p.bankAccount, p.taxNumber, ...p.groups].join(' ');

const NONE: readonly Party[] = [];

/** Customers and suppliers, shared by all companies, with those that may be one and the same. */
export function PartiesPage() {
  const { data, error } = useAnswer('GET /parties', new URLSearchParams());
  const list = useListing(data?.rows ?? NONE, ATTRIBUTES, textOf);
  return (
    <Place title="Accounts" tabs={ACCOUNT_TABS} here="/accounts/parties">
      <ListFilters list={list} placeholder="Name, code, number" noun="parties" />
      <Failure error={error} />
      {data?.withheld && (
        <p className="mb-2 text-soft">
          Those that the lines you may see name; bank accounts and tax numbers are shown to whoever sees all books.
        </p>
      )}
      {data && data.rows.length === 0 && (
        <p className="text-soft">
          No line names a customer or supplier yet. Bring in a file of them under Loads: code and name, and what else is
          known.
        </p>
      )}
      {data && data.rows.length > 0 && list.rows.length === 0 && (
        <p className="text-soft">No party is like that. Remove a limit.</p>
      )}
      {list.rows.length > 0 && (
        <Table
          label="Customers and suppliers"
          list={list}
          columns={[
            { label: 'Code', width: 'w-20', orders: 'code' },
            { label: 'Name', orders: 'name' },
            { label: 'Kind', width: 'w-36', orders: 'kind' },
            { label: 'Address', orders: 'city' },
            { label: 'Bank account', width: 'w-48', orders: 'bank' },
            { label: 'Tax number', width: 'w-28', orders: 'tax' },
            { label: 'Possible duplicates', width: 'w-56', orders: 'doubts' },
          ]}
        >
          {list.rows.map((p) => (
            <Tr key={p.code}>
              <Td>{p.code}</Td>
              <Td>
                <Link
                  href={
                    data?.withheld
                      ? `/lines?window=everything&counterparty=${encodeURIComponent(exactly(p.code))}`
                      : `/accounts/parties/${encodeURIComponent(p.code)}`
                  }
                  className="underline decoration-rule underline-offset-4 hover:decoration-ink"
                  title="Its documents, its accounts and what is owed"
                >
                  {p.name}
                </Link>
                {p.status !== 'active' && <span className="ml-2 text-warn">{p.status}</span>}
                {p.groups.length > 0 && <span className="ml-2 text-faint">{p.groups.join(', ')}</span>}
              </Td>
              <Td>{p.kind === null ? <span className="text-faint">not said</span> : kindOf(p)}</Td>
              <Td>
                {[p.address, [p.postalCode, p.city].filter(Boolean).join(' '), p.country].filter(Boolean).join(', ')}
              </Td>
              <Td>{data?.withheld ? <span className="text-faint">withheld</span> : p.bankAccount}</Td>
              <Td>{data?.withheld ? <span className="text-faint">withheld</span> : p.taxNumber}</Td>
              <Td>
                <Doubt what="same bank account as" codes={p.sameBank} onFind={list.setFind} />
                <Doubt what="same tax number as" codes={p.sameTax} onFind={list.setFind} />
                <Doubt what="nearly the name of" codes={p.nearName} onFind={list.setFind} />
              </Td>
            </Tr>
          ))}
        </Table>
      )}
    </Place>
  );
}

function Doubt({ what, codes, onFind }: { what: string; codes: readonly string[]; onFind(code: string): void }) {
  if (codes.length === 0) return null;
  return (
    <p className="text-[13px] text-warn">
      {what}{' '}
      {codes.map((code, i) => (
        <span key={code}>
          {i > 0 && ', '}
          <button type="button" onClick={() => onFind(code)} className="cursor-pointer underline underline-offset-4">
            {code}
          </button>
        </span>
      ))}
    </p>
  );
}
