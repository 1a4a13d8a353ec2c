'use client';

import { type FormEvent, useRef, useState } from 'react';
import { WINDOWS } from '@/contracts/scope';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();
const WINDOW_WORD: Partial<Record<(typeof WINDOWS)[number], string>> = {
  everything: 'everything',
  'year-to-date': 'the year to date',
  'trailing-12': 'the last twelve periods',
  'latest-period': 'the latest period',
  'last-period': 'the last closed period',
};

/** Which tests run, over what. */
export function RunDialog({
  scope,
  label,
  address,
  thread,
  chooses = false,
  onClose,
  onBegun,
}: {
  /** The figure that is looked over, as a subject. */
  scope: string;
  label: string;
  address: string;
  thread: number | null;
  /** Companies and window are chosen here. */
  chooses?: boolean;
  onClose(): void;
  onBegun(id: number): void;
}) {
  const form = useRef<HTMLFormElement>(null);
  const { data } = useAnswer('GET /tests', NO_PARAMS);
  const { data: entities } = useEntities();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const begin = useChange(
    (over: string) =>
      ask('POST /test-runs', {
        body: {
          ...{ scope: over, address, thread },
          ...(left.size === 0
            ? {}
            : { tests: (data?.rows ?? []).map((t) => t.code).filter((code) => !left.has(code)) }),
        },
      }),
    TOUCHES,
  );
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const begun = await begin
      .mutateAsync(chooses ? chosen(new FormData(form.current as HTMLFormElement), entities?.entities ?? []) : scope)
      .catch(() => null);
    if (!begun) return;
    onClose();
    onBegun(begun.id);
  };
  const toggle = (codes: readonly string[], on: boolean): void =>
    setLeft((held) => new Set(on ? [...held].filter((c) => !codes.includes(c)) : [...held, ...codes]));
  return (
    <Modal title="Run tests" className="top-[6vh] max-h-[88vh] w-[1010px] overflow-y-auto" onClose={onClose}>
      <form ref={form} onSubmit={submit} className="flex flex-col gap-4">
        {chooses ? (
          <div className="flex flex-wrap items-end gap-6">
            <fieldset className="flex flex-wrap gap-x-4">
              <legend className="mb-1 text-[12.5px] text-soft">Over the lines of</legend>
              {(entities?.entities ?? []).map((e) => (
                <label key={e.code} className="flex items-center gap-1.5">
                  <input type="checkbox" name="entity" value={e.code} defaultChecked />
                  {e.name}
                </label>
              ))}
            </fieldset>
            <Labelled label="of">
              <Select name="window" defaultValue="everything" className="w-[220px]">
                {WINDOWS.filter((w) => WINDOW_WORD[w]).map((w) => (
                  <option key={w} value={w}>
                    {WINDOW_WORD[w]}
                  </option>
                ))}
              </Select>
            </Labelled>
          </div>
        ) : (
          <p>Over the lines of {label}.</p>
        )}
        <div className="columns-3 gap-x-7">
          {(data?.groups ?? []).map((group) => {
            const own = (data?.rows ?? []).filter((t) => t.group === group);
            const all = own.every((t) => !left.has(t.code));
            return (
              <fieldset key={group} className="mb-4 break-inside-avoid">
                <legend className="w-full border-b border-rule pb-0.5 text-[13px]">
                  <label className="flex items-center gap-1.5 font-semibold">
                    <input
                      type="checkbox"
                      checked={all}
                      onChange={(event) =>
                        toggle(
                          own.map((t) => t.code),
                          event.target.checked,
                        )
                      }
                    />
                    {group}
                  </label>
                </legend>
                {own.map((t) => (
                  <label
                    key={t.code}
                    title={t.looksFor}
                    className="flex items-baseline gap-1.5 py-[1px] text-[13px] leading-[18px]"
                  >
                    <input
                      type="checkbox"
                      checked={!left.has(t.code)}
                      onChange={(event) => toggle([t.code], event.target.checked)}
                    />
                    {t.name}
                  </label>
                ))}
              </fieldset>
            );
          })}
        </div>
        <p className="max-w-[90ch] text-[12.5px] text-soft">
          Where a test has a limit, it is taken from the ledger itself and said with the run. What each looks for stands
          under Every test.
        </p>
        <Failure error={begin.error} />
        <div className="flex gap-2">
          <button
            type="submit"
            className="button-main"
            disabled={begin.isPending || !data || left.size >= data.rows.length}
          >
            {begin.isPending ? 'Beginning …' : 'Run'}
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}

/** The figure that was chosen; of companies with books in several currencies said in that of the first. */
function chosen(form: FormData, entities: readonly { code: string; currency: string }[]): string {
  const codes = form.getAll('entity').map(String);
  const scope = new URLSearchParams(codes.map((code) => ['entity', code]));
  scope.set('window', String(form.get('window')));
  const currencies = new Set(entities.filter((e) => codes.includes(e.code)).map((e) => e.currency));
  const [first] = currencies;
  if (currencies.size > 1 && first) scope.set('in', first);
  return `figure:${scope}`;
}
