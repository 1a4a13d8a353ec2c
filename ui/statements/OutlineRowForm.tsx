'use client';

import type { OutlineRow } from '@/core/statement';
import { Labelled } from '../parts/Place';
import { Select } from '../parts/Select';
import { RowMembers } from './RowMembers';
import { named, RowNames } from './RowNames';
import type { Takes } from './useTakes';

interface Props {
  row: OutlineRow;
  rows: readonly OutlineRow[];
  takes: Takes | null;
  onChange(row: OutlineRow): void;
}

/** What one row of an outline is: its words, what it takes or adds up, and how it is shown. */
export function OutlineRowForm({ row, rows, takes, onChange }: Props) {
  const pickable = rows.filter((r) => r.key !== row.key && r.is !== 'caption' && r.is !== 'ratio');
  return (
    <section aria-label={`Row ${row.label}`} className="border border-rule bg-sheet p-3">
      <div className="flex flex-wrap items-end gap-3">
        <Labelled label="Label">
          <input
            value={row.label}
            onChange={(event) => onChange({ ...row, label: event.target.value })}
            className="field w-[250px]"
          />
        </Labelled>
        <Labelled label="Indent">
          <Select
            value={row.depth}
            onChange={(event) => onChange({ ...row, depth: Number(event.target.value) })}
            className="field"
          >
            {[0, 1, 2, 3].map((d) => (
              <option key={d} value={d}>
                {d === 0 ? 'none' : `${d} ${d === 1 ? 'step' : 'steps'}`}
              </option>
            ))}
          </Select>
        </Labelled>
        {'emphasis' in row || row.is === 'formula' || row.is === 'result' ? (
          <Labelled label="Shown as">
            <Select
              value={('emphasis' in row && row.emphasis) || ''}
              onChange={(event) => {
                const { emphasis: _former, ...rest } = row as Extract<OutlineRow, { is: 'formula' }>;
                onChange((event.target.value ? { ...rest, emphasis: event.target.value } : rest) as OutlineRow);
              }}
              className="field"
            >
              <option value="">a plain row</option>
              <option value="subtotal">a subtotal</option>
              <option value="total">a total</option>
            </Select>
          </Labelled>
        ) : null}
        {row.is === 'accounts' && (
          <Labelled label="Positive when">
            <Select
              value={row.sign}
              onChange={(event) => onChange({ ...row, sign: event.target.value as 'debit' | 'credit' })}
              className="field"
            >
              <option value="debit">debit (assets, expense)</option>
              <option value="credit">credit (income, liabilities, equity)</option>
            </Select>
          </Labelled>
        )}
      </div>
      {row.is === 'accounts' && (
        <div className="mt-3">
          <Labelled label="Accounts" wide>
            <textarea
              value={row.accounts}
              onChange={(event) => onChange({ ...row, accounts: event.target.value })}
              rows={2}
              placeholder="4000 to 4999, 52*, type expense, group Vessel running, except 5210"
              className="field h-auto w-full py-1"
              aria-label="Accounts"
              aria-describedby="takes"
            />
          </Labelled>
          <RowMembers row={row} onChange={onChange} />
          <div id="takes" role="status" className="mt-1 text-[13px]">
            {takes?.fault && <p className="text-warn">{takes.fault}</p>}
            {takes && !takes.fault && (
              <>
                <p className="text-soft">
                  Takes {takes.accounts.length} {takes.accounts.length === 1 ? 'account' : 'accounts'}
                </p>
                <ul className="max-h-[220px] overflow-auto">
                  {takes.accounts.map((a) => (
                    <li key={a.code}>
                      <span className="text-faint">{a.code}</span> {a.name}
                      {takes.twice.has(a.code) && <span className="text-warn"> also in another row</span>}
                    </li>
                  ))}
                </ul>
              </>
            )}
          </div>
        </div>
      )}
      {row.is === 'formula' && (
        <fieldset className="mt-3">
          <legend className="mb-1 text-[12.5px] text-soft">Rows that it adds up or takes away</legend>
          <ul className="max-h-[320px] overflow-auto border border-hair">
            {pickable.map((r) => {
              const times = row.terms.find((t) => t.row === r.key)?.times ?? 0;
              return (
                <li key={r.key} className="flex items-center gap-3 px-2 py-[2px]">
                  <Select
                    aria-label={`${r.label} counts`}
                    value={times}
                    onChange={(event) => {
                      const next = Number(event.target.value);
                      const rest = row.terms.filter((t) => t.row !== r.key);
                      onChange({ ...row, terms: next === 0 ? rest : [...rest, { row: r.key, times: next as 1 | -1 }] });
                    }}
                    className="field h-7 w-[92px]"
                  >
                    <option value={0}>–</option>
                    <option value={1}>plus</option>
                    <option value={-1}>less</option>
                  </Select>
                  {r.label}
                </li>
              );
            })}
          </ul>
        </fieldset>
      )}
      {row.is === 'ratio' && (
        <div className="mt-3 flex flex-wrap items-end gap-3">
          {(['over', 'under'] as const).map((name) => (
            <Labelled key={name} label={name === 'over' ? 'This row' : 'over this one'}>
              <Select
                value={row[name]}
                onChange={(event) => onChange({ ...row, [name]: event.target.value })}
                className="field"
              >
                {pickable.map((r) => (
                  <option key={r.key} value={r.key}>
                    {r.label}
                  </option>
                ))}
              </Select>
            </Labelled>
          ))}
        </div>
      )}
      {row.is === 'result' && (
        <p className="mt-3 text-soft">
          Income less expense: of the window on an income statement, of the year so far on a balance sheet.
        </p>
      )}
      <RowNames names={row.names ?? {}} label={row.label} onChange={(names) => onChange(named(row, names))} />
    </section>
  );
}
