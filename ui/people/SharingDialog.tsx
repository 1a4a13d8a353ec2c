'use client';

import { useState } from 'react';
import type { Sharing } from '@/contracts/answers/settings';
import { RIGHTS, type Right } from '@/contracts/work';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';

type Kind = 'threads' | 'scopes';
/** What each right is called, by what is shared; a sentence is neither commented on nor gone on with. */
const CALLED: Record<Kind, Partial<Record<Right, string>>> = {
  threads: {
    nothing: 'does not see it',
    open: 'reads it',
    comment: 'comments on it',
    continue: 'adds steps and evidence',
    change: 'changes what it says',
    share: 'says who may do what',
  },
  scopes: {
    nothing: 'does not see it',
    open: 'opens it',
    change: 'changes its name and shape',
    share: 'says who may do what',
  },
};

const NO_PARAMS = new URLSearchParams();

/** Who may open, comment on, go on with, change and share a thread or a kept sentence. */
export function SharingDialog({ kind, id, name, onClose }: { kind: Kind; id: number; name: string; onClose(): void }) {
  const { data, error } = useAnswer(`GET /${kind}/{id}/sharing`, NO_PARAMS, { id });
  return (
    <Modal title={`Who may do what with “${name}”`} className="top-[14vh] w-[560px]" onClose={onClose}>
      <Failure error={error} />
      {data && <Form kind={kind} id={id} begin={data} onClose={onClose} />}
    </Modal>
  );
}

function Form({ kind, id, begin, onClose }: { kind: Kind; id: number; begin: Sharing; onClose(): void }) {
  const [everybody, setEverybody] = useState<Right>(begin.everybody);
  const [people, setPeople] = useState(begin.people);
  const keep = useChange(
    () =>
      ask(`PUT /${kind}/{id}/sharing`, {
        path: { id },
        body: { everybody, people: people.map(({ id: person, may }) => ({ id: person, may })) },
      }),
    [`/${kind}`],
  );
  const unnamed = begin.others.filter((o) => !people.some((p) => p.id === o.id));
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        keep.mutate(undefined, {
          onSuccess: () => {
            toast('Kept');
            onClose();
          },
        });
      }}
    >
      <p className="text-[13px] text-soft">
        {begin.by} made it and may do all with it, as owners may. Everybody sees of it only what their grant lets them
        see.
      </p>
      <table className="w-full">
        <tbody>
          <tr className="border-b border-hair">
            <th scope="row" className="py-1 text-left font-normal">
              Everybody else
            </th>
            <td className="w-[230px] py-1">
              <Rights kind={kind} label="Everybody else" value={everybody} onChange={setEverybody} />
            </td>
            <td className="w-16" />
          </tr>
          {people.map((p) => (
            <tr key={p.id} className="border-b border-hair">
              <th scope="row" className="py-1 text-left font-normal">
                {p.name}
              </th>
              <td className="py-1">
                <Rights
                  kind={kind}
                  label={p.name}
                  value={p.may}
                  onChange={(may) => setPeople(people.map((o) => (o.id === p.id ? { ...o, may } : o)))}
                />
              </td>
              <td className="text-right">
                <button
                  type="button"
                  className="link"
                  aria-label={`As everybody: ${p.name}`}
                  onClick={() => setPeople(people.filter((o) => o.id !== p.id))}
                >
                  take out
                </button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {unnamed.length > 0 && (
        <Labelled label="Say it of somebody">
          <Select
            value=""
            className="w-[230px]"
            onChange={(event) => {
              const person = unnamed.find((o) => o.id === Number(event.target.value));
              if (person) setPeople([...people, { ...person, may: 'open' }]);
            }}
          >
            <option value="">choose a person</option>
            {unnamed.map((o) => (
              <option key={o.id} value={o.id}>
                {o.name}
              </option>
            ))}
          </Select>
        </Labelled>
      )}
      <Failure error={keep.error} />
      <div className="flex gap-2">
        <button type="submit" className="button-main" disabled={keep.isPending}>
          Keep
        </button>
        <ModalClose className="button">Cancel</ModalClose>
      </div>
    </form>
  );
}

function Rights({
  kind,
  label,
  value,
  onChange,
}: {
  kind: Kind;
  label: string;
  value: Right;
  onChange(right: Right): void;
}) {
  const offered = RIGHTS.filter((right) => CALLED[kind][right] !== undefined);
  // What a right takes in and is not told apart here is what it takes in.
  const shown = offered.includes(value) ? value : 'open';
  return (
    <Select
      aria-label={`What ${label} may`}
      value={shown}
      className="w-full"
      onChange={(event) => onChange(event.target.value as Right)}
    >
      {offered.map((right) => (
        <option key={right} value={right}>
          {CALLED[kind][right]}
        </option>
      ))}
    </Select>
  );
}
