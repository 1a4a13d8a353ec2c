'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { momentText } from '../amounts';
import { Failure, Place, SETTINGS_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useEntities } from '../query/hooks';
import { useMe } from '../shell/me';
import { AddPerson } from './AddPerson';
import { seenInWords } from './GrantFields';
import { PersonDetail } from './PersonDetail';
import { SecondFactorRule } from './SecondFactor';

/** Who may come in and what they may see; an owner adds, changes, suspends and takes away. */
export function PeoplePage() {
  const { role } = useMe();
  const owner = role === 'owner';
  const { data } = useEntities();
  const people = useQuery({ queryKey: ['/people'], queryFn: () => ask('GET /people'), enabled: owner });
  const [chosen, setChosen] = useState<number | null>(null);
  const picked = people.data?.rows.find((p) => p.id === chosen);
  return (
    <Place title="Settings" tabs={SETTINGS_TABS} here="/settings">
      {!owner && (
        <p className="text-soft">
          Only an owner sees and changes people. Your own password, sessions and tokens are under “You”.
        </p>
      )}
      {owner && (
        <div className="max-w-[1000px]">
          <Table
            label="People"
            columns={[
              { label: 'Name', width: 'w-40' },
              { label: 'E-mail', width: 'w-60' },
              { label: 'Role', width: 'w-24' },
              { label: 'Sees' },
              { label: 'Last active', width: 'w-36' },
            ]}
          >
            {people.data?.rows.map((p) => (
              <Tr key={p.id} chosen={p.id === chosen}>
                <Td>
                  <button
                    type="button"
                    aria-expanded={p.id === chosen}
                    onClick={() => setChosen(p.id === chosen ? null : p.id)}
                    className="cursor-pointer text-left underline decoration-rule underline-offset-4 hover:decoration-ink"
                  >
                    {p.name}
                  </button>
                </Td>
                <Td>{p.email}</Td>
                <Td>{p.active ? p.role : <span className="text-warn">suspended</span>}</Td>
                <Td>{seenInWords(p, data?.dimensions ?? [])}</Td>
                <Td>{p.lastSeen ? momentText(p.lastSeen) : <span className="text-faint">not yet</span>}</Td>
              </Tr>
            ))}
          </Table>
          <Failure error={people.error} />
          {picked && <PersonDetail key={picked.id} person={picked} onGone={() => setChosen(null)} />}
          <AddPerson />
          <SecondFactorRule />
        </div>
      )}
    </Place>
  );
}
