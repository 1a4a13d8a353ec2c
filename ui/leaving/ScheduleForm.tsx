'use client';

import { type FormEvent, useState } from 'react';
import type { Schedule } from '@/contracts/answers/leaving';
import { LEAF_FORMATS, type LeafFormat } from '@/contracts/leaves';
import type { BodySent } from '@/contracts/routes';
import { EVERY, type Every } from '@/contracts/schedules';
import { MEASURES } from '@/contracts/traced';
import { CARRIED, readCarried } from '../evidence/quoting';
import { useColleagues } from '../evidence/useEvidence';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { FORMAT_WORD } from './how';
import { EVERY_WORD, TOUCHES, WEEKDAYS } from './words';

type Wanted = BodySent<'POST /schedules'>;

const NO_PARAMS = new URLSearchParams();
const DAYS_OF_MONTH = [0, ...Array.from({ length: 31 }, (_, i) => i + 1)];

const zones = (): string[] => ['UTC', ...Intl.supportedValuesOf('timeZone')];
const here = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone;

/** What is made by itself, when, as which files and for whom. */
export function ScheduleForm({
  schedule,
  onDone,
}: {
  /** null: a new one. */
  schedule: Schedule | null;
  onDone(): void;
}) {
  const me = useMe();
  const reports = useAnswer('GET /reports', NO_PARAMS).data?.rows ?? [];
  const packs = useAnswer('GET /packs', NO_PARAMS).data?.rows ?? [];
  const colleagues = useColleagues();
  const [what, setWhat] = useState(
    schedule ? (schedule.pack === null ? `report ${schedule.report}` : `pack ${schedule.pack}`) : '',
  );
  const [every, setEvery] = useState<Every>(schedule?.every ?? 'daily');
  const [days, setDays] = useState<number[]>(schedule?.days ?? []);
  const [parts, setParts] = useState<number[]>(schedule?.parts ?? []);
  const [formats, setFormats] = useState<LeafFormat[]>(schedule?.formats ?? ['pdf']);
  const [receivers, setReceivers] = useState<number[]>(schedule?.receivers.map((r) => r.id) ?? [me.id]);
  const [figure, setFigure] = useState(schedule?.condition ?? null);
  const keep = useChange(
    ({ report, pack, ...body }: Wanted): Promise<unknown> =>
      schedule
        ? ask('PUT /schedules/{id}', { path: { id: schedule.id }, body })
        : ask('POST /schedules', { body: { ...body, report, pack } }),
    TOUCHES,
  );
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const said = new FormData(event.currentTarget);
    const text = (name: string): string => String(said.get(name) ?? '').trim();
    const [kind, id] = what.split(' ');
    const timed = every !== 'load' && every !== 'condition';
    const done = await keep
      .mutateAsync({
        ...{ name: text('name'), formats, receivers, every, days, parts: kind === 'pack' ? parts : [] },
        ...{ report: kind === 'report' ? Number(id) : null, pack: kind === 'pack' ? Number(id) : null },
        ...(timed ? { time: text('time'), zone: text('zone') } : {}),
        day: every === 'once' ? text('day') : null,
        condition:
          every === 'condition' && figure
            ? {
                ...{ scope: figure.scope, measure: text('measure') as 'closing' },
                ...{ is: text('is') as 'above', amount: text('amount').replace(',', '.') },
              }
            : null,
      })
      .then(
        () => true,
        () => false,
      );
    if (done) onDone();
  };
  const toggled = <Of,>(list: readonly Of[], of: Of): Of[] =>
    list.includes(of) ? list.filter((one) => one !== of) : [...list, of];
  const ofPack = what.startsWith('pack');
  const pack = packs.find((p) => what === `pack ${p.id}`);
  const inPack = reports.filter((r) => pack?.reports.includes(r.id));
  const people = [{ id: me.id, name: me.name }, ...(colleagues.data?.rows ?? []).filter((c) => c.id !== me.id)];
  return (
    <form onSubmit={submit} className="mt-5 flex max-w-[820px] flex-col gap-3 border-t border-rule pt-4">
      <h2 className="font-book text-[17px] font-semibold">
        {schedule ? `Change “${schedule.name}”` : 'Have something made by itself'}
      </h2>
      <div className="flex flex-wrap gap-3">
        <Labelled label="Called">
          <input name="name" required maxLength={120} defaultValue={schedule?.name ?? ''} className="field w-[260px]" />
        </Labelled>
        <Labelled label="What">
          <Select
            value={what}
            disabled={schedule !== null}
            className="w-[260px]"
            onChange={(event) => {
              setWhat(event.target.value);
              setParts([]);
            }}
          >
            <option value="">choose …</option>
            <optgroup label="Reports">
              {reports.map((r) => (
                <option key={r.id} value={`report ${r.id}`}>
                  {r.name}
                </option>
              ))}
            </optgroup>
            <optgroup label="Packs">
              {packs.map((p) => (
                <option key={p.id} value={`pack ${p.id}`}>
                  {p.name}
                </option>
              ))}
            </optgroup>
          </Select>
        </Labelled>
        <Labelled label="When">
          <Select value={every} className="w-[190px]" onChange={(event) => setEvery(event.target.value as Every)}>
            {EVERY.map((e) => (
              <option key={e} value={e}>
                {EVERY_WORD[e]}
              </option>
            ))}
          </Select>
        </Labelled>
      </div>
      {ofPack && inPack.length > 1 && (
        <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
          <legend className="mb-1 text-[12.5px] text-soft">Its reports; none chosen: all of them</legend>
          {inPack.map((r) => (
            <Tick key={r.id} on={parts.includes(r.id)} act={() => setParts(toggled(parts, r.id))}>
              {r.name}
            </Tick>
          ))}
        </fieldset>
      )}
      {every === 'weekly' && (
        <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
          <legend className="sr-only">Days of the week</legend>
          {WEEKDAYS.map((day, i) => (
            <Tick key={day} on={days.includes(i + 1)} act={() => setDays(toggled(days, i + 1))}>
              {day}
            </Tick>
          ))}
        </fieldset>
      )}
      {every === 'monthly' && (
        <Labelled label="Day of the month; a shorter month is met on its last">
          <Select
            value={String(days[0] ?? 1)}
            className="w-[120px]"
            onChange={(event) => setDays([Number(event.target.value)])}
          >
            {DAYS_OF_MONTH.map((d) => (
              <option key={d} value={d}>
                {d === 0 ? 'the last' : d}
              </option>
            ))}
          </Select>
        </Labelled>
      )}
      {every !== 'load' && every !== 'condition' && (
        <div className="flex flex-wrap gap-3">
          {every === 'once' && (
            <Labelled label="On">
              <input type="date" name="day" required defaultValue={schedule?.day ?? ''} className="field" />
            </Labelled>
          )}
          <Labelled label="At">
            <input type="time" name="time" required defaultValue={schedule?.time ?? '07:00'} className="field" />
          </Labelled>
          <Labelled label="By the clocks of">
            <input
              name="zone"
              required
              list="time-zones"
              defaultValue={schedule?.zone ?? here()}
              className="field w-[220px]"
            />
            <datalist id="time-zones">
              {zones().map((zone) => (
                <option key={zone} value={zone} />
              ))}
            </datalist>
          </Labelled>
        </div>
      )}
      {every === 'condition' && (
        <div className="flex flex-wrap items-end gap-3">
          <Labelled label="The figure: copy it on a sheet (Ctrl C), paste it here" wide>
            <input
              className="field w-full"
              readOnly
              required
              value={figure ? `entity and accounts: ${figure.scope}` : ''}
              placeholder="nothing is pasted yet"
              onPaste={(event) => {
                const carried = readCarried(event.clipboardData.getData(CARRIED));
                event.preventDefault();
                if (!carried?.subject.startsWith('figure:')) return;
                setFigure({
                  ...{ scope: carried.subject.slice('figure:'.length), measure: carried.measure ?? 'closing' },
                  ...{ is: 'above', amount: figure?.amount ?? '' },
                });
              }}
            />
          </Labelled>
          <Labelled label="Its">
            <Select
              name="measure"
              key={figure?.scope}
              defaultValue={figure?.measure ?? 'closing'}
              className="w-[130px]"
            >
              {MEASURES.map((m) => (
                <option key={m} value={m}>
                  {m}
                </option>
              ))}
            </Select>
          </Labelled>
          <Labelled label="comes to be">
            <Select name="is" defaultValue={figure?.is ?? 'above'} className="w-[100px]">
              <option value="above">above</option>
              <option value="below">below</option>
            </Select>
          </Labelled>
          <Labelled label="Amount">
            <input
              name="amount"
              required
              inputMode="decimal"
              defaultValue={figure?.amount ?? ''}
              className="field w-[140px] text-right"
            />
          </Labelled>
        </div>
      )}
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
        <legend className="mb-1 text-[12.5px] text-soft">As</legend>
        {LEAF_FORMATS.filter((f) => !ofPack || f === 'pdf' || f === 'xlsx').map((format) => (
          <Tick key={format} on={formats.includes(format)} act={() => setFormats(toggled(formats, format))}>
            {FORMAT_WORD[format][0]}
          </Tick>
        ))}
      </fieldset>
      <fieldset className="flex flex-wrap gap-x-4 gap-y-1">
        <legend className="mb-1 text-[12.5px] text-soft">For, each as they may see it</legend>
        {people.map((p) => (
          <Tick key={p.id} on={receivers.includes(p.id)} act={() => setReceivers(toggled(receivers, p.id))}>
            {p.name}
          </Tick>
        ))}
      </fieldset>
      <Failure error={keep.error} />
      <footer className="flex items-center gap-4">
        <button
          type="submit"
          className="button-main"
          disabled={keep.isPending || what === '' || formats.length === 0 || receivers.length === 0}
        >
          {schedule ? 'Keep it so' : 'Have it made'}
        </button>
        <button type="button" className="cursor-pointer text-soft hover:text-ink" onClick={onDone}>
          Cancel
        </button>
      </footer>
    </form>
  );
}

const Tick = ({ on, act, children }: { on: boolean; act(): void; children: string }) => (
  <label className="flex cursor-pointer items-baseline gap-1.5">
    <input type="checkbox" checked={on} onChange={act} />
    {children}
  </label>
);
