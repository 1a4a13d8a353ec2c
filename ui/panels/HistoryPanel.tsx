'use client';

import { countText, momentText } from '../amounts';
import { Failure } from '../parts/Place';
import { useAnswer } from '../query/hooks';
import { Panel } from './Panel';

/** Who looked at what is focused, and what was done to it, newest first. */
export function HistoryPanel({ subject, label, onClose }: { subject: string; label: string; onClose(): void }) {
  const { data, error } = useAnswer('GET /history', new URLSearchParams({ subject }));
  return (
    <Panel title="History" label={label} onClose={onClose}>
      <div className="px-3 py-2">
        <Failure error={error} />
        {data && data.seenBy.length > 0 && (
          <p className="mb-2 text-soft">
            Seen by{' '}
            {data.seenBy
              .map(
                (s) =>
                  `${s.person} (${s.times === 1 ? 'once' : `${countText(s.times)} times`}, last ${momentText(s.last)})`,
              )
              .join(', ')}
          </p>
        )}
        {data && data.acts.length === 0 && (
          <p className="text-soft">
            Nothing was done to it yet: no note, tick, pin, file, question or finding.
            {data.seenBy.length === 0 && ' Looks are written down within a minute.'}
          </p>
        )}
        <ul>
          {data?.acts.map((a) => (
            <li key={`${a.at}${a.act}`} className="flex gap-3 border-b border-hair py-[3px]">
              <span className="w-[150px] shrink-0 text-soft">{momentText(a.at)}</span>
              <span className="w-[140px] shrink-0">{a.person}</span>
              <span>
                {a.act}
                {a.says && `: ${a.says}`}
              </span>
            </li>
          ))}
        </ul>
      </div>
    </Panel>
  );
}
