'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { SavedThread } from '@/contracts/answers/threads';
import { placeOfSubject } from '@/contracts/places';
import { amountText, momentText } from '../amounts';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { INK } from '../sheet/ink';
import { useMe } from '../shell/me';
import { TOUCHES } from './words';

/** Evidence that has a page of its own. */
const OWN_PLACE: Readonly<Record<string, string>> = {
  finding: '/findings',
  sample: '/threads/samples',
  run: '/tests',
  expectation: '/threads/expectations',
  proposed: '/proposals',
};

/** What a thread gathered, in the order in which it came, with pins that are held against others. */
export function GatheredList({ thread }: { thread: SavedThread }) {
  const { gathered } = thread;
  if (gathered.length === 0)
    return (
      <p className="my-3 max-w-[80ch] text-soft">
        Nothing is gathered yet. Go on from one of its steps: notes, ticks, pins, files, questions and findings that are
        made on the way are gathered here by themselves.
      </p>
    );
  return (
    <div className="my-3">
      <Table
        label="Evidence"
        columns={[
          { label: 'Evidence', width: 'w-[90px]' },
          { label: 'On', width: 'w-[26%]' },
          { label: 'What it says' },
          { label: 'State', width: 'w-[110px]' },
          { label: 'By', width: 'w-[130px]' },
          { label: 'When', width: 'w-[150px]' },
        ]}
      >
        {gathered.map((g) => (
          <Tr key={`${g.kind}${g.id}`}>
            <Td>{g.kind}</Td>
            <Td cut title={g.label}>
              <Link
                href={g.kind in OWN_PLACE ? `${OWN_PLACE[g.kind]}/${g.id}` : g.address || placeOfSubject(g.subject)}
                className="hover:underline"
              >
                {g.label}
              </Link>
            </Td>
            <Td>
              <span className={`line-clamp-3 whitespace-pre-wrap ${INK[g.ink]}`}>{g.says}</span>
            </Td>
            <Td>{g.state === 'drifted' ? <span className="text-warn">≠ moved</span> : g.state}</Td>
            <Td>{g.by}</Td>
            <Td>{momentText(g.at)}</Td>
          </Tr>
        ))}
      </Table>
      <References thread={thread} />
    </div>
  );
}

/** Pins that are held against pins of other threads, for ever: “C-3 agrees with D-1”. */
function References({ thread }: { thread: SavedThread }) {
  const me = useMe();
  const pins = thread.gathered.filter((g) => g.kind === 'pin');
  const [adding, setAdding] = useState(false);
  const remove = useChange((id: number) => ask('DELETE /cross-references/{id}', { path: { id } }), TOUCHES);
  if (pins.length === 0) return null;
  return (
    <div className="mt-3">
      <ul className="flex flex-col gap-0.5">
        {thread.crossReferences.map((r) => (
          <li key={r.id} className="flex flex-wrap items-baseline gap-x-2">
            <strong className="font-semibold">{r.names[0]}</strong>
            <span className="text-soft">{r.labels[0]}</span>
            {r.agrees ? (
              <span>✓ agrees with</span>
            ) : (
              <span className="text-warn">
                ≠ is off by {r.offBy === 'gone' ? 'all of it' : amountText(r.offBy)} from
              </span>
            )}
            <strong className="font-semibold">{r.names[1]}</strong>
            <span className="text-soft">{r.labels[1]}</span>
            {me.role !== 'reader' && (
              <button type="button" className="link text-[12.5px] text-faint" onClick={() => remove.mutate(r.id)}>
                let go
              </button>
            )}
          </li>
        ))}
      </ul>
      {me.role !== 'reader' && (
        <button type="button" className="link mt-1 text-[13px]" onClick={() => setAdding(true)}>
          Hold a pin against one of another thread
        </button>
      )}
      {adding && <Refer pins={pins} onClose={() => setAdding(false)} />}
    </div>
  );
}

function Refer({ pins, onClose }: { pins: SavedThread['gathered']; onClose(): void }) {
  const entities = useEntities();
  const all = useAnswer(
    'GET /pins',
    entities.data ? new URLSearchParams(entities.data.entities.map((e) => ['entity', e.code])) : null,
  );
  const [a, setA] = useState(String(pins[0]?.id ?? ''));
  const [b, setB] = useState('');
  const own = new Set(pins.map((p) => p.id));
  const others = (all.data?.rows ?? []).filter((p) => !own.has(p.id));
  const refer = useChange(
    () => ask('POST /cross-references', { body: { a: Number(a), b: Number(b || others[0]?.id) } }),
    TOUCHES,
  );
  return (
    <Modal title="Two pins that should agree" className="top-[20vh] w-[560px]" onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={async (event) => {
          event.preventDefault();
          await refer.mutateAsync(undefined).then(onClose, () => null);
        }}
      >
        <Labelled label="This one" wide>
          <Select value={a} onChange={(event) => setA(event.target.value)} className="w-full">
            {pins.map((p) => (
              <option key={p.id} value={p.id}>
                {p.label}: {p.says}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="and this one" wide>
          <Select
            value={b || String(others[0]?.id ?? '')}
            onChange={(event) => setB(event.target.value)}
            className="w-full"
          >
            {others.map((p) => (
              <option key={p.id} value={p.id}>
                {p.label}: {p.currency} {amountText(p.value)}
              </option>
            ))}
          </Select>
        </Labelled>
        {others.length === 0 && <p className="text-soft">There is no other pin to hold it against.</p>}
        <Failure error={refer.error} />
        <div className="flex gap-2">
          <button type="submit" className="button-main" disabled={refer.isPending || others.length === 0}>
            Hold them against each other
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}
