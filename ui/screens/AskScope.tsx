'use client';

import { type FormEvent, useState } from 'react';
import { WINDOWS } from '@/contracts/scope';
import { changed, type Screen } from '../address/address';
import { ASKED, type Asked, askedOf, withoutAsking } from '../address/asking';
import { Modal } from '../parts/Modal';
import { Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { useEntities } from '../query/hooks';

/** What a link leaves to its reader: they choose it before they read, by names and not by codes. */
export function AskScope({ screen, onDone }: { screen: Screen; onDone(to: Screen): void }) {
  const { data } = useEntities();
  const asked = askedOf(screen);
  const [entity, setEntity] = useState(screen.scope.get('entity') ?? '');
  const [window, setWindow] = useState(screen.scope.get('window') ?? 'latest-period');
  const [member, setMember] = useState('');
  const go = (event: FormEvent): void => {
    event.preventDefault();
    const put: Record<string, string[]> = {};
    if (asked.includes('entity') && entity) put.entity = [entity];
    if (asked.includes('window')) put.window = [window];
    const [dimension, code] = member.split(':');
    if (asked.includes('member') && code) put[`dim.${dimension}`] = [code];
    onDone(changed(withoutAsking(screen), put));
  };
  const fields: Record<Asked, React.ReactNode> = {
    entity: (
      <Labelled label="Company" wide>
        <Select value={entity} className="w-full" onChange={(event) => setEntity(event.target.value)}>
          {(data?.entities ?? []).map((e) => (
            <option key={e.code} value={e.code}>
              {e.name}
            </option>
          ))}
        </Select>
      </Labelled>
    ),
    window: (
      <Labelled label="Window" wide>
        <Select value={window} className="w-full" onChange={(event) => setWindow(event.target.value)}>
          {WINDOWS.map((w) => (
            <option key={w} value={w}>
              {w.replaceAll('-', ' ')}
            </option>
          ))}
        </Select>
      </Labelled>
    ),
    member: (
      <Labelled label="Unit" wide>
        <Select value={member} className="w-full" onChange={(event) => setMember(event.target.value)}>
          <option value="">all of it</option>
          {(data?.dimensions ?? []).map((d) => (
            <optgroup key={d.code} label={d.name}>
              {d.members.map((m) => (
                <option key={m.code} value={`${d.code}:${m.code}`}>
                  {m.name}
                </option>
              ))}
            </optgroup>
          ))}
        </Select>
      </Labelled>
    ),
  };
  return (
    <Modal
      title="What do you want to read?"
      className="top-[18vh] w-[420px]"
      onClose={() => onDone(withoutAsking(screen))}
    >
      <form onSubmit={go} className="flex flex-col gap-3">
        {ASKED.filter((part) => asked.includes(part)).map((part) => (
          <div key={part}>{fields[part]}</div>
        ))}
        <button type="submit" className="button-main self-start">
          Read it
        </button>
      </form>
    </Modal>
  );
}
