import { scopeAt } from '../../address/address';
import { MEASURE } from '../../address/measures';
import { amountText, countText } from '../../amounts';
import { later } from '../../parts/later';
import { columnWord } from '../columnWord';
import type { SheetAt, SheetFeature } from './feature';

const TickPalette = later(() => import('../../evidence/TickPalette').then((m) => m.TickPalette));
const AttachDialog = later(() => import('../../evidence/AttachDialog').then((m) => m.AttachDialog));
const SampleDialog = later(() => import('../../samples/SampleDialog').then((m) => m.SampleDialog));
const RunDialog = later(() => import('../../tests/RunDialog').then((m) => m.RunDialog));
const ExpectationDialog = later(() => import('../../expectations/ExpectationDialog').then((m) => m.ExpectationDialog));
const FindingDialog = later(() => import('../../evidence/FindingDialog').then((m) => m.FindingDialog));

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

/** What is ticked, attached to or written about: the chosen rows, or the focused one. */
export const meant = (s: SheetAt): { subject: string; label: string }[] =>
  (s.several?.rows ?? (s.row ? [s.row] : [])).flatMap((row) =>
    row.subject ? [{ subject: row.subject, label: row.label }] : [],
  );

export const note: SheetFeature = {
  name: 'note',
  keys: [{ key: 'n', says: 'note on the focused row', run: (s) => s.write('note') }],
};

export const pin: SheetFeature = {
  name: 'pin',
  keys: [{ key: 'p', says: 'pin the focused figure', run: (s) => void pinFocused(s) }],
};

export const ticks: SheetFeature = {
  name: 'ticks',
  keys: [
    {
      key: 't',
      says: 'tick the focused row, or all that are chosen; T goes to the next row that is not ticked',
      run: (s) => {
        if (s.me.role === 'reader') return s.say('A reader does not tick; ask a preparer.');
        if (meant(s).length === 0) return s.say('There is nothing here that could be ticked.');
        s.open('ticks');
      },
    },
    { key: 'T', says: { with: 't' }, run: (s) => s.nextUnticked() },
  ],
  dialog: (s) => (
    <TickPalette
      subjects={meant(s)}
      measure={s.cell?.measure ?? MEASURE[s.column] ?? null}
      address={s.address}
      thread={s.thread}
      onDone={(said) => {
        s.close('ticks');
        if (said) s.say(said);
        // The dialog gives the focus back as it goes; the sheet has it after that.
        setTimeout(s.focusCell, 50);
      }}
    />
  ),
};

export const review: SheetFeature = {
  name: 'review',
  keys: [
    {
      key: 'R',
      says: 'raise a review point on the focused row',
      run: (s) =>
        s.me.role === 'reviewer' || s.me.role === 'owner'
          ? s.write('point')
          : s.say('Only reviewers and owners raise review points; write a note with n.'),
    },
  ],
};

export const question: SheetFeature = {
  name: 'question',
  keys: [{ key: 'q', says: 'ask a colleague about the focused row', run: (s) => s.write('question') }],
};

export const attach: SheetFeature = {
  name: 'attach',
  keys: [
    {
      key: 'A',
      says: 'attach a file to the focused row; or drop or paste one on it',
      run: (s) => (meant(s).length === 0 ? s.say('There is nothing here to attach a file to.') : s.open('attach')),
    },
  ],
  dialog: (s) => {
    const [about] = meant(s);
    return about ? (
      <AttachDialog about={about} address={s.address} thread={s.thread} onClose={() => s.close('attach')} />
    ) : null;
  },
};

/** The figure that a sample would be drawn of: that of the focused row, or of a sheet of lines all of it. */
function sampledFigure(s: SheetAt): { scope: string; label: string } | null {
  if (s.row?.subject?.startsWith('figure:')) return { scope: s.row.subject, label: s.row.label };
  // Above the first line of a ledger stands what it opened with, which is no line.
  const line = s.row?.subject ?? s.model.rowAt(s.focus.row + 1)?.subject;
  if (!line?.startsWith('line:')) return null;
  const scope = scopeAt(s.screen, s.depth);
  scope.delete('load');
  return { scope: `figure:${scope}`, label: s.screen.steps.at(-1)?.label ?? 'these lines' };
}

export const expectation: SheetFeature = {
  name: 'expectation',
  keys: [
    {
      key: 'E',
      says: 'say what the focused figure should be, and have the difference explained',
      run: (s) => {
        if (s.me.role === 'reader') return s.say('A reader states no expectations; ask a preparer.');
        if (s.cell === null) return s.say('This column is calculated from other figures; say it of one of those.');
        if (!s.several && s.row?.subject?.startsWith('figure:')) return s.open('expectation');
        s.say('There is no figure here that could be expected to be something.');
      },
    },
  ],
  dialog: (s) => {
    const [about] = meant(s);
    return about ? (
      <ExpectationDialog
        about={about}
        measure={s.measure}
        address={s.address}
        thread={s.thread}
        onClose={() => {
          s.close('expectation');
          setTimeout(s.focusCell, 50);
        }}
      />
    ) : null;
  },
};

export const sample: SheetFeature = {
  name: 'sample',
  keys: [
    {
      key: 'S',
      says: 'draw a sample of the focused figure, or of a sheet of lines; rows that are chosen can be the sample',
      run: (s) => {
        if (s.me.role === 'reader') return s.say('A reader draws no samples; ask a preparer.');
        if (sampledFigure(s) === null) return s.say('There is no figure here that a sample could be drawn of.');
        s.open('sample');
      },
    },
  ],
  dialog: (s) => {
    const of = sampledFigure(s);
    const chosen = (s.several?.rows ?? []).flatMap((row) => (row.subject?.startsWith('line:') ? [row.subject] : []));
    return of ? (
      <SampleDialog {...of} chosen={chosen} address={s.address} thread={s.thread} onClose={() => s.close('sample')} />
    ) : null;
  },
};

export const tests: SheetFeature = {
  name: 'tests',
  keys: [
    {
      key: 'U',
      says: 'look for what is unusual: tests over the focused figure, or over a sheet of lines',
      run: (s) => {
        if (s.me.role === 'reader') return s.say('A reader runs no tests; ask a preparer.');
        if (sampledFigure(s) === null) return s.say('There is no figure here that tests could look over.');
        s.open('tests');
      },
    },
  ],
  dialog: (s) => {
    const of = sampledFigure(s);
    return of ? (
      <RunDialog
        {...of}
        address={s.address}
        thread={s.thread}
        onClose={() => s.close('tests')}
        onBegun={(id) => window.location.assign(`/tests/${id}`)}
      />
    ) : null;
  },
};

export const finding: SheetFeature = {
  name: 'finding',
  keys: [
    {
      key: 'F',
      says: 'write down a finding on the focused row, or on all that are chosen',
      run: (s) => {
        if (s.me.role === 'reader') return s.say('A reader writes no findings; ask a colleague with q.');
        if (meant(s).length === 0) return s.say('There is nothing here that a finding could be about.');
        s.open('finding');
      },
    },
  ],
  dialog: (s) => (
    <FindingDialog
      about={meant(s)}
      measure={s.cell?.measure ?? MEASURE[s.column] ?? 'closing'}
      address={s.address}
      thread={s.thread}
      onClose={() => s.close('finding')}
    />
  ),
};
