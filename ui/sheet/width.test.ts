import { expect, test } from 'vitest';
import { widestOf } from './width';

const columns = (...widths: string[]) => widths.map((width) => ({ width }));
const AMOUNT = 'minmax(104px, 130px)';

test('a sheet is as wide as its columns need: words grow to a limit, amounts have their width', () => {
  expect(widestOf(columns('minmax(220px, 1fr)', AMOUNT, AMOUNT, AMOUNT))).toBe(440 + 3 * 130 + 14);
  // Never narrower than the tools above it, however few its columns are.
  expect(widestOf(columns('minmax(120px, 1fr)', '90px'))).toBe(720);
  // A column that somebody made as wide as they like is that wide.
  expect(widestOf(columns('900px', AMOUNT))).toBe(900 + 130 + 14);
  expect(widestOf(columns('minmax(400px, 1fr)', AMOUNT, '72px', '300px'))).toBe(460 + 130 + 72 + 300 + 14);
});
