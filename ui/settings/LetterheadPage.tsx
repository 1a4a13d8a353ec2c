'use client';

import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { Failure, Labelled, Place, SETTINGS_TABS } from '../parts/Place';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { useMe } from '../shell/me';

const PATH = '/settings/letterhead';
const LOGO_MAX = 120 * 1024;

interface Letterhead {
  name: string;
  logo: string | null;
}

/** What the organisation puts at the head of what leaves on paper and as a workbook. */
export function LetterheadPage() {
  const { data, error } = useQuery({ queryKey: [PATH], queryFn: () => ask('GET /settings/letterhead') });
  const owner = useMe().role === 'owner';
  return (
    <Place title="Settings" tabs={SETTINGS_TABS} here="/settings/paper">
      <p className="mb-3 max-w-[760px] text-soft">
        What leaves on paper or as a workbook is headed by the name of the organisation, and on paper by its logo.
        Whoever takes something out can leave them away, for a copy that stays inside.
        {!owner && ' Only an owner changes them.'}
      </p>
      <Failure error={error} />
      {data && <Form key={JSON.stringify(data)} given={data} owner={owner} />}
    </Place>
  );
}

const read = (file: File): Promise<string> =>
  new Promise((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => done(String(reader.result));
    reader.onerror = () => failed(reader.error);
    reader.readAsDataURL(file);
  });

function Form({ given, owner }: { given: Letterhead; owner: boolean }) {
  const [name, setName] = useState(given.name);
  const [logo, setLogo] = useState(given.logo);
  const [tooLarge, setTooLarge] = useState(false);
  const keep = useChange((body: Letterhead) => ask('PUT /settings/letterhead', { body }), [PATH]);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    await keep.mutateAsync({ name: name.trim(), logo }).then(
      () => toast('Paper is headed so from now on.'),
      () => null,
    );
  };
  return (
    <form onSubmit={submit} className="flex max-w-[560px] flex-col gap-4">
      <Labelled label="Name at the head" wide>
        <input
          value={name}
          maxLength={120}
          disabled={!owner}
          className="field w-full"
          onChange={(event) => setName(event.target.value)}
        />
      </Labelled>
      <Labelled label="Logo: a picture in PNG or JPEG, at most 120 kB" wide>
        <input
          type="file"
          accept="image/png,image/jpeg"
          className="text-[13.5px] text-soft file:mr-3 file:cursor-pointer file:border file:border-rule file:bg-sheet file:px-3 file:py-1 file:text-ink"
          disabled={!owner}
          onChange={async (event) => {
            const [file] = event.target.files ?? [];
            if (!file) return;
            setTooLarge(file.size > LOGO_MAX);
            if (file.size <= LOGO_MAX) setLogo(await read(file));
          }}
        />
      </Labelled>
      {tooLarge && (
        <p role="alert" className="text-warn">
          This picture is larger than 120 kB; take a smaller one.
        </p>
      )}
      {logo && (
        <p className="flex items-center gap-4">
          {/* biome-ignore lint/performance/noImgElement: it is not served from anywhere, but written in the setting */}
          <img
            src={logo}
            alt="The logo as it will be printed"
            className="max-h-[46px] max-w-[160px] border border-hair"
          />
          {owner && (
            <button type="button" className="link" onClick={() => setLogo(null)}>
              Leave it away
            </button>
          )}
        </p>
      )}
      <Failure error={keep.error} />
      {owner && (
        <button type="submit" className="button-main self-start" disabled={keep.isPending}>
          Keep it so
        </button>
      )}
    </form>
  );
}
