'use client';

import type { Entities } from '@/contracts/answers/charts';
import type { ReadableFile } from '@/contracts/answers/loads';
import type { Mapping } from '@/contracts/mapping';
import { Select } from '../parts/Select';

interface Props {
  seen: ReadableFile;
  own: boolean;
  mapping: Mapping | null;
  dimensions: Entities['dimensions'];
  onChange(mapping: Mapping): void;
}

/** Rows of the file that are shown under the column names. */
const ROWS = 6;

/** The first rows as they are, with what each column is taken for; a choice in the head changes it. */
export function ColumnTable({ seen, own, mapping, dimensions, onChange }: Props) {
  const fieldOf = (column: string): string => {
    if (own) return column;
    const fields = Object.entries(mapping?.columns ?? {});
    // A column may be a field of its own, and a part of the entry number as well.
    const found =
      fields.find(([, of]) => of === column) ?? fields.find(([, of]) => Array.isArray(of) && of.includes(column));
    return found?.[0] ?? '';
  };
  const put = (column: string, field: string): void => {
    const columns: NonNullable<Mapping['columns']> = {};
    const before = own ? Object.fromEntries(seen.header.map((h) => [h, h])) : (mapping?.columns ?? {});
    for (const [name, of] of Object.entries(before)) {
      const rest = (Array.isArray(of) ? of : [of]).filter((c) => c !== column);
      if (rest.length > 0) columns[name] = rest.length === 1 ? (rest[0] as string) : rest;
    }
    // A second column for the entry number joins the first: numbers within a journal are unique together only.
    if (field === 'entry' && columns.entry)
      columns.entry = [...(Array.isArray(columns.entry) ? columns.entry : [columns.entry]), column];
    else if (field !== '') columns[field] = column;
    onChange({ ...mapping, columns });
  };
  const needed = new Set([...seen.fields.required, ...seen.fields.anyOf.flat()]);
  const option = (f: string) => (
    <option key={f} value={f}>
      {f.replaceAll('_', ' ')}
    </option>
  );
  const guessed = new Map(seen.columns.map((c) => [c.name, c.guess]));
  return (
    <section aria-label="Columns" className="mt-4">
      <h2 className="font-book text-[18px] font-semibold">What each column is</h2>
      <p className="mb-2 text-soft">
        {own
          ? 'The columns bear our own names; nothing needs to be said.'
          : seen.offered[0] && JSON.stringify(mapping?.columns) === JSON.stringify(seen.offered[0].mapping.columns)
            ? `Read with the mapping “${seen.offered[0].name}”, which was kept for files of this shape.`
            : 'Guessed by name and by what stands in the column. Columns without a meaning are left out.'}
      </p>
      {/* biome-ignore lint/a11y/noNoninteractiveTabindex: a region that scrolls is reached by keyboard */}
      <section className="overflow-x-auto border border-rule bg-sheet" tabIndex={0} aria-label="First rows of the file">
        <table className="min-w-full">
          <caption className="sr-only">First rows of the file</caption>
          <thead>
            <tr className="text-left">
              {seen.header.map((name) => {
                const field = fieldOf(name);
                return (
                  <th key={name} scope="col" className="min-w-[120px] px-2 pt-2 pb-1 font-normal first:pl-3">
                    <Select
                      aria-label={`Column ${name} is`}
                      value={field}
                      onChange={(event) => put(name, event.target.value)}
                      className={`field h-7 w-full px-1 text-[13px] ${field === '' ? 'text-faint' : 'font-semibold'}`}
                    >
                      <option value="">left out</option>
                      <optgroup label="needed">{seen.fields.known.filter((f) => needed.has(f)).map(option)}</optgroup>
                      <optgroup label="may be there">
                        {seen.fields.known.filter((f) => !needed.has(f)).map(option)}
                      </optgroup>
                      {seen.fields.prefixes.includes('dim:') &&
                        dimensions.map((d) => (
                          <option key={d.code} value={`dim:${d.code}`}>
                            {d.name}
                          </option>
                        ))}
                      {field !== '' &&
                        !seen.fields.known.includes(field) &&
                        !dimensions.some((d) => `dim:${d.code}` === field) && <option value={field}>{field}</option>}
                    </Select>
                    <span className="mt-1 block truncate text-[12.5px] text-soft" title={name}>
                      {name}
                      {!own && field !== '' && guessed.get(name)?.field === field && (
                        <span className="text-faint">
                          {' '}
                          by {guessed.get(name)?.why === 'name' ? 'its name' : 'its values'}
                        </span>
                      )}
                    </span>
                  </th>
                );
              })}
            </tr>
          </thead>
          <tbody>
            {seen.rows.slice(0, ROWS).map((row) => (
              <tr key={row.row} className="border-t border-hair">
                {seen.header.map((name, i) => (
                  <td
                    key={name}
                    className={`max-w-[240px] truncate px-2 py-[3px] first:pl-3 ${fieldOf(name) === '' ? 'text-faint' : ''}`}
                  >
                    {row.cells[i]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </section>
    </section>
  );
}
