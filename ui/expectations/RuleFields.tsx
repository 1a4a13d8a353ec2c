'use client';

import type { ExpectationRule } from '@/contracts/work';
import { plainAmount } from '@/core/writtenAmounts';
import { decimalMark } from '../amounts';
import type { Carried } from '../evidence/quoting';
import { Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { PastedFigure } from './PastedFigure';
import { RULES, type RuleName } from './words';

/** What somebody says of a rule before it is sent: numbers as they are typed. */
export interface RuleTyped {
  by: RuleName;
  percent: string;
  periods: string;
  quantity: string;
  price: string;
  amount: string;
  of: Pick<Carried, 'subject' | 'measure' | 'label' | 'value'> | null;
}

export const typedOf = (rule?: ExpectationRule): RuleTyped => ({
  ...{ by: rule?.by ?? 'year-before', percent: '', periods: '12', quantity: '', price: '', amount: '' },
  ...(rule && 'percent' in rule ? { percent: rule.percent } : {}),
  ...(rule?.by === 'average' ? { periods: String(rule.periods) } : {}),
  ...(rule?.by === 'quantity' ? { quantity: rule.quantity, price: rule.price } : {}),
  ...(rule?.by === 'own' ? { amount: rule.amount } : {}),
  of:
    rule?.by === 'share' && rule.of
      ? { subject: rule.of, measure: rule.measure, label: rule.label, value: null }
      : null,
});

const number = (text: string): string => plainAmount(text, decimalMark());

/** The rule as it is sent; the server says what cannot be read. */
export function ruleOf(typed: RuleTyped): ExpectationRule {
  const percent = number(typed.percent) || '0';
  switch (typed.by) {
    case 'year-before':
      return { by: 'year-before', percent };
    case 'average':
      return { by: 'average', periods: Number(typed.periods) || 0, percent };
    case 'share':
      return {
        ...{ by: 'share', percent, of: typed.of?.subject ?? '', measure: typed.of?.measure ?? 'movement' },
        label: typed.of?.label ?? '',
      };
    case 'quantity':
      return { by: 'quantity', quantity: number(typed.quantity), price: number(typed.price) };
    case 'own':
      return { by: 'own', amount: number(typed.amount) };
  }
}

/** How what is expected is reckoned. */
export function RuleFields({ typed, onTyped }: { typed: RuleTyped; onTyped(typed: RuleTyped): void }) {
  const put = (change: Partial<RuleTyped>): void => onTyped({ ...typed, ...change });
  const field = (name: 'percent' | 'periods' | 'quantity' | 'price' | 'amount', label: string, wide = 'w-[120px]') => (
    <Labelled label={label}>
      <input
        inputMode="decimal"
        className={`field text-right ${wide}`}
        value={typed[name]}
        onChange={(event) => put({ [name]: event.target.value })}
      />
    </Labelled>
  );
  return (
    <div className="flex flex-wrap items-end gap-3">
      <Labelled label="It should be">
        <Select
          value={typed.by}
          onChange={(event) => put({ by: event.target.value as RuleName })}
          className="w-[270px]"
        >
          {Object.entries(RULES).map(([by, words]) => (
            <option key={by} value={by}>
              {words}
            </option>
          ))}
        </Select>
      </Labelled>
      {typed.by === 'average' && field('periods', 'Periods before', 'w-[100px]')}
      {(typed.by === 'year-before' || typed.by === 'average') && field('percent', 'Percent more, or −less')}
      {typed.by === 'share' && field('percent', 'Percent')}
      {typed.by === 'quantity' && field('quantity', 'Quantity')}
      {typed.by === 'quantity' && field('price', 'at, for one')}
      {typed.by === 'own' && field('amount', 'Amount, signed as the sheet has it', 'w-[200px]')}
      {typed.by === 'share' && (
        <div className="w-full">
          <PastedFigure label="of the figure" held={typed.of} onFigure={(of) => put({ of })} />
        </div>
      )}
    </div>
  );
}
