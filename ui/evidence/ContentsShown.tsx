'use client';

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { EvidenceFile } from '@/contracts/answers/evidence';
import type { FileContents } from '@/contracts/work';
import { momentText } from '../amounts';
import { Failure } from '../parts/Place';
import { ask } from '../query/client';
import { sizeText } from './sizeText';

/** Kinds that are shown as plain rows and words, or as nothing, with the reason. */
export const hasContents = (type: string): boolean =>
  type !== 'application/pdf' && !['image/png', 'image/jpeg', 'image/webp', 'image/gif'].includes(type);

const AGAIN_MS = 1_500;

/** A spreadsheet, a letter or a mail that was attached: its rows and words, which a worker has read. */
export function ContentsShown({ file }: { file: EvidenceFile }) {
  const { data, error } = useQuery({
    queryKey: ['/attachments', file.digest, 'contents'],
    queryFn: () => ask('GET /attachments/{digest}/contents', { path: { digest: file.digest } }),
    refetchInterval: ({ state }) => (state.data?.contents === null ? AGAIN_MS : false),
  });
  if (error) return <Failure error={error} />;
  const contents = data?.contents;
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <p className="mb-1">
        <a className="link" href={`/api/v1/attachments/${file.digest}`}>
          Save the file as it came
        </a>
      </p>
      {contents ? <Contents of={contents} /> : <p className="text-soft">It is being read …</p>}
    </div>
  );
}

function Contents({ of }: { of: FileContents }) {
  switch (of.is) {
    case 'sheets':
      return <Sheets sheets={of.sheets} />;
    case 'letter':
      return <Words text={of.text} more={of.more} />;
    case 'mail':
      return (
        <>
          <dl className="mb-2 grid grid-cols-[70px_minmax(0,1fr)] gap-y-0.5 text-[13px]">
            {(
              [
                ['From', of.from],
                ['To', of.to],
                ['About', of.subject],
                ['Sent', of.at === null ? '' : momentText(of.at)],
                ['With it', of.attached.map((a) => `${a.name} (${sizeText(a.bytes)})`).join(', ') || 'nothing'],
              ] as const
            ).map(([name, says]) => (
              <div key={name} className="contents">
                <dt className="text-soft">{name}</dt>
                <dd className="break-words">{says || <span className="text-faint">not said</span>}</dd>
              </div>
            ))}
          </dl>
          <Words text={of.text} more={of.more} />
        </>
      );
    case 'nothing':
      return <p className="text-soft">{of.why}</p>;
  }
}

const Words = ({ text, more }: { text: string; more: boolean }) => (
  <pre
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what is larger than its frame is moved about by keys
    tabIndex={0}
    className="min-h-0 flex-1 overflow-auto border border-rule bg-sheet p-3 font-sans whitespace-pre-wrap"
  >
    {text || 'It says nothing.'}
    {more && '\n\n… There is more; save the file to read all of it.'}
  </pre>
);

function Sheets({ sheets }: { sheets: (FileContents & { is: 'sheets' })['sheets'] }) {
  const [at, setAt] = useState(0);
  const sheet = sheets[at];
  if (!sheet) return <p className="text-soft">The workbook has no sheet.</p>;
  const columns = Math.max(1, ...sheet.rows.map((row) => row.length));
  return (
    <>
      {sheets.length > 1 && (
        <fieldset aria-label="Sheets of the workbook" className="mb-1 flex flex-wrap gap-1">
          {sheets.map((s, i) => (
            <button
              key={s.name}
              type="button"
              aria-pressed={i === at}
              onClick={() => setAt(i)}
              className={`button h-7 px-2 ${i === at ? 'font-semibold' : ''}`}
            >
              {s.name}
            </button>
          ))}
        </fieldset>
      )}
      <div
        // biome-ignore lint/a11y/noNoninteractiveTabindex: what is larger than its frame is moved about by keys
        tabIndex={0}
        className="min-h-0 flex-1 overflow-auto border border-rule bg-sheet"
      >
        <table aria-label={sheet.name} className="text-[13px]">
          <tbody>
            {sheet.rows.map((row, r) => (
              // A row of a sheet is known by its place, which nothing changes.
              // biome-ignore lint/suspicious/noArrayIndexKey: see above
              <tr key={r} className="border-b border-hair">
                <th scope="row" className="sticky left-0 bg-paper px-2 text-right font-normal text-faint">
                  {r + 1}
                </th>
                {Array.from({ length: columns }, (_, c) => (
                  <td
                    // biome-ignore lint/suspicious/noArrayIndexKey: see above
                    key={c}
                    className={`px-2 whitespace-nowrap ${/^-?[\d.,]+$/.test(row[c] ?? '') ? 'text-right tabular-nums' : ''}`}
                  >
                    {row[c]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
        {sheet.more && <p className="p-2 text-soft">There is more; save the file to see all of it.</p>}
      </div>
    </>
  );
}
