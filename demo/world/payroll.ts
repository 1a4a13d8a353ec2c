import { addDays } from '@/core/dates';
import { VESSELS } from '../dimensions';
import type { DemoEntry } from '../entry';
import type { Books } from './books';
import type { Month } from './time';

/** Crew and shore pay by cost centre; from May 2026 the rate of one cost centre steps up with no new staff. */
export function* payroll(books: Books, month: Month): Generator<DemoEntry> {
  const date = addDays(month.last, -3);
  const summer = month.month >= 5 && month.month <= 9 ? 1.18 : 1;
  const crews: [DemoEntry['entity'], string, string, number, number][] = [
    ...VESSELS.flatMap((v): [DemoEntry['entity'], string, string, number, number][] => [
      ['KSF', `DK-${v.slice(0, 3)}`, '7010', 9, 318_000],
      ['KSF', `EN-${v.slice(0, 3)}`, '7010', 5, 352_000],
    ]),
    ['KSF', 'SH-HAR', '7110', 14, 262_000],
    ['KSF', 'SH-ISL', '7110', 11, 258_000],
    ['KSF', 'COM-TKT', '7111', 9, 241_000],
    ['KSF', 'COM-FRT', '7111', 4, 268_000],
    ['KSF', 'COM-CAF', '7111', 16, 214_000],
    ['KSF', 'ADM-FIN', '7111', 6, 334_000],
    ['KSF', 'ADM-HR', '7111', 3, 318_000],
    ['KSF', 'ADM-IT', '7111', 4, 362_000],
    ['KSF', 'ADM-MD', '7111', 2, 690_000],
    ['STL', 'TRM-HAR', '7110', 12, 238_000],
    ['STL', 'TRM-BRE', '7110', 5, 236_000],
    ['STL', 'TRM-TOL', '7110', 5, 236_000],
    ['STL', 'TRM-LIN', '7110', 4, 236_000],
    ['NHS', 'YD-DOCK', '7112', 18, 4_480_000],
    ['NHS', 'YD-STEEL', '7112', 11, 4_620_000],
    ['NHS', 'YD-ENG', '7112', 9, 4_790_000],
  ];
  for (const [entity, costcentre, account, heads, rate] of crews) {
    const stepped = costcentre === 'SH-HAR' && month.first >= '2026-05-01' ? 1.11 : 1;
    const raise = 1 + 0.03 * (month.year - 2024 + (month.month >= 4 ? 0 : -1));
    const gross = Math.round(heads * rate * raise * stepped * (account === '7010' ? summer : 1));
    const pension = Math.round(gross * 0.06);
    const social = Math.round(gross * 0.12);
    const tax = Math.round(gross * 0.24);
    const shore = account !== '7010';
    const dims = { costcentre };
    yield {
      ...{
        entity,
        number: books.next(`PY-${entity}`),
        date,
        journal: 'PY',
        description: `Payroll ${costcentre}`,
        postedBy: 'payroll',
      },
      lines: [
        { account, amount: gross, dims, quantity: [heads, 'people'] },
        { account: shore ? '7120' : '7020', amount: pension, dims },
        { account: shore ? '7130' : '7030', amount: social, dims },
        { account: '2311', amount: -(tax + social) },
        { account: '2312', amount: -pension },
        { account: '2313', amount: -(gross - tax) },
      ],
    };
  }
  for (const entity of ['KSF', 'STL', 'NHS'] as const) {
    yield books.manual(entity, addDays(month.last, -1), 'Pay and deductions paid', [], 'payroll');
  }
}
