'use client';

import { useQuery } from '@tanstack/react-query';
import type { FormEvent } from 'react';
import type { SourceLink } from '@/contracts/answers/charts';
import { Failure, Place, SETTINGS_TABS } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { EntryOrigins } from './EntryOrigins';

const PATH = '/settings/source-links';

/** Where the entries of each company are found in the ledger that they came from. */
export function SourceLinksPage() {
  const { data, error } = useQuery({ queryKey: [PATH], queryFn: () => ask('GET /settings/source-links') });
  const owner = useMe().role === 'owner';
  return (
    <Place title="Settings" tabs={SETTINGS_TABS} here="/settings/sources">
      <p className="mb-3 max-w-[760px] text-soft">
        An entry leads to the same entry in the ledger that it came from, where that has an address for it. Write the
        address with {'{entry}'} in place of the entry’s number; {'{entity}'} and {'{date}'} can be used as well.
        {!owner && ' Only an owner changes them.'}
      </p>
      <Failure error={error} />
      <ul className="max-w-[860px] border-t border-rule">
        {data?.rows.map((row) => (
          <LinkForm key={`${row.entity} ${row.link}`} row={row} owner={owner} />
        ))}
      </ul>
      <EntryOrigins owner={owner} />
    </Place>
  );
}

function LinkForm({ row, owner }: { row: SourceLink; owner: boolean }) {
  const keep = useChange(
    (link: string) => ask('PUT /settings/source-links', { body: { entity: row.entity, link } }),
    [PATH, `/entries`],
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const link = String(new FormData(event.currentTarget).get('link') ?? '').trim();
    await keep.mutateAsync(link).then(
      () =>
        toast(
          link === ''
            ? `Entries of ${row.name} lead nowhere from now on.`
            : `Entries of ${row.name} lead there from now on.`,
        ),
      () => null,
    );
  };
  return (
    <li className="border-b border-hair py-2">
      <form onSubmit={submit} className="flex items-center gap-3">
        <label htmlFor={`link-${row.entity}`} className="w-[220px] shrink-0">
          {row.name}
        </label>
        <input
          id={`link-${row.entity}`}
          name="link"
          defaultValue={row.link}
          disabled={!owner}
          autoComplete="off"
          placeholder="https://ledger.example/entries/{entry}"
          className="field min-w-0 flex-1"
        />
        {owner && (
          <button type="submit" className="button" disabled={keep.isPending}>
            Keep
          </button>
        )}
      </form>
      <Failure error={keep.error} />
    </li>
  );
}
