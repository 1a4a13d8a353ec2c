import type { ReadableFile } from '@/contracts/answers/loads';
import { dateText } from '@/core/sentence';
import { amountText, countText } from '../amounts';
import { Table, Td, Tr } from '../parts/Table';

/** The first rows as the entries that they would become, with what is wrong in them. */
export function PreviewEntries({ preview }: { preview: NonNullable<ReadableFile['preview']> }) {
  return (
    <section aria-label="Entries" className="mt-4">
      <h2 className="font-book text-[18px] font-semibold">What it would become</h2>
      <p className="mb-2 text-soft">
        {preview.problemCount === 0
          ? `The first ${countText(preview.rows)} rows read without a problem${preview.balanced ? ', and every entry balances' : ', but an entry does not balance'}.`
          : `${countText(preview.problemCount)} ${preview.problemCount === 1 ? 'problem' : 'problems'} in the first ${countText(preview.rows)} rows.`}
      </p>
      {preview.problems.length > 0 && (
        <ul className="mb-3 border border-warn bg-warnground px-3 py-2 text-[13px]">
          {preview.problems.slice(0, 6).map((p, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: problems have no other name than their place
            <li key={i}>
              Row {p.row ?? '–'}
              {p.column ? `, ${p.column}` : ''}: {p.message}
            </li>
          ))}
        </ul>
      )}
      {preview.entries.length > 0 && (
        <Table
          label="Entries"
          columns={[
            { label: 'Entry', width: 'w-52' },
            { label: 'Account', width: 'w-[260px]' },
            { label: 'Description' },
            { label: 'Debit', right: true, width: 'w-28' },
            { label: 'Credit', right: true, width: 'w-28' },
          ]}
        >
          {preview.entries.flatMap((entry) =>
            entry.lines.map((line, i) => (
              <Tr key={`${entry.entity}${entry.entry}${line.line}`}>
                <Td>
                  {i === 0 && (
                    <>
                      <b>{entry.entry}</b> <span className="text-faint">{dateText(entry.date)}</span>{' '}
                      <span className={entry.balances ? '' : 'text-warn'}>{entry.balances ? '✓' : '≠'}</span>
                    </>
                  )}
                </Td>
                <Td>
                  {line.account} {line.accountName}
                </Td>
                <Td>
                  {line.description}{' '}
                  {line.dims.length > 0 && <span className="text-faint">{line.dims.join(', ')}</span>}
                </Td>
                <Td right>{line.debit && amountText(line.debit)}</Td>
                <Td right>{line.credit && amountText(line.credit)}</Td>
              </Tr>
            )),
          )}
        </Table>
      )}
    </section>
  );
}
