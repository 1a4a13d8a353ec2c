import { scopeAt } from '../../address/address';
import { later } from '../../parts/later';
import type { SheetAt, SheetFeature } from './feature';

const CorrectDialog = later(() => import('../../proposals/CorrectDialog').then((m) => m.CorrectDialog));

const NAME = 'correct';

interface Wrong {
  scope: string | null;
  lines: string[];
  label: string;
  entity: string;
}

/** What is wrong: the chosen lines, the focused one, or all lines of the focused figure; of one company. */
function wrongHere(s: SheetAt): Wrong | null {
  const rows = s.several?.rows ?? (s.row ? [s.row] : []);
  const lines = rows.flatMap((r) => (r.subject && /^(line|entry):/.test(r.subject) ? [r.subject] : []));
  if (lines.length > 0 && lines.length === rows.length) {
    const entity = /^[a-z]+:([^/]+)\//.exec(lines[0] as string)?.[1] ?? '';
    return { scope: null, lines, label: rows[0]?.label ?? '', entity };
  }
  const figure = s.several ? s.several.together : s.row;
  if (!figure) return null;
  const address = figure.subject?.startsWith('figure:')
    ? new URLSearchParams(figure.subject.slice('figure:'.length))
    : figure.put
      ? s.scopeOfRow
      : scopeAt(s.screen, s.depth);
  const scope = new URLSearchParams(address);
  scope.delete('load');
  const entities = scope.getAll('entity');
  if (entities.length !== 1) return null;
  return { scope: scope.toString(), lines: [], label: figure.label, entity: entities[0] as string };
}

/** What is wrong is put right where it was seen, by an entry that is proposed. */
export const correct: SheetFeature = {
  name: NAME,
  keys: [
    {
      key: 'C',
      says: 'propose to put the focused line right, the chosen ones, or all lines of a figure',
      run: (s) => {
        if (s.me.role === 'reader') return s.say('A reader proposes no entries; ask a preparer.');
        if (wrongHere(s) === null)
          return s.say('An entry is proposed for lines of one company; go down to one of them.');
        s.open(NAME);
      },
    },
  ],
  dialog: (s) => {
    const wrong = wrongHere(s);
    return wrong ? (
      <CorrectDialog
        {...wrong}
        address={s.address}
        thread={s.thread}
        onClose={() => {
          s.close(NAME);
          setTimeout(s.focusCell, 50);
        }}
      />
    ) : null;
  },
};
