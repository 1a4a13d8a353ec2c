import { scaleLinear } from 'd3-scale';
import Link from 'next/link';
import type { Sizes as Answer } from '@/contracts/answers/pictures';
import { amountText, countText } from '../../amounts';
import { Failure } from '../../parts/Place';
import { Table, Td, Tr } from '../../parts/Table';
import { useAnswer } from '../../query/hooks';
import { Caption } from './Caption';
import { linesAt } from './list';

/** How many lines there are of each size around a limit: they crowd beneath one that somebody keeps to. */
export function Sizes({ scope }: { scope: URLSearchParams }) {
  const { data, error } = useAnswer('GET /sizes', scope);
  if (!data) return <Failure error={error} />;
  return (
    <>
      <Caption>
        {data.sentence}. Whoever may approve up to a limit has many amounts just beneath it and few above.
        {data.limit !== null && ` Each bar is a hundredth of ${data.currency} ${amountText(data.limit)} wide.`}
      </Caption>
      {data.limit === null ? (
        <p>No line is near a round amount.</p>
      ) : (
        <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,430px)] items-start gap-x-10">
          <Bars data={data} limit={data.limit} />
          <Limits data={data} scope={scope} />
        </div>
      )}
    </>
  );
}

const [WIDE, HEIGHT, FOOT, HEAD] = [640, 280, 22, 18];

function Bars({ data, limit }: { data: Answer; limit: string }) {
  const most = Math.max(1, ...data.bars.map((b) => b.lines));
  const y = scaleLinear([0, most], [0, HEIGHT - FOOT - HEAD]);
  const step = WIDE / data.bars.length;
  const [first] = data.bars;
  const last = data.bars.at(-1);
  return (
    // biome-ignore lint/a11y/useSemanticElements: a picture of links is no form
    <svg viewBox={`0 0 ${WIDE} ${HEIGHT}`} className="w-full" role="group" aria-label="Lines by size around the limit">
      <line x1={0} x2={WIDE} y1={HEIGHT - FOOT} y2={HEIGHT - FOOT} className="stroke-ink" strokeWidth={1} />
      {data.bars.map((bar, i) => (
        <a
          key={bar.from}
          href={linesAt(data.address, { min: bar.from, max: bar.to })}
          aria-label={`${amountText(bar.from)} to ${amountText(bar.to)}: ${countText(bar.lines)} lines; to them`}
        >
          <title>{`${amountText(bar.from)} to ${amountText(bar.to)}: ${countText(bar.lines)} lines`}</title>
          <rect x={i * step} y={0} width={step} height={HEIGHT} fill="transparent" />
          <rect
            x={i * step + 1.5}
            y={HEIGHT - FOOT - y(bar.lines)}
            width={step - 3}
            height={y(bar.lines)}
            className={bar.beneath ? 'fill-ink/55 hover:fill-ink' : 'fill-ink/25 hover:fill-ink'}
          />
        </a>
      ))}
      <line
        x1={WIDE / 2}
        x2={WIDE / 2}
        y1={HEAD - 4}
        y2={HEIGHT - FOOT + 5}
        className="stroke-thread"
        strokeWidth={1.6}
      />
      <text x={WIDE / 2} y={HEAD - 8} textAnchor="middle" className="fill-thread text-[12.5px]">
        {amountText(limit)}
      </text>
      <text x={0} y={HEIGHT - 5} className="fill-soft text-[12px]">
        {first && amountText(first.from)}
      </text>
      <text x={WIDE} y={HEIGHT - 5} textAnchor="end" className="fill-soft text-[12px]">
        {last && amountText(last.to)}
      </text>
      <text x={4} y={HEAD - 8} className="fill-soft text-[12px]">
        {countText(most)} lines
      </text>
    </svg>
  );
}

/** Round amounts under which most more lines lie than above; each can be looked at. */
function Limits({ data, scope }: { data: Answer; scope: URLSearchParams }) {
  return (
    <section aria-label="Round amounts">
      <h2 className="mb-2 font-book text-[16px] font-semibold">Round amounts that lines crowd under</h2>
      <Table
        label="Round amounts, by how many more lines lie beneath"
        columns={[
          { label: 'Limit', right: true },
          { label: 'Within 5 % beneath', right: true },
          { label: 'above', right: true },
          { label: 'More beneath', right: true },
        ]}
      >
        {data.limits.map((l) => {
          const own = new URLSearchParams(scope);
          own.set('limit', l.limit);
          return (
            <Tr key={l.limit} chosen={l.limit === data.limit}>
              <Td right>
                <Link
                  href={`/tests/pictures/sizes?${own}`}
                  className={`hover:underline ${l.stands ? 'font-semibold' : ''}`}
                >
                  {amountText(l.limit)}
                </Link>
              </Td>
              <Td right>{countText(l.beneath)}</Td>
              <Td right>{countText(l.above)}</Td>
              <Td right>
                {l.more < 0 ? '−' : ''}
                {Math.abs(l.more).toFixed(1)} sd
              </Td>
            </Tr>
          );
        })}
      </Table>
      <p className="mt-2 text-[12.5px] text-soft">
        In standard deviations of as many lines falling on either side by chance; three and more stand out.
      </p>
    </section>
  );
}
