'use client';

import Link from 'next/link';
import { type ReactNode, useMemo } from 'react';
import type { Entry, LineRow } from '@/contracts/answers/lines';
import { lineSubject, subjectText } from '@/contracts/subject';
import { dateText } from '@/core/sentence';
import { scopeAt } from '../address/address';
import { amountText, countText, enteredText } from '../amounts';
import { documentPath } from '../documents/address';
import { CopyToQuote } from '../evidence/CopyToQuote';
import { useAnswer } from '../query/hooks';
import { Tag } from '../sheet/CellView';
import { accountCell, amountCell, type Cell } from '../sheet/cell';
import type { Column } from '../sheet/gridModel';
import type { SheetModel, SheetRow } from '../sheet/model';
import { proofOf } from '../sheet/proof';
import { WHOLE } from '../sheet/wholeRow';
import { paperOf, partyText } from './ledgerRows';
import { type ScreenProps, SheetFrame } from './SheetFrame';

const COLUMNS: Column[] = [
  { key: 'line', label: 'Line', width: '48px' },
  { key: 'account', label: 'Account', width: 'minmax(170px, 1fr)' },
  { key: 'description', label: 'Description', width: 'minmax(140px, 1fr)' },
  { key: 'dims', label: 'Coding', width: 'minmax(130px, 0.9fr)' },
  { key: 'debit', label: 'Debit', width: '124px', amount: true },
  { key: 'credit', label: 'Credit', width: '124px', amount: true },
];

/** A whole journal entry, both sides, with the traced line marked. */
export function EntryScreen(props: ScreenProps & { id: string }) {
  const { screen, id } = props;
  const { data, error, isPending } = useAnswer('GET /entries/{id}', new URLSearchParams(), { id });
  const scope = scopeAt(screen, screen.steps.length);
  const { data: figure } = useAnswer('GET /totals', scope);
  const traced = screen.steps[screen.steps.length - 1]?.row;

  const model = useMemo((): SheetModel => {
    const lines = data?.lines ?? [];
    const total = data && {
      label: `${countText(data.totals.count)} ${data.totals.count === 1 ? 'line' : 'lines'}${data.outside > 0 ? ' that you may see' : ''}, in ${data.currency}`,
      debit: amountCell(data.totals.debit),
      credit: amountCell(data.totals.credit),
    };
    return {
      label: data ? `Entry ${data.number}` : 'Entry',
      columns: COLUMNS,
      count: lines.length,
      rowAt: (index) => lines[index] && lineRow(lines[index], lines[index].id === traced),
      indexOf: (key) => lines.findIndex((l) => l.id === key),
      total,
      whole: data && total && wholeEntry(data, total),
      parts: figure?.parts ?? [],
      load: figure?.load,
      tie: proofOf(data?.tie, 'debits equal credits'),
      stale: false,
      loading: isPending,
      error,
    };
  }, [data, figure, traced, isPending, error]);

  return <SheetFrame {...props} sheet="entry" model={model} above={data && <Head entry={data} />} />;
}

