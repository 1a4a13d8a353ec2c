'use client';

import Link from 'next/link';
import { useSearchParams } from 'next/navigation';
import { createContext, type ReactNode, useContext } from 'react';
import type { OneDocument } from '@/contracts/answers/documents';
import { subjectText } from '@/contracts/subject';
import { dateText } from '@/core/sentence';
import { exactly } from '@/core/values';
import { otherSign } from '@/core/writtenAmounts';
import { ofWholeBooks, type Screen, traced } from '../address/address';
import { StepLink } from '../address/StepLink';
import { amountText, countText } from '../amounts';
import { SaidOn } from '../evidence/SaidOn';
import { DOCUMENT_TABS, Failure, Place } from '../parts/Place';
import { Table, Td, Tr } from '../parts/Table';
import { useAnswer } from '../query/hooks';
import { documentStep } from '../screens/steps';
import { TieMark } from '../sheet/Strips';
import { documentPath, linesOfDocument, linesOfEntry, openDocumentsPath } from './address';
import { ChainMap } from './ChainMap';
import { PaperShown } from './paper/PaperShown';

/** More lines than this are read in the ledger. */
const LINES_SHOWN = 12;

/** One document: what it is, what it settles and what settled it, how it was booked, and its picture beside it. */
export function DocumentPage({ number }: { number: string }) {
  const entity = useSearchParams().get('entity');
  const { data, error } = useAnswer('GET /documents/{id}', new URLSearchParams(entity ? { entity } : {}), {
    id: number,
  });
  return (
    <Place title="Documents" tabs={DOCUMENT_TABS} here="/documents">
      <Failure error={error} />
      {data && <DocumentShown data={data} />}
    </Place>
  );
}

/** What a document is, its chain, its lines and its picture. */
export function DocumentShown({ data, screen = null }: { data: OneDocument; screen?: Screen | null }) {
  const facts: [string, ReactNode][] = [
    ['Date', dateText(data.date)],
    ['Due', data.dueDate && dateText(data.dueDate)],
    [
      'With',
      data.counterparty && (
        <Link
          href={`/accounts/parties/${encodeURIComponent(data.counterparty)}?${new URLSearchParams({ entity: data.entity })}`}
          className={LINK}
        >
          {data.counterpartyName ?? data.counterparty}
        </Link>
      ),
    ],
    ['Amount', `${amountText(data.amount)} ${data.currency}`],
    ['With its change orders', data.value && amountText(data.value)],
    [data.settling ? 'Not applied' : data.promising ? 'Not billed' : 'Open', amountText(data.open)],
    [
      'Control account',
      data.account && (
        <Link
          href={openDocumentsPath(new URLSearchParams({ entity: data.entity, window: 'latest-period' }), data.account)}
          className={LINK}
        >
          {data.account}
        </Link>
      ),
    ],
    ['Load', data.load],
  ];
  return (
    <Here value={{ entity: data.entity, number: data.number, screen }}>
      <div className="flex flex-wrap items-start gap-6">
        <div className="min-w-[480px] flex-1">
          <h2 className="font-book text-[19px] leading-6 font-semibold">
            {data.number} <span className="font-normal">{data.description}</span>
          </h2>
          <p className="text-soft">
            {[data.type, data.state].filter(Boolean).join(', ')}
            {data.promising && data.booked === 0 && '; documents of its kind are not booked'}
          </p>
          <dl className="mt-2 mb-5 flex flex-wrap gap-x-6 gap-y-1">
            {facts.map(([name, value]) =>
              value === null ? null : (
                <div key={name} className="flex gap-1.5">
                  <dt className="text-soft">{name}</dt>
                  <dd>{value}</dd>
                </div>
              ),
            )}
          </dl>
          <Applied
            title={data.settling ? 'What it was applied to' : 'Preceding documents'}
            none={
              data.settling ? 'It was applied to no document.' : 'It names no document before it, such as an order.'
            }
            rows={data.settles}
            of={data}
            left={data.settling ? 'Not applied yet' : null}
          />
          <Applied
            title="Subsequent documents"
            none={
              data.settling
                ? 'No document was made of it, such as a deposit.'
                : 'No document was applied to it: nothing is paid, credited or billed of it.'
            }
            rows={data.events.slice(1)}
            of={data}
            left="Open after it"
          />
          {data.chain.documents.length > 1 && (
            <section className="mb-5">
              <h3 className="mb-1 font-semibold">
                Its chain{' '}
                <span className="font-normal text-soft">({countText(data.chain.documents.length)} documents)</span>
              </h3>
              <ChainMap
                data={data}
                link={(number, className, children) => (
                  <DocumentLink number={number} className={className}>
                    {children}
                  </DocumentLink>
                )}
              />
            </section>
          )}
          {data.lines && <Written lines={data.lines} currency={data.currency} />}
          {data.taxes.length > 0 && <Taxes data={data} />}
          <Booked data={data} />
          <section className="mt-5 max-w-[560px]">
            <h3 className="mb-1 font-semibold">Evidence on it</h3>
            <SaidOn
              subject={subjectText({ is: 'document', entity: data.entity, number: data.number })}
              label={`${data.type} ${data.number}`}
              address={documentPath(data.entity, data.number)}
              ticks
              quotes
            />
          </section>
        </div>
        {data.attachments.length > 0 && (
          <div className="w-[400px] shrink-0">
            {data.attachments.map((file) => (
              <section key={file.digest} className="mb-5">
                <PaperShown
                  file={file}
                  sought={{ amounts: [data.amount], numbers: [data.number] }}
                  height="max-h-[600px]"
                />
                {file.alsoOn.length > 0 && (
                  <p className="mt-1 text-warn">
                    ! The very same file is attached to{' '}
                    {file.alsoOn.map((other) => (
                      <DocumentLink key={other} number={other} className="mr-2 underline underline-offset-2">
                        {other}
                      </DocumentLink>
                    ))}
                  </p>
                )}
              </section>
            ))}
          </div>
        )}
      </div>
    </Here>
  );
}

