'use client';

import { type FormEvent, useState } from 'react';
import type { Embed } from '@/contracts/answers/leaving';
import { countText, momentText } from '../amounts';
import { Failure, Labelled, Place, REPORT_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { PANEL_WORD } from './words';

const NO_PARAMS = new URLSearchParams();
const TOUCHED = ['/embeds', '/settings/embeds'];
const STATE_WORD = { open: 'shown', expired: 'ended by itself', ended: 'ended' } as const;

/** Panels that pages elsewhere show, and which pages may. */
export function EmbedsPage() {
  const { data, error } = useAnswer('GET /embeds', NO_PARAMS);
  const owner = useMe().role === 'owner';
  const end = useChange((id: number) => ask('DELETE /embeds/{id}', { path: { id } }), TOUCHED);
  const rows = data?.rows ?? [];
  return (
    <Place title="Reports" tabs={REPORT_TABS} here="/reports/embeds">
      <p className="mb-3 max-w-[90ch] text-soft">
        A page of your intranet can show one figure, table or picture of a report to whoever reads it there, without
        signing in. It shows what the one who gave it its address may see at that time; the address is signed, ends by
        itself, and can be ended here. From Kept, with “on other pages”.
      </p>
      {data && <Origins key={data.origins.join()} origins={data.origins} owner={owner} />}
      <Failure error={error ?? end.error} />
      {data && rows.length === 0 ? (
        <p className="text-soft">No panel is shown elsewhere.</p>
      ) : (
        <Table
          label="Panels on other pages"
          columns={[
            { label: 'Report' },
            { label: 'Shown as', width: 'w-[90px]' },
            { label: 'By', width: 'w-[190px]' },
            { label: 'Until', width: 'w-[150px]' },
            { label: 'Looked at', width: 'w-[210px]' },
            { label: '', width: 'w-[150px]' },
          ]}
        >
          {rows.map((e) => (
            <Tr key={e.id}>
              <Td>
                <span className="font-semibold">{e.report}</span>
                {e.state !== 'open' && <span className="ml-2 text-soft">{STATE_WORD[e.state]}</span>}
              </Td>
              <Td>{PANEL_WORD[e.kind]}</Td>
              <Td>{e.by}</Td>
              <Td>{momentText(e.expires)}</Td>
              <Td>{looksText(e)}</Td>
              <Td>
                {e.state === 'open' && (
                  <span className="flex gap-x-3">
                    <button type="button" className="link" onClick={() => void copied(e)}>
                      copy address
                    </button>
                    <button type="button" className="link" onClick={() => end.mutate(e.id)}>
                      end
                    </button>
                  </span>
                )}
              </Td>
            </Tr>
          ))}
        </Table>
      )}
    </Place>
  );
}

/** How often it was looked at, and when last. */
function looksText({ looks, looked }: Embed): string {
  if (looked === null) return 'never';
  return `${looks === 1 ? 'once' : `${countText(looks)} times`}, last ${momentText(looked)}`;
}

async function copied({ address }: Embed): Promise<void> {
  await navigator.clipboard.writeText(address);
  toast('Its address is on the clipboard');
}

/** Which pages may show panels; an owner names them. */
function Origins({ origins, owner }: { origins: readonly string[]; owner: boolean }) {
  const [text, setText] = useState(origins.join('\n'));
  const keep = useChange((named: string[]) => ask('PUT /settings/embeds', { body: { origins: named } }), TOUCHED);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    await keep.mutateAsync(text.split(/\s+/).filter(Boolean)).then(
      () => toast('These pages may show panels from now on'),
      () => null,
    );
  };
  if (!owner)
    return (
      <p className="mb-4 max-w-[90ch]">
        {origins.length === 0
          ? 'No page may show panels yet; an owner names those that may.'
          : `Pages that may show them: ${origins.join(', ')}.`}
      </p>
    );
  return (
    <form onSubmit={submit} className="mb-5 flex max-w-[640px] flex-col items-start gap-2">
      <Labelled label="Pages that may show them, one address in each line; none: no page may" wide>
        <textarea
          rows={2}
          className="field h-auto w-full py-1"
          placeholder="https://intranet.example"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </Labelled>
      <Failure error={keep.error} />
      <button type="submit" className="button" disabled={keep.isPending || text === origins.join('\n')}>
        Keep it so
      </button>
    </form>
  );
}
