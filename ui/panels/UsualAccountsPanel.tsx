'use client';

import { useMemo } from 'react';
import { addDays } from '@/core/dates';
import { dateText } from '@/core/sentence';
import { asPut } from '../address/address';
import { amountText, countText } from '../amounts';
import { useAnswer, useEntities } from '../query/hooks';
import type { Party } from '../sheet/model';
import { TieMark } from '../sheet/Strips';
import { Panel } from './Panel';

/** How far back it is looked for what is usual. */
const DAYS = 365;

interface Props {
  party: Party;
  label: string;
  /** To the party's lines on an account. */
  onAccount(put: Record<string, string[]>, name: string): void;
  onClose(): void;
}

/** The accounts that lines with a party were booked to in the year up to a line, and where that line is among them. */
export function UsualAccountsPanel({ party, label, onAccount, onClose }: Props) {
  const scope = useMemo(
    () =>
      new URLSearchParams({
        entity: party.entity,
        counterparty: party.code,
        from: addDays(party.date, -DAYS),
        to: party.date,
        by: 'account',
      }),
    [party],
  );
  const { data, error, isFetching } = useAnswer('GET /sheets', scope);
  const asked = { counterparty: [party.code], from: [scope.get('from') as string], to: [party.date] };
  // What a party is owed or owes is booked on a control account whatever it is for: only the rest tells what it is for.
  const { data: entities } = useEntities();
  const controls =
    entities?.entities.find((e) => e.code === party.entity)?.controls.filter((code) => code !== party.account) ?? [];
  const rows = [...(data?.rows ?? [])]
    .filter((r) => r.count > 0 && !controls.includes(r.member))
    .sort((a, b) => b.count - a.count);
  const own = rows.find((r) => r.member === party.account);
  const lines = rows.reduce((sum, r) => sum + r.count, 0);
  const share = (count: number): string =>
    `${lines === 0 ? 0 : ((100 * count) / lines).toFixed(count * 200 < lines ? 1 : 0)} %`;
  return (
    <Panel
      title={`Usual accounts of ${party.code}`}
      label={label}
      onClose={onClose}
      right={data && <TieMark tie={data.tie} />}
    >
      <div className={`px-3 pb-2 ${isFetching ? 'opacity-60' : ''}`}>
        {error && <p className="py-2 text-warn">{error.message}</p>}
        {data && (
          <p className="py-1.5 text-soft">
            {countText(lines)} {lines === 1 ? 'line' : 'lines'} with {party.code} from{' '}
            {dateText(scope.get('from') as string)} to {dateText(party.date)}, on {countText(rows.length)}{' '}
            {rows.length === 1 ? 'account' : 'accounts'}
            {controls.length > 0 ? ', control accounts left out' : ''}.{' '}
            {own &&
              (own.count === 1 && lines > 1 ? (
                <strong className="text-warn">No other line stands on {party.account}.</strong>
              ) : (
                `${share(own.count)} of them stand on ${party.account}, as this one.`
              ))}
          </p>
        )}
        {rows.length > 0 && (
          <table className="w-full">
            <thead>
              <tr className="text-left text-[12.5px] text-soft">
                <th className="py-1 font-normal">Account</th>
                <th className="text-right font-normal">Lines</th>
                <th className="text-right font-normal">Share</th>
                <th className="text-right font-normal">Debit</th>
                <th className="text-right font-normal">Credit</th>
              </tr>
            </thead>
            <tbody>
              {rows.map((r) => (
                <tr
                  key={r.member}
                  className={`border-t border-hair ${r.member === party.account ? 'bg-chosen font-semibold' : ''}`}
                >
                  <td className="py-[3px]">
                    <button
                      type="button"
                      className="cursor-pointer hover:underline"
                      onClick={() => onAccount({ ...asked, ...asPut(r.refine) }, `${r.member} ${r.name}`)}
                    >
                      <span className="mr-3 inline-block w-10 text-left text-faint">{r.member}</span>
                      {r.name}
                      {r.member === party.account && <span className="ml-2 font-normal text-soft">this line</span>}
                    </button>
                  </td>
                  <td className="text-right">{countText(r.count)}</td>
                  <td className="text-right">{share(r.count)}</td>
                  <td className="text-right">{amountText(r.debit)}</td>
                  <td className="text-right">{amountText(r.credit)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </div>
    </Panel>
  );
}
