'use client';

import type { How } from '@/contracts/leaving';
import { Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import type { Wanted } from './how';

const PAPER_WORD: [string, string][] = [
  ['a4', 'A4'],
  ['a3', 'A3'],
  ['letter', 'Letter'],
  ['legal', 'Legal'],
];
const WAY_WORD: [string, string][] = [
  ['fitting', 'As the columns need it'],
  ['portrait', 'Upright'],
  ['landscape', 'Across'],
];
const DECIMALS_WORD: [string, string][] = [
  ['exact', 'To the last unit'],
  ['whole', 'Whole, without decimals'],
  ['thousands', 'In thousands'],
];
/** Languages in which numbers may be written on paper, by their tags (BCP 47); another can be asked of the interface. */
const LANGUAGE_WORD: [string, string][] = [
  ['', 'As you read them'],
  ...[
    'en-GB',
    'en-US',
    'de-DE',
    'de-CH',
    'fr-FR',
    'nl-NL',
    'nb-NO',
    'sv-SE',
    'da-DK',
    'fi-FI',
    'es-ES',
    'it-IT',
    'pl-PL',
  ].map((tag): [string, string] => [
    tag,
    `${tag}: ${new Intl.NumberFormat(tag, { minimumFractionDigits: 2 }).format(12_345.6)}`,
  ]),
];
const DETAIL_WORD: [string, string][] = [
  ['0', 'This sheet alone'],
  ['1', 'With one level behind each figure'],
  ['2', 'With two levels, down to the lines'],
];

/** What can be said of how a sheet leaves, as far as its format knows it. */
export function HowFields({
  wanted,
  onChange,
  titled,
}: {
  wanted: Wanted;
  onChange(wanted: Wanted): void;
  /** What it is called where nobody calls it otherwise. */
  titled: string;
}) {
  const put = (name: keyof How, value: string): void => onChange({ ...wanted, [name]: value });
  const choice = (name: keyof How, label: string, options: [string, string][]) => (
    <Labelled label={label}>
      <Select
        aria-label={label}
        value={wanted[name] ?? options[0]?.[0] ?? ''}
        className="w-[215px]"
        onChange={(event) => put(name, event.target.value)}
      >
        {options.map(([value, says]) => (
          <option key={value} value={value}>
            {says}
          </option>
        ))}
      </Select>
    </Labelled>
  );
  const tick = (name: keyof How, on: string, off: string, says: string) => (
    <label className="flex cursor-pointer items-baseline gap-2">
      <input
        type="checkbox"
        checked={wanted[name] === on || (wanted[name] === undefined && off === '')}
        onChange={(event) => put(name, event.target.checked ? on : off === '' ? 'without' : off)}
      />
      {says}
    </label>
  );
  const { format } = wanted;
  const paged = format === 'pdf' || format === 'xlsx';
  return (
    <>
      <Labelled label="Called" wide>
        <input
          value={wanted.title ?? ''}
          maxLength={200}
          placeholder={titled}
          className="field w-full"
          onChange={(event) => put('title', event.target.value)}
        />
      </Labelled>
      {format !== 'json' && (
        <Labelled label="At the foot" wide>
          <input
            value={wanted.footer ?? ''}
            maxLength={300}
            className="field w-full"
            onChange={(event) => put('footer', event.target.value)}
          />
        </Labelled>
      )}
      {paged && (
        <div className="flex flex-wrap gap-3">
          {choice('paper', 'Paper', PAPER_WORD)}
          {choice('orientation', 'Held', WAY_WORD)}
          {choice('decimals', 'Amounts', DECIMALS_WORD)}
          {format === 'pdf' && choice('language', 'Numbers written', LANGUAGE_WORD)}
        </div>
      )}
      {format === 'xlsx' && choice('details', 'How far', DETAIL_WORD)}
      {format === 'xlsx' && (wanted.details ?? '0') === '0' && (
        <p className="text-[12.5px] text-soft">
          What is behind the figures stays here: in the file each leads to the live ledger, for who may see it.
        </p>
      )}
      <div className="flex flex-col gap-1">
        {tick('heading', 'with', '', 'Headed by what it is, of what, by whom and as of when')}
        {paged && tick('letterhead', 'with', '', 'With the heading of the organisation, where it has one')}
        {tick('notes', 'with', 'without', 'Notes and ticks on its rows')}
        {format === 'xlsx' && tick('protect', 'yes', 'no', 'Locked and sealed, so that what is changed can be found')}
      </div>
    </>
  );
}
