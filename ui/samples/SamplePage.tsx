'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { type FormEvent, useState } from 'react';
import type { Evaluation, Sample, SampleItem } from '@/contracts/answers/samples';
import { placeOfSubject } from '@/contracts/places';
import { dateText } from '@/core/sentence';
import { amountText, countText, momentText } from '../amounts';
import { Failure, Labelled, Place, THREAD_TABS } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { toast } from '../parts/toast';
import { entityOf } from '../proposals/entityOf';
import { ProposeLink } from '../proposals/ProposeLink';
import { ask } from '../query/client';
import { useAnswer, useChange } from '../query/hooks';
import { useMe } from '../shell/me';
import { broughtBack } from './broughtBack';
import { METHOD_WORD, OF_WORD, reckonedWords, TOUCHES } from './words';

const NO_PARAMS = new URLSearchParams();

/** A sample as a work paper: what it was drawn from and how, each item with what was found, and what it tells of the whole. */
export function SamplePage({ id }: { id: number }) {
  const { data, error } = useAnswer('GET /samples/{id}', NO_PARAMS, { id });
  const [chosen, setChosen] = useState<number | null>(null);
  const me = useMe();
  const router = useRouter();
  const again = useChange(() => ask('GET /samples/{id}/redraw', { path: { id } }), []);
  const remove = useChange(() => ask('DELETE /samples/{id}', { path: { id } }), TOUCHES);
  if (!data)
    return (
      <Place title="Sample" tabs={THREAD_TABS} here="">
        <Failure error={error} />
      </Place>
    );
  const item = data.items.find((i) => i.no === chosen) ?? null;
  const tested = data.items.filter((i) => i.at !== null).length;
  return (
    <Place title={data.title} tabs={THREAD_TABS} here="">
      <p className="-mt-2 mb-3 flex flex-wrap items-baseline gap-x-4 text-soft">
        <span>
          {countText(data.size)} {OF_WORD[data.of]}, {METHOD_WORD[data.method]}, drawn by {data.by},{' '}
          {momentText(data.at)}, as of load {data.load}, from the seed {data.seed}
        </span>
        <Link href={placeOfSubject(data.subject)} className="link">
          What it was drawn from
        </Link>
        {data.thread && (
          <Link href={`/threads/${data.thread}`} className="link">
            its thread
          </Link>
        )}
        <button
          type="button"
          className="link"
          onClick={() =>
            again.mutate(undefined, {
              onSuccess: ({ same, items }) =>
                toast(same ? `✓ The seed draws the same ${countText(items)} again` : '✗ The seed draws others by now'),
            })
          }
        >
          Draw it again
        </button>
        <a className="link" href={`/api/v1/samples/${id}/table`}>
          Save as CSV
        </a>
        {me.role !== 'reader' && <BringBack sample={data} />}
        {data.mine && (
          <button
            type="button"
            className="link"
            onClick={() => {
              if (window.confirm(`Take “${data.title}” away? The record keeps that it was drawn.`))
                remove.mutate(undefined, { onSuccess: () => router.push('/threads/samples') });
            }}
          >
            Take away
          </button>
        )}
      </p>
      <Failure error={again.error ?? remove.error} />
      <div className="grid grid-cols-[minmax(0,1fr)_310px] items-start gap-x-8">
        <div className="min-w-0">
          <p className="mb-2">
            Of {countText(data.population.count)} {OF_WORD[data.of]}, {data.currency} {amountText(data.population.net)}.{' '}
            {reckonedWords(data.reckoned, data.currency, data.confidence)} {apartWords(data)}
            {countText(tested)} of {countText(data.size)} are tested.
          </p>
          <Items sample={data} chosen={chosen} onChoose={(no) => setChosen(no === chosen ? null : no)} />
        </div>
        <div className="flex flex-col gap-5">
          {item && me.role !== 'reader' && (
            <ItemForm
              key={`${item.no} ${item.at}`}
              sample={data}
              item={item}
              onNext={() => setChosen(nextOf(data, item))}
            />
          )}
          <Told sample={data} />
          <Concluded key={data.conclusion} sample={data} may={me.role !== 'reader'} />
        </div>
      </div>
    </Place>
  );
}

/** So many rows are sent at once: a body has room for no more of the longest. */
const SENT_AT_ONCE = 40;

