'use client';

import { inBooks } from '../address/address';
import { amountText } from '../amounts';
import { useAnswer } from '../query/hooks';
import { TieMark } from '../sheet/Strips';
import { OtherSideFlow } from './OtherSideFlow';
import { Panel } from './Panel';

/** Where the other half of the focused figure's entries went; it opens below the sheet and never replaces it. */
interface Props {
  scope: URLSearchParams;
  label: string;
  /** To the lines that have an account on the other side. */
  onAccount(account: string, name: string): void;
  onClose(): void;
}

export function OtherSidePanel({ scope, label, onAccount, onClose }: Props) {
  const { data, error, isFetching } = useAnswer('GET /other-side', inBooks(scope));
  return (
    <Panel
      title="Other side"
      label={label}
      onClose={onClose}
      right={
        data && (
          <>
            <span className="text-soft">in {data.currency}, as booked</span>
            <TieMark tie={data.tie} what="ties to minus the movement" />
          </>
        )
      }
    >
      <div className={`px-3 ${isFetching ? 'opacity-60' : ''}`}>
        {error && <p className="py-2 text-warn">{error.message}</p>}
        {data?.rows.length === 0 && (
          <p className="py-2 text-soft">This figure has no lines in the window, so nothing stands opposite.</p>
        )}
        {data && data.rows.length > 0 && <OtherSideFlow rows={data.rows} onAccount={onAccount} />}
        {data && data.rows.length > 0 && (
          <table className="mt-2 w-full">
            <thead>
              <tr className="text-left text-[12.5px] text-soft">
                <th className="py-1 font-normal">Account</th>
                <th className="text-right font-normal">Exact</th>
                <th
                  className="text-right font-normal"
                  title="From entries with several lines on both sides: in proportion to their amounts, which is our own rule"
                >
                  Shared, pro rata
                </th>
                <th className="text-right font-normal">Movement</th>
              </tr>
            </thead>
            <tbody>
              {data.rows.map((r) => (
                <tr key={r.account} className="border-t border-hair">
                  <td className="py-[3px]">
                    <button
                      type="button"
                      className="cursor-pointer hover:underline"
                      onClick={() => onAccount(r.account, r.name)}
                    >
                      <span className="mr-3 inline-block w-10 text-left text-faint">{r.account}</span>
                      {r.name}
                    </button>
                  </td>
                  <td className="text-right">{amountText(r.exact)}</td>
                  <td className="text-right">{amountText(r.shared)}</td>
                  <td className="text-right">{amountText(r.movement)}</td>
                </tr>
              ))}
              <tr className="border-t border-ink font-semibold">
                <td className="py-[3px]" colSpan={3}>
                  Total
                </td>
                <td className="text-right">{amountText(data.total)}</td>
              </tr>
            </tbody>
          </table>
        )}
      </div>
    </Panel>
  );
}