/** Which document is shown, and the thread that it is a step of, if any: what it leads to goes on with it. */
const Here = createContext<{ entity: string; number: string; screen: Screen | null }>({
  ...{ entity: '', number: '', screen: null },
});

/** To another document: a further step of the thread, or its page. */
function DocumentLink({ number, className, children }: { number: string; className: string; children: ReactNode }) {
  const { entity, screen } = useContext(Here);
  if (!screen)
    return (
      <Link href={documentPath(entity, number)} className={className}>
        {children}
      </Link>
    );
  const step = { ...documentStep(entity, number), row: '', column: '' };
  return (
    <StepLink to={traced(screen, step)} className={className}>
      {children}
    </StepLink>
  );
}

/** To the lines that bear the document's number, or to those of the entry that does. */
function LinesLink({ byEntry, className, children }: { byEntry: boolean; className: string; children: ReactNode }) {
  const { entity, number, screen } = useContext(Here);
  const href = byEntry ? linesOfEntry(entity, number) : linesOfDocument(entity, number);
  if (!screen)
    return (
      <Link href={href} className={className}>
        {children}
      </Link>
    );
  const put = {
    entity: [entity],
    window: ['everything'],
    from: [],
    to: [],
    [byEntry ? 'entry' : 'document']: [exactly(number)],
  };
  const step = { view: 'lines' as const, label: `Lines of ${number}`, row: '', column: '', put };
  return (
    <StepLink to={traced(screen, ofWholeBooks(screen, step))} className={className}>
      {children}
    </StepLink>
  );
}

const LINK = 'underline decoration-rule underline-offset-4 hover:decoration-ink';

function Applied({
  title,
  none,
  rows,
  of,
  left,
}: {
  title: string;
  none: string;
  rows: OneDocument['events'];
  of: OneDocument;
  left: string | null;
}) {
  const known = new Map(of.chain.documents.map((d) => [d.number, d]));
  return (
    <section className="mb-5">
      <h3 className="mb-1 font-semibold">
        {title}
        {rows.length > 0 && <span className="font-normal text-soft"> ({countText(rows.length)})</span>}
      </h3>
      {rows.length === 0 && <p className="text-soft">{none}</p>}
      {rows.length > 0 && (
        <Table
          label={title}
          fixed
          columns={[
            { label: 'Document', width: 'w-[150px]' },
            { label: 'Type' },
            { label: 'On', width: 'w-[104px]' },
            { label: 'Applied', width: 'w-[120px]', right: true },
            ...(left ? [{ label: left, width: 'w-[120px]', right: true }] : []),
          ]}
        >
          {rows.map((r) => (
            <Tr key={`${r.document}/${r.date}/${r.open}`}>
              <Td cut title={r.document}>
                <DocumentLink number={r.document} className={LINK}>
                  {r.document}
                </DocumentLink>
              </Td>
              <Td cut title={known.get(r.document)?.description}>
                {known.get(r.document)?.type ?? 'not loaded'}{' '}
                <span className="text-soft">{known.get(r.document)?.description}</span>
              </Td>
              <Td>{dateText(r.date)}</Td>
              <Td right>
                {r.changes && <span className="mr-1 text-[12.5px] text-soft">changes it by</span>}
                {amountText(r.changes ? otherSign(r.applied) : r.applied)}
              </Td>
              {left && <Td right>{amountText(r.open)}</Td>}
            </Tr>
          ))}
        </Table>
      )}
    </section>
  );
}