/** Takes the table that was saved, with what was found written into it. */
function BringBack({ sample }: { sample: Sample }) {
  const send = useChange(async (file: File) => {
    const [{ parse }, text] = await Promise.all([import('csv-parse/browser/esm/sync'), file.text()]);
    const [head = ''] = text.split(/\r?\n/, 1);
    // Spreadsheet programs write what their language has.
    const delimiter = head.split(';').length > head.split(',').length ? ';' : ',';
    const rows = parse(text, { columns: true, bom: true, delimiter, skip_empty_lines: true, relax_column_count: true });
    const items = broughtBack(sample, rows as Record<string, string>[]);
    for (let at = 0; at < items.length; at += SENT_AT_ONCE)
      await ask('PUT /samples/{id}/items', { path: { id: sample.id }, body: items.slice(at, at + SENT_AT_ONCE) });
    return items.length;
  }, TOUCHES);
  return (
    <label className="link">
      Bring it back
      <input
        type="file"
        accept=".csv,text/csv"
        className="sr-only"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file)
            send.mutate(file, {
              onSuccess: (many) =>
                toast(
                  many === 0 ? 'It says nothing new' : `${countText(many)} ${many === 1 ? 'item' : 'items'} taken over`,
                ),
              onError: (problem) => toast(problem.message),
            });
        }}
      />
    </label>
  );
}

/** What no unit falls on: items of the other sign, and of nothing; they are looked at by themselves. */
function apartWords({ method, population: p, currency }: Sample): string {
  if (method !== 'monetary-unit') return '';
  const isDebit = !p.net.startsWith('-');
  const [count, amount] = isDebit ? [p.credits, p.credit] : [p.debits, p.debit];
  const others =
    count === 0 ? [] : [`${countText(count)} ${isDebit ? 'credits' : 'debits'} of ${currency} ${amountText(amount)}`];
  const zeros = p.zeros === 0 ? [] : [`${countText(p.zeros)} of nothing`];
  const apart = [...others, ...zeros].join(' and ');
  return apart === '' ? '' : `Apart, and drawn from by themselves: ${apart}. `;
}

/** The item that is not tested yet and comes after one; else none. */
const nextOf = ({ items }: Sample, item: SampleItem): number | null =>
  (
    items.find((i) => i.no > item.no && i.at === null && !i.replaced) ??
    items.find((i) => i.at === null && i.no !== item.no && !i.replaced)
  )?.no ?? null;

function Items({ sample, chosen, onChoose }: { sample: Sample; chosen: number | null; onChoose(no: number): void }) {
  return (
    <Table
      label="Items"
      fixed
      columns={[
        { label: 'No.', width: 'w-[52px]', right: true },
        { label: 'Item' },
        { label: 'Date', width: 'w-[94px]' },
        { label: 'Booked', width: 'w-[104px]', right: true },
        { label: 'Found', width: 'w-[112px]', right: true },
        { label: 'Looked for', width: 'w-[82px]' },
        { label: 'By', width: 'w-[84px]' },
      ]}
    >
      {sample.items.map((i) => (
        <Tr key={i.no}>
          <Td right>{i.no}</Td>
          <Td cut title={`${i.label}, ${i.subject}`}>
            <button
              type="button"
              aria-pressed={i.no === chosen}
              onClick={() => onChoose(i.no)}
              className={`max-w-full cursor-pointer truncate text-left hover:underline ${i.no === chosen ? 'font-semibold' : ''} ${i.replaced ? 'line-through' : ''}`}
            >
              {i.label}
            </button>
            {i.certain && <span className="ml-2 text-[12.5px] text-soft">for certain</span>}
            {i.stratum !== null && <span className="ml-2 text-[12.5px] text-soft">stratum {i.stratum + 1}</span>}
            {i.replaces !== null && (
              <span className="ml-2 text-[12.5px] text-soft" title={i.why ?? ''}>
                instead of {i.replaces}
              </span>
            )}
          </Td>
          <Td>{dateText(i.day)}</Td>
          <Td right>
            <Link href={placeOfSubject(i.subject)} className="hover:underline">
              {amountText(i.amount)}
            </Link>
          </Td>
          <Td right>
            {i.found === null ? (
              ''
            ) : i.found === i.amount ? (
              <span title="as booked">✓ {amountText(i.found)}</span>
            ) : (
              <span className="text-warn">≠ {amountText(i.found)}</span>
            )}
          </Td>
          <Td>
            {sample.attributes
              .flatMap((name) => (i.attributes[name] === undefined ? [] : [i.attributes[name] ? '✓' : '✗']))
              .join(' ')}
          </Td>
          <Td cut>{i.by ?? ''}</Td>
        </Tr>
      ))}
    </Table>
  );
}

