/** One step of a walk: what to do on the real screen; the first of them may say where it begins. */
export interface WalkStep {
  says: string;
  /** The screen on which it is done. */
  at?: string;
}

export interface Walk {
  key: string;
  title: string;
  steps: readonly WalkStep[];
}

/** Walks through the demo world: each finds something that was planted there (docs/guide.md). */
export const WALKS: readonly Walk[] = [
  {
    key: 'repairs',
    title: 'Repairs up by half: an invoice booked twice',
    steps: [
      {
        at: '/statements?entity=KSF&from=2027.04&to=2027.06&columns=year-before,change:year-before',
        says: 'Upkeep of vessels is far above the year before. Put the cursor on its row and press Space: it opens to its accounts.',
      },
      { says: 'Go down to 6320 Dry-docking and press Enter: its lines.' },
      {
        says: 'Two lines are the same stage of the same docking. Put the cursor on one and look at the document in the last line of the screen.',
      },
      { says: 'Follow Document NS-2063I: it names no order, and the very same file is attached to NS-20631.' },
      { says: 'Backspace goes back up, strip by strip. Keep this thread makes the way one that a colleague can open.' },
    ],
  },
  {
    key: 'change-order',
    title: 'A change order billed twice',
    steps: [
      {
        at: '/lines?entity=KSF&window=everything&accounts=1130',
        says: 'Four invoices of the new linkspan. Put the cursor on the last and press v: its paper is beside it.',
      },
      {
        says: 'It bills the last stage and change order 2. Arrow up: the invoice before billed change order 2 as well.',
      },
      {
        says: 'Open, above the paper, leads to the document; its contract CON-LINK-BRE is billed for more than it is worth.',
      },
    ],
  },
  {
    key: 'fuel',
    title: 'Fuel is right in total and wrong by vessel',
    steps: [
      {
        at: '/trial-balance?entity=KSF&from=2026-07-06&to=2026-07-12&tree=no&accounts=6210',
        says: 'Marine diesel of one week. Press s, type vessel, Enter.',
      },
      { says: 'Open Fleet with Enter, and look at Maren: one bunkering, a large one.' },
      {
        at: '/trial-balance?entity=KSF&from=2026-07-06&to=2026-07-12&accounts=41*&dim.vessel=MAREN',
        says: 'Fares of the same vessel and week: there are none, and the screen says so. She lay in dry dock.',
      },
    ],
  },
  {
    key: 'suspense',
    title: 'What stands in suspense, and who put it there',
    steps: [
      {
        at: '/trial-balance?entity=STL&window=everything&tree=no',
        says: 'Press f and type suspense, Enter: the cursor is on the account.',
      },
      { says: 'Press s, type posted, Enter: one user.' },
      {
        says: 'Enter leads to the lines. Choose them with Shift and the arrow: the last line of the screen adds them up.',
      },
    ],
  },
  {
    key: 'dues',
    title: 'Dues between two companies do not cancel',
    steps: [
      {
        at: '/statements?entity=KSF&entity=STL&from=2027.01&to=2027.01&eliminated=yes',
        says: 'One row is Intercompany that does not cancel. Put the cursor on it, press s, type company, Enter.',
      },
      { says: 'Enter on a company leads to its lines. Press / and type HD-2026-03: March’s dues.' },
      { says: 'One company booked them in April, the other in period 13 of the year before.' },
    ],
  },
  {
    key: 'pay',
    title: 'Pay steps up and nobody was hired',
    steps: [
      {
        at: '/trial-balance?entity=KSF&from=2027.02&to=2027.02&tree=no&accounts=7110',
        says: 'Shore crew pay of May. Press w: what moved it against the period before.',
      },
      {
        says: 'One cost centre explains it. Press s, type cost centre, Enter; then c and tick Quantity and Amount per unit.',
      },
      { says: 'As many people as before, each dearer.' },
    ],
  },
  {
    key: 'storm',
    title: 'A route that earned nothing for a week, rightly',
    steps: [
      {
        at: '/trial-balance?entity=KSF&from=2026-01-26&to=2026-03-01&accounts=41*&tree=no',
        says: 'Press s on an account of fares, type route, Enter; then choose week after the word across.',
      },
      { says: 'Harrowick–Skarvoy falls in the week from 9 February. Enter on that cell leads to its lines.' },
      { says: 'It was a storm. Not everything odd is an error; n writes a note on the row for whoever comes next.' },
    ],
  },
];
