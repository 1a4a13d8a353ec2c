'use client';

import { type FormEvent, useState } from 'react';
import type { BodySent } from '@/contracts/routes';
import { yearOf } from '@/core/calendar';
import { plainAmount } from '@/core/writtenAmounts';
import { amountText, decimalMark, momentText } from '../amounts';
import type { Carried } from '../evidence/quoting';
import { PastedFigure } from '../expectations/PastedFigure';
import { Failure, Labelled, Place, PROPOSAL_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { Table, Td, Tr } from '../parts/Table';
import { ask } from '../query/client';
import { useAnswer, useChange, useEntities } from '../query/hooks';
import { useMe } from '../shell/me';
import { TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();
type Wanted = BodySent<'PUT /materiality'>;

/** What is material of a company or of the group, by year, with all that was said before. */
export function MaterialityPage() {
  const me = useMe();
  const { data, error } = useAnswer('GET /materiality', NO_PARAMS);
  const [all, setAll] = useState(false);
  const rows = (data?.rows ?? []).filter((m) => all || m.counts);
  const former = (data?.rows ?? []).length - (data?.rows ?? []).filter((m) => m.counts).length;
  return (
    <Place title="Materiality" tabs={PROPOSAL_TABS} here="/proposals/materiality">
      <Failure error={error} />
      {data?.rows.length === 0 && (
        <p className="mb-4 max-w-[76ch] text-soft">
          Nothing is said of what is material yet. What is said here is a rule on the sheets of the company and year,
          what misstatements are weighed against, and where samples and expectations begin.
        </p>
      )}
      {rows.length > 0 && (
        <Table
          label="What is material"
          fixed
          sideways
          columns={[
            { label: 'Company', width: 'w-[90px]' },
            { label: 'Year', width: 'w-[60px]' },
            { label: 'Overall', width: 'w-[130px]', right: true },
            { label: 'Performance', width: 'w-[130px]', right: true },
            { label: 'Clearly trivial', width: 'w-[120px]', right: true },
            { label: 'From' },
            { label: 'Said', width: 'w-[190px]' },
          ]}
        >
          {rows.map((m) => (
            <Tr key={m.id}>
              <Td>{m.entity ?? 'the group'}</Td>
              <Td>{m.year}</Td>
              <Td right>
                {m.currency} {amountText(m.overall)}
              </Td>
              <Td right>{amountText(m.performance)}</Td>
              <Td right>{amountText(m.trivial)}</Td>
              <Td>
                {m.basis.figure === null
                  ? 'an amount of its own'
                  : `${m.basis.percent} % of ${m.basis.label || 'a figure'}, ${amountText(m.basis.figure)}`}
                . {m.reason}
                {m.alternatives.map((a) => (
                  <span key={`${a.label} ${a.percent}`} className="block text-[12.5px] text-soft">
                    beside it: {a.percent} % of {a.label || 'a figure'}
                    {a.figure === null ? '' : `, ${amountText(a.figure)}`}, is {amountText(a.amount)}
                  </span>
                ))}
              </Td>
              <Td>
                {m.by}, {momentText(m.at)}
                {!m.counts && <span className="block text-[12.5px] text-faint">said before</span>}
              </Td>
            </Tr>
          ))}
        </Table>
      )}
      {former > 0 && (
        <button type="button" className="link mt-2" onClick={() => setAll(!all)}>
          {all ? 'Show what counts alone' : `Show ${former} said before`}
        </button>
      )}
      {(me.role === 'reviewer' || me.role === 'owner') && <SayForm />}
      {me.role !== 'reviewer' && me.role !== 'owner' && (
        <p className="mt-4 text-soft">Reviewers and owners say what is material.</p>
      )}
    </Place>
  );
}

interface Basis {
  figure: Carried | null;
  percent: string;
}
const NO_BASIS: Basis = { figure: null, percent: '' };

const sentBasis = ({ figure, percent }: Basis): NonNullable<Wanted['alternatives']>[number] | null =>
  figure === null
    ? null
    : { subject: figure.subject, measure: figure.measure ?? 'movement', label: figure.label, percent };

/** What is material said anew: from a figure and a percentage, with others beside it. */
function SayForm() {
  const { data } = useEntities();
  const entities = (data?.entities ?? []).filter((e) => e.reach !== null);
  const [bases, setBases] = useState<Basis[]>([NO_BASIS]);
  const [times, setTimes] = useState(0);
  const say = useChange((body: Wanted) => ask('PUT /materiality', { body }), TOUCHES);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    const part = (name: string): string =>
      text(name).endsWith('%') ? text(name) : plainAmount(text(name), decimalMark());
    const [basis, ...alternatives] = bases.map(sentBasis);
    const done = await say
      .mutateAsync({
        entity: text('entity') || null,
        year: Number(text('year')),
        ...(basis ? { basis } : {}),
        ...(text('overall') === '' ? {} : { overall: plainAmount(text('overall'), decimalMark()) }),
        ...{ performance: part('performance'), trivial: part('trivial'), reason: text('reason') },
        alternatives: alternatives.flatMap((b) => b ?? []),
        ...(text('currency') === '' ? {} : { currency: text('currency') }),
      })
      .catch(() => null);
    if (!done) return;
    setBases([NO_BASIS]);
    setTimes((n) => n + 1);
  };
  const put = (at: number, more: Partial<Basis>): void =>
    setBases(bases.map((b, i) => (i === at ? { ...b, ...more } : b)));
  return (
    <form key={`${times} ${entities.length}`} onSubmit={submit} className="mt-6 flex max-w-[860px] flex-col gap-3">
      <h2 className="font-book text-[16px] font-semibold">Say what is material</h2>
      <div className="flex flex-wrap items-end gap-3">
        <Labelled label="Of">
          <Select name="entity" defaultValue={entities[0]?.code ?? ''}>
            <option value="">the group</option>
            {entities.map((e) => (
              <option key={e.code} value={e.code}>
                {e.name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Fiscal year">
          <input
            name="year"
            required
            inputMode="numeric"
            pattern="\d{4}"
            defaultValue={yearOfReach(entities[0]?.reach?.lastPosted)}
            className="field w-[80px]"
          />
        </Labelled>
        <Labelled label="Currency, of the group">
          <input name="currency" className="field w-[80px]" pattern="[A-Z]{3}" />
        </Labelled>
      </div>
      {bases.map((b, i) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: bases have no other name than their place
          key={i}
          className="grid grid-cols-[minmax(0,1fr)_90px] items-end gap-3"
        >
          <PastedFigure
            label={i === 0 ? 'From a figure' : 'Beside it, another figure'}
            held={b.figure}
            onFigure={(figure) => put(i, { figure })}
          />
          <Labelled label="so many %">
            <input
              className="field w-full text-right"
              inputMode="decimal"
              value={b.percent}
              onChange={(event) => put(i, { percent: event.target.value.trim() })}
              required={b.figure !== null}
            />
          </Labelled>
        </div>
      ))}
      <button type="button" className="link self-start" onClick={() => setBases([...bases, NO_BASIS])}>
        Hold another figure beside it
      </button>
      <div className="flex flex-wrap items-end gap-3">
        <Labelled label="Overall; empty: as reckoned">
          <input name="overall" inputMode="decimal" className="field w-[170px] text-right" />
        </Labelled>
        <Labelled label="Performance">
          <input name="performance" required defaultValue="75%" className="field w-[130px] text-right" />
        </Labelled>
        <Labelled label="Clearly trivial">
          <input name="trivial" required defaultValue="5%" className="field w-[130px] text-right" />
        </Labelled>
      </div>
      <Labelled label="because" wide>
        <textarea name="reason" required rows={2} maxLength={4_000} className="field h-auto w-full py-1" />
      </Labelled>
      <Failure error={say.error} />
      <button type="submit" className="button-main self-start" disabled={say.isPending}>
        Say so
      </button>
    </form>
  );
}

const yearOfReach = (period: number | undefined): string => (period === undefined ? '' : String(yearOf(period)));
