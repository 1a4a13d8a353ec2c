'use client';

import { countText } from '../amounts';
import { KeepThread } from '../keptThreads/KeepThread';
import { columnName } from './columnWord';
import type { SheetAt } from './features/feature';
import { narrow } from './features/narrow';
import { StatusLine } from './StatusLine';
import { ProofMark } from './Strips';

/** What exactly the focused number is, or what the chosen rows come to, with what can be done from there. */
export function SheetStatus({ at }: { at: SheetAt }) {
  const { model, several, row, column, focus, screen } = at;
  const head = model.columns[focus.column];
  const title = several
    ? `${several.rows.length} rows chosen.`
    : row
      ? `${row.label}${head?.amount ? `, ${columnName(model, focus.column)}` : ''}.`
      : '';
  const text = several
    ? several.says(column, head?.label ?? '')
    : row?.standsOut
      ? row.standsOut.join('; ')
      : (row?.say(column) ?? '');
  return (
    <StatusLine
      title={title}
      text={text}
      right={
        <>
          {row?.count !== undefined && (
            <span>
              {countText(row.count)} {row.count === 1 ? 'line' : 'lines'}
            </span>
          )}
          <ProofMark proof={model.tie} />
          {!several &&
            row?.links?.map((link) => (
              <button
                key={link.name}
                type="button"
                onClick={() => at.follow(link)}
                title={`Goes to ${link.name}`}
                className="cursor-pointer underline decoration-rule underline-offset-2 hover:text-ink"
              >
                {link.name}
              </button>
            ))}
          {several?.together && (
            <button
              type="button"
              className="cursor-pointer underline decoration-rule underline-offset-2 hover:text-ink"
              onClick={() => narrow(at, 'only')}
              title="Narrows the scope to the chosen rows (e)"
            >
              Only these
            </button>
          )}
          {!several && row?.step(column) && <span>Enter traces</span>}
          <KeepThread screen={screen} />
          <button
            type="button"
            onClick={() => at.open('keys')}
            className="cursor-pointer hover:text-ink"
            title="All keys of this sheet"
          >
            ? keys
          </button>
        </>
      }
    />
  );
}
