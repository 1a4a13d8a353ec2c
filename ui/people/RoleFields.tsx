'use client';

import type { Grant } from '@/contracts/answers/people';
import type { Role } from '@/contracts/roles';
import { Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { GrantFields } from './GrantFields';
import { ROLES } from './grant';
import { SeeAs } from './SeeAs';

/** What somebody may do, and what they see; an owner sees all books. */
export function RoleFields({
  role,
  grant,
  onRole,
  onGrant,
}: {
  role: Role;
  grant: Grant;
  onRole(role: Role): void;
  onGrant(grant: Grant): void;
}) {
  return (
    <>
      <Labelled label="Role">
        <Select value={role} onChange={(event) => onRole(event.target.value as Role)} className="field">
          {ROLES.map((r) => (
            <option key={r}>{r}</option>
          ))}
        </Select>
      </Labelled>
      {role !== 'owner' && <GrantFields grant={grant} onChange={onGrant} />}
      <SeeAs role={role} grant={grant} />
    </>
  );
}
