'use client';

import { type FormEvent, useState } from 'react';
import type { Pack, Report } from '@/contracts/answers/leaving';
import type { RichText } from '@/contracts/richText';
import type { BodySent } from '@/contracts/routes';
import { WINDOWS } from '@/contracts/scope';
import { Editor } from '../evidence/Editor';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useChange, useEntities } from '../query/hooks';
import { TOUCHES } from './words';

type Wanted = BodySent<'POST /packs'>;

/** Words without anything but letters are paragraphs; none at all are no front page. */
const asText = (words: RichText | string): RichText | null =>
  typeof words !== 'string'
    ? words
    : words.trim() === ''
      ? null
      : {
          type: 'doc',
          content: words
            .split('\n')
            .map((line) => ({ type: 'paragraph', ...(line ? { content: [{ type: 'text', text: line }] } : {}) })),
        };

/** Which reports a pack is of, in which order, what its front page says, and what drives it. */
export function PackForm({
  pack,
  reports,
  onDone,
}: {
  /** null: a new one. */
  pack: Pack | null;
  reports: readonly Report[];
  onDone(): void;
}) {
  const entities = useEntities();
  const [name, setName] = useState(pack?.name ?? '');
  const [chosen, setChosen] = useState<number[]>(pack?.reports ?? []);
  const [units, setUnits] = useState(pack?.units ?? '');
  const [window, setWindow] = useState(pack?.scope.window?.[0] ?? '');
  const [company, setCompany] = useState(pack?.scope.entity?.[0] ?? '');
  const [shared, setShared] = useState(pack?.shared ?? false);
  const [words, setWords] = useState<RichText | string>(pack?.words ?? '');
  const keep = useChange(
    (body: Wanted): Promise<unknown> =>
      pack ? ask('PUT /packs/{id}', { path: { id: pack.id }, body }) : ask('POST /packs', { body }),
    TOUCHES,
  );
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const { window: _window, entity: _entity, ...others } = pack?.scope ?? {};
    const done = await keep
      .mutateAsync({
        ...{ name, reports: chosen, units: units || null, shared },
        words: asText(words),
        scope: { ...others, ...(window ? { window: [window] } : {}), ...(company ? { entity: [company] } : {}) },
      })
      .then(
        () => true,
        () => false,
      );
    if (done) onDone();
  };
  const move = (id: number, way: -1 | 1): void => {
    const at = chosen.indexOf(id);
    const to = at + way;
    if (to < 0 || to >= chosen.length) return;
    const next = [...chosen];
    [next[at], next[to]] = [next[to] as number, next[at] as number];
    setChosen(next);
  };
  return (
    <form onSubmit={submit} className="mt-5 flex max-w-[760px] flex-col gap-3 border-t border-rule pt-4">
      <h2 className="font-book text-[17px] font-semibold">{pack ? `Change “${pack.name}”` : 'A new pack'}</h2>
      <Labelled label="Called" wide>
        <input
          value={name}
          required
          maxLength={120}
          className="field w-full"
          onChange={(event) => setName(event.target.value)}
        />
      </Labelled>
      <fieldset>
        <legend className="mb-1 text-[12.5px] text-soft">Reports, in their order</legend>
        <ol className="mb-1.5">
          {chosen.map((id, i) => (
            <li key={id} className="flex items-baseline gap-3">
              <span className="w-5 text-right text-soft">{i + 1}</span>
              <span className="min-w-[220px]">{reports.find((r) => r.id === id)?.name ?? `report ${id}`}</span>
              <button type="button" className="link" disabled={i === 0} onClick={() => move(id, -1)}>
                up
              </button>
              <button type="button" className="link" disabled={i === chosen.length - 1} onClick={() => move(id, 1)}>
                down
              </button>
              <button type="button" className="link" onClick={() => setChosen(chosen.filter((c) => c !== id))}>
                leave out
              </button>
            </li>
          ))}
        </ol>
        <Select
          aria-label="Add a report"
          value=""
          className="w-[300px]"
          onChange={(event) => event.target.value && setChosen([...chosen, Number(event.target.value)])}
        >
          <option value="">add a report …</option>
          {reports
            .filter((r) => !chosen.includes(r.id))
            .map((r) => (
              <option key={r.id} value={r.id}>
                {r.name}
              </option>
            ))}
        </Select>
      </fieldset>
      <div className="flex flex-wrap gap-3">
        <Labelled label="Window">
          <Select value={window} className="w-[200px]" onChange={(event) => setWindow(event.target.value)}>
            <option value="">as each report has it</option>
            {WINDOWS.map((w) => (
              <option key={w} value={w}>
                {w.replaceAll('-', ' ')}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Company">
          <Select value={company} className="w-[220px]" onChange={(event) => setCompany(event.target.value)}>
            <option value="">as each report has it</option>
            {(entities.data?.entities ?? []).map((e) => (
              <option key={e.code} value={e.code}>
                {e.name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="A copy for each">
          <Select value={units} className="w-[180px]" onChange={(event) => setUnits(event.target.value)}>
            <option value="">one copy of all</option>
            <option value="entity">company</option>
            {(entities.data?.dimensions ?? []).map((d) => (
              <option key={d.code} value={`dim:${d.code}`}>
                {d.name.toLowerCase()}
              </option>
            ))}
          </Select>
        </Labelled>
      </div>
      <div>
        <p className="mb-1 text-[12.5px] text-soft">
          Front page. A figure that is copied from a sheet and pasted here is told in the window of each copy.
        </p>
        <Editor
          label="Front page"
          className="min-h-[90px] border border-rule bg-sheet p-2"
          begin={pack?.words ?? undefined}
          onChange={setWords}
          onDone={() => {}}
          onCancel={() => {}}
        />
      </div>
      <label className="flex cursor-pointer items-baseline gap-2">
        <input type="checkbox" checked={shared} onChange={(event) => setShared(event.target.checked)} />
        Everybody who may run its reports may see it
      </label>
      <Failure error={keep.error} />
      <footer className="flex items-center gap-4">
        <button type="submit" className="button-main" disabled={keep.isPending || chosen.length === 0}>
          {pack ? 'Keep it so' : 'Make it'}
        </button>
        <button type="button" className="cursor-pointer text-soft hover:text-ink" onClick={onDone}>
          Cancel
        </button>
      </footer>
    </form>
  );
}
