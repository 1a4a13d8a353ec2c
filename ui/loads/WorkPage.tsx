'use client';

import { useQuery } from '@tanstack/react-query';
import Link from 'next/link';
import type { Job } from '@/contracts/answers/jobs';
import { momentText } from '../amounts';
import { Failure, LOAD_TABS, Place } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { useMe } from '../shell/me';

const EVERY_MS = 700;
const AT_REST_MS = 10_000;

const KINDS: Record<string, string> = {
  look: 'A look at a file',
  question: 'A long question',
  load: 'Load',
  pull: 'Pull from a source',
  seal: 'Digest of a load',
  drift: 'What a load did to pins',
  tests: 'Tests for what is unusual',
};

/** Long work of all kinds: what waits, what is under way and how far, what came of the rest. */
export function WorkPage() {
  const { role } = useMe();
  const jobs = useQuery({
    queryKey: ['/jobs'],
    queryFn: () => ask('GET /jobs'),
    refetchInterval: ({ state }) => (state.data?.rows.some((j) => j.finishedAt === null) ? EVERY_MS : AT_REST_MS),
  });
  const cancel = useChange((id: number) => ask('DELETE /jobs/{id}', { path: { id } }), ['/jobs', '/loads']);
  return (
    <Place title="Loads" tabs={LOAD_TABS} here="/loads/work">
      <p className="mb-3 max-w-[80ch] text-soft">
        What takes long is done by workers beside the server, so that reading never waits for it. Loads come to count in
        the order in which they were sent.
      </p>
      {jobs.data && !jobs.data.workers && (
        <p role="alert" className="mb-3 text-warn">
          No worker is there, so nothing is taken up. Whoever runs the machine starts one with ./just-thread worker.
        </p>
      )}
      {jobs.data && jobs.data.rows.length > 0 && (
        <Table
          label="Work"
          fixed
          columns={[
            { label: 'Work', width: 'w-40' },
            { label: 'Of' },
            { label: 'State', width: 'w-[24%]' },
            { label: 'Begun by', width: 'w-28' },
            { label: 'Sent', width: 'w-36' },
            { label: 'Took', width: 'w-20', right: true },
            { label: '', width: 'w-20' },
          ]}
        >
          {jobs.data.rows.map((job) => (
            <Tr key={job.id}>
              <Td>{KINDS[job.kind] ?? job.kind}</Td>
              <Td cut title={job.label}>
                {/^load \d+$/.test(job.subject) ? (
                  <Link
                    href={`/loads?load=${job.subject.slice(5)}`}
                    className="underline decoration-rule underline-offset-4 hover:decoration-ink"
                  >
                    {job.subject}
                  </Link>
                ) : null}{' '}
                {job.label}
              </Td>
              <Td>
                <State job={job} />
              </Td>
              <Td cut>{job.by}</Td>
              <Td>{momentText(job.addedAt)}</Td>
              <Td right>{tookText(job)}</Td>
              <Td right>
                {job.finishedAt === null && (job.mine || role === 'owner') && (
                  <button
                    type="button"
                    className="link"
                    disabled={job.cancelAsked}
                    onClick={() => cancel.mutate(job.id)}
                    aria-label={`Stop: ${job.label}`}
                  >
                    {job.cancelAsked ? 'stopping' : 'Stop'}
                  </button>
                )}
              </Td>
            </Tr>
          ))}
        </Table>
      )}
      {jobs.data?.rows.length === 0 && <p>Nothing has been begun yet. A file that is brought in is the first.</p>}
      <Failure error={jobs.error ?? cancel.error} />
    </Place>
  );
}

function State({ job }: { job: Job }) {
  const more = job.message && <span className="block text-[13px] break-words">{job.message}</span>;
  switch (job.state) {
    case 'waiting':
      return <span className="text-soft">waits{job.tries > 0 ? ', to be tried again' : ''}</span>;
    case 'under way':
      return (
        <span role="status">
          under way{job.progress > 0 ? `, ${Math.round(job.progress * 100)} %` : ''}
          {more}
        </span>
      );
    case 'done':
      return <span>✓ done{job.message ? `, ${job.message}` : ''}</span>;
    case 'cancelled':
      return <span className="text-soft">stopped as asked</span>;
    default:
      return (
        <span className="text-warn">
          ✗ {job.state}
          {more}
        </span>
      );
  }
}

function tookText({ begunAt, finishedAt }: Job): string {
  if (!begunAt || !finishedAt) return '';
  const seconds = (Date.parse(finishedAt) - Date.parse(begunAt)) / 1000;
  if (seconds < 0.1) return '< 0.1 s';
  return seconds < 60 ? `${seconds.toFixed(1)} s` : `${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s`;
}
