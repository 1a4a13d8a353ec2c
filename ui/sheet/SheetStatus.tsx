'use client';

import { changed } from '../address/address';
import { amountText, countText, shareText } from '../amounts';
import { KeepThread } from '../keptThreads/KeepThread';
import { useAnswer } from '../query/hooks';
import { columnName } from './columnWord';
import type { SheetAt } from './features/feature';
import { narrow } from './features/narrow';
import { StatusLine } from './StatusLine';
import { ProofMark } from './Strips';

/** What exactly the focused number is, or what the chosen rows come to, with what can be done from there. */
export function SheetStatus({
  at,
  scope,
  anyTicks,
  ticked,
}: {
  at: SheetAt;
  scope: URLSearchParams;
  /** Something of these companies is ticked. */
  anyTicks: boolean;
  /** Rows of the sheet that bear a tick. */
  ticked: ReadonlySet<number>;
}) {
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
          {anyTicks && <TickedShare at={at} scope={scope} ticked={ticked} />}
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

/** How much of a sheet of lines is ticked: of all of it, however few of its rows are at hand; of others by their rows. */
function TickedShare({ at, scope, ticked }: { at: SheetAt; scope: URLSearchParams; ticked: ReadonlySet<number> }) {
  // The first row may be the balance that was brought forward.
  const ofLines = [0, 1].some((i) => at.model.rowAt(i)?.subject?.startsWith('line:'));
  const { data } = useAnswer('GET /ticks/share', ofLines ? scope : null);
  if (!ofLines) return ticked.size === 0 ? null : <span>{countText(ticked.size)} ticked</span>;
  if (!data || data.ticked === 0) return null;
  return (
    <button
      type="button"
      onClick={() => at.go(changed(at.screen, { ticked: ['no'] }))}
      className="cursor-pointer underline decoration-rule underline-offset-2 hover:text-ink"
      title={`${amountText(data.tickedAmount)} of ${amountText(data.amount)}, whatever their side. Shows those that are not ticked yet; T goes to the next of them`}
    >
      {countText(data.ticked)} of {countText(data.lines)} lines ticked, {shareText(data.tickedAmount, data.amount)} of
      the amount
    </button>
  );
}
