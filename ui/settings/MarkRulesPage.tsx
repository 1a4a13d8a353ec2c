'use client';

import { useQuery } from '@tanstack/react-query';
import { type FormEvent, type ReactNode, useState } from 'react';
import type { z } from 'zod';
import type { markRulesSchema } from '@/contracts/bodies/all';
import { Failure, Place, SETTINGS_TABS } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { OwnConditions } from './OwnConditions';

type Rules = z.infer<typeof markRulesSchema>;

/** Which rows of trial balances and statements are marked as standing out, for everybody in the workspace. */
export function MarkRulesPage() {
  const { data, error } = useQuery({ queryKey: ['/settings/marks'], queryFn: () => ask('GET /settings/marks') });
  return (
    <Place title="Settings" tabs={SETTINGS_TABS} here="/settings/marks">
      <Failure error={error} />
      {data && <RulesForm key={JSON.stringify(data)} rules={data} />}
    </Place>
  );
}

function RulesForm({ rules }: { rules: Rules }) {
  const { role } = useMe();
  const owner = role === 'owner';
  const keep = useChange((body: Rules) => ask('PUT /settings/marks', { body }), ['/settings/marks', '/marks']);
  const [on, setOn] = useState({
    change: rules.change !== null,
    wrongSide: rules.wrongSide,
    silent: rules.silent !== null,
    material: rules.material !== null,
    share: rules.share !== null,
  });
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    await keep
      .mutateAsync({
        change: on.change ? { amount: text('amount'), percent: Number(text('percent')) } : null,
        wrongSide: on.wrongSide,
        silent: on.silent ? { periods: Number(text('periods')) } : null,
        material: on.material ? text('material') || 'said' : null,
        share: on.share ? { points: Number(text('points')) } : null,
        own: rules.own,
      })
      .then(
        () => toast('Kept. Every sheet is marked by these rules from now on.'),
        () => null,
      );
  };
  const rule = (name: keyof typeof on, words: ReactNode) => (
    <li className="flex items-baseline gap-3 border-b border-hair py-2">
      <input
        type="checkbox"
        id={name}
        checked={on[name]}
        disabled={!owner}
        onChange={(event) => setOn({ ...on, [name]: event.target.checked })}
      />
      <div>{words}</div>
    </li>
  );
  const field = (name: string, label: string, value: string | number, wide = 'w-[110px]') => (
    <input
      name={name}
      aria-label={label}
      required={name !== 'material'}
      {...(name === 'material' ? { placeholder: 'no other' } : {})}
      defaultValue={value}
      disabled={!owner}
      inputMode="decimal"
      className={`field mx-1 ${wide} text-right`}
    />
  );
  return (
    <div className="max-w-[860px]">
      <form onSubmit={submit}>
        <p className="mb-2 text-soft">
          A row that one of these fits gets an amber ! with its reason; m walks from one to the next. Amounts are in the
          currency of the sheet.
          {!owner && ' Only an owner changes them.'}
        </p>
        <ul className="border-t border-rule">
          {rule(
            'change',
            <>
              <label htmlFor="change">It changed against a year before</label> by at least{' '}
              {field('amount', 'Amount of the change', rules.change?.amount ?? '50000')} and at least{' '}
              {field('percent', 'Percent of the change', rules.change?.percent ?? 25, 'w-[64px]')} %
            </>,
          )}
          {rule(
            'wrongSide',
            <label htmlFor="wrongSide">Its balance lies on the side that is unusual for the account</label>,
          )}
          {rule(
            'silent',
            <>
              <label htmlFor="silent">Nothing was booked on an income or expense account</label>, though each of the
              {field('periods', 'Periods before', rules.silent?.periods ?? 6, 'w-[64px]')} periods before had some
            </>,
          )}
          {rule(
            'material',
            <>
              <label htmlFor="material">It is above what is said to be material</label> of its company and year; or
              above
              {field('material', 'Amount on every sheet', rules.material === 'said' ? '' : (rules.material ?? ''))}
              on every sheet
            </>,
          )}
          {rule(
            'share',
            <>
              <label htmlFor="share">Its share of revenue is out of line</label> with the year to date by
              {field('points', 'Percentage points', rules.share?.points ?? 2, 'w-[64px]')} percentage points or more
            </>,
          )}
        </ul>
        <Failure error={keep.error} />
        {owner && (
          <button type="submit" className="button-main mt-4" disabled={keep.isPending}>
            Keep
          </button>
        )}
      </form>
      <OwnConditions own={rules.own} disabled={!owner} onChange={(own) => keep.mutate({ ...rules, own })} />
    </div>
  );
}
