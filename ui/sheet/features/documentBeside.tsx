import { turn } from '../../documents/paper/turning';
import { later } from '../../parts/later';
import { documentStep } from '../../screens/steps';
import type { SheetAt, SheetFeature } from './feature';

const DocumentBeside = later(() => import('../../panels/DocumentBeside').then((m) => m.DocumentBeside));

const NAME = 'document beside';

const turns = (way: Parameters<typeof turn>[0]) => (s: SheetAt) => {
  if (!turn(way)) s.say('There is no page to turn; v shows the document of a line.');
};

/** The document of the focused line beside the sheet; it follows the focus, and its pages turn by keys. */
export const documentBeside: SheetFeature = {
  name: NAME,
  keys: [
    {
      key: 'v',
      says: 'the document of the focused line beside the sheet',
      run: (s) => {
        s.close('lines beside');
        s.toggle(NAME);
        requestAnimationFrame(() => s.focusRow(s.focus.row));
      },
    },
    { key: '>', says: 'its next page and the one before', run: turns('next') },
    { key: '<', says: { with: '>' }, run: turns('previous') },
    { key: '+', says: 'it larger and smaller', run: turns('larger') },
    { key: '-', says: { with: '+' }, run: turns('smaller') },
  ],
  beside: (s) => {
    const paper = s.focused?.paper ?? null;
    return (
      <DocumentBeside
        paper={paper}
        label={s.row?.label ?? ''}
        onOpen={() => paper && s.step(documentStep(paper.entity, paper.number))}
        onClose={() => s.close(NAME)}
      />
    );
  },
};
