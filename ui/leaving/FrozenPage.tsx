'use client';

import Link from 'next/link';
import type { Frozen } from '@/contracts/answers/leaving';
import { amountText, countText, momentText } from '../amounts';
import { Failure, Place, REPORT_TABS } from '../parts/Place';
import { useAnswer } from '../query/hooks';
import { isFigure, shown } from './cells';

type Sheet = Frozen['sheets'][number];

const NO_PARAMS = new URLSearchParams();
const INDENT_PX = 14;

/** A frozen copy as it was, and beside it what the same sheet says now. */
export function FrozenPage({ id }: { id: string }) {
  const { data, error } = useAnswer('GET /frozen/{id}', NO_PARAMS, { id });
  return (
    <Place title="Frozen copy" tabs={REPORT_TABS} here="/reports/frozen">
      <Failure error={error} />
      {data && (
        <article className="max-w-[1100px]">
          <h2 className="font-book text-[20px] leading-[26px] font-semibold">{data.title}</h2>
          <p className="mt-0.5 font-book text-[15px] italic">{data.sentence}</p>
          <p className="mt-1.5 text-[12.5px] text-soft">
            Frozen by {data.by}, {momentText(data.at)}, as of load {data.load}. Digest {data.digest.slice(0, 16)}.{' '}
            <Link className="link" href={data.page}>
              Read it live
            </Link>
          </p>
          <Since frozen={data} />
          {data.sheets.map((sheet) => (
            <section key={`${sheet.title} ${sheet.sentence}`} aria-label={sheet.title}>
              {data.sheets.length > 1 && (
                <>
                  <h3 className="mt-6 font-book text-[17px] font-semibold">{sheet.title}</h3>
                  <p className="font-book text-[14px] italic">{sheet.sentence}</p>
                </>
              )}
              <Copy sheet={sheet} />
              {sheet.proofs.map((says) => (
                <p key={says} className="mt-1 text-[12.5px] text-soft">
                  {says}
                </p>
              ))}
            </section>
          ))}
        </article>
      )}
    </Place>
  );
}

/** What has moved since, figure by figure. */
function Since({ frozen: { since, load } }: { frozen: Frozen }) {
  if (since === null)
    return <p className="mt-3 text-warn">The same sheet cannot be asked any more; the copy stays as it is.</p>;
  if (since.all === 0)
    return (
      <p className="mt-3">
        {since.load === load ? 'Nothing has been loaded since.' : `Nothing in it has moved up to load ${since.load}.`}
      </p>
    );
  return (
    <details className="mt-3" open={since.all <= 8}>
      <summary className="cursor-pointer font-semibold text-warn">
        {countText(since.all)} {since.all === 1 ? 'figure has' : 'figures have'} moved since, up to load {since.load}
      </summary>
      <table className="mt-1.5 border border-rule bg-sheet text-[13.5px]">
        <thead>
          <tr className="border-b border-rule text-left text-[12.5px] text-soft">
            {['Row', 'Column'].map((head) => (
              <th key={head} scope="col" className="px-3 py-1 font-normal">
                {head}
              </th>
            ))}
            {['Was', 'Is now'].map((head) => (
              <th key={head} scope="col" className="px-3 py-1 text-right font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {since.moved.map((m) => (
            <tr key={`${m.row} ${m.column}`} className="border-b border-hair">
              <td className="px-3 py-0.5">{m.row}</td>
              <td className="px-3 py-0.5">{m.column}</td>
              <td className="px-3 py-0.5 text-right tabular-nums">{m.was === null ? '' : amountText(m.was)}</td>
              <td className="px-3 py-0.5 text-right tabular-nums">{m.now === null ? '' : amountText(m.now)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

function Copy({ sheet: { title, columns, rows, total } }: { sheet: Sheet }) {
  const wide = columns.findIndex((c) => c.key === 'name' || c.key === 'description');
  return (
    <table className="mt-4 w-full border border-rule bg-sheet text-[13.5px]">
      <caption className="sr-only">{title}</caption>
      <thead>
        <tr className="border-b-[1.5px] border-ink text-[12.5px] text-soft">
          {columns.map((c) => (
            <th key={c.key} scope="col" className={`px-2 py-1 font-normal ${isFigure(c) ? 'text-right' : 'text-left'}`}>
              {c.label}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr
            key={row.key}
            className={`border-b border-hair ${row.look === 'plain' ? '' : 'font-semibold'} ${row.look === 'total' || row.look === 'subtotal' ? 'border-t border-t-ink' : ''}`}
          >
            {columns.map((c, i) => (
              <td
                key={c.key}
                className={`px-2 py-[3px] ${isFigure(c) ? 'text-right whitespace-nowrap tabular-nums' : ''}`}
                style={i === wide ? { paddingLeft: 8 + row.depth * INDENT_PX } : undefined}
              >
                {shown(row.cells[c.key], c)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
      {total && (
        <tfoot>
          <tr className="border-t border-b-[3px] border-ink border-b-ink border-double font-semibold">
            {columns.map((c) => (
              <td key={c.key} className={`px-2 py-1 ${isFigure(c) ? 'text-right whitespace-nowrap tabular-nums' : ''}`}>
                {shown(total[c.key], c)}
              </td>
            ))}
          </tr>
        </tfoot>
      )}
    </table>
  );
}
