'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import type { Expectation } from '@/contracts/answers/expectations';
import { placeOfSubject } from '@/contracts/places';
import type { BodySent } from '@/contracts/routes';
import type { Measure } from '@/contracts/traced';
import { plainAmount } from '@/core/writtenAmounts';
import { amountText, decimalMark, momentText } from '../amounts';
import type { Carried } from '../evidence/quoting';
import { KeepOrCancel } from '../parts/KeepOrCancel';
import { Failure, Labelled, Place } from '../parts/Place';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { PastedFigure } from './PastedFigure';
import { RuleFields, ruleOf, typedOf } from './RuleFields';
import { stateInk, TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();
const BACK = [{ href: '/threads/expectations', name: 'All expectations' }];

type Change = BodySent<'PUT /expectations/{id}'>;

/** One figure beside what it should be: the difference, what explains it part by part, and what is concluded. */
export function ExpectationPage({ id }: { id: number }) {
  const me = useMe();
  const router = useRouter();
  const { data, error } = useAnswer('GET /expectations/{id}', NO_PARAMS, { id });
  const [changing, setChanging] = useState(false);
  const change = useChange((body: Change) => ask('PUT /expectations/{id}', { path: { id }, body }), TOUCHES);
  const remove = useChange(() => ask('DELETE /expectations/{id}', { path: { id } }), TOUCHES);
  if (!data)
    return (
      <Place title="Expectation" tabs={BACK} here="">
        <Failure error={error} />
      </Place>
    );
  const may = me.role !== 'reader';
  return (
    <Place title={data.label} tabs={BACK} here="">
      <p className="-mt-2 mb-4 flex max-w-[110ch] flex-wrap items-baseline gap-x-4 text-soft">
        <span>
          {data.sentence}; said by {data.by}, {momentText(data.at)}
        </span>
        {data.thread && (
          <Link href={`/threads/${data.thread}`} className="link">
            its thread
          </Link>
        )}
        {may && !changing && (
          <button type="button" className="link" onClick={() => setChanging(true)}>
            Change
          </button>
        )}
        {data.mine && (
          <button
            type="button"
            className="link"
            onClick={() => {
              if (window.confirm('Take this expectation away? The record keeps that it was stated.'))
                remove.mutate(undefined, { onSuccess: () => router.push('/threads/expectations') });
            }}
          >
            Take away
          </button>
        )}
      </p>
      <Failure error={remove.error} />
      {changing ? (
        <ChangeForm data={data} change={change} onDone={() => setChanging(false)} />
      ) : (
        <p className="mb-5 max-w-[90ch]">
          <span className="text-soft">Expected:</span> {data.reckoned}. {data.reason}
        </p>
      )}
      <Reckoning data={data} may={may} change={change} />
      <Conclusion key={data.changed} data={data} may={may} change={change} />
    </Place>
  );
}

interface Changed {
  data: Expectation;
  change: { mutateAsync(body: Change): Promise<unknown>; isPending: boolean; error: Error | null };
}

function ChangeForm({ data, change, onDone }: Changed & { onDone(): void }) {
  const [typed, setTyped] = useState(typedOf(data.rule));
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const done = await change
      .mutateAsync({
        rule: ruleOf(typed),
        reason: String(form.get('reason') ?? ''),
        least: plainAmount(String(form.get('least') ?? ''), decimalMark()),
      })
      .catch(() => null);
    if (done) onDone();
  };
  return (
    <form onSubmit={submit} className="mb-5 flex max-w-[640px] flex-col gap-3">
      <RuleFields typed={typed} onTyped={setTyped} />
      <Labelled label="because" wide>
        <textarea name="reason" required rows={3} defaultValue={data.reason} className="field h-auto w-full py-1" />
      </Labelled>
      <Labelled label="A difference of so much needs explaining">
        <input name="least" required defaultValue={data.least} className="field w-[200px] text-right" />
      </Labelled>
      <Failure error={change.error} />
      <KeepOrCancel pending={change.isPending} onCancel={onDone} />
    </form>
  );
}

const sentParts = (data: Expectation): NonNullable<Change['parts']> =>
  data.parts.map(({ text, subject, measure, amount, typed }) =>
    typed ? { text, amount: amount ?? '0' } : { text, subject: subject ?? '', measure: measure as Measure },
  );

