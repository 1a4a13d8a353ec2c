import { later } from '../../parts/later';
import type { SheetAt, SheetFeature } from './feature';

const MarksPanel = later(() => import('../../panels/MarksPanel').then((m) => m.MarksPanel));

const rowsOf = ({ model }: SheetAt): readonly number[] => model.standingOut ?? [];

/** To the next or the former row that stands out, round and round. */
function walk(sheet: SheetAt, way: 1 | -1): void {
  const rows = rowsOf(sheet);
  if (rows.length === 0) return void sheet.say('No row of this sheet stands out by the rules of the workspace.');
  const { row } = sheet.focus;
  const next = way === 1 ? rows.find((i) => i > row) : rows.findLast((i) => i < row);
  sheet.focusRow(next ?? (rows.at(way === 1 ? 0 : -1) as number));
}

/** Rows that stand out by the rules of the workspace: counted, listed, walked. */
export const standsOut: SheetFeature = {
  name: 'stands out',
  keys: [
    { key: 'm', says: 'next and previous row that stands out', run: (s) => walk(s, 1) },
    { key: 'M', says: { with: 'm' }, run: (s) => walk(s, -1) },
  ],
  tool: (s) => {
    const { length } = rowsOf(s);
    return (
      length > 0 && (
        <button
          type="button"
          className="cursor-pointer whitespace-nowrap text-warn hover:underline"
          title="Rows that stand out by the rules of the workspace, each with why (m goes to the next)"
          onClick={() => s.toggle('stands out')}
        >
          ! {length} {length === 1 ? 'stands' : 'stand'} out
        </button>
      )
    );
  },
  panel: (s) => (
    <MarksPanel
      model={s.model}
      rows={[...rowsOf(s)]}
      focused={s.focus.row}
      onFocus={s.focusRow}
      onClose={() => s.close('stands out')}
    />
  ),
};
