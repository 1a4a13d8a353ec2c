'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { ORIGINS, readScreen } from '../address/address';
import { ASKED, ASKED_WORD, type Asked, askingPath } from '../address/asking';
import { Failure, Labelled } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { howOf, type Wanted } from './how';
import { TOUCHES } from './words';

/** What else can be done with a sheet than take it out at once: keep it as a report, freeze it, have it made meanwhile. */
export function OtherWays({
  path,
  page,
  wanted,
  label,
  onDone,
}: {
  path: string;
  page: string;
  wanted: Wanted;
  label: string;
  onDone(): void;
}) {
  const router = useRouter();
  const me = useMe();
  const [naming, setNaming] = useState(false);
  const [name, setName] = useState(wanted.title || label);
  const [folder, setFolder] = useState('');
  const [shared, setShared] = useState(false);
  const how = howOf(wanted);
  const keep = useChange(
    () => ask('POST /reports', { body: { name, folder, path, page, format: wanted.format, how, shared } }),
    TOUCHES,
  );
  const freeze = useChange(
    () => ask('POST /frozen', { body: { path, page, ...(wanted.title ? { title: wanted.title } : {}) } }),
    TOUCHES,
  );
  const make = useChange(() => ask('POST /exports', { body: { path, format: wanted.format, ...how, page } }), TOUCHES);
  return (
    <section className="flex flex-col gap-2 border-t border-rule pt-3 text-[13.5px]">
      <p className="flex flex-wrap gap-x-4 gap-y-1">
        <button type="button" className="link" aria-expanded={naming} onClick={() => setNaming(!naming)}>
          Keep as a report
        </button>
        {me.role !== 'reader' && (
          <button
            type="button"
            className="link"
            disabled={freeze.isPending}
            onClick={() =>
              void freeze
                .mutateAsync(undefined)
                .then(({ address }) => router.push(address))
                .catch(() => {})
            }
          >
            Freeze it
          </button>
        )}
        <button
          type="button"
          className="link"
          disabled={make.isPending}
          onClick={() =>
            void make
              .mutateAsync(undefined)
              .then(() => {
                onDone();
                toast('It is being made', {
                  action: { label: 'Files made for you', onClick: () => router.push('/reports/files') },
                });
              })
              .catch(() => {})
          }
        >
          Have it made meanwhile
        </button>
      </p>
      <AskingLink page={page} />
      {naming && (
        <div className="flex flex-col gap-2">
          <div className="flex flex-wrap gap-3">
            <Labelled label="Report called">
              <input
                value={name}
                maxLength={120}
                className="field w-[215px]"
                onChange={(event) => setName(event.target.value)}
              />
            </Labelled>
            <Labelled label="In folder">
              <input
                value={folder}
                maxLength={80}
                className="field w-[215px]"
                onChange={(event) => setFolder(event.target.value)}
              />
            </Labelled>
          </div>
          <label className="flex cursor-pointer items-baseline gap-2">
            <input type="checkbox" checked={shared} onChange={(event) => setShared(event.target.checked)} />
            Everybody may run it, each as they may see it
          </label>
          <button
            type="button"
            className="button self-start"
            disabled={keep.isPending || name.trim() === ''}
            onClick={() =>
              void keep
                .mutateAsync(undefined)
                .then(() => {
                  onDone();
                  toast(`“${name}” is kept`, { action: { label: 'Reports', onClick: () => router.push('/reports') } });
                })
                .catch(() => {})
            }
          >
            Keep it
          </button>
        </div>
      )}
      <Failure error={keep.error ?? freeze.error ?? make.error} />
    </section>
  );
}

/** A link to the sheet that leaves some of its scope to whoever opens it. */
function AskingLink({ page }: { page: string }) {
  const [parts, setParts] = useState<Asked[]>(['window']);
  const [path, query = ''] = page.split(/\?(.*)/s);
  const origin = ORIGINS.find((o) => path === `/${o}`);
  if (!origin) return null;
  const link = `${window.location.origin}${askingPath(readScreen(origin, new URLSearchParams(query)), parts)}`;
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 gap-y-1">
      <button
        type="button"
        className="link"
        disabled={parts.length === 0}
        onClick={() =>
          void navigator.clipboard.writeText(link).then(
            () => toast('The link is copied'),
            () => toast('The browser did not let it copy the link'),
          )
        }
      >
        Copy a link that asks for
      </button>
      {ASKED.map((part) => (
        <label key={part} className="flex cursor-pointer items-baseline gap-1.5">
          <input
            type="checkbox"
            checked={parts.includes(part)}
            onChange={() =>
              setParts(
                parts.includes(part)
                  ? parts.filter((p) => p !== part)
                  : ASKED.filter((p) => p === part || parts.includes(p)),
              )
            }
          />
          {ASKED_WORD[part]}
        </label>
      ))}
    </p>
  );
}
