'use client';

import type { Run, TestHit } from '@/contracts/answers/tests';
import { countText, momentText } from '../amounts';
import { JUDGEMENT_WORD } from './words';

/** All that is told of the focused hit: its reason in full, of what its score is made, what its test looks for, who said what. */
export function HitFoot({ run, hit }: { run: Run; hit: TestHit }) {
  const result = run.results.find((r) => r.code === hit.test);
  const settings = (result?.settings ?? []).map((s) => `${s.label} ${s.value}`).join('; ');
  return (
    <section aria-label="The hit" className="mt-2 shrink-0 border-t border-rule pt-2 text-[13px]">
      <p>
        <span className="font-semibold">{hit.what}.</span> {hit.reason}
        {hit.others.length > 0 && (
          <span className="text-soft">
            {' '}
            Hit by {hit.others.join(', ')} too: {hit.together.toFixed(1)} bits together.
          </span>
        )}
      </p>
      <p className="mt-1 text-soft">
        {hit.score.toFixed(1)} bits: {hit.parts.rarity.toFixed(1)} for being one of so few, {hit.parts.size.toFixed(1)}{' '}
        for its size beside what is usual, {hit.parts.degree.toFixed(1)} for how far it is from usual.{' '}
        {hit.lines === 0 ? 'No line is behind it. ' : ''}
        {result?.looksFor} {result?.source}
        {settings && ` (${settings})`}
        {result &&
          result.kept < result.hits &&
          ` The first ${countText(result.kept)} of ${countText(result.hits)} are kept.`}
      </p>
      {hit.judgement && (
        <p className="mt-1">
          <strong className="font-semibold">{JUDGEMENT_WORD[hit.judgement.judgement]}</strong>
          {hit.judgement.note && `: ${hit.judgement.note}`}{' '}
          <span className="text-soft">
            {hit.judgement.by}, {momentText(hit.judgement.at)}
          </span>
        </p>
      )}
    </section>
  );
}
