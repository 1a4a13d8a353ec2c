'use client';

import Link from 'next/link';
import { type FormEvent, useState } from 'react';
import type { Holding } from '@/contracts/answers/charts';
import type { BodySent } from '@/contracts/routes';
import { amountText } from '../amounts';
import { textIn } from '../parts/fields';
import { ListFilters } from '../parts/ListFilters';
import type { ListAttribute } from '../parts/listing';
import { ACCOUNT_TABS, Failure, Labelled, Place } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useListing } from '../parts/useListing';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { usePageScope } from '../scope/usePageScope';
import { useMe } from '../shell/me';

const ATTRIBUTES: ListAttribute<Holding>[] = [
  { key: 'number', label: 'Number', of: (h) => [h.number], unlimited: true },
  { key: 'name', label: 'Name', of: (h) => [h.name], unlimited: true },
  { key: 'kind', label: 'Kind', of: (h) => [h.kind === 'bank' ? 'bank account' : 'cash box'] },
  { key: 'bank', label: 'At the bank', of: (h) => [h.bankAccount ?? h.takes], unlimited: true },
  { key: 'currency', label: 'Currency', of: (h) => [h.currency] },
  { key: 'account', label: 'Ledger account', of: (h) => [h.account], unlimited: true },
  { key: 'balance', label: 'Balance', of: () => [], order: (h) => Number(h.balance ?? 0), unlimited: true },
];

const NONE: readonly Holding[] = [];
const textOf = (h: Holding): string => [h.number, h.name, h.bankAccount, h.account, h.accountName].join(' ');

/** The register of bank accounts and cash boxes, each with the ledger account that it is tied to and its balance. */
export function HoldingsPage() {
  const { role } = useMe();
  const { data: known } = useEntities();
  const { scope, asked, change } = usePageScope('/accounts/holdings');
  const of = scope.get('entity');
  const { data, error } = useAnswer('GET /holdings', asked);
  const list = useListing(data?.rows ?? NONE, ATTRIBUTES, textOf);
  const remove = useChange(
    (h: Holding) => ask('DELETE /holdings/{entity}/{number}', { path: { entity: h.entity, number: h.number } }),
    ['/holdings'],
  );
  return (
    <Place title="Accounts" tabs={ACCOUNT_TABS} here="/accounts/holdings">
      <ListFilters list={list} placeholder="Name or number" noun="accounts and boxes">
        <Labelled label="Books">
          <Select value={of ?? ''} onChange={(event) => change({ entity: [event.target.value] })} className="field">
            {known?.entities.map((e) => (
              <option key={e.code} value={e.code}>
                {e.code} {e.name}
              </option>
            ))}
          </Select>
        </Labelled>
      </ListFilters>
      <Failure error={error ?? remove.error} />
      {(['bank', 'cash'] as const).map((kind) => {
        const rows = list.rows.filter((h) => h.kind === kind);
        return (
          <section key={kind} className="mb-5">
            <h2 className="mb-1 font-book text-[18px] font-semibold">
              {kind === 'bank' ? 'Bank accounts' : 'Cash boxes'}
            </h2>
            {data && rows.length === 0 && (
              <p className="text-soft">
                None is registered{role === 'reader' ? '.' : '; add one below, or load a file of them.'}
              </p>
            )}
            {rows.length > 0 && (
              <Table
                label={kind === 'bank' ? 'Bank accounts' : 'Cash boxes'}
                list={list}
                columns={[
                  { label: 'Number', width: 'w-24', orders: 'number' },
                  { label: 'Name', orders: 'name' },
                  { label: kind === 'bank' ? 'At the bank' : 'Used for', width: 'w-56', orders: 'bank' },
                  { label: 'Currency', width: 'w-20', orders: 'currency' },
                  { label: 'Ledger account', orders: 'account' },
                  { label: 'Balance', right: true, width: 'w-40', orders: 'balance' },
                  { label: '', width: 'w-24' },
                ]}
              >
                {rows.map((h) => (
                  <Tr key={h.number}>
                    <Td>{h.number}</Td>
                    <Td>{h.name}</Td>
                    <Td>
                      {kind === 'bank'
                        ? (h.bankAccount ?? <span className="text-faint">withheld</span>)
                        : h.takes === 'both'
                          ? 'receipts and payments'
                          : h.takes}
                    </Td>
                    <Td>{h.currency}</Td>
                    <Td>
                      {h.account} {h.accountName}
                    </Td>
                    <Td right>
                      {h.balance === null ? (
                        <span className="text-faint" title={h.withheld ?? undefined}>
                          withheld
                        </span>
                      ) : (
                        <>
                          <Link
                            href={`/lines?entity=${h.entity}&accounts=${encodeURIComponent(h.account)}`}
                            className="underline decoration-rule underline-offset-4 hover:decoration-ink"
                          >
                            {amountText(h.balance)}
                          </Link>{' '}
                          <span className="text-faint">{h.balanceCurrency}</span>
                        </>
                      )}
                    </Td>
                    <Td right>
                      {role !== 'reader' && (
                        <button
                          type="button"
                          onClick={() => remove.mutate(h)}
                          className="cursor-pointer text-soft underline decoration-rule underline-offset-4 hover:text-ink"
                          aria-label={`Remove ${h.name}`}
                        >
                          remove
                        </button>
                      )}
                    </Td>
                  </Tr>
                ))}
              </Table>
            )}
          </section>
        );
      })}
      {role !== 'reader' && of && <Add entity={of} />}
    </Place>
  );
}

function Add({ entity }: { entity: string }) {
  const [kind, setKind] = useState<'bank' | 'cash'>('bank');
  const keep = useChange((body: BodySent<'PUT /holdings'>) => ask('PUT /holdings', { body }), ['/holdings']);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const text = (name: string): string => textIn(new FormData(form), name);
    await keep.mutateAsync({
      entity,
      kind,
      number: text('number'),
      name: text('name'),
      account: text('account'),
      takes: (text('takes') || 'both') as 'both' | 'receipts' | 'payments',
      ...(text('bankAccount') ? { bankAccount: text('bankAccount') } : {}),
      ...(text('currency') ? { currency: text('currency') } : {}),
    });
    form.reset();
  };
  return (
    <form onSubmit={submit} className="flex flex-wrap items-end gap-3 border border-rule bg-sheet p-3">
      <Labelled label="Kind">
        <Select value={kind} onChange={(event) => setKind(event.target.value as 'bank' | 'cash')} className="field">
          <option value="bank">bank account</option>
          <option value="cash">cash box</option>
        </Select>
      </Labelled>
      <Labelled label="Number">
        <input name="number" required maxLength={40} className="field w-[90px]" />
      </Labelled>
      <Labelled label="Name">
        <input name="name" required maxLength={200} className="field w-[170px]" />
      </Labelled>
      {kind === 'bank' ? (
        <Labelled label="The bank’s own number">
          <input name="bankAccount" required maxLength={60} className="field w-[190px]" />
        </Labelled>
      ) : (
        <Labelled label="Used for">
          <Select name="takes" className="field">
            <option value="both">receipts and payments</option>
            <option value="receipts">receipts</option>
            <option value="payments">payments</option>
          </Select>
        </Labelled>
      )}
      <Labelled label="Currency">
        <input name="currency" pattern="[A-Z]{3}" placeholder="the books’" className="field w-[90px]" />
      </Labelled>
      <Labelled label="Ledger account">
        <input name="account" required className="field w-[90px]" />
      </Labelled>
      <button type="submit" className="button-main" disabled={keep.isPending}>
        Keep in the register
      </button>
      <Failure error={keep.error} />
    </form>
  );
}
