'use client';

import Link from 'next/link';
import { useMemo, useState } from 'react';
import type { AnswerOf } from '@/contracts/routes';
import { folded } from '@/core/folded';
import { countText, momentText } from '../amounts';
import { Failure, Place, THREAD_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { useThreads } from '../query/hooks';
import { useMe } from '../shell/me';
import { BundleButton } from './BundleButton';
import { RollForward } from './RollForward';
import { STATE_WORD } from './words';

/** So many of a folder are shown before more are asked for. */
const SHOWN = 100;

type Row = AnswerOf<'GET /threads'>['rows'][number];

/** The threads as a record of work: by folder, with who owns and reviews each, what is open in it, and what has moved. */
export function ThreadsPage() {
  const { data, error } = useThreads();
  const me = useMe();
  const [state, setState] = useState('');
  const [owner, setOwner] = useState('');
  const [words, setWords] = useState('');
  const [whole, setWhole] = useState<readonly string[]>([]);
  const [rolling, setRolling] = useState<number[] | null>(null);
  const rows = useMemo(
    () =>
      (data?.rows ?? []).filter(
        (t) =>
          (state === '' || t.state === state) &&
          (owner === '' || t.by === owner) &&
          folded(`${t.reference} ${t.name} ${t.folder}`).includes(folded(words.trim())),
      ),
    [data, state, owner, words],
  );
  const folders = useMemo(() => byFolder(rows), [rows]);
  const owners = [...new Set((data?.rows ?? []).map((t) => t.by))].sort();
  return (
    <Place title="Threads" tabs={THREAD_TABS} here="/threads">
      <Failure error={error} />
      {data?.rows.length === 0 && (
        <p className="max-w-[70ch] text-soft">
          No thread is kept yet. Trace a figure on the <Link href="/trial-balance">trial balance</Link> or a{' '}
          <Link href="/statements">statement</Link>, then choose “Keep this thread” at the foot of the sheet: the way
          down is kept, and every further step with it.
        </p>
      )}
      {data && data.rows.length > 0 && (
        <p className="mb-3 flex flex-wrap items-baseline gap-x-2 text-soft">
          {countText(rows.length)} {rows.length === 1 ? 'thread' : 'threads'}
          <Select look="word" aria-label="State" value={state} onChange={(event) => setState(event.target.value)}>
            <option value="">of any state</option>
            {Object.entries(STATE_WORD).map(([code, word]) => (
              <option key={code} value={code}>
                {word}
              </option>
            ))}
          </Select>
          <Select look="word" aria-label="Owner" value={owner} onChange={(event) => setOwner(event.target.value)}>
            <option value="">of anybody</option>
            {owners.map((name) => (
              <option key={name} value={name}>
                of {name}
              </option>
            ))}
          </Select>
          <input
            type="search"
            aria-label="Words of a thread"
            placeholder="whose name has …"
            value={words}
            onChange={(event) => setWords(event.target.value)}
            className="field ml-2 h-7 w-[220px]"
          />
        </p>
      )}
      {folders.map(([folder, its]) => (
        <section key={folder} className="mb-5">
          <h2 className="mb-1 flex items-baseline gap-3 font-book text-[16px] font-semibold">
            {folder === '' ? 'In no folder' : folder.split('/').join(' › ')}
            <span className="font-sans text-[12.5px] font-normal text-soft">{progressText(its)}</span>
            {me.role !== 'reader' && (
              <button
                type="button"
                className="link font-sans text-[12.5px] font-normal text-soft"
                onClick={() => setRolling(its.map((t) => t.id))}
              >
                roll forward
              </button>
            )}
            <BundleButton
              threads={its.map((t) => t.id).slice(0, 200)}
              name={folder === '' ? 'Threads in no folder' : folder}
              className="link font-sans text-[12.5px] font-normal text-soft"
            >
              make a bundle
            </BundleButton>
          </h2>
          <Table
            label={folder === '' ? 'Threads in no folder' : `Threads in ${folder}`}
            fixed
            columns={[
              { label: 'Ref.', width: 'w-[64px]' },
              { label: 'Thread' },
              { label: 'Books', width: 'w-[90px]' },
              { label: 'State', width: 'w-[120px]' },
              { label: 'Open points', width: 'w-[86px]', right: true },
              { label: 'Moved', width: 'w-[70px]', right: true },
              { label: 'Owner', width: 'w-[120px]' },
              { label: 'Reviewer', width: 'w-[120px]' },
              { label: 'Last step', width: 'w-[150px]' },
            ]}
          >
            {(whole.includes(folder) ? its : its.slice(0, SHOWN)).map((t) => (
              <Tr key={t.id}>
                <Td>{t.reference}</Td>
                <Td cut title={t.name}>
                  <Link href={`/threads/${t.id}`} className="font-semibold hover:underline">
                    {t.name}
                  </Link>
                </Td>
                <Td cut>{t.entities.join(', ')}</Td>
                <Td>{STATE_WORD[t.state]}</Td>
                <Td right>{t.openPoints === 0 ? '' : countText(t.openPoints)}</Td>
                <Td right>{t.moved === 0 ? '' : <span className="text-warn">≠ {countText(t.moved)}</span>}</Td>
                <Td cut>{t.by}</Td>
                <Td cut>{t.reviewer?.name}</Td>
                <Td>{momentText(t.changed)}</Td>
              </Tr>
            ))}
          </Table>
          {its.length > SHOWN && !whole.includes(folder) && (
            <button type="button" className="button mt-2" onClick={() => setWhole([...whole, folder])}>
              Show all {countText(its.length)}
            </button>
          )}
        </section>
      ))}
      {rolling && <RollForward threads={rolling} onClose={() => setRolling(null)} />}
    </Place>
  );
}

/** Folders by their names, what is in none last. */
function byFolder(rows: readonly Row[]): [string, Row[]][] {
  const folders = new Map<string, Row[]>();
  for (const row of rows) folders.set(row.folder, [...(folders.get(row.folder) ?? []), row]);
  for (const its of folders.values())
    its.sort(
      (a, b) =>
        a.reference.localeCompare(b.reference, undefined, { numeric: true }) || (a.changed < b.changed ? 1 : -1),
    );
  return [...folders].sort(([a], [b]) => (a === '' ? 1 : b === '' ? -1 : a < b ? -1 : 1));
}

const progressText = (rows: readonly Row[]): string => {
  const signed = rows.filter((t) => t.state === 'signed').length;
  return `${countText(signed)} of ${countText(rows.length)} signed`;
};
