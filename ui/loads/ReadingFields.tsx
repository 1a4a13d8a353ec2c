'use client';

import type { ReadableFile, Recognised } from '@/contracts/answers/loads';
import { ENCODINGS, type Reading } from '@/contracts/mapping';
import { Labelled } from '../parts/Place';
import { Select } from '../parts/Select';

const DATES: Record<string, string> = { ymd: 'year, month, day', dmy: 'day, month, year', mdy: 'month, day, year' };
const DELIMITERS: Record<string, string> = { ',': 'comma', ';': 'semicolon', '\t': 'tab', '|': 'bar' };

/** How the characters are read: recognised, shown with the reason, and changeable. What can be read two ways is asked. */
export function ReadingFields({ seen, onChange }: { seen: ReadableFile; onChange(reading: Partial<Reading>): void }) {
  const { reading, recognised } = seen;
  return (
    <>
      {seen.members.length > 1 && (
        <Labelled label="File in the zip">
          <Select
            value={reading.member}
            onChange={(event) => onChange({ member: event.target.value })}
            className="field max-w-[220px]"
          >
            {seen.members.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </Select>
        </Labelled>
      )}
      {seen.sheets.length > 1 && (
        <Labelled label="Sheet">
          <Select value={reading.sheet} onChange={(event) => onChange({ sheet: event.target.value })} className="field">
            {seen.sheets.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </Select>
        </Labelled>
      )}
      {recognised.encoding && (
        <Labelled label="Encoding">
          <Select
            value={reading.encoding}
            onChange={(event) => onChange({ encoding: event.target.value as Reading['encoding'] })}
            className="field"
            title={recognised.encoding.why}
          >
            {ENCODINGS.map((name) => (
              <option key={name}>{name}</option>
            ))}
          </Select>
        </Labelled>
      )}
      {reading.delimiter && (
        <Labelled label="Delimiter">
          <Select
            value={reading.delimiter}
            onChange={(event) => onChange({ delimiter: event.target.value as Reading['delimiter'] })}
            className="field"
          >
            {Object.entries(DELIMITERS).map(([value, word]) => (
              <option key={value} value={value}>
                {word}
              </option>
            ))}
          </Select>
        </Labelled>
      )}
      {reading.delimiter && (
        <Labelled label="Quotation marks">
          <Select
            value={reading.quotes ?? 'around fields'}
            onChange={(event) => onChange({ quotes: event.target.value as Reading['quotes'] })}
            className="field"
          >
            <option>around fields</option>
            <option value="letters">letters of a text</option>
          </Select>
        </Labelled>
      )}
      <Asked
        label="Dates"
        words={DATES}
        recognised={recognised.dates}
        onChange={(dates) => onChange({ dates: dates as Reading['dates'] })}
      />
      <Asked
        label="Decimal mark"
        words={{ '.': 'point', ',': 'comma' }}
        recognised={recognised.decimal}
        onChange={(decimal) => onChange({ decimal: decimal as Reading['decimal'] })}
      />
      {seen.format !== 'json' && (
        <Labelled label="Header row">
          <input
            key={reading.headerRow}
            type="number"
            min={1}
            max={200}
            defaultValue={reading.headerRow}
            onBlur={(event) =>
              Number(event.target.value) !== reading.headerRow && onChange({ headerRow: Number(event.target.value) })
            }
            className="field w-[74px]"
          />
        </Labelled>
      )}
    </>
  );
}

function Asked({
  label,
  words,
  recognised,
  onChange,
}: {
  label: string;
  words: Record<string, string>;
  recognised: Recognised;
  onChange(value: string): void;
}) {
  const asks = recognised.doubt === 'ask';
  return (
    <Labelled label={asks ? `${label}: please say` : label}>
      <Select
        value={asks ? '' : recognised.value}
        onChange={(event) => onChange(event.target.value)}
        className={`field ${asks ? 'border-warn' : ''}`}
        title={recognised.why}
        aria-invalid={asks}
      >
        {asks && <option value="">which?</option>}
        {Object.entries(words).map(([value, word]) => (
          <option key={value} value={value}>
            {word}
          </option>
        ))}
      </Select>
    </Labelled>
  );
}