/** Expected, actual, difference; the parts that explain it; what is left. */
function Reckoning({ data, may, change }: Changed & { may: boolean }) {
  const whole = data.parts.every((p) => p.typed || p.subject !== null);
  const row = 'border-b border-hair align-baseline';
  const amount = 'w-[170px] px-3 py-[5px] text-right whitespace-nowrap tabular-nums';
  return (
    <section aria-label="Reckoning" className="max-w-[760px]">
      <table className="w-full border border-rule bg-sheet">
        <caption className="sr-only">What was expected, what is, and what explains the difference</caption>
        <tbody>
          <tr className={row}>
            <th scope="row" className="px-3 py-[5px] text-left font-normal">
              Actual
            </th>
            <td className={amount}>
              <Link href={data.address || placeOfSubject(data.subject)} className="hover:underline">
                {data.actual === null ? '' : `${data.currency} ${amountText(data.actual)}`}
              </Link>
            </td>
            <td className="w-[90px]" />
          </tr>
          <tr className="border-b-[1.5px] border-ink align-baseline">
            <th scope="row" className="px-3 py-[5px] text-left font-normal">
              Expected
            </th>
            <td className={amount}>{data.expected === null ? 'not reckoned' : amountText(data.expected)}</td>
            <td />
          </tr>
          <tr className={`${row} font-semibold`}>
            <th scope="row" className="px-3 py-[5px] text-left font-semibold">
              Difference
              <span className="ml-2 text-[12.5px] font-normal text-soft">
                {amountText(data.least)} and more needs explaining
              </span>
            </th>
            <td className={amount}>{data.difference === null ? '' : amountText(data.difference)}</td>
            <td />
          </tr>
          {data.parts.map((part, i) => (
            <tr
              // biome-ignore lint/suspicious/noArrayIndexKey: parts are kept in their order
              key={i}
              className={row}
            >
              <td className="px-3 py-[5px] pl-7">
                {part.subject ? (
                  <Link href={placeOfSubject(part.subject)} className="hover:underline">
                    {part.text}
                  </Link>
                ) : (
                  part.text
                )}
                {part.typed && <span className="ml-2 text-[12.5px] text-faint">typed</span>}
              </td>
              <td className={amount}>{part.amount === null ? 'not seen' : amountText(part.amount)}</td>
              <td className="px-2 text-right">
                {may && whole && (
                  <button
                    type="button"
                    className="link text-[12.5px]"
                    aria-label={`Take ${part.text} away`}
                    onClick={() =>
                      void change.mutateAsync({ parts: sentParts(data).filter((_, n) => n !== i) }).catch(() => null)
                    }
                  >
                    take away
                  </button>
                )}
              </td>
            </tr>
          ))}
          {data.parts.length > 0 && (
            <tr className="border-t border-ink align-baseline font-semibold">
              <th scope="row" className="px-3 py-[5px] text-left font-semibold">
                Left
              </th>
              <td className={amount}>{data.left === null ? 'not all is seen' : amountText(data.left)}</td>
              <td />
            </tr>
          )}
        </tbody>
      </table>
      <p className={`mt-2 font-semibold ${stateInk(data.state)}`} role="status">
        {data.state === 'needs explaining' ? '! ' : data.state === 'not reckoned' ? '' : '✓ '}
        {data.state[0]?.toUpperCase()}
        {data.state.slice(1)}
      </p>
      {may && whole && data.expected !== null && <AddPart data={data} change={change} />}
    </section>
  );
}

/** A part that explains: a figure that was copied on a sheet, or an amount with words. */
function AddPart({ data, change }: Changed) {
  const [figure, setFigure] = useState<Carried | null>(null);
  const [text, setText] = useState('');
  const [amount, setAmount] = useState('');
  // Another part begins with an empty form.
  const [times, setTimes] = useState(0);
  const submit = async (event: FormEvent): Promise<void> => {
    event.preventDefault();
    const part = figure
      ? { text: text || figure.label, subject: figure.subject, measure: figure.measure ?? 'movement' }
      : { text, amount: plainAmount(amount, decimalMark()) };
    const done = await change.mutateAsync({ parts: [...sentParts(data), part] }).catch(() => null);
    if (!done) return;
    setFigure(null);
    setText('');
    setAmount('');
    setTimes((n) => n + 1);
  };
  return (
    <form onSubmit={submit} className="mt-4">
      <h2 className="mb-2 font-book text-[16px] font-semibold">What explains it</h2>
      <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-end gap-3">
        <PastedFigure
          key={times}
          label="A figure copied with Ctrl C on its sheet, or an amount"
          held={figure}
          onFigure={(pasted) => {
            setFigure(pasted);
            if (text === '') setText(pasted.label);
          }}
          onText={(typed) => {
            setFigure(null);
            setAmount(typed);
          }}
        />
        <Labelled label="in words" wide>
          <input className="field w-full" required value={text} onChange={(event) => setText(event.target.value)} />
        </Labelled>
        <button type="submit" className="button" disabled={change.isPending || (figure === null && amount === '')}>
          Add
        </button>
      </div>
      <Failure error={change.error} />
    </form>
  );
}

function Conclusion({ data, may, change }: Changed & { may: boolean }) {
  const [said, setSaid] = useState(data.conclusion);
  if (!may)
    return data.conclusion === '' ? null : (
      <p className="mt-6 max-w-[90ch] whitespace-pre-wrap">
        <span className="text-soft">Concluded:</span> {data.conclusion}
      </p>
    );
  return (
    <form
      className="mt-6 max-w-[760px]"
      onSubmit={(event) => {
        event.preventDefault();
        void change.mutateAsync({ conclusion: said }).catch(() => null);
      }}
    >
      <Labelled label="Conclusion" wide>
        <textarea
          rows={3}
          maxLength={4_000}
          value={said}
          onChange={(event) => setSaid(event.target.value)}
          className="field h-auto w-full py-1"
        />
      </Labelled>
      <button type="submit" className="button mt-2" disabled={said === data.conclusion || change.isPending}>
        Keep
      </button>
    </form>
  );
}
