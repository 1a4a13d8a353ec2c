'use client';

import type { ReactNode } from 'react';
import { amountText } from '../amounts';
import { type Cell, cellText, type Shade, type Verdict, type WordsCell } from './cell';
import { Hung } from './Hung';

/** A cell as it is painted. @param amount whether it is in a column of amounts, whose decimal points are in line */
export function CellView({ cell, amount }: { cell: Cell; amount: boolean }) {
  const text = cellText(cell);
  if (typeof cell !== 'object' || cell === null) return amount ? <Hung text={text}>{text}</Hung> : text;
  if (cell.is === 'words') return <Words cell={cell} />;
  const shown = (
    <>
      {cell.verdict && <VerdictWord verdict={cell.verdict} />}
      {cell.is === 'amount' && cell.standsOut && <StandsOut why={cell.standsOut} />}
      {cell.is === 'amount' && cell.shade?.arrow && <Arrow way={cell.shade.arrow} />}
      {text}
    </>
  );
  return (
    <Hung text={text}>
      {cell.is === 'amount' && cell.shade ? (
        <Ground shade={cell.shade}>{shown}</Ground>
      ) : cell.is === 'amount' && cell.fresh ? (
        <b className="font-semibold">{shown}</b>
      ) : (
        shown
      )}
    </Hung>
  );
}

/** Whether a variance is good or bad for the result: said in a word before it, not by colour. */
const VerdictWord = ({ verdict }: { verdict: Verdict }) => (
  <span className="mr-1 text-[12px] text-soft" title={verdict}>
    {verdict === 'favourable' ? 'fav' : 'adv'}
  </span>
);

/** The same sign that a row bears in its edge. */
const StandsOut = ({ why }: { why: string }) => (
  <span className="mr-1 font-semibold text-warn" title={why}>
    <span aria-hidden>!</span>
    <span className="sr-only">{why}: </span>
  </span>
);

/** The ground alone says neither which way a figure went nor to everybody. */
const Arrow = ({ way }: { way: 'more' | 'less' }) => (
  <span className="mr-1 text-soft">
    <span aria-hidden>{way === 'more' ? '↗' : '↘'}</span>
    <span className="sr-only">{way} than before</span>
  </span>
);

const DARKEST_PERCENT = 34;

const Ground = ({ shade, children }: { shade: Shade; children: ReactNode }) => (
  <span
    className="rounded-[2px] py-[3px] pl-2"
    style={{
      background: `color-mix(in srgb, ${shade.fell ? 'var(--fall)' : 'var(--faint)'} ${Math.round(DARKEST_PERCENT * Math.min(1, shade.share))}%, transparent)`,
    }}
  >
    {children}
  </span>
);

function Words({ cell }: { cell: WordsCell }) {
  if (cell.sign === 'traced')
    return (
      <strong title="The traced line">
        {cell.text} <span aria-hidden>‹</span>
      </strong>
    );
  return (
    <>
      {cell.sign === 'out of order' && (
        <span title="By its date it stands among entries whose numbers it does not lie between">
          <span aria-hidden className="mr-1 text-[12px] text-warn">
            ⇅
          </span>
          <span className="sr-only">out of order: </span>
        </span>
      )}
      {cell.code !== undefined && <Code>{cell.code}</Code>}
      {cell.text}
      {cell.others ? <span className="text-faint"> +{cell.others}</span> : null}
      {cell.tags?.map((tag) => (
        <Tag key={tag}>{tag}</Tag>
      ))}
      {cell.tie && <BelowTie {...cell.tie} />}
    </>
  );
}

const Code = ({ children }: { children: string }) => (
  <span className="mr-3 inline-block min-w-9 text-faint">{children}</span>
);

/** Something unusual of a line or an entry, in a word. */
export const Tag = ({ children }: { children: string }) => (
  <span className="ml-2 rounded-[2px] bg-warnground px-1.5 py-px text-[12.5px] text-warn">{children}</span>
);

/** Whether the rows below a row add up to it. */
const BelowTie = ({ ok, offBy }: NonNullable<WordsCell['tie']>) =>
  ok ? (
    <span className="ml-2 text-[12px] text-faint" title="The rows below add up to this one">
      ✓<span className="sr-only"> ties</span>
    </span>
  ) : (
    <span className="ml-2 text-[12.5px] text-warn">off by {amountText(offBy)}</span>
  );
