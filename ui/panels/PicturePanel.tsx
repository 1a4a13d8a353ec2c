'use client';

import type { Proof } from '../sheet/proof';
import { ProofMark } from '../sheet/Strips';
import { useWidth } from '../sheet/useWidth';
import { Panel } from './Panel';
import { Bars } from './picture/Bars';
import { Course } from './picture/Course';
import { Courses } from './picture/Courses';
import type { Drawing, Drawn } from './picture/drawing';
import { Parts } from './picture/Parts';

/** As bars in order of size, as parts of the whole, or as a course over the columns or the rows. */
export type Picture = 'bars' | 'parts' | 'course';

interface Props extends Pick<Drawing, 'besides' | 'onTrace'> {
  label: string;
  rows: Drawn[];
  /** Names of the columns of members. */
  columns: string[];
  kind: Picture;
  kinds: [Picture, string][];
  tie: Proof | null;
  onKind(kind: Picture): void;
  onClose(): void;
}

/** The rows of a sheet in a picture; each part traces as its row does. */
export function PicturePanel({ label, rows, columns, besides, kind, kinds, tie, onKind, onTrace, onClose }: Props) {
  const { box, wide } = useWidth();
  const bySize = [...rows].sort((a, b) => Math.abs(Number(b.value)) - Math.abs(Number(a.value)));
  const drawing = { wide, besides, onTrace };
  return (
    <Panel
      title="Picture"
      label={label}
      onClose={onClose}
      right={
        <>
          {kinds.map(([key, name]) => (
            <button
              key={key}
              type="button"
              aria-pressed={key === kind}
              onClick={() => onKind(key)}
              className={`cursor-pointer ${key === kind ? 'font-semibold underline underline-offset-4' : 'hover:text-ink'}`}
            >
              {name}
            </button>
          ))}
          <ProofMark proof={tie} />
        </>
      }
    >
      <div ref={box} className="px-3 py-1">
        {rows.length === 0 && <p className="py-1 text-soft">There are no rows to draw.</p>}
        {kind === 'bars' && <Bars {...drawing} rows={bySize} />}
        {kind === 'parts' && <Parts {...drawing} rows={bySize} />}
        {kind === 'course' &&
          (columns.length > 0 ? (
            <Courses {...drawing} rows={bySize} columns={columns} />
          ) : (
            <Course {...drawing} rows={rows} />
          ))}
      </div>
    </Panel>
  );
}
