'use client';

import { Popover } from 'radix-ui';
import type { Scale } from '../amounts';

interface Props {
  options: Record<string, string>;
  languages: readonly string[];
  /** Whether balances may be in two columns. */
  sides?: boolean;
  onChange(name: 'amounts' | 'lang' | 'sides' | 'labels', value: string): void;
}

const SCALES: [string, string][] = [
  ['', 'to the last unit'],
  ['whole', 'without decimals'],
  ['thousands', 'in thousands'],
];

const SIDES: [string, string][] = [
  ['', 'in one column, credit in parentheses'],
  ['two', 'in debit and credit columns'],
];

const LABELS: [string, string][] = [
  ['', 'by code and name'],
  ['name', 'by name'],
  ['code', 'by code'],
];

export const scaleOf = (options: Record<string, string>): Scale =>
  options.amounts === 'whole' || options.amounts === 'thousands' ? options.amounts : 'exact';

/** Said beside the currency, so that nobody takes thousands for pounds. */
export const scaleWord = (options: Record<string, string>): string =>
  options.amounts === 'thousands' ? ', thousands' : '';

/** How figures and names are shown; what they are does not change. */
export function ViewChoice({ options, languages, sides = false, onChange }: Props) {
  const scale = SCALES.find(([key]) => key === (options.amounts ?? ''))?.[1] ?? '';
  const names: [string, string][] = [
    ['', 'in the books’ own language'],
    ...languages.map((l): [string, string] => [l, languageName(l)]),
  ];
  return (
    <Popover.Root>
      <Popover.Trigger className="cursor-pointer whitespace-nowrap hover:text-ink">
        <span className="text-faint">Shown</span>{' '}
        <span className="underline decoration-faint underline-offset-4">
          {scale}
          {options.lang ? `, ${options.lang}` : ''}
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="start" sideOffset={6} className="panel w-[240px] p-3 text-[14px]">
          {(
            [
              ['amounts', 'Amounts', SCALES],
              ...(sides ? ([['sides', 'Balances', SIDES]] as const) : []),
              ['labels', 'Accounts', LABELS],
              ['lang', 'Account names', names],
            ] as const
          ).map(([name, label, choices]) => (
            <fieldset key={name} className="mb-2">
              <legend className="mb-1 text-soft">{label}</legend>
              {choices.map(([key, text]) => (
                <label key={key} className="flex items-center gap-2 py-[2px]">
                  <input
                    type="radio"
                    name={name}
                    checked={(options[name] ?? '') === key}
                    onChange={() => onChange(name, key)}
                  />{' '}
                  {text}
                </label>
              ))}
            </fieldset>
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

const languageName = (code: string): string => new Intl.DisplayNames(['en'], { type: 'language' }).of(code) ?? code;
