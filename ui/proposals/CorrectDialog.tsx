'use client';

import { useRouter } from 'next/navigation';
import { type FormEvent, useId, useState } from 'react';
import type { BodySent } from '@/contracts/routes';
import { Codes } from '../parts/Codes';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { carryDraft } from './carriedDraft';
import { openAccounts } from './entryRows';

/** What can be made of lines that are wrong. */
const WAYS = {
  move: 'to another account, member, party or tax code',
  day: 'on another day or in another period',
  reverse: 'taken back',
  spread: 'spread over periods',
  split: 'split over several accounts or members',
  free: 'written freely',
} as const;
type Way = keyof typeof WAYS;

type Make = BodySent<'POST /proposed-entries/draft'>['make'];

/** How lines that are wrong are put right: as an entry that is proposed, which is seen before it is kept. */
export function CorrectDialog({
  scope,
  lines,
  label,
  entity,
  address,
  thread,
  onClose,
}: {
  /** Address of a figure of which all lines are meant. */
  scope: string | null;
  /** Or lines, by their subjects. */
  lines: string[];
  label: string;
  entity: string;
  address: string;
  thread: number | null;
  onClose(): void;
}) {
  const router = useRouter();
  const [way, setWay] = useState<Way>('move');
  const [onDay, setOnDay] = useState('');
  const carry = (draft: Parameters<typeof carryDraft>[0]['draft'], where = ''): void => {
    carryDraft({
      ...{ draft, label, thread, back: address, links: lines.slice(0, 100) },
      subject: scope === null ? (lines[0] ?? null) : `figure:${scope}`,
      kind: way === 'move' ? 'reclassification' : 'factual',
      title: (way === 'free' ? '' : `${label} ${way === 'move' ? `moved to ${where}` : WAYS[way]}`).slice(0, 200),
    });
    onClose();
    router.push('/proposals/new');
  };
  const draft = useChange(
    (make: Make) =>
      ask('POST /proposed-entries/draft', {
        body: {
          ...(scope === null ? { lines } : { scope }),
          make,
          ...(onDay === '' ? {} : { on: 'one-day' as const, date: onDay }),
        },
      }),
    [],
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    if (way === 'free') return carry({ entity, currency: '', date: '', period: '', lines: [], faults: [] });
    const made = await draft.mutateAsync(makeOf(way, form)).catch(() => null);
    const places = [...form].flatMap(([name, value]) => (name !== 'date' && value !== '' ? [String(value)] : []));
    if (made) carry(made, places.join(', '));
  };
  return (
    <Modal
      title={lines.length > 1 ? `${lines.length} lines should be` : `${label} should be`}
      className="top-[8vh] w-[620px]"
      onClose={onClose}
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        <Select
          aria-label="How they should be"
          value={way}
          className="w-full"
          onChange={(event) => setWay(event.target.value as Way)}
        >
          {Object.entries(WAYS).map(([name, says]) => (
            <option key={name} value={name}>
              {says}
            </option>
          ))}
        </Select>
        <WayFields key={way} way={way} entity={entity} />
        {(way === 'move' || way === 'split') && (
          <Labelled label="Put right on one day; empty: each line on its own day">
            <input type="date" className="field" value={onDay} onChange={(event) => setOnDay(event.target.value)} />
          </Labelled>
        )}
        <Failure error={draft.error} />
        <div className="flex gap-2">
          <button type="submit" className="button-main" disabled={draft.isPending}>
            See it as an entry
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}

const text = (form: FormData, name: string): string => String(form.get(name) ?? '').trim();

/** What is wanted, as it is sent: what is left empty stays as it is, a dash takes it away. */
function makeOf(way: Exclude<Way, 'free'>, form: FormData): Make {
  const given = (name: string): string | null | undefined => {
    const value = text(form, name);
    return value === '' ? undefined : value === '-' ? null : value;
  };
  const dims = Object.fromEntries(
    [...form.keys()]
      .filter((name) => name.startsWith('dim.'))
      .flatMap((name) => {
        const value = given(name);
        return value === undefined ? [] : [[name.slice('dim.'.length), value]];
      }),
  ) as Record<string, string | null>;
  switch (way) {
    case 'move':
      return {
        by: 'move',
        to: {
          ...(given('account') ? { account: text(form, 'account') } : {}),
          ...(Object.keys(dims).length > 0 ? { dims } : {}),
          ...(given('counterparty') === undefined ? {} : { counterparty: given('counterparty') as string | null }),
          ...(given('taxCode') === undefined ? {} : { taxCode: given('taxCode') as string | null }),
        },
      };
    case 'day':
      return {
        by: 'move',
        to: {
          ...(text(form, 'date') === '' ? {} : { date: text(form, 'date') }),
          ...(text(form, 'period') === '' ? {} : { period: text(form, 'period') }),
        },
      };
    case 'reverse':
      return { by: 'reverse', date: text(form, 'date') };
    case 'spread':
      return {
        by: 'spread',
        holds: text(form, 'account'),
        periods: Number(text(form, 'periods')) || 1,
        ...(text(form, 'from') === '' ? {} : { from: text(form, 'from') }),
      };
    case 'split':
      return {
        by: 'split',
        among: text(form, 'among')
          .split('\n')
          .flatMap((line) => {
            const [weight = '', where = '', ...more] = line.trim().split(/\s+/);
            if (weight === '') return [];
            const members = Object.fromEntries(
              [where, ...more].filter((w) => w.includes(':')).map((w) => w.split(':') as [string, string]),
            );
            return [
              {
                weight: Number(weight),
                ...(where !== '' && !where.includes(':') ? { account: where } : {}),
                ...(Object.keys(members).length > 0 ? { dims: members } : {}),
              },
            ];
          }),
      };
  }
}

/** A field that completes codes by their names. */
function Completing({
  label,
  name,
  options,
  required = false,
}: {
  label: string;
  name: string;
  options: readonly { code: string; name: string }[];
  required?: boolean;
}) {
  const id = useId();
  return (
    <div>
      <Labelled label={label} wide>
        <input name={name} className="field w-full" list={id} autoComplete="off" required={required} />
      </Labelled>
      <Codes id={id} of={options} />
    </div>
  );
}

function WayFields({ way, entity }: { way: Way; entity: string }) {
  const { data } = useEntities();
  const [params] = useState(() => new URLSearchParams({ entity }));
  const chart = useAnswer('GET /accounts', params);
  const accounts = openAccounts(chart.data?.rows ?? []);
  const account = (label: string) => (
    <Completing label={label} name="account" options={accounts} required={way === 'spread'} />
  );
  switch (way) {
    case 'move':
      return (
        <>
          <p className="text-[12.5px] text-soft">What is left empty stays as it is; - takes it away.</p>
          {account('Account')}
          <div className="grid grid-cols-2 gap-3">
            {(data?.dimensions ?? []).map((d) => (
              <Completing key={d.code} label={d.name} name={`dim.${d.code}`} options={d.members} />
            ))}
            <Labelled label="Party" wide>
              <input name="counterparty" className="field w-full" />
            </Labelled>
            <Labelled label="Tax code" wide>
              <input name="taxCode" className="field w-full" />
            </Labelled>
          </div>
        </>
      );
    case 'day':
      return (
        <>
          <Labelled label="The day on which their entries belong">
            <input type="date" name="date" className="field" />
          </Labelled>
          <Labelled label="Or the period, such as 2027.13">
            <input name="period" className="field w-[110px]" pattern="\d{4}\.\d\d" />
          </Labelled>
        </>
      );
    case 'reverse':
      return (
        <Labelled label="The day on which their entries are taken back">
          <input type="date" name="date" required className="field" />
        </Labelled>
      );
    case 'spread':
      return (
        <>
          {account('Account that holds what is not spread yet')}
          <div className="flex gap-3">
            <Labelled label="Over so many periods">
              <input name="periods" type="number" min={1} max={120} defaultValue={12} className="field w-[90px]" />
            </Labelled>
            <Labelled label="From period; empty: its own">
              <input name="from" className="field w-[110px]" placeholder="2027.04" pattern="\d{4}\.\d\d" />
            </Labelled>
          </div>
        </>
      );
    case 'split':
      return (
        <Labelled label="One part in each line: its weight, an account, members as dimension:code" wide>
          <textarea
            name="among"
            required
            rows={4}
            className="field h-auto w-full py-1"
            placeholder={'2 6310\n1 6310 vessel:MAREN'}
          />
        </Labelled>
      );
    case 'free':
      return <p className="text-soft">An empty entry, with what you see here as what it goes back to.</p>;
  }
}
