'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { Run } from '@/contracts/answers/tests';
import { amountText, countText, momentText } from '../amounts';
import { Failure, Place, TEST_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { useAnswer } from '../query/hooks';
import { hitsPlace } from './hitsPlace';
import { useRun, useRuns } from './useRuns';

const TOLD = 10;
/** Of so many the different ones are told. */
const ASKED = 100;

/** What is told of each, in the order in which one reads it. */
const SECTIONS = [
  ['entry', 'Entries'],
  ['account', 'Accounts'],
  ['party', 'Customers and suppliers'],
  ['person', 'People'],
  ['day', 'Days'],
] as const;

/** What an experienced reader would notice first: the oddest of everything that the newest run of many tests found. */
export function LookPage() {
  const { data, error } = useRuns();
  const looks = (data?.rows ?? []).filter((r) => r.state === 'done' && r.tests.length > LEAST);
  // Of each set of companies and window the newest.
  const newest = looks.filter((r, i) => looks.findIndex((o) => o.label === r.label) === i);
  const [chosen, choose] = useState('');
  const shown = newest.find((r) => r.label === chosen) ?? newest[0];
  const coming = data?.rows.some((r) => r.state === 'running' || r.state === 'waiting') ?? false;
  return (
    <Place title="Tests" tabs={TEST_TABS} here="/tests/look">
      <Failure error={error} />
      {data && !shown && (
        <p className="max-w-[70ch] text-soft">
          {coming ? 'A first look is being made. ' : 'Nothing has been looked over yet. '}
          <Link href="/tests" className="link">
            {coming ? 'How far it is' : 'Run all tests'}
          </Link>
          {!coming && (
            <>
              , or have them run by themselves, under{' '}
              <Link href="/tests/every" className="link">
                Every test
              </Link>
            </>
          )}
          .
        </p>
      )}
      {newest.length > 1 && (
        <p className="-mt-1 mb-3">
          <Select
            look="word"
            aria-label="Which look"
            value={shown?.label ?? ''}
            onChange={(event) => choose(event.target.value)}
          >
            {newest.map((r) => (
              <option key={r.label} value={r.label}>
                {r.label}
              </option>
            ))}
          </Select>
        </p>
      )}
      {shown && <Look key={shown.id} id={shown.id} />}
    </Place>
  );
}

/** A run of fewer tests is no look at a ledger. */
const LEAST = 10;

function Look({ id }: { id: number }) {
  const { data: run, error } = useRun(id);
  if (!run) return <Failure error={error} />;
  return (
    <>
      <p className="-mt-2 mb-4 max-w-[100ch] text-soft">
        {run.sentence}; looked over {momentText(run.at)} as of load {run.load}.{' '}
        <Link href={hitsPlace(run)} className="link">
          All {countText(run.hits ?? 0)} hits that are kept
        </Link>
      </p>
      <Whole run={run} />
      <div className="columns-2 gap-x-10">
        {SECTIONS.map(([by, name]) => (
          <Oddest key={by} run={run} by={by} name={name} />
        ))}
      </div>
    </>
  );
}

/** Whether all of it is there, and what is wrong in a way that one sentence tells. */
function Whole({ run }: { run: Run }) {
  const found = (code: string): number => run.results.find((r) => r.code === code)?.hits ?? 0;
  const told: string[] = run.population.map(
    (p) =>
      `${p.name} has ${countText(p.lines)} lines of ${countText(p.entries)} entries, ${p.currency} ${amountText(p.debit)} on each side; ${p.tie ? 'the trial balance says the same' : 'the trial balance says otherwise'}.`,
  );
  const say = (code: string, one: string, many: string): { code: string; says: string }[] =>
    found(code) === 0 ? [] : [{ code, says: `${countText(found(code))} ${found(code) === 1 ? one : many}` }];
  const odd = [
    ...say('wrong-side', 'account ends on the wrong side', 'accounts end on the wrong side'),
    ...say(
      'suspense',
      'suspense or clearing account is not at nothing',
      'suspense and clearing accounts are not at nothing',
    ),
    ...say('gaps', 'number is missing in a series', 'numbers are missing in series'),
    ...say('missing-month', 'account has a month that is missing', 'accounts have a month that is missing'),
    ...say('out-of-line', 'month is out of line with its history', 'months are out of line with their history'),
    ...say('season', 'month breaks the season of its account', 'months break the season of their accounts'),
    ...say('changed-lines', 'entry was changed by a later load', 'entries were changed by later loads'),
  ];
  return (
    <section aria-label="The whole" className="mb-5 max-w-[100ch]">
      {told.map((text) => (
        <p key={text}>{text}</p>
      ))}
      {odd.length > 0 && (
        <p className="mt-1">
          {odd.map(({ code, says }) => (
            <span key={code}>
              <Link href={hitsPlace(run, { test: code, state: 'all' })} className="hover:underline">
                {says}
              </Link>
              .{' '}
            </span>
          ))}
        </p>
      )}
    </section>
  );
}

function Oddest({ run, by, name }: { run: Run; by: string; name: string }) {
  const { data, error } = useAnswer(
    'GET /test-runs/{id}/groups',
    new URLSearchParams({ by, limit: String(ASKED), state: 'open' }),
    { id: run.id },
  );
  // What has the very same to say is told once.
  const all = (data?.rows ?? []).filter((r) => r.key !== null);
  const alike = (reason: string): number => all.filter((r) => r.reason === reason).length - 1;
  const rows = all.filter((r, i) => all.findIndex((o) => o.reason === r.reason) === i).slice(0, TOLD);
  return (
    <section aria-labelledby={`look-${by}`} className="mb-6 break-inside-avoid-column">
      <h2 id={`look-${by}`} className="mb-1 border-b border-ink font-book text-[17px] font-semibold">
        {name}
      </h2>
      <Failure error={error} />
      <ol>
        {rows.map((r) => (
          <li
            key={`${r.entity}/${r.key}`}
            className="break-inside-avoid border-b border-hair pt-[1px] pb-[5px] text-[13.5px]"
          >
            {/* Two links, one above the other, are as far apart as a finger needs. */}
            <span className="block leading-[28px]">
              <Link
                href={hitsPlace(run, { by, key: `${r.entity}/${r.key}` })}
                className="font-semibold hover:underline"
              >
                {r.label}
              </Link>
              <span className="ml-2 text-[12.5px] text-faint">{r.entity}</span>
            </span>
            <span className="block">
              <Link href={r.address} className="hover:underline">
                {r.reason}
              </Link>
              {r.tests.length > 1 && (
                <span className="text-soft">
                  {' '}
                  And {countText(r.tests.length - 1)} other {r.tests.length === 2 ? 'test' : 'tests'}.
                </span>
              )}
              {alike(r.reason) > 0 && (
                <span className="text-soft">
                  {' '}
                  {countText(alike(r.reason))} more {alike(r.reason) === 1 ? 'says' : 'say'} the same.
                </span>
              )}
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
