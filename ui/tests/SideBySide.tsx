'use client';

import Link from 'next/link';
import type { Entry } from '@/contracts/answers/lines';
import type { TestHit } from '@/contracts/answers/tests';
import { entryPlace } from '@/contracts/places';
import { dateText } from '@/core/sentence';
import { amountText, countText, enteredText } from '../amounts';
import { Modal } from '../parts/Modal';
import { Failure } from '../parts/Place';
import { useAnswer } from '../query/hooks';

/** So many stand beside each other. */
const BESIDE = 4;

const NO_PARAMS = new URLSearchParams();

/** The entries behind a hit beside each other, with what differs between them marked. */
export function SideBySide({ hit, onClose }: { hit: TestHit; onClose(): void }) {
  const [a, b, c, d] = hit.entries;
  // Hooks are called as often whatever there is.
  const asked = [useEntry(a?.id), useEntry(b?.id), useEntry(c?.id), useEntry(d?.id)].slice(0, hit.entries.length);
  const entries = asked.flatMap(({ data }) => (data ? [data] : []));
  const error = asked.find((one) => one.error)?.error;
  return (
    <Modal title={hit.reason} className="top-[6vh] max-h-[88vh] w-[1060px] overflow-auto" onClose={onClose}>
      <Failure error={error} />
      {entries.length === Math.min(BESIDE, hit.entries.length) && <Compared entries={entries} />}
      {hit.entries.length > BESIDE && (
        <p className="mt-2 text-soft">
          The first {BESIDE} of {countText(hit.entries.length)} entries;{' '}
          <Link href={hit.address} className="link">
            the lines of all
          </Link>
          .
        </p>
      )}
    </Modal>
  );
}

const useEntry = (id: string | undefined) =>
  useAnswer('GET /entries/{id}', id === undefined ? null : NO_PARAMS, { id: id ?? '' });

const day = (text: string | null): string => (text && /^\d{4}-\d\d-\d\d$/.test(text) ? dateText(text) : (text ?? ''));
/** What the lines of an entry say of it, once. */
const ofLines = (entry: Entry, of: (line: Entry['lines'][number]) => string | null): string =>
  [...new Set(entry.lines.flatMap((l) => of(l) ?? []))].join(', ');

const FIELDS: readonly [label: string, of: (entry: Entry) => string][] = [
  ['Booked on', (e) => day(e.date)],
  ['Period', (e) => e.periodName],
  ['Journal', (e) => e.journal ?? ''],
  ['Text', (e) => e.description],
  ['Party', (e) => ofLines(e, (l) => l.counterpartyName ?? l.counterparty)],
  ['Document', (e) => ofLines(e, (l) => l.document)],
  ['Document date', (e) => day(ofLines(e, (l) => l.extra.document_date ?? null))],
  ['Due', (e) => day(ofLines(e, (l) => l.extra.due_date ?? null))],
  ['Posted by', (e) => e.postedBy ?? ''],
  ['Entered', (e) => (e.enteredAt === null ? '' : enteredText(e.enteredAt))],
  ['Approved by', (e) => e.approvedBy ?? ''],
  ['Source', (e) => e.source ?? ''],
];

interface LineBeside {
  account: string;
  amounts: (string | null)[];
}

/** Lines of all entries by their accounts, those of one account in their order. */
function linesBeside(entries: readonly Entry[]): LineBeside[] {
  const rows: (LineBeside & { key: string })[] = [];
  for (const [i, entry] of entries.entries()) {
    const seen = new Map<string, number>();
    for (const line of entry.lines) {
      const account = `${line.account} ${line.accountName}`;
      const times = (seen.get(account) ?? 0) + 1;
      seen.set(account, times);
      const key = `${account}\n${times}`;
      let row = rows.find((r) => r.key === key);
      if (!row) {
        row = { key, account, amounts: entries.map(() => null) };
        rows.push(row);
      }
      row.amounts[i] = line.amount;
    }
  }
  return rows;
}

function Compared({ entries }: { entries: readonly Entry[] }) {
  const cell = 'px-2 py-[3px] align-baseline break-words';
  const differs = (values: readonly (string | null)[]): boolean => new Set(values).size > 1;
  const head = (label: string, differing: boolean) => (
    <th scope="row" className={`${cell} w-[190px] text-left font-normal text-soft`}>
      {differing && (
        <span className="mr-1 text-warn" title="They differ in this">
          ≠
        </span>
      )}
      {label}
    </th>
  );
  const fields = FIELDS.map(([label, of]) => ({ label, values: entries.map(of) })).filter((f) =>
    f.values.some(Boolean),
  );
  return (
    <table className="w-full table-fixed border border-rule bg-sheet text-[13.5px]">
      <caption className="sr-only">Entries side by side; what differs is marked</caption>
      <thead>
        <tr className="border-b-[1.5px] border-ink">
          <td className="w-[190px]" />
          {entries.map((e) => (
            <th key={e.id} scope="col" className={`${cell} text-left`}>
              <Link href={entryPlace(e.entity, e.number, e.id)} className="hover:underline">
                {e.number}
              </Link>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {fields.map(({ label, values }) => (
          <tr key={label} className="border-b border-hair">
            {head(label, differs(values))}
            {values.map((value, i) => (
              <td key={entries[i]?.id} className={`${cell} ${differs(values) ? 'font-semibold' : ''}`}>
                {value}
              </td>
            ))}
          </tr>
        ))}
        {linesBeside(entries).map(({ account, amounts }, n) => (
          <tr
            // biome-ignore lint/suspicious/noArrayIndexKey: lines keep their order
            key={n}
            className={`border-b border-hair ${n === 0 ? 'border-t border-t-ink' : ''}`}
          >
            {head(account, differs(amounts))}
            {amounts.map((amount, i) => (
              <td
                key={entries[i]?.id}
                className={`${cell} text-right tabular-nums ${differs(amounts) ? 'font-semibold' : ''}`}
              >
                {amount === null ? '' : amountText(amount)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
