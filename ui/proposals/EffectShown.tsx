'use client';

import type { ProposedEffect } from '@/contracts/answers/proposals';
import { amountText } from '../amounts';

const ABOVE_WORD = {
  nothing: 'no effect on the result',
  trivial: 'clearly trivial',
  'below performance': 'below performance materiality',
  performance: 'above performance materiality',
  overall: 'material',
} as const;

/** What an entry does to the statements, this year and the next, against what is material. */
export function EffectShown({ effect }: { effect: ProposedEffect }) {
  const { statements, years, materiality, currency } = effect;
  const amount = 'w-[128px] px-2 py-[3px] text-right whitespace-nowrap tabular-nums';
  return (
    <div className="flex flex-wrap items-start gap-x-8 gap-y-4">
      {statements.length === 0 && (
        <p className="text-soft">
          {effect.faults.some((f) => f.line !== null)
            ? 'Statements are shown with it once nothing stands against its lines.'
            : 'No row of a statement changes: what it moves stays within the same rows.'}
        </p>
      )}
      {statements.map((s) => (
        <table key={s.code} className="border border-rule bg-sheet" aria-label={`Effect on ${s.name}`}>
          <thead>
            <tr className="border-b-[1.5px] border-ink text-[12.5px] text-soft">
              <th scope="col" className="min-w-[200px] px-3 py-1 text-left font-normal">
                {s.name} <span className="text-faint">to {s.window}</span>
              </th>
              {['Booked', 'Proposed', 'Adjusted'].map((label) => (
                <th key={label} scope="col" className={`${amount} font-normal`}>
                  {label}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {s.rows.map((r) => (
              <tr key={r.key} className="border-b border-hair last:border-b-0">
                <th scope="row" className="px-3 py-[3px] text-left font-normal">
                  {r.label}
                </th>
                <td className={amount}>{r.booked === null ? '' : amountText(r.booked)}</td>
                <td className={`${amount} bg-proposed`}>{r.proposed === null ? '' : amountText(r.proposed)}</td>
                <td className={`${amount} font-semibold`}>{r.adjusted === null ? '' : amountText(r.adjusted)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ))}
      <div>
        <table className="border border-rule bg-sheet" aria-label="Effect on the results of years">
          <thead>
            <tr className="border-b-[1.5px] border-ink text-[12.5px] text-soft">
              <th scope="col" className="px-3 py-1 text-left font-normal">
                Result, {currency}
              </th>
              <th
                scope="col"
                className={`${amount} font-normal`}
                title="What belongs to the year itself, with what turns around in it"
              >
                Of the year
              </th>
              <th
                scope="col"
                className={`${amount} font-normal`}
                title="All that the balance sheet at its end is out by, from whichever year"
              >
                Up to its end
              </th>
            </tr>
          </thead>
          <tbody>
            {years.map((y) => (
              <tr key={y.year} className="border-b border-hair last:border-b-0">
                <th scope="row" className="px-3 py-[3px] text-left font-normal">
                  {y.year}
                </th>
                <td className={amount}>{amountText(y.rollover)}</td>
                <td className={amount}>{amountText(y.ironCurtain)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="mt-1 max-w-[380px] text-[12.5px] text-soft">
          {effect.effect.tax !== null && `Tax on it: ${amountText(effect.effect.tax)}. `}
          {materiality
            ? `By itself: ${ABOVE_WORD[materiality.above]} (${amountText(materiality.overall)} overall, ${amountText(materiality.performance)} performance).`
            : 'Nothing is said of what is material in this year.'}
        </p>
      </div>
    </div>
  );
}
