'use client';

import Link from 'next/link';
import type { Run, TestHit } from '@/contracts/answers/tests';
import { amountText, countText, momentText } from '../amounts';
import { JUDGEMENT_WORD } from './words';

/** All that is told of one hit: why it stands where it does, its lines, the settings of its test, and who said what of it. */
export function HitAside({ run, hit, may }: { run: Run; hit: TestHit; may: boolean }) {
  const result = run.results.find((r) => r.code === hit.test);
  return (
    <section aria-label="The hit" className="sticky top-0 flex flex-col gap-4 text-[13px]">
      <div>
        <h2 className="font-book text-[16px] font-semibold">{hit.name}</h2>
        <p className="mt-1 text-soft">{result?.looksFor}</p>
        <p className="mt-1 text-[12px] text-faint">{result?.source}</p>
        {result && result.settings.length > 0 && (
          <dl className="mt-2 text-[12.5px]">
            {result.settings.map((s) => (
              <div key={s.label} className="flex gap-2">
                <dt className="text-soft">{s.label}</dt>
                <dd className="min-w-0 break-words">{s.value}</dd>
              </div>
            ))}
          </dl>
        )}
      </div>
      <div>
        <p className="font-semibold">
          {hit.score.toFixed(1)} bits unusual
          {hit.others.length > 0 && `, ${hit.together.toFixed(1)} together`}
        </p>
        <table className="mt-1 w-full tabular-nums">
          <caption className="sr-only">Of what the score is made</caption>
          <tbody>
            <Part word="one of so few hits" bits={hit.parts.rarity} />
            <Part word="its size beside what is usual" bits={hit.parts.size} />
            <Part word="how far it is from usual" bits={hit.parts.degree} />
          </tbody>
        </table>
        {hit.others.length > 0 && <p className="mt-1 text-soft">The entry is hit by {hit.others.join(', ')} too.</p>}
      </div>
      <p>
        {hit.lines === 0 ? (
          'No line is behind it.'
        ) : (
          <>
            {countText(hit.lines)} {hit.lines === 1 ? 'line' : 'lines'} behind it.
          </>
        )}{' '}
        <Link href={hit.address} className="link">
          {hit.entries.length > 1
            ? `Read its ${countText(hit.entries.length)} entries`
            : hit.entry
              ? 'Read the entry'
              : 'Read its lines'}
        </Link>
        {hit.test === 'first-digits' && (
          <>
            {' '}
            <Link href={`/tests/pictures/digits?${hit.address.replace(/^[^?]*\?/, '')}`} className="link">
              See its digits
            </Link>
          </>
        )}
      </p>
      {hit.judgement ? (
        <p>
          <strong className="font-semibold">{JUDGEMENT_WORD[hit.judgement.judgement]}</strong>
          {hit.judgement.note && `: ${hit.judgement.note}`}
          <br />
          <span className="text-soft">
            {hit.judgement.by}, {momentText(hit.judgement.at)}
          </span>
        </p>
      ) : (
        may && (
          <p className="text-soft">
            <kbd>e</kbd> explained · <kbd>f</kbd> finding · <kbd>q</kbd> ask · <kbd>i</kbd> ignore alike · <kbd>o</kbd>{' '}
            open again · <kbd>Enter</kbd> its lines
            {hit.entries.length > 1 && (
              <>
                {' '}
                · <kbd>b</kbd> side by side
              </>
            )}
          </p>
        )
      )}
      {result && (
        <p className="text-[12.5px] text-soft">
          {countText(result.hits)} hits of this test
          {result.amounts.length > 0 &&
            `, ${result.amounts.map((a) => `${a.currency} ${amountText(a.amount)}`).join(', ')} in all`}
          {result.kept < result.hits && `; the first ${countText(result.kept)} are kept`}.
        </p>
      )}
    </section>
  );
}

function Part({ word, bits }: { word: string; bits: number }) {
  return (
    <tr>
      <td className="text-soft">{word}</td>
      <td className="text-right">{bits.toFixed(1)}</td>
    </tr>
  );
}
