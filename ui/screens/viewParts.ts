import type { Scale } from '../amounts';
import type { ViewPart } from './ViewSentence';

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
  ['', 'accounts by code and name'],
  ['name', 'accounts by name'],
  ['code', 'accounts by code'],
];

export const scaleOf = (options: Record<string, string>): Scale =>
  options.amounts === 'whole' || options.amounts === 'thousands' ? options.amounts : 'exact';

/** Said beside the currency, so that nobody takes thousands for pounds. */
export const scaleWord = (options: Record<string, string>): string =>
  options.amounts === 'thousands' ? ', thousands' : '';

/** How figures and names are shown; what they are does not change. */
export function viewParts(
  options: Record<string, string>,
  languages: readonly string[],
  onChange: (name: string, value: string) => void,
  sides = false,
): ViewPart[] {
  const part = (key: string, label: string, choices: [string, string][]): ViewPart => ({
    ...{ key, label, choices, usual: '', value: options[key] ?? '' },
    onChange: (value) => onChange(key, value),
  });
  return [
    part('amounts', 'Amounts', SCALES),
    ...(sides ? [part('sides', 'Balances', SIDES)] : []),
    part('labels', 'Accounts', LABELS),
    ...(languages.length > 0
      ? [
          part('lang', 'Names', [
            ['', 'in the books’ own language'],
            ...languages.map((l): [string, string] => [l, `in ${languageName(l)}`]),
          ]),
        ]
      : []),
  ];
}

const languageName = (code: string): string => new Intl.DisplayNames(['en'], { type: 'language' }).of(code) ?? code;
