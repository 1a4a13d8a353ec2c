import { addDays } from '@/core/dates';
import { allot } from '@/core/money';
import { ROUTES } from './dimensions';
import { money } from './entry';
import { Random } from './random';
import { demoWorld } from './world/demoWorld';

/** Day after the last that the demo world's files hold. */
const FIRST_DAY = '2026-10-01';

/** What the demo's source ledger books on the n-th day after the files end: the fares of every route, and bank charges. */
export function demoFeedDay(n: number): { [field: string]: string }[] {
  const random = new Random(90_000 + n);
  const date = addDays(FIRST_DAY, n - 1);
  const lines: { [field: string]: string }[] = [];
  const entry = (
    id: string,
    header: string,
    source: string,
    legs: { account: string; amount: number; dims?: { [segment: string]: string } }[],
  ): void => {
    for (const [i, { account, amount, dims }] of legs.entries()) {
      lines.push({
        Journal_ID: id,
        Journal_ID_Line_Number: String(i + 1),
        JE_Header_Description: header,
        JE_Line_Description: header,
        Source: source,
        Business_Unit_Code: 'KSF',
        Effective_Date: date,
        GL_Account_Number: account,
        Amount: money(Math.abs(amount)),
        Amount_Credit_Debit_Indicator: amount < 0 ? 'C' : 'D',
        Amount_Currency: 'GBP',
        Entered_By: 'ticketing',
        Entered_Date: date,
        ...dims,
      });
    }
  };
  const day = String(n).padStart(4, '0');
  for (const route of ROUTES) {
    const total = random.around(route.fares * 0.8, 0.18);
    const [foot, cars, cafe] = allot(total, [520, 360, 120]) as [number, number, number];
    const cash = Math.round(total * 0.07);
    // Segments are the dimension slots in the order in which the demo's dimensions were loaded.
    const dims = { Segment02: route.vessel, Segment03: route.code };
    entry(`FD-KSF-${day}-${route.code}`, `Ticket sales ${route.name}`, 'TS', [
      { account: '1510', amount: total - cash },
      { account: '1512', amount: cash },
      { account: '4110', amount: -foot, dims },
      { account: '4112', amount: -cars, dims },
      { account: '4120', amount: -cafe, dims },
    ]);
  }
  const charge = random.whole(1_200, 4_800);
  entry(`FD-KSF-${day}-CARD`, 'Card charges of the day', 'BK', [
    { account: '8213', amount: charge, dims: { Segment01: 'COM-TKT' } },
    { account: '1510', amount: -charge },
  ]);
  return lines;
}

/** An entry that the demo's files hold, as its source ledger shows it; none where the ferries have no such entry. */
export function demoFeedEntry(number: string): { [field: string]: string }[] {
  for (const entry of demoWorld()) {
    if (entry.entity !== 'KSF' || entry.number !== number) continue;
    return entry.lines.map((line, i) => ({
      Journal_ID: number,
      Journal_ID_Line_Number: String(i + 1),
      JE_Line_Description: line.description ?? entry.description,
      Effective_Date: entry.date,
      GL_Account_Number: line.account,
      Amount: money(Math.abs(line.amount)),
      Amount_Credit_Debit_Indicator: line.amount < 0 ? 'C' : 'D',
      Amount_Currency: 'GBP',
      Entered_By: entry.postedBy,
    }));
  }
  return [];
}
