'use client';

import type { FormEvent } from 'react';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { NewSecret } from './QrCode';

const NO_PARAMS = new URLSearchParams();

/** One's own second factor: set up, confirmed by its first code, or taken away with one. */
export function SecondFactor() {
  const { data } = useAnswer('GET /second-factor', NO_PARAMS);
  const begin = useChange(() => ask('POST /second-factor'), []);
  const change = useChange(
    (body: { code: string; off: boolean }) => ask('PUT /second-factor', { body }),
    ['/second-factor'],
  );
  if (!data) return null;
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const code = String(new FormData(event.currentTarget).get('code') ?? '');
    await change.mutateAsync({ code, off: data.on }).then(
      () => {
        toast(data.on ? 'The second factor is taken away' : 'From now on a code is asked for when you sign in');
        begin.reset();
      },
      () => {}, // it is said below the code
    );
  };
  return (
    <section aria-labelledby="second-factor">
      <h3 id="second-factor" className="mb-1 font-semibold">
        Second factor
      </h3>
      <p className="mb-2 text-[13px] text-soft">
        {data.on
          ? `Beside the password a code from your app is asked for.${data.required ? ' It is required of you here.' : ''}`
          : 'A code from an app beside the password: whoever learns your password does not come in with it alone.'}
      </p>
      {!data.on && !begin.data && (
        <button type="button" className="button" disabled={begin.isPending} onClick={() => begin.mutate(undefined)}>
          Set one up
        </button>
      )}
      {!data.on && begin.data && <NewSecret uri={begin.data.uri} />}
      {(data.on ? !data.required : begin.data) && (
        <form onSubmit={submit} className="mt-2 flex items-end gap-3">
          <CodeField />
          <button type="submit" className="button" disabled={change.isPending}>
            {data.on ? 'Take it away' : 'Confirm'}
          </button>
        </form>
      )}
      <Failure error={begin.error ?? change.error} />
    </section>
  );
}

export const CodeField = () => (
  <Labelled label="Code">
    <input
      name="code"
      inputMode="numeric"
      autoComplete="one-time-code"
      required
      maxLength={9}
      className="field w-[130px] tracking-[0.15em]"
    />
  </Labelled>
);

/** Of whom a second factor is required; for owners. */
export function SecondFactorRule() {
  const { data } = useAnswer('GET /settings/second-factor', NO_PARAMS);
  const set = useChange(
    (required: 'nobody' | 'owners' | 'everybody') => ask('PUT /settings/second-factor', { body: { required } }),
    ['/settings/second-factor'],
  );
  if (!data) return null;
  return (
    <p className="mt-4 flex flex-wrap items-baseline gap-x-1.5 text-soft">
      A second factor is required of
      <Select
        look="word"
        aria-label="Of whom a second factor is required"
        value={data.required}
        onChange={(event) => set.mutate(event.target.value as 'nobody')}
      >
        <option value="nobody">nobody</option>
        <option value="owners">owners</option>
        <option value="everybody">everybody</option>
      </Select>
      {data.required !== 'nobody' && '; whoever has none sets it up at the next sign-in.'}
      <Failure error={set.error} />
    </p>
  );
}
