import { scaleSqrt } from 'd3-scale';
import { useState } from 'react';
import type { EnteredTimes as Answer } from '@/contracts/answers/pictures';
import { WEEKDAYS, type Weekday, weekdayName } from '@/core/enteredWhen';
import { countText } from '../../amounts';
import { Failure } from '../../parts/Place';
import { Table, Td, Tr } from '../../parts/Table';
import { useAnswer } from '../../query/hooks';
import { Caption } from './Caption';
import { linesAt, percent } from './list';

type Time = Answer['times'][number];

/** When entries were entered, by day of the week and hour, each as a square as large as there are entries. */
export function EnteredTimes({ scope }: { scope: URLSearchParams }) {
  const { data, error } = useAnswer('GET /entered-times', scope);
  if (!data) return <Failure error={error} />;
  const all = data.times.reduce((sum, t) => sum + t.entries, 0);
  return (
    <>
      <Caption>
        {data.sentence}. A square is as large as so many entries were entered then, in the hours as the ledger writes
        them. Tills and machines have hours of their own; whoever books by hand at night wants to be asked.
        {data.untold.entries > 0 && (
          <>
            {' '}
            Of{' '}
            <a href={linesAt(data.address, { enteredAt: '~none' })} className="link">
              {countText(data.untold.entries)} entries
            </a>{' '}
            the ledger does not say when.
          </>
        )}
      </Caption>
      {all === 0 ? (
        <p>Nothing says when it was entered.</p>
      ) : (
        <>
          <Squares times={data.times} address={data.address} all={all} />
          <Seldom times={data.times} address={data.address} all={all} />
        </>
      )}
    </>
  );
}

const whenText = ({ weekday, hour }: Pick<Time, 'weekday' | 'hour'>): string =>
  `${weekday}.${hour === null ? '--' : String(hour).padStart(2, '0')}`;
const spoken = ({ weekday, hour }: Pick<Time, 'weekday' | 'hour'>): string =>
  `${weekdayName(weekday)}${hour === null ? ', no hour told' : `, ${two(hour)}:00 to ${two(hour + 1)}:00`}`;
const two = (n: number): string => String(n).padStart(2, '0');

const [CELL, LEFT, RIGHT, TOP] = [34, 92, 120, 22];
/** The largest square leaves a hair between it and its neighbours. */
const LARGEST = CELL - 4;
/** What has anything is seen. */
const LEAST = 3;

function Squares({ times, address, all }: { times: readonly Time[]; address: string; all: number }) {
  const most = Math.max(...times.map((t) => t.entries));
  const side = scaleSqrt([0, most], [0, LARGEST]);
  const untold = times.some((t) => t.hour === null);
  const columns = untold ? 25 : 24;
  const ofDay = (day: Weekday): number => times.reduce((sum, t) => sum + (t.weekday === day ? t.entries : 0), 0);
  const wide = LEFT + columns * CELL + RIGHT;
  const tall = TOP + WEEKDAYS.length * CELL + 4;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a picture of links is no form
    <svg
      viewBox={`0 0 ${wide} ${tall}`}
      className="w-full"
      role="group"
      aria-label="Entries by day of the week and hour"
    >
      {Array.from({ length: columns }, (_, hour) => (
        <text
          // biome-ignore lint/suspicious/noArrayIndexKey: hours are their places
          key={hour}
          x={LEFT + hour * CELL + CELL / 2}
          y={TOP - 8}
          textAnchor="middle"
          className="fill-soft text-[12.5px]"
        >
          {hour === 24 ? 'no hour' : two(hour)}
        </text>
      ))}
      {WEEKDAYS.map((day, row) => (
        <g key={day}>
          <text x={0} y={TOP + row * CELL + CELL / 2 + 4.5} className="fill-ink text-[13.5px]">
            {weekdayName(day)}
          </text>
          <line
            x1={LEFT}
            x2={LEFT + columns * CELL}
            y1={TOP + (row + 1) * CELL}
            y2={TOP + (row + 1) * CELL}
            className={row === 4 ? 'stroke-ink' : 'stroke-rule'}
            strokeWidth={row === 4 ? 1 : 0.75}
          />
          <text
            x={wide}
            y={TOP + row * CELL + CELL / 2 + 4.5}
            textAnchor="end"
            className="fill-soft text-[12.5px] tabular-nums"
          >
            {countText(ofDay(day))} · {percent(ofDay(day) / all)}
          </text>
        </g>
      ))}
      {times.map((t) => {
        const own = Math.max(LEAST, side(t.entries));
        const [x, y] = [LEFT + (t.hour ?? 24) * CELL, TOP + WEEKDAYS.indexOf(t.weekday) * CELL];
        return (
          <a
            key={whenText(t)}
            href={linesAt(address, { enteredWhen: whenText(t) })}
            aria-label={`${spoken(t)}: ${countText(t.entries)} entries, ${countText(t.lines)} lines; to them`}
          >
            <title>{`${spoken(t)}: ${countText(t.entries)} entries, ${countText(t.lines)} lines`}</title>
            <rect x={x} y={y} width={CELL} height={CELL} fill="transparent" />
            <rect
              x={x + (CELL - own) / 2}
              y={y + (CELL - own) / 2}
              width={own}
              height={own}
              className="fill-ink/55 hover:fill-ink"
            />
          </a>
        );
      })}
    </svg>
  );
}

const SHOWN = 12;

/** The same as a list, the rarest times first. */
function Seldom({ times, address, all }: { times: readonly Time[]; address: string; all: number }) {
  const [whole, setWhole] = useState(false);
  const rarest = [...times].sort((a, b) => a.entries - b.entries || (whenText(a) < whenText(b) ? -1 : 1));
  return (
    <section aria-label="The rarest times" className="mt-5 max-w-[560px]">
      <h2 className="mb-2 font-book text-[16px] font-semibold">The rarest times</h2>
      <Table
        label="Times, the rarest first"
        columns={[
          { label: 'Entered' },
          { label: 'Entries', right: true },
          { label: 'Lines', right: true },
          { label: 'Share', right: true },
        ]}
      >
        {(whole ? rarest : rarest.slice(0, SHOWN)).map((t) => (
          <Tr key={whenText(t)}>
            <Td>
              <a href={linesAt(address, { enteredWhen: whenText(t) })} className="hover:underline">
                {spoken(t)}
              </a>
            </Td>
            <Td right>{countText(t.entries)}</Td>
            <Td right>{countText(t.lines)}</Td>
            <Td right>{percent(t.entries / all)}</Td>
          </Tr>
        ))}
      </Table>
      {!whole && rarest.length > SHOWN && (
        <button type="button" className="button mt-2" onClick={() => setWhole(true)}>
          All {countText(rarest.length)} times
        </button>
      )}
    </section>
  );
}
