import { MEASURE } from '../../address/measures';
import { amountText, countText } from '../../amounts';
import { columnWord } from '../columnWord';
import type { SheetAt, SheetFeature } from './feature';

async function pinFocused(s: SheetAt): Promise<void> {
  if (!s.row?.subject) return;
  if (s.me.role === 'reader') return s.say('A reader cannot pin evidence; ask a preparer.');
  if (s.cell === null) return s.say('This column is calculated from other figures; pin one of those.');
  const measure = s.cell?.measure ?? MEASURE[s.column] ?? 'closing';
  const named = columnWord(s.model, s.focus.column);
  try {
    const pin = await s.pin(s.row.subject, measure, `${s.row.label}, ${named}`);
    s.say(`Pinned ${amountText(pin.value)} with ${countText(pin.lines)} ${pin.lines === 1 ? 'line' : 'lines'}`);
  } catch (problem) {
    s.say((problem as Error).message);
  }
}

export const note: SheetFeature = {
  name: 'note',
  keys: [{ key: 'n', says: 'note on the focused row', run: (s) => s.writeNote() }],
};

export const pin: SheetFeature = {
  name: 'pin',
  keys: [{ key: 'p', says: 'pin the focused figure', run: (s) => void pinFocused(s) }],
};
