'use client';

import { type FormEvent, useId, useRef, useState } from 'react';
import type { AnswerOf } from '@/contracts/routes';
import { WINDOWS } from '@/contracts/scope';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { type Company, scopeOf } from './scopeOf';
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
  onClose,
  onBegun,
}: {
  /** The figure that is looked over, as a subject; null: companies and window are chosen here. */
  scope: string | null;
  label: string;
  address: string;
  thread: number | null;
  onClose(): void;
  onBegun(id: number): void;
}) {
  const form = useRef<HTMLFormElement>(null);
  const { data } = useAnswer('GET /tests', NO_PARAMS);
  const { data: entities } = useEntities();
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const begin = useChange(
    ({ over, parameters }: { over: string; parameters: Settings }) =>
      ask('POST /test-runs', {
        body: {
          ...{ scope: over, address, thread, parameters },
          ...(left.size === 0
            ? {}
            : { tests: (data?.rows ?? []).map((t) => t.code).filter((code) => !left.has(code)) }),
        },
      }),
    TOUCHES,
  );
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const fields = new FormData(form.current as HTMLFormElement);
    const over = scope ?? chosen(fields, entities?.entities ?? []);
    const begun = await begin.mutateAsync({ over, parameters: settingsIn(fields, data?.rows ?? []) }).catch(() => null);
    if (!begun) return;
    onClose();
    onBegun(begun.id);
  };
  const toggle = (codes: readonly string[], on: boolean): void =>
    setLeft((held) => new Set(on ? [...held].filter((c) => !codes.includes(c)) : [...held, ...codes]));
  return (
    <Modal title="Run tests" className="top-[6vh] max-h-[88vh] w-[1010px] overflow-y-auto" onClose={onClose}>
      <form ref={form} onSubmit={submit} className="flex flex-col gap-4">
        {scope === null ? (
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
                  <label className="flex min-h-6 items-center gap-1.5 font-semibold">
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
                  <label key={t.code} title={t.looksFor} className="flex items-center gap-1.5 min-h-6 text-[13px]">
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
        <details className="text-[13px]">
          <summary className="cursor-pointer">
            Settings{' '}
            <span className="text-soft">
              – where nothing is written, they are taken from the ledger and said with the run
            </span>
          </summary>
          <div className="mt-2 grid grid-cols-2 gap-x-8 gap-y-3">
            {(data?.rows ?? [])
              .filter((t) => t.parameters.length > 0 && !left.has(t.code))
              .map((t) => (
                <fieldset key={t.code}>
                  <legend className="font-semibold">{t.name}</legend>
                  {t.parameters.map((p) => (
                    <Setting key={p.name} name={`${t.code}.${p.name}`} param={p} />
                  ))}
                </fieldset>
              ))}
          </div>
        </details>
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

/** The figure that was chosen. */
const chosen = (form: FormData, entities: readonly Company[]): string =>
  `figure:${scopeOf(form.getAll('entity').map(String), String(form.get('window')), entities)}`;

type Tests = AnswerOf<'GET /tests'>['rows'];
type Param = Tests[number]['parameters'][number];
type Settings = Record<string, Record<string, string | number | string[]>>;

function Setting({ name, param }: { name: string; param: Param }) {
  const id = useId();
  return (
    <div className="flex items-center justify-between gap-3 py-[2px]">
      {param.is === 'choice' ? (
        <span className="text-soft">{param.label}</span>
      ) : (
        <label htmlFor={id} className="text-soft">
          {param.label}
        </label>
      )}
      {param.is === 'choice' ? (
        <Select aria-label={param.label} name={name} defaultValue={String(param.value)} className="h-7 w-[150px]">
          {param.options.map((option) => (
            <option key={option} value={option}>
              {option}
            </option>
          ))}
        </Select>
      ) : (
        <input
          id={id}
          name={name}
          className={`field h-7 ${param.is === 'words' ? 'w-[250px]' : 'w-[150px] text-right'}`}
          defaultValue={Array.isArray(param.value) ? param.value.join(', ') : ''}
          placeholder={param.is === 'words' ? 'none' : 'from the ledger'}
          inputMode={param.is === 'words' ? 'text' : 'decimal'}
        />
      )}
    </div>
  );
}

/** What was written of settings; those that are left as they were proposed are not sent. */
function settingsIn(form: FormData, tests: Tests): Settings {
  const settings: Settings = {};
  for (const { code, parameters } of tests)
    for (const p of parameters) {
      const text = String(form.get(`${code}.${p.name}`) ?? '').trim();
      const proposed = Array.isArray(p.value) ? p.value.join(', ') : String(p.value ?? '');
      if (!form.has(`${code}.${p.name}`) || text === proposed) continue;
      const value =
        p.is === 'words'
          ? text
              .split(',')
              .map((word) => word.trim())
              .filter(Boolean)
          : p.is === 'number'
            ? Number(text.replace(',', '.'))
            : text;
      settings[code] = { ...settings[code], [p.name]: value };
    }
  return settings;
}
