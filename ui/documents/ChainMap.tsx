'use client';

import { linkHorizontal } from 'd3-shape';
import type { ReactNode } from 'react';
import type { OneDocument } from '@/contracts/answers/documents';
import { dateText } from '@/core/sentence';
import { amountText } from '../amounts';
import { laidOut } from './chainLayout';

const WIDE = 190;
const HIGH = 66;
const APART = 48;
const ROW = 14;

/**
 * The chain of a document as a drawing: what it goes back to on its left, what came of it on its right, with the amounts
 * that one applied to another on the lines between them.
 */
export function ChainMap({
  data,
  link,
}: {
  data: OneDocument;
  /** A document as a link to it. */
  link(number: string, className: string, children: ReactNode): ReactNode;
}) {
  const { places, columns, rows } = laidOut(
    data.number,
    data.chain.documents.map((d) => d.number),
    data.chain.links,
  );
  const x = (column: number): number => column * (WIDE + APART);
  const y = (row: number): number => row * (HIGH + ROW);
  const line = linkHorizontal<{ from: [number, number]; to: [number, number] }, [number, number]>()
    .source((d) => d.from)
    .target((d) => d.to);
  const known = new Map(data.chain.documents.map((d) => [d.number, d]));
  return (
    <figure className="mb-5 max-w-full overflow-x-auto border border-rule bg-sheet p-3" aria-label="Chain of documents">
      <div className="relative" style={{ width: x(columns - 1) + WIDE, height: y(rows - 1) + HIGH }}>
        <svg
          aria-hidden
          width={x(columns - 1) + WIDE}
          height={y(rows - 1) + HIGH}
          className="absolute inset-0 overflow-visible"
        >
          {data.chain.links.map((l) => {
            const [from, to] = [places.get(l.source), places.get(l.target)];
            if (!from || !to) return null;
            const ends = {
              from: [x(from.column) + WIDE, y(from.row) + HIGH / 2] as [number, number],
              to: [x(to.column), y(to.row) + HIGH / 2] as [number, number],
            };
            return (
              <g key={`${l.source}/${l.target}/${l.date}/${l.applied}`}>
                <path d={line(ends) ?? ''} fill="none" stroke="var(--soft)" strokeWidth={1.2} />
                <title>{`${amountText(l.applied)} on ${dateText(l.date)}`}</title>
              </g>
            );
          })}
        </svg>
        {[...places].map(([number, { column, row }]) => {
          const d = known.get(number);
          const here = number === data.number;
          const box = (
            <>
              <strong className="block truncate font-semibold" title={number}>
                {number}
              </strong>
              <span className="block truncate text-[12.5px] text-soft" title={d?.description}>
                {d ? `${d.type}, ${d.description}` : 'not loaded'}
              </span>
              {d && (
                <span className="flex justify-between gap-2">
                  <span className="text-[12.5px] text-soft">{dateText(d.date)}</span>
                  <span className="tabular-nums">{amountText(d.amount)}</span>
                </span>
              )}
            </>
          );
          const look = `block h-full px-2 py-0.5 leading-[19px] bg-paper border ${here ? 'border-[1.5px] border-ink' : 'border-rule hover:border-ink'}`;
          return (
            <div key={number} className="absolute" style={{ left: x(column), top: y(row), width: WIDE, height: HIGH }}>
              {here || !d ? <div className={look}>{box}</div> : link(number, look, box)}
            </div>
          );
        })}
      </div>
    </figure>
  );
}
