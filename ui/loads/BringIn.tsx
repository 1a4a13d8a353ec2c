'use client';

import { type FormEvent, useState } from 'react';
import type { Inspection, ReadableFile } from '@/contracts/answers/loads';
import { LOAD_KINDS, type LoadKind, type Mapping, type Reading } from '@/contracts/mapping';
import type { BodySent } from '@/contracts/routes';
import { countText } from '../amounts';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useChange, useEntities } from '../query/hooks';
import { ColumnTable } from './ColumnTable';
import { FORMAT_WORDS, KIND_WORDS, SHARED_KINDS } from './kinds';
import { PreviewEntries } from './PreviewEntries';
import { ReadingFields } from './ReadingFields';

/** Kinds of tables that change what is known column by column. */
const CHANGED_BY_COLUMN: readonly LoadKind[] = ['accounts', 'dimensions', 'parties'];

/** What is decided about a file before it is loaded; each change is looked at anew. */
interface LoadForm {
  kind: LoadKind;
  entity: string;
  mapping: Mapping | null;
  unknownAccounts: boolean;
}

/** A file that was sent: how it is read, what each column is, which entries it would become; then it is loaded. */
export function BringIn({ first, onDone }: { first: Inspection; onDone(load: number | null): void }) {
  const { data: entities } = useEntities();
  const [seen, setSeen] = useState(first);
  const [wanted, setWanted] = useState<LoadForm>({
    kind: first.kind,
    entity: '',
    mapping: first.unreadable === null ? first.mapping : null,
    unknownAccounts: false,
  });
  const look = useChange(
    ({ kind, entity, mapping, unknownAccounts }: LoadForm) =>
      ask('POST /files/{digest}/inspection', {
        path: { digest: first.digest },
        body: {
          kind,
          ...(first.name ? { name: first.name } : {}),
          ...(entity ? { entity } : {}),
          ...(mapping ? { mapping } : {}),
          ...(unknownAccounts ? { unknownAccounts: 'create' } : {}),
        },
      }),
    [],
  );
  const change = (next: Partial<LoadForm>): void => {
    const all = { ...wanted, ...next };
    setWanted(all);
    look.mutate(all, { onSuccess: (answer) => setSeen(answer) });
  };
  const setReading = (reading: Partial<Reading>): void =>
    change({ mapping: { ...wanted.mapping, reading: { ...wanted.mapping?.reading, ...reading } } });
  const send = useChange((body: BodySent<'POST /loads'>) => ask('POST /loads', { body }), 'everything');
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    const mapping = wanted.mapping && { ...wanted.mapping, ...(text('name') ? { name: text('name') } : {}) };
    const { id } = await send.mutateAsync({
      file: first.digest,
      name: first.name ?? 'file',
      kind: wanted.kind,
      ...(wanted.entity ? { entity: wanted.entity } : {}),
      ...(mapping ? { mapping } : {}),
      ...(wanted.unknownAccounts ? { unknownAccounts: 'create' as const } : {}),
      ...(text('replaces') ? { replaces: text('replaces') } : {}),
      ...(text('emptyCells') ? { emptyCells: text('emptyCells') as 'ask' | 'clear' | 'keep' } : {}),
      ...(text('use') ? { use: text('use') as 'openings' | 'check' } : {}),
    });
    onDone(id);
  };
  /** Null of a file of which nothing can be told. */
  const read = seen.unreadable === null ? seen : null;
  /** A table, whose columns are mapped; an audit file says itself what everything is. */
  const table = read && read.format !== 'saft' ? read : null;
  const own = read !== null && read.ownColumns && !wanted.mapping?.columns;
  const undecided = read === null ? [] : [...read.missing.map((m) => m.message), ...doubts(read)];
  return (
    <form onSubmit={submit}>
      <p className="mb-3">
        <b>{first.name}</b>, {countText(first.bytes ?? 0)} bytes.{' '}
        {read === null ? (
          <span className="text-warn">✗ {seen.unreadable}</span>
        ) : (
          <>
            Read as {FORMAT_WORDS[read.format]}
            {read.container === 'zip' && read.reading.member
              ? `, ${read.reading.member} in a zip`
              : read.container === 'gzip'
                ? ', unpacked'
                : ''}
            {look.isPending && <span className="text-faint"> looking again …</span>}
          </>
        )}
      </p>
      <div className="flex flex-wrap items-end gap-3 border border-rule bg-sheet p-3">
        <Labelled label="It holds">
          <Select
            value={wanted.kind}
            onChange={(event) => change({ kind: event.target.value as LoadKind, mapping: null })}
            className="field"
          >
            {LOAD_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {KIND_WORDS[kind]}
              </option>
            ))}
          </Select>
        </Labelled>
        {!SHARED_KINDS.includes(wanted.kind) && (
          <Labelled label="Books">
            <Select
              value={wanted.entity}
              onChange={(event) => change({ entity: event.target.value })}
              className="field"
            >
              <option value="">as the file says</option>
              {entities?.entities.map((e) => (
                <option key={e.code} value={e.code}>
                  {e.code} {e.name}
                </option>
              ))}
            </Select>
          </Labelled>
        )}
        {table && <ReadingFields seen={table} onChange={setReading} />}
      </div>
      {table && (
        <ColumnTable
          seen={table}
          own={own}
          mapping={wanted.mapping ?? table.mapping}
          dimensions={entities?.dimensions ?? []}
          onChange={(mapping) => change({ mapping })}
        />
      )}
      {read?.preview && <PreviewEntries preview={read.preview} />}
      <div className="mt-4 flex flex-wrap items-end gap-3 border-t border-rule pt-3">
        {wanted.kind === 'lines' && (
          <Labelled label="Replaces periods">
            <input name="replaces" placeholder="none, or 2027.04 to 2027.05" className="field w-[210px]" />
          </Labelled>
        )}
        {wanted.kind === 'trial-balance' && (
          <Labelled label="Used as">
            <Select name="use" className="field">
              <option value="">openings if there are no lines, else a check</option>
              <option value="openings">openings</option>
              <option value="check">a check of the balances</option>
            </Select>
          </Labelled>
        )}
        {CHANGED_BY_COLUMN.includes(wanted.kind) && (
          <Labelled label="Empty cells">
            <Select name="emptyCells" className="field">
              <option value="ask">list what they would remove, load nothing</option>
              <option value="keep">keep what is known</option>
              <option value="clear">remove what is known</option>
            </Select>
          </Labelled>
        )}
        {!own && table && (
          <Labelled label="Keep this mapping as">
            <input
              name="name"
              defaultValue={wanted.mapping?.name ?? table.offered[0]?.name ?? ''}
              placeholder="not kept"
              className="field w-[190px]"
            />
          </Labelled>
        )}
        {wanted.kind === 'lines' && read?.format !== 'saft' && (
          <label className="flex h-8 items-center gap-2">
            <input
              type="checkbox"
              checked={wanted.unknownAccounts}
              onChange={(event) => change({ unknownAccounts: event.target.checked })}
            />{' '}
            add accounts that no chart lists
          </label>
        )}
        <button
          type="submit"
          disabled={send.isPending || read === null || undecided.length > 0}
          className="button-main"
        >
          {send.isPending ? 'Beginning …' : 'Load the file'}
        </button>
        <button type="button" onClick={() => onDone(null)} className="button">
          Cancel
        </button>
        {undecided.length > 0 && <p className="w-full text-warn">{undecided.join('; ')}.</p>}
        <Failure error={send.error ?? look.error} />
      </div>
    </form>
  );
}

const doubts = (seen: ReadableFile): string[] => [
  ...(seen.recognised.dates.doubt === 'ask' ? [`say how dates are written: ${seen.recognised.dates.why}`] : []),
  ...(seen.recognised.decimal.doubt === 'ask' ? [`say which the decimal mark is: ${seen.recognised.decimal.why}`] : []),
];
