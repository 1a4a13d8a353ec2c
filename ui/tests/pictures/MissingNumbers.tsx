import type { EntrySeries } from '@/contracts/answers/journals';
import { countText } from '../../amounts';
import { Failure } from '../../parts/Place';
import { useAnswer } from '../../query/hooks';
import { Caption } from './Caption';
import { linesAt } from './list';

type Series = NonNullable<EntrySeries['series']>[number];

/** Each series of numbers from its first to its last, with what is missing marked where it would stand. */
export function MissingNumbers({ scope }: { scope: URLSearchParams }) {
  const { data, error } = useAnswer('GET /journals/series', scope);
  if (!data) return <Failure error={error} />;
  if (data.series === null)
    return <p className="text-soft">Numbers of entries are told to those who see whole books.</p>;
  const all = [...data.series].sort((a, b) => b.missing - a.missing);
  const whole = all.filter((s) => s.missing === 0);
  const broken = all.filter((s) => s.missing > 0);
  return (
    <>
      <Caption>
        {data.sentence}. A series is drawn from its first number to its last; a mark stands where numbers are missing
        that no entry of the company bears. It leads to the entries before and after.
      </Caption>
      {broken.length === 0 && <p className="mb-3">No number is missing in {countText(whole.length)} series.</p>}
      <div className="flex max-w-[1100px] flex-col gap-4">
        {broken.map((series) => (
          <Strip key={`${series.entity} ${series.first}`} series={series} address={data.address} />
        ))}
      </div>
      {broken.length > 0 && whole.length > 0 && (
        <p className="mt-4 text-soft">Whole: {whole.map((s) => `${s.first} to ${s.last}`).join(', ')}.</p>
      )}
      {data.more && (
        <p className="mt-2 text-soft">There are more series than are told; narrow the accounts or journals.</p>
      )}
    </>
  );
}

const [WIDE, HIGH] = [1_000, 20];
/** Where a series goes on in another block of numbers, the strip is broken so wide, however far apart the blocks are. */
const BREAK = 8;

/** Where a number stands on the strip. */
function placesOf({ first, last, jumps }: Series): (n: number) => number {
  const from = digitsOf(first);
  const blocks = jumps.map((jump) => ({ at: digitsOf(jump.to), without: digitsOf(jump.to) - digitsOf(jump.from) - 1 }));
  const before = (n: number): number => blocks.reduce((sum, b) => sum + (b.at <= n ? b.without : 0), 0);
  const breaks = (n: number): number => blocks.filter((b) => b.at <= n).length * BREAK;
  const whole = digitsOf(last) + 1 - from - before(digitsOf(last));
  const room = WIDE - breaks(digitsOf(last));
  return (n) => ((n - from - before(n)) / Math.max(1, whole)) * room + breaks(n);
}

const digitsOf = (number: string): number => Number(/\d{1,15}$/.exec(number)?.[0] ?? 0);

function Strip({ series, address }: { series: Series; address: string }) {
  const x = placesOf(series);
  return (
    <section aria-label={`${series.first} to ${series.last}`}>
      <h2 className="flex items-baseline justify-between text-[13.5px]">
        <span>
          <span className="font-semibold">
            {series.first} to {series.last}
          </span>{' '}
          <span className="text-soft">
            {countText(series.count)} entries of {series.entity}
          </span>
        </span>
        <span className="text-thread">{countText(series.missing)} missing</span>
      </h2>
      {/* biome-ignore lint/a11y/useSemanticElements: a picture of links is no form */}
      <svg
        viewBox={`0 0 ${WIDE} ${HIGH}`}
        className="mt-1 h-[20px] w-full"
        preserveAspectRatio="none"
        role="group"
        aria-label="Where numbers are missing"
      >
        <rect x={0} y={5} width={WIDE} height={10} className="fill-ink/20" />
        {series.jumps.map((jump) => (
          <rect key={jump.from} x={x(digitsOf(jump.to)) - BREAK} y={4} width={BREAK} height={12} className="fill-paper">
            <title>{`The series goes on in another block: ${jump.from}, then ${jump.to}`}</title>
          </rect>
        ))}
        {series.gaps.map((gap) => (
          <a key={gap.from} href={around(series, gap, address)} aria-label={`${gapText(gap)}; to the entries beside`}>
            <title>{gapText(gap)}</title>
            <rect
              x={x(digitsOf(gap.from)) - 1}
              y={0}
              width={Math.max(3, x(digitsOf(gap.to) + 1) - x(digitsOf(gap.from)) + 1)}
              height={HIGH}
              className="fill-thread"
            />
          </a>
        ))}
      </svg>
      <p className="mt-1 text-[12.5px] text-soft">
        {series.gaps.slice(0, TOLD).map((gap, i) => (
          <span key={gap.from}>
            {i > 0 && ', '}
            <a href={around(series, gap, address)} className="hover:underline">
              {gap.from === gap.to ? gap.from : `${gap.from} to ${gap.to}`}
            </a>
          </span>
        ))}
        {series.gaps.length > TOLD && ` and ${countText(series.gaps.length - TOLD)} more`}
        {series.more && ', and there are more than are told'}
      </p>
    </section>
  );
}

const TOLD = 12;

const gapText = ({ from, to }: { from: string; to: string }): string =>
  from === to ? `${from} is missing` : `${from} to ${to} are missing`;

/** The lines of the entries on either side of a gap. */
function around(series: Series, gap: { from: string; to: string }, address: string): string {
  const beside = (number: string, by: number): string => {
    const digits = /\d{1,15}$/.exec(number)?.[0] ?? '';
    return number.slice(0, number.length - digits.length) + String(Number(digits) + by).padStart(digits.length, '0');
  };
  const whole = new URLSearchParams(address);
  whole.delete('accounts');
  return linesAt(whole.toString(), {
    entity: series.entity,
    entry: `${beside(gap.from, -1)}..${beside(gap.to, 1)}`,
  });
}
