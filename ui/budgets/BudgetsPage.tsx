'use client';

import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import type { BudgetAnswer, BudgetList } from '@/contracts/answers/budgets';
import type { BodySent } from '@/contracts/routes';
import { momentText } from '../amounts';
import { memberOptions } from '../parts/memberOptions';
import { Failure, Labelled, Place, STATEMENT_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { Pick } from '../screens/Pick';
import { BudgetSheet } from './BudgetSheet';
import { useDelivered } from './useDelivered';

/** Budgets as they are written: versions by fiscal year, each a sheet in the shape of the income statement. */
export function BudgetsPage() {
  const params = useSearchParams();
  const { data: known } = useEntities();
  const entity = params.get('entity') ?? known?.entities[0]?.code ?? '';
  const { data: list, error } = useAnswer('GET /budgets', entity === '' ? null : new URLSearchParams({ entity }));
  const newest = list?.rows[0];
  const year = Number(params.get('year') ?? newest?.year ?? list?.years[0] ?? 0);
  const versions = [...new Set((list?.rows ?? []).filter((r) => r.year === year).map((r) => r.version))];
  const version = params.get('version') ?? versions[0] ?? '';
  const unit = params.getAll('unit');
  const asked =
    version === '' || year === 0
      ? null
      : new URLSearchParams([['entity', entity], ['year', String(year)], ...unit.map((u) => ['unit', u])]);
  const sheet = useAnswer('GET /budgets/{version}', asked, { version });
  const go = useGo();
  const kept = list?.rows.find((r) => r.version === version && r.year === year);
  const [making, setMaking] = useState(false);
  const address = { entity, year: String(year), version };
  return (
    <Place title="Budgets" tabs={STATEMENT_TABS} here="/statements/budgets">
      <Failure error={error} />
      <div className="mb-3 flex flex-wrap items-baseline gap-x-6 gap-y-2">
        <Pick
          label="Company"
          value={entity}
          choices={(known?.entities ?? []).map((e): [string, string] => [e.code, e.name])}
          onChange={(code) => go({ entity: code })}
        />
        <Pick
          label="Fiscal year"
          value={String(year)}
          choices={(list?.years ?? []).map((y): [string, string] => [String(y), String(y)])}
          onChange={(y) => go({ entity, year: y })}
        />
        {(versions.length > 0 || version !== '') && (
          <Pick
            label="Version"
            value={version}
            choices={[...new Set([...versions, ...(version === '' ? [] : [version])])].map((v): [string, string] => [
              v,
              v,
            ])}
            onChange={(v) => go({ ...address, version: v })}
          />
        )}
        {sheet.data && <UnitPick sheet={sheet.data} onChange={(u) => go({ ...address, unit: u })} />}
        <button type="button" className="link text-soft" aria-expanded={making} onClick={() => setMaking(!making)}>
          New version …
        </button>
        {kept && (
          <span className="ml-auto text-[12.5px] text-faint">
            last changed by {kept.by}, {momentText(kept.at)}, load {kept.load}
          </span>
        )}
      </div>
      {making && list && (
        <NewVersion
          entity={entity}
          year={year}
          list={list}
          onMade={(name) => {
            setMaking(false);
            go({ entity, year: String(year), version: name });
          }}
        />
      )}
      <Failure error={sheet.error} />
      {list && version === '' && !making && (
        <p className="max-w-[64ch]">
          No budget is set for fiscal year {year}. Begin one with <em>New version</em>, or bring a file of budget lines
          in under Loads.
        </p>
      )}
      {sheet.data && sheet.data.version === version && !sheet.isPlaceholderData && (
        <BudgetSheet key={`${entity}/${year}/${version}/${unit.join()}`} sheet={sheet.data} />
      )}
    </Place>
  );
}

function useGo() {
  const router = useRouter();
  const path = usePathname();
  return ({ unit = [], ...params }: { unit?: string[] } & Record<string, string | string[]>): void => {
    const next = new URLSearchParams(Object.entries(params) as [string, string][]);
    for (const word of unit) next.append('unit', word);
    router.push(`${path}?${next}`);
  };
}

/** For whom the sheet is: units that have something, and any other one by its dimension. */
function UnitPick({ sheet, onChange }: { sheet: BudgetAnswer; onChange(unit: string[]): void }) {
  const { data } = useEntities();
  const here = sheet.unit.join('|');
  const units = new Map(sheet.units.map((u) => [u.unit.join('|'), u.name]));
  if (!units.has('')) units.set('', 'Whole company');
  const others = (data?.dimensions ?? []).map((d) => ({
    ...d,
    members: d.members.filter((m) => !units.has(`${d.code}:${m.code}`)),
  }));
  const named = sheet.unit.map((u) => {
    const dimension = data?.dimensions.find((d) => u.startsWith(`${d.code}:`));
    return dimension?.members.find((m) => u === `${dimension.code}:${m.code}`)?.name ?? u;
  });
  if (!units.has(here)) units.set(here, named.join(', '));
  return (
    <label className="flex items-baseline gap-2 whitespace-nowrap">
      <span className="text-faint">Set for</span>
      <Select
        value={here}
        onChange={(event) => onChange(event.target.value.split('|').filter(Boolean))}
        className="max-w-[220px] cursor-pointer border-b border-rule bg-transparent"
      >
        <optgroup label="In this version">
          {[...units].map(([key, name]) => (
            <option key={key} value={key}>
              {name}
            </option>
          ))}
        </optgroup>
        {memberOptions(others)}
      </Select>
    </label>
  );
}

/** A version begun empty, or with the lines of another. */
function NewVersion({
  entity,
  year,
  list,
  onMade,
}: {
  entity: string;
  year: number;
  list: BudgetList;
  onMade(name: string): void;
}) {
  const copy = useChange((body: BodySent<'POST /budgets'>) => ask('POST /budgets', { body }), []);
  const [waits, setWaits] = useState<{ id: number; name: string } | null>(null);
  const delivered = useDelivered(waits?.id ?? null, () => onMade(waits?.name ?? ''));
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const name = String(form.get('name') ?? '').trim();
    const from = list.rows[Number(form.get('from'))];
    if (!from) return onMade(name);
    const done = await copy
      .mutateAsync({ entity, version: name, year, from: { version: from.version, year: from.year } })
      .catch(() => null);
    if (done) setWaits({ id: done.id, name });
  };
  return (
    <form onSubmit={submit} className="mb-4 flex flex-wrap items-end gap-3 border-l-2 border-rule pl-4">
      <Labelled label={`Name of the version for ${year}`}>
        <input
          name="name"
          required
          maxLength={80}
          autoFocus
          pattern="[^\/\\,|]+"
          title="No / \ , or |"
          className="field w-[220px]"
        />
      </Labelled>
      <Labelled label="Begin with">
        <Select name="from" className="field">
          <option value="">nothing</option>
          {list.rows.map((r, i) => (
            <option key={`${r.version}/${r.year}`} value={i}>
              {r.version}, {r.year}
            </option>
          ))}
        </Select>
      </Labelled>
      <button type="submit" className="button-main" disabled={copy.isPending || waits !== null}>
        {waits ? 'Copying …' : 'Begin'}
      </button>
      <Failure error={copy.error ?? delivered} />
    </form>
  );
}