/** What was found of one item. */
function ItemForm({ sample, item, onNext }: { sample: Sample; item: SampleItem; onNext(): void }) {
  const keep = useChange(
    (body: { found?: string | null; attributes?: Record<string, boolean>; note?: string }) =>
      ask('PUT /samples/{id}/items', { path: { id: sample.id }, body: { subject: item.subject, ...body } }),
    TOUCHES,
  );
  const instead = useChange(
    (body: { by: string; why: string }) =>
      ask('POST /samples/{id}/items', { path: { id: sample.id }, body: { subject: item.subject, ...body } }),
    TOUCHES,
  );
  const [replacing, setReplacing] = useState(false);
  const submit = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const fields = new FormData(event.currentTarget);
    const text = (name: string): string => String(fields.get(name) ?? '').trim();
    const attributes = Object.fromEntries(
      sample.attributes.flatMap((name, at) => {
        const said = text(`attribute${at}`);
        return said === '' ? [] : [[name, said === 'yes']];
      }),
    );
    const found = text('found');
    await keep
      .mutateAsync({
        found: found === '' ? null : found,
        note: text('note'),
        ...(sample.attributes.length > 0 ? { attributes } : {}),
      })
      .then(onNext, () => null);
  };
  return (
    <section aria-label={`Item ${item.no}`} className="border border-rule bg-sheet p-3">
      <h2 className="font-book text-[16px] font-semibold">
        {item.no}. {item.label}
      </h2>
      <p className="mb-2 text-[13px] text-soft">
        {sample.currency} {amountText(item.amount)}, {dateText(item.day)} ·{' '}
        <Link href={placeOfSubject(item.subject)} className="link">
          see it
        </Link>
      </p>
      <form onSubmit={submit} className="flex flex-col gap-2">
        <Labelled label="Found" wide>
          <span className="flex gap-2">
            <input
              name="found"
              defaultValue={item.found ?? ''}
              inputMode="decimal"
              autoFocus
              className="field min-w-0 flex-1 text-right"
            />
            <button
              type="button"
              className="button"
              onClick={(event) => {
                const field = event.currentTarget.form?.elements.namedItem('found') as HTMLInputElement;
                field.value = item.amount;
              }}
            >
              as booked
            </button>
          </span>
        </Labelled>
        {sample.attributes.map((name, at) => (
          <fieldset key={name} className="flex gap-4">
            <legend className="float-left mr-3">{name}</legend>
            {(['yes', 'no'] as const).map((said) => (
              <label key={said} className="flex items-center gap-1">
                <input
                  type="radio"
                  name={`attribute${at}`}
                  value={said}
                  defaultChecked={item.attributes[name] === (said === 'yes')}
                />
                {said}
              </label>
            ))}
          </fieldset>
        ))}
        <Labelled label="What was looked at, and what it showed" wide>
          <textarea
            name="note"
            rows={2}
            maxLength={4_000}
            defaultValue={item.note}
            className="field h-auto w-full py-1 [field-sizing:content]"
          />
        </Labelled>
        <Failure error={keep.error ?? instead.error} />
        <p className="flex gap-3">
          <button type="submit" className="button-main" disabled={keep.isPending}>
            Keep, next
          </button>
          {!item.replaced && (
            <button type="button" className="link" onClick={() => setReplacing(!replacing)}>
              Take another instead
            </button>
          )}
        </p>
      </form>
      {replacing && (
        <form
          className="mt-2 flex flex-col gap-2 border-t border-hair pt-2"
          onSubmit={(event) => {
            event.preventDefault();
            const fields = new FormData(event.currentTarget);
            instead.mutate(
              { by: String(fields.get('by')).trim(), why: String(fields.get('why')).trim() },
              { onSuccess: () => setReplacing(false) },
            );
          }}
        >
          <Labelled label="Instead, such as line:KSF/FI-00214/2" wide>
            <input name="by" required defaultValue={item.subject} className="field w-full" />
          </Labelled>
          <Labelled label="Why" wide>
            <input name="why" required maxLength={1_000} className="field w-full" />
          </Labelled>
          <button type="submit" className="button self-start">
            Take it
          </button>
        </form>
      )}
    </section>
  );
}

