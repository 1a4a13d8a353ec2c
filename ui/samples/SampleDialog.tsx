'use client';

import { useRouter } from 'next/navigation';
import { type FormEvent, useRef, useState } from 'react';
import type { SamplePlan } from '@/contracts/answers/samples';
import type { BodySent } from '@/contracts/routes';
import { METHODS, type Method, SAMPLED_OF, type SampledOf } from '@/contracts/work';
import { amountText, countText } from '../amounts';
import { Modal, ModalClose } from '../parts/Modal';
import { Failure, Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { useMaterial } from '../proposals/useMaterial';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { METHOD_WORD, OF_WORD, reckonedWords, TOUCHES } from './words';

type Wanted = BodySent<'POST /samples'>;

/** What is drawn from a figure, and how: reckoned and shown before anything is drawn. */
export function SampleDialog({
  scope,
  label,
  address,
  thread,
  chosen,
  onClose,
}: {
  /** The figure that is drawn from, as a subject. */
  scope: string;
  label: string;
  address: string;
  thread: number | null;
  /** Rows that were chosen by hand. */
  chosen: readonly string[];
  onClose(): void;
}) {
  const router = useRouter();
  const material = useMaterial(scope);
  const form = useRef<HTMLFormElement>(null);
  const [of, setOf] = useState<SampledOf>('lines');
  const [method, setMethod] = useState<Method>(chosen.length > 1 ? 'chosen' : 'monetary-unit');
  const [by, setBy] = useState<'size' | 'rate'>('size');
  const [plan, setPlan] = useState<SamplePlan | null>(null);
  const reckon = useChange((body: Wanted) => ask('POST /samples/plan', { body }), []);
  const draw = useChange((body: Wanted) => ask('POST /samples', { body }), TOUCHES);
  const wanted = (): Wanted => {
    const fields = new FormData(form.current as HTMLFormElement);
    const text = (name: string): string => String(fields.get(name) ?? '').trim();
    const part = (name: string): number | undefined =>
      text(name) ? Number(text(name).replace(',', '.')) / 100 : undefined;
    const attributes = text('attributes')
      .split('\n')
      .map((a) => a.trim())
      .filter(Boolean);
    const given = {
      ...{ scope, of, method, label: label.slice(0, 300), address, thread },
      title: text('title') || undefined,
      confidence: part('confidence'),
      seed: text('seed') || undefined,
      attributes: attributes.length > 0 ? attributes : undefined,
      ...(method === 'monetary-unit'
        ? {
            tolerable: text('tolerable') || undefined,
            expected: text('expected') || undefined,
            certain: fields.has('certain'),
          }
        : method === 'chosen'
          ? { subjects: [...chosen] }
          : by === 'size'
            ? { size: Number(text('size')) || undefined }
            : { tolerableRate: part('tolerableRate'), expectedRate: part('expectedRate') }),
    };
    return Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined)) as Wanted;
  };
  const changed = (): void => {
    setPlan(null);
    reckon.reset();
  };
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    if (plan === null) {
      await reckon.mutateAsync(wanted()).then(setPlan, () => null);
      return;
    }
    const drawn = await draw.mutateAsync(wanted()).catch(() => null);
    if (!drawn) return;
    onClose();
    toast(`${countText(drawn.size)} ${OF_WORD[of]} are drawn`);
    router.push(`/threads/samples/${drawn.id}`);
  };
  const methods = METHODS.filter((m) => m !== 'chosen' || chosen.length > 0);
  return (
    <Modal
      title={`Draw a sample of ${label}`}
      className="top-[7vh] max-h-[86vh] w-[640px] overflow-auto"
      onClose={onClose}
    >
      <form ref={form} onSubmit={submit} onChange={changed} className="flex flex-col gap-3">
        <Labelled label="Called" wide>
          <input name="title" maxLength={200} placeholder={`${OF_WORD[of]} of ${label}`} className="field w-full" />
        </Labelled>
        <div className="flex flex-wrap gap-3">
          <Labelled label="Drawn are">
            <Select
              value={of}
              className="w-[140px]"
              onChange={(event) => {
                setOf(event.target.value as SampledOf);
                changed();
              }}
            >
              {SAMPLED_OF.map((s) => (
                <option key={s} value={s}>
                  {OF_WORD[s]}
                </option>
              ))}
            </Select>
          </Labelled>
          <Labelled label="Method">
            <Select
              value={method}
              className="w-[190px]"
              onChange={(event) => {
                setMethod(event.target.value as Method);
                changed();
              }}
            >
              {methods.map((m) => (
                <option key={m} value={m}>
                  {METHOD_WORD[m]}
                </option>
              ))}
            </Select>
          </Labelled>
          <Labelled label="Confidence, %">
            <input name="confidence" defaultValue="95" inputMode="decimal" className="field w-[110px] text-right" />
          </Labelled>
        </div>
        {method === 'monetary-unit' && (
          <div className="flex flex-wrap items-end gap-3">
            <Labelled label="Tolerable misstatement">
              <input
                key={material?.performance}
                name="tolerable"
                required
                inputMode="decimal"
                defaultValue={material?.performance ?? ''}
                className="field w-[160px] text-right"
              />
            </Labelled>
            <Labelled label="Expected misstatement">
              <input name="expected" inputMode="decimal" placeholder="none" className="field w-[160px] text-right" />
            </Labelled>
            <label className="flex items-center gap-2 pb-1.5">
              <input type="checkbox" name="certain" defaultChecked /> items of an interval or more for certain
            </label>
          </div>
        )}
        {method !== 'monetary-unit' && method !== 'chosen' && (
          <div className="flex flex-wrap items-end gap-3">
            <Labelled label="How many">
              <Select
                value={by}
                className="w-[220px]"
                onChange={(event) => {
                  setBy(event.target.value as 'size' | 'rate');
                  changed();
                }}
              >
                <option value="size">as many as I say</option>
                <option value="rate">from a rate of deviations</option>
              </Select>
            </Labelled>
            {by === 'size' ? (
              <Labelled label="Items">
                <input
                  name="size"
                  required
                  inputMode="numeric"
                  defaultValue="25"
                  className="field w-[100px] text-right"
                />
              </Labelled>
            ) : (
              <>
                <Labelled label="Tolerable, %">
                  <input
                    name="tolerableRate"
                    required
                    defaultValue="5"
                    inputMode="decimal"
                    className="field w-[110px] text-right"
                  />
                </Labelled>
                <Labelled label="Expected, %">
                  <input
                    name="expectedRate"
                    defaultValue="0"
                    inputMode="decimal"
                    className="field w-[110px] text-right"
                  />
                </Labelled>
              </>
            )}
          </div>
        )}
        <div className="flex flex-wrap gap-3">
          <Labelled label="Looked for in each item, one a line">
            <textarea
              name="attributes"
              rows={2}
              placeholder={'approved\nagrees with the document'}
              className="field h-auto w-[320px] py-1"
            />
          </Labelled>
          <Labelled label="Seed">
            <input name="seed" maxLength={100} placeholder="made and kept" className="field w-[180px]" />
          </Labelled>
        </div>
        {plan && <Reckoned plan={plan} of={of} confidence={wanted().confidence ?? 0.95} />}
        <Failure error={reckon.error ?? draw.error} />
        <div className="flex gap-2">
          <button type="submit" className="button-main" disabled={reckon.isPending || draw.isPending}>
            {reckon.isPending || draw.isPending
              ? 'Going through it …'
              : plan === null
                ? 'Reckon'
                : `Draw ${countText(plan.items)}`}
          </button>
          <ModalClose className="button">Cancel</ModalClose>
        </div>
      </form>
    </Modal>
  );
}

