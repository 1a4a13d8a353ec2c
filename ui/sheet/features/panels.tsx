import { changed } from '../../address/address';
import { later } from '../../parts/later';
import type { SheetFeature } from './feature';

const HistoryPanel = later(() => import('../../panels/HistoryPanel').then((m) => m.HistoryPanel));
const OtherSidePanel = later(() => import('../../panels/OtherSidePanel').then((m) => m.OtherSidePanel));
const OverTimePanel = later(() => import('../../panels/OverTimePanel').then((m) => m.OverTimePanel));
const UsualAccountsPanel = later(() => import('../../panels/UsualAccountsPanel').then((m) => m.UsualAccountsPanel));
const WhatMovedPanel = later(() => import('../../panels/WhatMovedPanel').then((m) => m.WhatMovedPanel));

/** Panels that answer a question about the focused figure. */
export const otherSide: SheetFeature = {
  name: 'other side',
  keys: [{ key: 'o', says: 'other side', run: (s) => s.toggle('other side') }],
  panel: (s) =>
    s.row?.put && (
      <OtherSidePanel
        scope={s.scopeOfRow}
        label={s.row.label}
        onAccount={(account, name) => s.linesOf({ opposite: [account] }, `${account} ${name} opposite`)}
        onClose={() => s.close('other side')}
      />
    ),
};

export const overTime: SheetFeature = {
  name: 'over time',
  keys: [{ key: 'g', says: 'the focused figure over time', run: (s) => s.toggle('over time') }],
  panel: (s) =>
    s.row?.put && (
      <OverTimePanel
        scope={s.scopeOfRow}
        label={s.row.label}
        measure={s.measure}
        onPeriod={(period, name) => s.linesOf({ from: [period], to: [period] }, name)}
        onWindow={(from, to) => s.go(changed(s.screen, { from: [from], to: [to], window: [] }))}
        onClose={() => s.close('over time')}
      />
    ),
};

export const whatMoved: SheetFeature = {
  name: 'what moved',
  keys: [{ key: 'w', says: 'what moved: what explains its change', run: (s) => s.toggle('what moved') }],
  panel: (s) =>
    s.row?.put && (
      <WhatMovedPanel
        scope={s.scopeOfRow}
        label={s.row.label}
        measure={s.measure}
        onMember={s.linesOf}
        onSplit={(by) => s.step({ view: 'split', by, label: s.row?.label ?? '', put: s.row?.put ?? {} })}
        onClose={() => s.close('what moved')}
      />
    ),
};

export const usualAccounts: SheetFeature = {
  name: 'usual accounts',
  keys: [
    {
      key: 'u',
      says: 'the accounts that are usual for the party of a line',
      run: (s) =>
        s.focused?.party || s.isOpen('usual accounts')
          ? s.toggle('usual accounts')
          : s.say('This row names no party, whose usual accounts could be told.'),
    },
  ],
  panel: (s) =>
    s.focused?.party && (
      <UsualAccountsPanel
        party={s.focused.party}
        label={s.focused.label}
        onAccount={(put, name) => s.step({ view: 'lines', label: name, put })}
        onClose={() => s.close('usual accounts')}
      />
    ),
};

export const history: SheetFeature = {
  name: 'history',
  keys: [
    {
      key: 'h',
      says: 'history of the focused row: who looked at it, and what was done',
      run: (s) => s.toggle('history'),
    },
  ],
  panel: (s) =>
    s.row?.subject && <HistoryPanel subject={s.row.subject} label={s.row.label} onClose={() => s.close('history')} />,
};
