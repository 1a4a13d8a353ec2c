'use client';

import { useState } from 'react';
import { TICK_SHAPES, type TickMark } from '@/contracts/work';
import { TickShape } from '../evidence/TickShape';
import { useTickMarks } from '../evidence/useEvidence';
import { Failure, Place, SETTINGS_TABS } from '../parts/Place';
import { Select } from '../parts/Select';
import { toast } from '../parts/toast';
import { ask } from '../query/client';
import { useChange } from '../query/hooks';
import { useMe } from '../shell/me';

/** The legend of tick marks: their shapes and what each means, for everybody here. */
export function TickMarksPage() {
  const { data, error } = useTickMarks();
  return (
    <Place title="Settings" tabs={SETTINGS_TABS} here="/settings/ticks">
      <Failure error={error} />
      {data && <Legend key={JSON.stringify(data.marks)} marks={data.marks} />}
    </Place>
  );
}

function Legend({ marks: kept }: { marks: readonly TickMark[] }) {
  const owner = useMe().role === 'owner';
  const [marks, setMarks] = useState<TickMark[]>([...kept]);
  const keep = useChange(() => ask('PUT /tick-marks', { body: { marks } }), ['/tick-marks', '/ticks']);
  const set = (at: number, change: Partial<TickMark>): void =>
    setMarks(marks.map((m, i) => (i === at ? { ...m, ...change } : m)));
  const used = new Set(marks.filter((m) => !m.retired).map((m) => m.shape));
  const free = TICK_SHAPES.find((shape) => !used.has(shape));
  const changed = JSON.stringify(marks) !== JSON.stringify(kept);
  return (
    <div className="max-w-[760px]">
      <p className="mb-3 text-soft">
        Press t on a row of a sheet to give one of these marks, in your ink. A mark that was given keeps its meaning on
        record; one that is not wanted any more is retired, and stays where it stands.
      </p>
      <table className="w-full border border-rule bg-sheet">
        <caption className="sr-only">Legend of tick marks</caption>
        <thead>
          <tr className="border-b-[1.5px] border-ink text-left text-[12.5px] text-soft">
            <th scope="col" className="w-[64px] py-1 pl-3 font-normal">
              Mark
            </th>
            <th scope="col" className="w-[180px] px-2 font-normal">
              Shape
            </th>
            <th scope="col" className="px-2 font-normal">
              Meaning
            </th>
            <th scope="col" className="w-[90px] px-2 font-normal">
              Retired
            </th>
          </tr>
        </thead>
        <tbody>
          {marks.map((mark, at) => (
            <tr key={mark.code} className={`border-b border-hair ${mark.retired ? 'text-faint' : ''}`}>
              <td className="py-[5px] pl-3 text-preparer">
                <TickShape shape={mark.shape} size={16} />
              </td>
              <td className="px-2">
                {owner ? (
                  <Select
                    aria-label={`Shape of ${mark.meaning}`}
                    value={mark.shape}
                    onChange={(event) => set(at, { shape: event.target.value as TickMark['shape'] })}
                    className="w-full"
                  >
                    {TICK_SHAPES.map((shape) => (
                      <option key={shape} value={shape} disabled={shape !== mark.shape && used.has(shape)}>
                        {shape}
                      </option>
                    ))}
                  </Select>
                ) : (
                  mark.shape
                )}
              </td>
              <td className="px-2">
                {owner ? (
                  <input
                    aria-label={`Meaning of mark ${at + 1}`}
                    value={mark.meaning}
                    maxLength={200}
                    onChange={(event) => set(at, { meaning: event.target.value })}
                    className="field w-full"
                  />
                ) : (
                  mark.meaning
                )}
              </td>
              <td className="px-2">
                <input
                  type="checkbox"
                  aria-label={`Retired: ${mark.meaning}`}
                  checked={mark.retired}
                  disabled={!owner}
                  onChange={(event) => set(at, { retired: event.target.checked })}
                />
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {owner && (
        <div className="mt-3 flex items-center gap-3">
          <button
            type="button"
            className="button-main"
            disabled={!changed || keep.isPending}
            onClick={() => keep.mutate(undefined, { onSuccess: () => toast('Kept') })}
          >
            Keep the legend
          </button>
          <button
            type="button"
            className="button"
            disabled={free === undefined || marks.length >= 30}
            title={
              free === undefined ? 'Every shape is in use; retire a mark first' : 'Adds a mark of a shape that is free'
            }
            onClick={() =>
              free && setMarks([...marks, { code: codeFor(marks), shape: free, meaning: '', retired: false }])
            }
          >
            Add a mark
          </button>
        </div>
      )}
      <Failure error={keep.error} />
    </div>
  );
}

/** A code of its own for a mark that is added; nobody reads it. */
const codeFor = (marks: readonly TickMark[]): string => {
  for (let n = marks.length + 1; ; n++) if (!marks.some((m) => m.code === `mark-${n}`)) return `mark-${n}`;
};
