'use client';

import { type FormEvent, useState } from 'react';
import type { BodySent } from '@/contracts/routes';
import { PROPOSED_KINDS, type ProposedKind } from '@/core/proposedEntry';
import { plainAmount } from '@/core/writtenAmounts';
import { decimalMark } from '../amounts';
import type { Carried } from '../evidence/quoting';
import { PastedFigure } from '../expectations/PastedFigure';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { ask } from '../query/client';
import { useChange, useEntities } from '../query/hooks';
import { KIND_WORD } from './words';

type Wanted = BodySent<'POST /proposed-templates'>;

interface TemplateLine {
  account: string;
  description: string;
  percent: string;
  /** For each unit of what the figure's lines count, in place of a share of the figure. */
  each: string;
  figure: Carried | null;
  amount: string;
}
const EMPTY: TemplateLine = { account: '', description: '', percent: '', each: '', figure: null, amount: '' };

/** A template as it is made: each line an amount, a share of a figure, so much for each unit of one, or what is left. */
export function TemplateForm() {
  const { data } = useEntities();
  const [open, setOpen] = useState(false);
  const [lines, setLines] = useState<TemplateLine[]>([EMPTY, EMPTY]);
  const keep = useChange((body: Wanted) => ask('POST /proposed-templates', { body }), ['/proposed-templates']);
  const put = (at: number, more: Partial<TemplateLine>): void =>
    setLines(lines.map((l, i) => (i === at ? { ...l, ...more } : l)));
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const text = (name: string): string => String(form.get(name) ?? '').trim();
    const done = await keep
      .mutateAsync({
        ...{ name: text('name'), entity: text('entity'), kind: text('kind') as ProposedKind },
        ...{ title: text('name'), reason: text('reason'), taxPercent: '' },
        lines: lines
          .filter((l) => l.account.trim() !== '')
          .map((l) => ({
            account: l.account.trim(),
            ...(l.description === '' ? {} : { description: l.description }),
            ...(l.figure
              ? {
                  of:
                    l.each === ''
                      ? {
                          subject: l.figure.subject,
                          measure: l.figure.measure ?? 'movement',
                          percent: l.percent || '100',
                        }
                      : { subject: l.figure.subject, each: plainAmount(l.each, decimalMark()) },
                }
              : l.amount.trim() === ''
                ? {}
                : { amount: plainAmount(l.amount.trim(), decimalMark()) }),
          })),
      })
      .catch(() => null);
    if (!done) return;
    setOpen(false);
    setLines([EMPTY, EMPTY]);
  };
  if (!open)
    return (
      <button type="button" className="button mt-3" onClick={() => setOpen(true)}>
        Make a template
      </button>
    );
  return (
    <form onSubmit={submit} className="mt-4 flex max-w-[980px] flex-col gap-3">
      <div className="flex flex-wrap items-end gap-3">
        <Labelled label="Name">
          <input name="name" required maxLength={100} className="field w-[260px]" />
        </Labelled>
        <Labelled label="Company">
          <Select name="entity">
            {(data?.entities ?? []).map((e) => (
              <option key={e.code} value={e.code}>
                {e.name}
              </option>
            ))}
          </Select>
        </Labelled>
        <Labelled label="Kind">
          <Select name="kind">
            {PROPOSED_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {KIND_WORD[kind]}
              </option>
            ))}
          </Select>
        </Labelled>
      </div>
      <Labelled label="Why it is booked each time" wide>
        <input name="reason" required maxLength={4_000} className="field w-full" />
      </Labelled>
      {lines.map((l, i) => (
        <div
          // biome-ignore lint/suspicious/noArrayIndexKey: lines have no other name than their place
          key={i}
          className="grid grid-cols-[100px_minmax(0,1fr)_64px_92px_minmax(0,1.3fr)_122px] items-end gap-2"
        >
          <Labelled label={`Account, line ${i + 1}`} wide>
            <input className="field w-full" value={l.account} onChange={(e) => put(i, { account: e.target.value })} />
          </Labelled>
          <Labelled label="Text" wide>
            <input
              className="field w-full"
              value={l.description}
              onChange={(e) => put(i, { description: e.target.value })}
            />
          </Labelled>
          <Figures
            label="%"
            value={l.percent}
            disabled={l.amount !== '' || l.each !== ''}
            onValue={(percent) => put(i, { percent: percent.trim() })}
          />
          <Figures
            label="or per unit"
            value={l.each}
            disabled={l.amount !== '' || l.percent !== ''}
            onValue={(each) => put(i, { each: each.trim() })}
          />
          <PastedFigure label="of a figure" held={l.figure} onFigure={(figure) => put(i, { figure, amount: '' })} />
          <Figures
            label="or an amount"
            value={l.amount}
            placeholder={l.figure ? '' : 'what is left'}
            disabled={l.figure !== null}
            onValue={(amount) => put(i, { amount })}
          />
        </div>
      ))}
      <button type="button" className="link self-start" onClick={() => setLines([...lines, EMPTY])}>
        Another line
      </button>
      <Failure error={keep.error} />
      <div className="flex gap-2">
        <button type="submit" className="button-main" disabled={keep.isPending}>
          Keep it
        </button>
        <button type="button" className="button" onClick={() => setOpen(false)}>
          Cancel
        </button>
      </div>
    </form>
  );
}

/** A field for figures, which stand to the right. */
function Figures({
  label,
  value,
  disabled,
  placeholder = '',
  onValue,
}: {
  label: string;
  value: string;
  disabled: boolean;
  placeholder?: string;
  onValue(value: string): void;
}) {
  return (
    <Labelled label={label} wide>
      <input
        className="field w-full text-right"
        value={value}
        placeholder={placeholder}
        disabled={disabled}
        onChange={(event) => onValue(event.target.value)}
      />
    </Labelled>
  );
}
