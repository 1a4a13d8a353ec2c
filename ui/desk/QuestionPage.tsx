'use client';

import Link from 'next/link';
import { useEffect, useState } from 'react';
import type { EvidenceFile } from '@/contracts/answers/evidence';
import { placeOfSubject } from '@/contracts/places';

import { FileCard, QuestionCard } from '../evidence/cards';
import { useAttach } from '../evidence/useAttach';
import { useEvidence } from '../evidence/useEvidence';
import { later } from '../parts/later';
import { Failure, Place } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';

const FileInFront = later(() => import('../evidence/FileBeside').then((m) => m.FileInFront));
const NO_PARAMS = new URLSearchParams();

/** One question with its answers: what a letter leads to. Whoever is asked answers here and attaches what shows it. */
export function QuestionPage({ id }: { id: number }) {
  const { data, error } = useAnswer('GET /questions/{id}', NO_PARAMS, { id });
  const evidence = useEvidence(data ? { subject: data.subject } : { entity: [] });
  const attach = useAttach();
  const [shown, setShown] = useState<EvidenceFile | null>(null);
  const seen = useChange(() => ask('POST /desk/seen', { body: { kind: 'question', id } }), ['/desk']);
  // Whoever reads the answer has seen it.
  const answered = data?.mine && data.state === 'answered';
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, when it is shown
  useEffect(() => {
    if (answered) seen.mutate(undefined);
  }, [answered]);
  if (!data)
    return (
      <Place title="Question" tabs={BACK} here="">
        <Failure error={error} />
      </Place>
    );
  return (
    <Place title={`Question on ${data.label}`} tabs={BACK} here="">
      {shown && <FileInFront file={shown} onClose={() => setShown(null)} />}
      <div className="max-w-[680px]">
        <p className="mb-3">
          <Link href={placeOfSubject(data.subject)} className="link">
            See {data.label}
          </Link>
          {data.thread && (
            <Link href={`/threads/${data.thread}`} className="link ml-4">
              its thread
            </Link>
          )}
        </p>
        <QuestionCard key={data.state} question={data} writing={data.forMe && data.state === 'open'} />
        {evidence.files.length > 0 && (
          <ul className="mt-4 flex flex-col gap-2">
            {evidence.files.map((f) => (
              <li key={f.id}>
                <FileCard file={f} onOpen={setShown} />
              </li>
            ))}
          </ul>
        )}
        <label className="link mt-3 inline-block text-[13px]">
          Attach a file to {data.label}
          <input
            type="file"
            className="sr-only"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file)
                attach.mutate(
                  { file, subject: data.subject, label: data.label, address: data.address, thread: null },
                  { onError: (problem) => toast(problem.message), onSuccess: () => toast(`${file.name} is attached`) },
                );
            }}
          />
        </label>
      </div>
    </Place>
  );
}

const BACK = [{ href: '/desk', name: 'Desk' }];
