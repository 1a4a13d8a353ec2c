'use client';

import { scaleLinear } from 'd3-scale';
import type { FirstDigits } from '@/contracts/answers/pictures';
import { countText } from '../../amounts';
import { Failure } from '../../parts/Place';
import { Table, Td, Tr } from '../../parts/Table';
import { useAnswer } from '../../query/hooks';
import { Caption } from './Caption';
import { linesAt, percent } from './list';

/** First digits of the amounts of a figure beside Benford's law; each leads to the lines that begin so. */
export function Digits({ scope }: { scope: URLSearchParams }) {
  const { data, error } = useAnswer('GET /first-digits', scope);
  return (
    <>
      <Failure error={error} />
      {data && (
        <>
          <Caption>
            {data.sentence}. Amounts of many sizes begin with 1 three times in ten and with 9 hardly one time in twenty
            (Benford’s law): prices that repeat, limits, and amounts that somebody made up do not.
          </Caption>
          <div className="grid grid-cols-[minmax(0,5fr)_minmax(0,7fr)] gap-x-10">
            <Bars of={data.first} address={data.address} name="The first digit" />
            <Bars of={data.two} address={data.address} name="The first two digits" />
          </div>
          <Numbers first={data.first} address={data.address} />
        </>
      )}
    </>
  );
}

/** The lines whose amounts begin so; of those that are asked for already, where they are of them. */
function linesOf(address: string, digits: string): string {
  const asked = new URLSearchParams(address).getAll('begins');
  if (asked.length === 0) return linesAt(address, { begins: digits });
  const scope = new URLSearchParams(address);
  scope.delete('begins');
  for (const one of asked) if (one.startsWith(digits)) scope.append('begins', one);
  if (!scope.has('begins')) scope.set('begins', digits);
  return `/lines?${scope}`;
}

const [HEIGHT, FOOT] = [210, 18];
/** About as wide as each stands on the page, so that both have letters of one size. */
const WIDTHS = { few: 440, many: 620 } as const;

/** Shares as bars, with a line across each where it is expected. */
function Bars({ of, address, name }: { of: FirstDigits['first']; address: string; name: string }) {
  const share = (lines: number): number => (of.lines === 0 ? 0 : lines / of.lines);
  const top = Math.max(...of.digits.map((d) => Math.max(share(d.lines), d.expected)));
  const y = scaleLinear([0, top * 1.04], [0, HEIGHT - FOOT]);
  const wide = of.digits.length > 20 ? WIDTHS.many : WIDTHS.few;
  const step = wide / of.digits.length;
  const gap = Math.min(10, step * 0.28);
  const every = of.digits.length > 20 ? 10 : 1;
  return (
    <section aria-label={name}>
      <h2 className="font-book text-[16px] font-semibold">{name}</h2>
      <p className="mb-2 text-[13px]">
        {of.band.charAt(0).toUpperCase() + of.band.slice(1)}: mean absolute deviation {of.deviation.toFixed(4)}{' '}
        <span className="text-soft">
          (bands of Nigrini, 2012; the line across a bar is what is expected); chi-square {of.chiSquare.toFixed(1)}, by
          chance {of.likely < 0.001 ? 'less than once in a thousand' : `${percent(of.likely)} of the time`};{' '}
          {countText(of.lines)} amounts
        </span>
      </p>
      {/* biome-ignore lint/a11y/useSemanticElements: a picture of links is no form */}
      <svg viewBox={`-8 0 ${wide + 8} ${HEIGHT}`} className="w-full" role="group" aria-label={`${name}, as bars`}>
        <line x1={0} x2={wide} y1={HEIGHT - FOOT} y2={HEIGHT - FOOT} className="stroke-ink" strokeWidth={1} />
        {of.digits.map((d, i) => {
          const [x, height, expected] = [i * step + gap / 2, y(share(d.lines)), y(d.expected)];
          return (
            <a
              key={d.digits}
              href={linesOf(address, d.digits)}
              aria-label={`${d.digits}: ${countText(d.lines)} amounts, ${percent(share(d.lines))}, expected ${percent(d.expected)}; to their lines`}
            >
              <title>{`${d.digits}: ${countText(d.lines)} amounts, ${percent(share(d.lines))}; expected ${percent(d.expected)}`}</title>
              <rect x={i * step} y={0} width={step} height={HEIGHT} fill="transparent" />
              <rect x={x} y={HEIGHT - FOOT - height} width={step - gap} height={height} className="fill-ink/30" />
              <line
                x1={x - gap / 3}
                x2={x + step - gap + gap / 3}
                y1={HEIGHT - FOOT - expected}
                y2={HEIGHT - FOOT - expected}
                className="stroke-ink"
                strokeWidth={1.6}
              />
              {i % every === 0 && (
                <text x={x + (step - gap) / 2} y={HEIGHT - 4} textAnchor="middle" className="fill-soft text-[11px]">
                  {d.digits}
                </text>
              )}
            </a>
          );
        })}
      </svg>
    </section>
  );
}

function Numbers({ first, address }: { first: FirstDigits['first']; address: string }) {
  return (
    <div className="mt-5 max-w-[520px]">
      <Table
        label="First digits"
        columns={[
          { label: 'Begins with', width: 'w-[110px]' },
          { label: 'Amounts', right: true },
          { label: 'Share', right: true },
          { label: 'Expected', right: true },
          { label: 'Difference', right: true },
        ]}
      >
        {first.digits.map((d) => {
          const share = first.lines === 0 ? 0 : d.lines / first.lines;
          return (
            <Tr key={d.digits}>
              <Td>
                <a href={linesOf(address, d.digits)} className="font-semibold hover:underline">
                  {d.digits}
                </a>
              </Td>
              <Td right>{countText(d.lines)}</Td>
              <Td right>{percent(share)}</Td>
              <Td right>{percent(d.expected)}</Td>
              <Td right>
                {share >= d.expected ? '+' : '−'}
                {percent(Math.abs(share - d.expected))}
              </Td>
            </Tr>
          );
        })}
      </Table>
    </div>
  );
}
