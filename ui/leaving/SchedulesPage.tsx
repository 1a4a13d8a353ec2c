'use client';

import { useQuery } from '@tanstack/react-query';
import { Fragment, useState } from 'react';
import type { Schedule } from '@/contracts/answers/leaving';
import { momentText } from '../amounts';
import { Failure, Place, REPORT_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { ScheduleForm } from './ScheduleForm';
import { STATE_WORD, TOUCHES, whenWords } from './words';

const EVERY_MS = 1_000;
const AT_REST_MS = 15_000;
const COLUMNS = [
  { label: 'Called', width: 'w-[200px]' },
  { label: 'When' },
  { label: 'For', width: 'w-[190px]' },
  { label: 'Next', width: 'w-[130px]' },
  { label: 'Last', width: 'w-[150px]' },
  { label: '', width: 'w-[230px]' },
];

/** Reports and packs that are made by themselves, for whom, and what came of it. */
export function SchedulesPage() {
  const me = useMe();
  const { data, error } = useQuery({
    queryKey: ['/schedules'],
    queryFn: () => ask('GET /schedules'),
    // What a run comes to is seen without asking again.
    refetchInterval: ({ state }) =>
      state.data?.rows.some((r) => r.last?.state === 'waiting' || r.last?.state === 'under way')
        ? EVERY_MS
        : AT_REST_MS,
  });
  const [open, setOpen] = useState<Schedule | 'new' | null>(null);
  const [runsOf, setRunsOf] = useState<number | null>(null);
  const run = useChange((id: number) => ask('POST /schedules/{id}/run', { path: { id } }), TOUCHES);
  const pause = useChange(
    ({ id, paused }: Schedule) => ask('PUT /schedules/{id}', { path: { id }, body: { paused: !paused } }),
    TOUCHES,
  );
  const drop = useChange((id: number) => ask('DELETE /schedules/{id}', { path: { id } }), TOUCHES);
  const rows = data?.rows ?? [];
  return (
    <Place title="Reports" tabs={REPORT_TABS} here="/reports/schedules">
      <p className="mb-3 max-w-[80ch] text-soft">
        At a time, with each load or when a figure comes to it, a report or a pack is made for each receiver as they may
        see it, kept among their files and sent to them. What was missed while nothing ran is made once.
      </p>
      <Failure error={error ?? run.error ?? pause.error ?? drop.error} />
      {data && rows.length === 0 ? (
        <p className="text-soft">Nothing is made by itself yet.</p>
      ) : (
        <Table label="Schedules" columns={COLUMNS}>
          {rows.map((s) => (
            <Fragment key={s.id}>
              <Tr>
                <Td>
                  <strong className="font-semibold">{s.name}</strong>
                </Td>
                <Td>{s.paused ? `paused; ${whenWords(s)}` : whenWords(s)}</Td>
                <Td>{s.receivers.map((r) => r.name).join(', ')}</Td>
                <Td>{s.nextAt && !s.paused ? momentText(s.nextAt) : ''}</Td>
                <Td>
                  {s.last && (
                    <span className={s.last.state === 'failed' ? 'text-warn' : ''} title={s.last.reason}>
                      {STATE_WORD[s.last.state]}, {momentText(s.last.at)}
                    </span>
                  )}
                </Td>
                <Td>
                  <span className="flex flex-wrap gap-x-3">
                    <button
                      type="button"
                      className="link"
                      aria-expanded={runsOf === s.id}
                      onClick={() => setRunsOf(runsOf === s.id ? null : s.id)}
                    >
                      runs
                    </button>
                    {(s.mine || me.role === 'owner') && (
                      <>
                        <button type="button" className="link" onClick={() => run.mutate(s.id)}>
                          make it now
                        </button>
                        <button type="button" className="link" onClick={() => setOpen(s)}>
                          change
                        </button>
                        <button type="button" className="link" onClick={() => pause.mutate(s)}>
                          {s.paused ? 'go on' : 'pause'}
                        </button>
                        <button
                          type="button"
                          className="link"
                          onClick={() => window.confirm(`Make “${s.name}” no more?`) && drop.mutate(s.id)}
                        >
                          end
                        </button>
                      </>
                    )}
                  </span>
                </Td>
              </Tr>
              {runsOf === s.id && (
                <tr className="border-b border-hair">
                  <td colSpan={COLUMNS.length} className="px-3 pt-1 pb-3">
                    <Runs id={s.id} busy={s.last?.state === 'waiting' || s.last?.state === 'under way'} />
                  </td>
                </tr>
              )}
            </Fragment>
          ))}
        </Table>
      )}
      {me.role !== 'reader' &&
        (open === null ? (
          <button type="button" className="button mt-4" onClick={() => setOpen('new')}>
            Have something made by itself
          </button>
        ) : (
          <ScheduleForm
            key={open === 'new' ? 'new' : open.id}
            schedule={open === 'new' ? null : open}
            onDone={() => setOpen(null)}
          />
        ))}
    </Place>
  );
}

/** What was made, for whom, and why not where it was not. */
function Runs({ id, busy }: { id: number; busy: boolean }) {
  const { data, error } = useQuery({
    queryKey: ['/schedules', id, 'runs'],
    queryFn: () => ask('GET /schedules/{id}/runs', { path: { id } }),
    refetchInterval: busy ? EVERY_MS : AT_REST_MS,
  });
  if (error) return <Failure error={error} />;
  if (data?.rows.length === 0) return <p className="text-soft">It was not made yet.</p>;
  return (
    <ul className="flex flex-col gap-2">
      {(data?.rows ?? []).map((run) => (
        <li key={run.id}>
          <span className="font-semibold">{momentText(run.at)}</span>{' '}
          <span className="text-soft">
            {STATE_WORD[run.state]}, for {/^\d{4}-/.test(run.for) ? momentText(run.for) : run.for}
          </span>
          <ul>
            {run.outputs.map((o) => (
              <li key={`${o.name} ${o.title} ${o.format}`} className="flex gap-x-3 pl-4">
                <span className="w-[150px] truncate">{o.name}</span>
                <span>
                  {o.title} ({o.format})
                </span>
                {o.problem && <span className="text-warn">{o.problem}</span>}
                {o.export !== null && o.mine && (
                  <a className="link" download href={`/api/v1/exports/${o.export}/file`}>
                    save
                  </a>
                )}
              </li>
            ))}
          </ul>
          {run.outputs.length === 0 && run.reason && <p className="pl-4 text-warn">{run.reason}</p>}
        </li>
      ))}
    </ul>
  );
}