/** What the document itself says, line by line, and whether that comes to its amount. */
function Written({ lines, currency }: { lines: NonNullable<OneDocument['lines']>; currency: string }) {
  const has = (of: (row: (typeof lines.rows)[number]) => unknown): boolean =>
    lines.rows.some((row) => Boolean(of(row)));
  const [counted, priced, taxed] = [has((r) => r.quantity), has((r) => r.unitPrice), has((r) => r.tax)];
  return (
    <section className="mb-5">
      <h3 className="mb-1 flex items-baseline gap-4 font-semibold">
        Its lines
        <span className="font-normal">
          <TieMark
            tie={lines.tie}
            what={taxed ? 'with their tax they come to its amount' : 'they come to its amount'}
          />
        </span>
      </h3>
      <Table
        label="Its lines"
        fixed
        columns={[
          { label: 'Description' },
          ...(counted ? [{ label: 'Quantity', width: 'w-[104px]', right: true }] : []),
          ...(priced ? [{ label: 'Price', width: 'w-[96px]', right: true }] : []),
          { label: `Amount, ${currency}`, width: 'w-[124px]', right: true },
          ...(taxed ? [{ label: 'Tax', width: 'w-[104px]', right: true }] : []),
        ]}
      >
        {lines.rows.map((row) => (
          <Tr key={row.line}>
            <Td cut title={row.description}>
              {row.item && <span className="mr-2 text-soft">{row.item}</span>}
              {row.description}
            </Td>
            {counted && <Td right>{row.quantity && `${amountText(row.quantity)} ${row.unit}`}</Td>}
            {priced && <Td right>{row.unitPrice && amountText(row.unitPrice)}</Td>}
            <Td right>{amountText(row.amount)}</Td>
            {taxed && <Td right>{row.tax && amountText(row.tax)}</Td>}
          </Tr>
        ))}
        <Tr>
          <Td>
            <strong className="font-semibold">Together</strong>
          </Td>
          {counted && <Td />}
          {priced && <Td />}
          <Td right>
            <strong className="font-semibold">{amountText(lines.net)}</strong>
          </Td>
          {taxed && (
            <Td right>
              <strong className="font-semibold">{amountText(lines.tax)}</strong>
            </Td>
          )}
        </Tr>
      </Table>
    </section>
  );
}

/** What the lines of a document come to by tax code, as they were booked. */
const Taxes = ({ data }: { data: OneDocument }) => (
  <section className="mb-5">
    <h3 className="mb-1 font-semibold">By tax code</h3>
    <Table
      label="By tax code"
      narrow
      columns={[
        { label: 'Code', width: 'w-[110px]' },
        { label: 'Lines with it', width: 'w-[140px]', right: true },
        { label: 'Tax on them', width: 'w-[140px]', right: true },
      ]}
    >
      {data.taxes.map((t) => (
        <Tr key={t.code}>
          <Td>{t.code}</Td>
          <Td right>{amountText(t.base)}</Td>
          <Td right>{amountText(t.tax)}</Td>
        </Tr>
      ))}
    </Table>
  </section>
);

/**
 * The lines that bear the document's number, or those of the entry that does, as a payment's often are; they lead to the
 * ledger, and from there to their entry.
 */
function Booked({ data }: { data: OneDocument }) {
  const asked = (by: 'document' | 'entry'): URLSearchParams =>
    new URLSearchParams({
      entity: data.entity,
      window: 'everything',
      status: 'all',
      [by]: exactly(data.number),
      limit: String(LINES_SHOWN),
    });
  const lines = useAnswer('GET /lines', asked('document')).data;
  const byEntry = lines?.totals.count === 0;
  const entry = useAnswer('GET /lines', byEntry ? asked('entry') : null).data;
  const page = byEntry ? entry : lines;
  return (
    <section>
      <h3 className="mb-1 flex items-baseline gap-4 font-semibold">
        In the ledger
        {page && page.totals.count > 0 && (
          <LinesLink byEntry={byEntry} className={`font-normal ${LINK}`}>
            {page.totals.count > LINES_SHOWN ? `all ${countText(page.totals.count)} lines` : 'open these lines'}
          </LinesLink>
        )}
      </h3>
      {page && page.totals.count === 0 && (
        <p className="text-soft">No line and no entry bears its number: it was not booked, or under another one.</p>
      )}
      {byEntry && page && page.totals.count > 0 && (
        <p className="mb-1 text-soft">The entry bears its number; its lines name no document.</p>
      )}
      {page && page.rows.length > 0 && (
        <Table
          label={byEntry ? 'Lines of the entry that bears its number' : 'Lines that bear its number'}
          fixed
          columns={[
            { label: 'Entry', width: 'w-[130px]' },
            { label: 'Date', width: 'w-[104px]' },
            { label: 'Account' },
            { label: 'Debit', width: 'w-[120px]', right: true },
            { label: 'Credit', width: 'w-[120px]', right: true },
          ]}
        >
          {page.rows.map((l) => (
            <Tr key={l.id}>
              <Td cut>{l.entry}</Td>
              <Td>{dateText(l.date)}</Td>
              <Td cut title={l.accountName}>
                {l.account} {l.accountName}
              </Td>
              <Td right>{amountText(l.debit)}</Td>
              <Td right>{amountText(l.credit)}</Td>
            </Tr>
          ))}
        </Table>
      )}
    </section>
  );
}
