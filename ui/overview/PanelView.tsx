'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import type { PanelShown } from '@/contracts/answers/leaving';
import type { Panel } from '@/contracts/panels';
import { amountText, countText } from '../amounts';
import { isFigure, shown } from '../leaving/cells';
import { Bars } from '../panels/picture/Bars';
import { Course } from '../panels/picture/Course';
import { useAnswer } from '../query/hooks';
import { useWidth } from '../sheet/useWidth';

type Column = PanelShown['columns'][number];

/** One panel: its head, which it is moved by, and what its report says under the scope that drives the page. */
export function PanelView({
  overview,
  panel,
  scope,
  arranging,
  onMove,
  onDrop,
}: {
  overview: number;
  panel: Panel;
  scope: URLSearchParams;
  arranging: boolean;
  onMove(key: string, stretch: boolean): void;
  onDrop(): void;
}) {
  const { data, error } = useAnswer('GET /overviews/{id}/panels/{key}', scope, { id: overview, key: panel.key });
  const name = data?.name ?? '…';
  return (
    <section
      aria-label={name}
      tabIndex={arranging ? 0 : undefined}
      onKeyDown={(event) => {
        if (!arranging || event.target !== event.currentTarget || !event.key.startsWith('Arrow')) return;
        event.preventDefault();
        onMove(event.key, event.shiftKey);
      }}
      className="flex h-full flex-col border border-rule bg-sheet"
    >
      <header
        className={`panel-head flex items-baseline gap-3 border-b border-hair px-3 py-1.5 ${arranging ? 'cursor-move' : ''}`}
      >
        <h2 className="min-w-0 truncate font-book text-[15px] font-semibold">
          {data && !arranging ? (
            <Link href={data.page} className="hover:underline" title={data.sentence}>
              {name}
            </Link>
          ) : (
            name
          )}
        </h2>
        <span className="ml-auto shrink-0 text-[12.5px] text-soft">{data?.currency}</span>
        {arranging && (
          <button type="button" className="link shrink-0 text-[12.5px]" onClick={onDrop}>
            take off
          </button>
        )}
      </header>
      <div className="min-h-0 flex-1 overflow-auto">
        {error && (
          <p role="alert" className="px-3 py-2 text-warn">
            {error.message}
          </p>
        )}
        {!data && !error && <p className="px-3 py-2 text-soft">Reading …</p>}
        {data && panel.kind === 'figure' && <Figure data={data} />}
        {data && panel.kind === 'table' && <Rows data={data} />}
        {data && panel.kind === 'picture' && <Drawn data={data} />}
      </div>
    </section>
  );
}

/** The column by which a sheet is told in one figure: how it closes, else its last amount. */
const telling = ({ columns }: PanelShown): Column | undefined =>
  columns.find((c) => c.key === 'closing') ?? columns.filter((c) => c.is === 'amount').at(-1);

function Figure({ data }: { data: PanelShown }) {
  const router = useRouter();
  const { box, wide } = useWidth();
  // A statement is told by its last row, anything else by what it comes to.
  const last = data.rows.filter((r) => r.look === 'total' || r.look === 'subtotal').at(-1);
  const column = telling(data);
  const ofStatement = data.total === null && last && column ? last.cells[column.key] : null;
  const value = ofStatement ?? data.figure?.value;
  const moves = ofStatement
    ? []
    : data.course.map((p, index) => ({ index, name: shortName(p.name), value: p.value, beside: null, cells: [] }));
  return (
    <div ref={box} className="px-3 py-2 [&_svg]:overflow-visible">
      <p className="font-book text-[26px] leading-[32px] font-semibold tabular-nums">
        <Link href={data.page} className="hover:underline">
          {value ? amountText(value) : '–'}
        </Link>
      </p>
      <p className="truncate text-[12.5px] text-soft" title={data.sentence}>
        {ofStatement ? last?.cells.name : `${data.figure?.measure ?? ''}: ${data.sentence}`}
      </p>
      {moves.length > 1 && wide > 0 && (
        <Course
          wide={wide - 24}
          besides={null}
          rows={moves}
          onTrace={(index) => {
            const at = data.course[index];
            if (at) router.push(withPeriod(data.page, at.period));
          }}
        />
      )}
    </div>
  );
}

