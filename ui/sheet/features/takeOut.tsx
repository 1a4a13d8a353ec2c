import { later } from '../../parts/later';
import type { SheetFeature } from './feature';

const TakeOutDialog = later(() => import('../../leaving/TakeOutDialog').then((m) => m.TakeOutDialog));

export const takeOut: SheetFeature = {
  name: 'take out',
  keys: [
    {
      key: 'O',
      says: 'take the sheet out: as a spreadsheet, on paper, as text',
      run: (s) =>
        s.model.path ? s.open('take out') : s.say('This sheet does not leave by itself; take out its lines.'),
    },
  ],
  tool: (s) =>
    s.model.path && (
      <button
        type="button"
        title="As a spreadsheet, on paper, as text (O)"
        className="cursor-pointer hover:text-ink"
        onClick={() => s.open('take out')}
      >
        Take out
      </button>
    ),
  dialog: (s) =>
    s.model.path && (
      <TakeOutDialog path={s.model.path} page={s.address} label={s.model.label} onClose={() => s.close('take out')} />
    ),
};