function Reckoned({ plan, of, confidence }: { plan: SamplePlan; of: SampledOf; confidence: number }) {
  const { population: p, tie, currency } = plan;
  const money = (amount: string): string => `${currency} ${amountText(amount)}`;
  return (
    <div role="status" className="border border-rule bg-paper p-3 text-[13px]">
      <p>{plan.sentence}.</p>
      <p className="mt-1">
        {countText(p.count)} {OF_WORD[of]}, {money(p.debit)} in {countText(p.debits)} debits, {money(p.credit)} in{' '}
        {countText(p.credits)} credits{p.zeros > 0 && `, ${countText(p.zeros)} of nothing`}: {money(p.net)}.{' '}
        {tie.holds ? (
          <span>✓ It is what the ledger moved by.</span>
        ) : (
          <span className="text-warn">
            ✗ The ledger moved by {money(tie.ledger)}
            {of === 'documents' ? ': lines that name no document are not drawn from' : ''}.
          </span>
        )}
      </p>
      <p className="mt-1">
        <strong className="font-semibold">
          {countText(plan.items)} {plan.items === 1 ? 'item' : 'items'}
        </strong>
        {plan.certain > 0 && `, ${countText(plan.certain)} of them for certain`}.{' '}
        {reckonedWords(plan.reckoned, currency, confidence)}
      </p>
      {plan.strata && (
        <table className="mt-2 text-right tabular-nums">
          <caption className="sr-only">Strata</caption>
          <thead>
            <tr className="text-soft">
              <th className="pr-6 text-left font-normal">from</th>
              <th className="pr-6 font-normal">items</th>
              <th className="font-normal">value</th>
            </tr>
          </thead>
          <tbody>
            {plan.strata.map((s) => (
              <tr key={s.from}>
                <td className="pr-6 text-left">{amountText(s.from)}</td>
                <td className="pr-6">{countText(s.count)}</td>
                <td>{amountText(s.value)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </div>
  );
}