function Head({ entry }: { entry: Entry }) {
  const facts: [string, ReactNode][] = [
    ['Date', dateText(entry.date)],
    ['Period', `${entry.period} ${entry.periodName}`],
    ['Journal', entry.journal],
    ['Counterparty', [...new Set(entry.lines.flatMap((l) => (l.counterparty ? [partyText(l)] : [])))].join(', ')],
    ['Posted by', entry.postedBy],
    ['Entered on', entry.enteredAt && enteredText(entry.enteredAt)],
    ['Approved by', entry.lines[0]?.approvedBy],
    ['Reversal of', entry.reversalOf],
    ['Source', entry.source],
    ['Origin', entry.origin && <Origin entry={entry} />],
    [
      'Document',
      entry.documents.length > 0
        ? entry.documents.map((d, i) => (
            <span key={d.number}>
              {i > 0 && ', '}
              {d.type ?? 'document'}{' '}
              {d.opens ? (
                <Link
                  href={documentPath(entry.entity, d.number)}
                  className="underline decoration-rule underline-offset-4 hover:decoration-ink"
                >
                  {d.number}
                </Link>
              ) : (
                d.number
              )}
              {d.date ? ` of ${dateText(d.date)}` : ''}
            </span>
          ))
        : null,
    ],
    [
      'In its ledger',
      entry.inSource && (
        <a
          href={entry.inSource}
          target="_blank"
          rel="noopener noreferrer"
          className="underline decoration-rule underline-offset-4 hover:decoration-ink"
        >
          {entry.number}
        </a>
      ),
    ],
    ['Load', entry.replacedBy === null ? String(entry.load) : `${entry.load}, replaced by load ${entry.replacedBy}`],
  ];
  return (
    <section className="shrink-0 border border-rule bg-sheet px-3 pt-3 pb-3">
      <div className="flex items-baseline justify-between gap-4">
        <h2 className="font-book text-[19px] leading-6 font-semibold">
          {entry.number} <span className="font-normal">{entry.description}</span>
          {entry.status === 'unposted' && <Tag>not posted</Tag>}
        </h2>
        <span className="shrink-0 text-[13px]">
          <CopyToQuote subject={entrySubject(entry)} label={`entry ${entry.number}`} />
        </span>
      </div>
      <dl className="mt-1.5 flex flex-wrap gap-x-6 gap-y-0.5">
        {facts.map(([name, value]) =>
          value ? (
            <div key={name} className="flex gap-1.5">
              <dt className="text-soft">{name}</dt>
              <dd>{value}</dd>
            </div>
          ) : null,
        )}
      </dl>
      {entry.outside > 0 && (
        <p className="mt-1.5 text-soft">
          {entry.outside === 1 ? 'One more line' : `${countText(entry.outside)} more lines`} of this entry{' '}
          {entry.outside === 1 ? 'lies' : 'lie'} outside what you may see.
        </p>
      )}
    </section>
  );
}

/** Where an entry comes from, as its number tells, and the way to its detail: the document, where it was booked from one. */
function Origin({ entry }: { entry: Entry }) {
  const [document] = entry.documents.filter((d) => d.opens);
  if (entry.origin?.leads !== 'document') return entry.origin?.name;
  return document ? (
    <Link
      href={documentPath(entry.entity, document.number)}
      className="underline decoration-rule underline-offset-4 hover:decoration-ink"
    >
      {entry.origin.name}
    </Link>
  ) : (
    `${entry.origin.name}, without a document`
  );
}

/** The entry as a whole, on the row of its totals: ticked, noted and asked about like each of its lines. */
const wholeEntry = (entry: Entry, cells: Record<string, Cell>): SheetRow => ({
  ...{ key: WHOLE, label: `entry ${entry.number}`, look: 'total', cells, put: null },
  subject: entrySubject(entry),
  step: () => null,
  say: () => 'The entry as a whole.',
});

const entrySubject = ({ entity, number }: Entry): string => subjectText({ is: 'entry', entity, entry: number });

function lineRow(line: LineRow, isTraced: boolean): SheetRow {
  const others = line.otherSide.map((o) => `${o.account} ${o.name}${o.exact ? '' : ' (shared)'}`).join(', ');
  return {
    key: line.id,
    label: `${line.entry} line ${line.line}`,
    ...(isTraced ? { look: 'marked' as const } : {}),
    cells: {
      line: isTraced ? { is: 'words', text: String(line.line), sign: 'traced' } : line.line,
      account: accountCell(line.account, line.accountName),
      description: line.description,
      dims: line.dims.map((d) => d.name).join(', '),
      debit: amountCell(line.debit),
      credit: amountCell(line.credit),
    },
    subject: lineSubject(line),
    paper: paperOf(line),
    put: null,
    step: () => null,
    say: () =>
      [
        others && `Other side: ${others}`,
        line.dims.map((d) => `${d.dimensionName.toLowerCase()} ${d.code} ${d.name}`).join(', '),
        line.counterparty && `with ${line.counterparty}`,
        line.currency && line.currencyAmount && `${amountText(line.currencyAmount)} ${line.currency}`,
        line.quantity && `${line.quantity} ${line.unit ?? ''}`,
      ]
        .filter(Boolean)
        .join('; '),
  };
}