/** A period as a small picture has room for it. */
const shortName = (name: string): string =>
  name.replace(/^([A-Z][a-z]{2})[a-z]* (\d{4})$/, '$1 $2').replace(/^adjustments.*$/i, 'adj.');

/** The page of a report over one period. */
function withPeriod(page: string, period: string): string {
  const [place = '', query = ''] = page.split(/\?(.*)/s);
  const params = new URLSearchParams(query);
  params.delete('window');
  params.set('from', period);
  params.set('to', period);
  return `${place}?${params}`;
}

function Rows({ data }: { data: PanelShown }) {
  // A narrow panel has room for the names and what counts.
  const names = data.columns.filter((c) => !isFigure(c));
  const figures = data.columns.filter(isFigure);
  const columns = [...names.slice(0, 2), ...figures.slice(-3)];
  return (
    <table className="w-full text-[13px]">
      <caption className="sr-only">{data.name}</caption>
      <thead>
        <tr className="border-b border-rule text-[12px] text-soft">
          {columns.map((c) => (
            <th
              key={c.key}
              scope="col"
              className={`px-2 py-0.5 font-normal ${isFigure(c) ? 'text-right' : 'text-left'}`}
            >
              {c.label}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {data.rows.map((row) => (
          <tr key={row.key} className={`border-b border-hair ${row.look === 'plain' ? '' : 'font-semibold'}`}>
            {columns.map((c, i) => (
              <td
                key={c.key}
                className={`px-2 py-[2px] ${isFigure(c) ? 'text-right whitespace-nowrap tabular-nums' : ''}`}
                style={c.key === 'name' ? { paddingLeft: 8 + row.depth * 12 } : undefined}
              >
                {isFigure(c) && row.page && i === columns.length - 1 ? (
                  <Link href={row.page} className="hover:underline">
                    {shown(row.cells[c.key], c)}
                  </Link>
                ) : (
                  shown(row.cells[c.key], c)
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
      <tfoot>
        {data.total && (
          <tr className="border-t border-ink font-semibold">
            {columns.map((c) => (
              <td
                key={c.key}
                className={`px-2 py-[2px] ${isFigure(c) ? 'text-right whitespace-nowrap tabular-nums' : ''}`}
              >
                {isFigure(c) || c.key === 'name' ? shown(data.total?.[c.key], c) : ''}
              </td>
            ))}
          </tr>
        )}
        {data.count > data.rows.length && (
          <tr>
            <td colSpan={columns.length} className="px-2 py-0.5 text-soft">
              and {countText(data.count - data.rows.length)} more
            </td>
          </tr>
        )}
      </tfoot>
    </table>
  );
}

function Drawn({ data }: { data: PanelShown }) {
  const router = useRouter();
  const { box, wide } = useWidth();
  const column = telling(data);
  const rows = data.rows
    .flatMap((row, index) => (row.look === 'plain' && row.page !== null ? [{ row, index }] : []))
    .map(({ row, index }) => ({
      index,
      name: [row.cells.code ?? row.cells.account, row.cells.name].filter(Boolean).join(' '),
      value: row.value ?? (column && row.cells[column.key]) ?? '0',
      beside: null,
      cells: [],
    }))
    .sort((a, b) => Math.abs(Number(b.value)) - Math.abs(Number(a.value)));
  return (
    <div ref={box} className="px-2 py-1.5">
      {wide > 0 && (
        <Bars
          wide={wide - 16}
          besides={null}
          rows={rows}
          onTrace={(index) => {
            const page = data.rows[index]?.page;
            if (page) router.push(page);
          }}
        />
      )}
    </div>
  );
}