/** What the sample tells of the whole, as far as it was tested. */
function Told({ sample }: { sample: Sample }) {
  const { data, error } = useAnswer('GET /samples/{id}/evaluation', NO_PARAMS, { id: sample.id });
  if (!data) return <Failure error={error} />;
  const money = (amount: string): string => `${data.currency} ${amountText(amount)}`;
  // What is not looked at yet may be as wrong as it likes: only a sample that is tested whole tells of the rest.
  const whole = data.tested === data.size;
  const rate = (part: number | null): string => (part === null ? '–' : `${(part * 100).toFixed(2)} %`);
  return (
    <section aria-labelledby="told">
      <h2 id="told" className="mb-1 font-book text-[16px] font-semibold">
        What it tells
      </h2>
      <dl className="grid grid-cols-[minmax(0,1fr)_auto] gap-x-4 gap-y-1">
        <dt className="text-soft">Errors found</dt>
        <dd className="text-right tabular-nums">
          {countText(data.errors.length)}, {money(data.known)}
        </dd>
        {whole && data.projected !== null && (
          <>
            <dt className="text-soft">Projected to the whole</dt>
            <dd className="text-right font-semibold tabular-nums">{money(data.projected)}</dd>
            <dt className="text-soft">A projected misstatement</dt>
            <dd className="text-right">
              <ProposeLink
                subject={sample.subject}
                links={[sample.subject]}
                label={`${sample.label}: projected ${money(data.projected)}`}
                entity={entityOf(sample.subject)}
                kind="projected"
                back={`/threads/samples/${sample.id}`}
                thread={sample.thread}
              />
            </dd>
          </>
        )}
        {whole && data.over && data.under ? <Sides evaluation={data} money={money} /> : null}
        {whole && data.upperLimit !== null && !data.over && (
          <>
            <dt className="text-soft">Upper limit, {rate(data.confidence)} confidence</dt>
            <dd className="text-right tabular-nums">{money(data.upperLimit)}</dd>
          </>
        )}
      </dl>
      {data.projected === null && (
        <p className="mt-1 text-[13px] text-soft">What was chosen, or is the largest, tells of itself alone.</p>
      )}
      {data.tested < data.size && (
        <p className="mt-1 text-[13px] text-warn">
          {countText(data.size - data.tested)} {data.size - data.tested === 1 ? 'item is' : 'items are'} not tested yet;
          when all are, it tells of the whole.
        </p>
      )}
      {data.attributes.length > 0 && (
        <table className="mt-2 w-full text-[13px]">
          <caption className="sr-only">What was looked for</caption>
          <thead>
            <tr className="text-left text-soft">
              <th className="font-normal">Looked for</th>
              <th className="text-right font-normal">missing</th>
              <th
                className="text-right font-normal"
                title="Exact (binomial); by the Poisson distribution on pointing at it"
              >
                up to
              </th>
            </tr>
          </thead>
          <tbody>
            {data.attributes.map((a) => (
              <tr key={a.name} className="border-t border-hair">
                <td>{a.name}</td>
                <td className="text-right">
                  {countText(a.deviations)} of {countText(a.tested)}
                </td>
                <td className="text-right" title={`Poisson: ${rate(a.upperDeviationRatePoisson)}`}>
                  {rate(a.upperDeviationRate)}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Sides({ evaluation, money }: { evaluation: Evaluation; money(amount: string): string }) {
  return (
    <>
      {(['over', 'under'] as const).map((name) => {
        const side = evaluation[name];
        return (
          side && (
            <div key={name} className="contents">
              <dt className="text-soft">
                {name === 'over' ? 'Too much booked' : 'Too little booked'}, at most, {evaluation.confidence * 100} %
              </dt>
              <dd
                className="text-right tabular-nums"
                title={`Basic precision ${money(side.basicPrecision)} (factor ${side.factors[0]?.toFixed(4)}), for errors ${money(side.incremental)}, known ${money(side.known)}`}
              >
                {money(side.upperLimit)}
              </dd>
            </div>
          )
        );
      })}
    </>
  );
}

function Concluded({ sample, may }: { sample: Sample; may: boolean }) {
  const keep = useChange(
    (conclusion: string) => ask('PUT /samples/{id}', { path: { id: sample.id }, body: { conclusion } }),
    TOUCHES,
  );
  return (
    <section aria-labelledby="concluded">
      <h2 id="concluded" className="mb-1 font-book text-[16px] font-semibold">
        Conclusion
      </h2>
      {may ? (
        <form
          onSubmit={(event) => {
            event.preventDefault();
            keep.mutate(String(new FormData(event.currentTarget).get('conclusion')).trim());
          }}
        >
          <textarea
            name="conclusion"
            aria-label="Conclusion"
            rows={2}
            maxLength={8_000}
            defaultValue={sample.conclusion}
            className="field h-auto w-full py-1 [field-sizing:content]"
          />
          <Failure error={keep.error} />
          <button type="submit" className="button mt-1" disabled={keep.isPending}>
            Keep
          </button>
        </form>
      ) : (
        <p>{sample.conclusion || <span className="text-faint">nothing yet</span>}</p>
      )}
    </section>
  );
}
