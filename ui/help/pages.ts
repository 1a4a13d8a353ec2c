/** A short page of help: what a place is for, and what can be done there. */
export interface HelpPage {
  title: string;
  /** What it is for. */
  says: string;
  /** What can be done, each with how. */
  points: readonly [what: string, how: string][];
}

const SHEET: HelpPage['points'] = [
  ['Trace a figure', 'Enter, or a double click. Backspace goes back up, to the cell that was left.'],
  [
    'Narrow what is shown',
    '/ and type: an account, 6300 to 6399, July, over 5000, a party, not reconciled. Each clause has a ×.',
  ],
  ['Break it down', 's and type: vessel, counterparty, month. The first ones offered tell most of the figure.'],
  ['Compare', 'c puts other windows, a budget, open orders and changes beside it.'],
  ['Ask why', 'w: what moved it. g: over time. o: the other side of its entries.'],
  ['Write it down', 'n: a note in the margin. p: a pin, which says when a later load changes the figure.'],
  [
    'Tick and attach',
    't: a mark of the legend on the row, or on all that are chosen. A: a file; or drop one on the row.',
  ],
  ['Ask, find, review', 'q: a question to a colleague. F: a finding. R: a review point.'],
  ['Take it out', 'O: as a spreadsheet, on paper, as text. From there it is kept as a report, or frozen.'],
  ['Change how it is shown', 'The second sentence, above the sheet; … has all of it. Arrange sets the columns.'],
];

/** Pages by the beginning of the address; the longest that fits counts. */
const PAGES: Record<string, HelpPage> = {
  '/trial-balance': {
    title: 'Trial balance',
    says: 'Every account with its opening balance, what moved and how it closes. Debits equal credits, and the mark below says so.',
    points: SHEET,
  },
  '/statements': {
    title: 'Statements',
    says: 'Income statement, balance sheet, cash flow, positions and tax return, made of the accounts by an outline. The guards above hold all the time: no account in two rows, none in none.',
    points: [
      ...SHEET,
      ['Open a row to its accounts', 'Space on the row, or “by accounts” in the second sentence.'],
      ['Change the rows', 'Outline, on the right: captions, selections, formulas, in versions.'],
    ],
  },
  '/statements/budgets': {
    title: 'Budgets',
    says: 'Plans by account, month and any dimension, in versions. What is kept is a delivery like any other.',
    points: [
      ['Write', 'Type in a cell, or paste from a spreadsheet. Control+Z takes it back.'],
      ['Compare', 'A plan stands beside the actual by c on a statement or a split.'],
    ],
  },
  '/lines': {
    title: 'Lines',
    says: 'Journal lines in the order of their dates with a running balance. The lines of a movement begin with its first line.',
    points: [
      ...SHEET,
      ['Only what this cell says', 'e; x is all but that.'],
      ['Another order', 'A click on a column’s head; Shift adds a further one.'],
      ['The paper beside it', 'v shows the document of the line you are on; > and < turn its pages, + and - its size.'],
      ['Days, weeks, groups', 'The second sentence: line by line, day by day, in groups by account.'],
    ],
  },
  '/find': {
    title: 'Find',
    says: 'Whatever a few words find of all that you may see: accounts, members, customers and suppliers, entries, documents, lines, files and what is in them, statements, threads, notes, kept sentences, loads and places. Ctrl K opens it from everywhere.',
    points: [
      [
        'Words',
        'Any part of any word, in any order, in small letters or capitals, with or without accents. In quotes a phrase stands whole.',
      ],
      ['Amounts', '410200, 410,200.00 and 410.200,00 are the same; >5000, <10 and 1000..2500 are amounts alone.'],
      ['Days', '2026-07-06, 6 jul, jul 2026.'],
      ['Go somewhere', 'trial balance of Sound Terminals, June.'],
      ['With what was found', 'Enter opens it, with Ctrl in a tab beside; Shift Enter makes it a clause of the sheet.'],
    ],
  },
  '/accounts': {
    title: 'Accounts',
    says: 'The chart of accounts with every attribute, and what else the books are made of.',
    points: [
      ['Limit and order', 'The choices above the list, and the heads of its columns; the address keeps both.'],
      ['Correct a name', 'Click on it. Codes never change.'],
      ['Change many', 'A table of accounts under Loads changes the columns that it has.'],
    ],
  },
  '/accounts/parties': {
    title: 'Customers and suppliers',
    says: 'Parties with addresses, bank accounts and tax numbers, shared by all companies.',
    points: [
      ['Find duplicates', 'Possible duplicates: the same bank account, the same tax number, nearly the same name.'],
      ['See their lines', 'Click on the name.'],
      ['Bring them in', 'A table of them under Loads: code, name, and what else is known.'],
    ],
  },
  '/journals': {
    title: 'Journals',
    says: 'Entries in full, as books are read: a book for each journal, kind of document, source, person or day.',
    points: [
      ['Open one, some or all', 'Click on a book; several stay open. Another kind of book: A book for each.'],
      ['Numbers that are missing', 'Each open book says how it is numbered, and which numbers no entry bears.'],
      ['Tax boxes', 'Above the entries of a book: each amount leads to its lines.'],
      ['What was entered lately', 'The second tab, whatever day it is booked on.'],
    ],
  },
  '/documents': {
    title: 'Documents',
    says: 'The documents of a control account with what is open of each, by age, and whether they add up to the ledger.',
    points: [
      ['By customer', 'Rows: customers and suppliers.'],
      ['What does not match', 'Rows: what does not match the ledger, item by item.'],
      ['Other age bands', 'Days past, up to: 15, 45, 90.'],
      ['A document itself', 'Click on its number: its chain, its lines, its picture.'],
    ],
  },
  '/desk': {
    title: 'Desk',
    says: 'What waits for you, what moved since you last looked, your threads, and how far the team is.',
    points: [
      ['Go through it', 'Arrows from one to the next; Enter opens it. What you have read goes by “seen”.'],
      ['Be asked and ask', 'q on any row asks a colleague. They find it here, and a letter tells them.'],
      ['What moved', 'Loads that came, pins and ticks whose figures changed, threads that drifted.'],
    ],
  },
  '/findings': {
    title: 'Findings',
    says: 'What was found: errors, weaknesses of control, questions, improvements; each with its amount, owner and state.',
    points: [
      ['Write one', 'F on a row of any sheet, or on several that are chosen. Its amount is the figure of the row.'],
      ['What they come to', 'Above the list, for those that are open or agreed.'],
      ['Go on with one', 'On its page: notes, questions, files and review points.'],
    ],
  },
  '/hits': {
    title: 'What tests found',
    says: 'The hits of a run as a sheet, the most unusual first; an entry that several tests hit has them together.',
    points: [
      ['Look at one', 'Enter to its entry or its lines; [ and ] go to the next hit without going back up.'],
      [
        'Say what it is',
        'e explained, f a finding, q asks a colleague, i ignores those alike, o opens it again. It stays said until one of its lines changes.',
      ],
      ['Entries that may be one', 'b puts those behind a hit side by side, with what differs between them marked.'],
      ['Work on it', 'n: a note. t: a tick. p: a pin. A: a file. They stand on the entry or the lines themselves.'],
      ['Why it stands where it does', 'Below the sheet: the bits of its score, and what its test looks for.'],
    ],
  },
  '/tests': {
    title: 'Tests',
    says: 'Every line of a scope gone through for what is unusual, each hit with its reason; what was said of one stays said.',
    points: [
      [
        'Run them',
        'Here over companies and a window, or U on a figure of any sheet. They go on while you do something else.',
      ],
      ['Go through the hits', 'They are a sheet. Entries that several tests hit come first.'],
      [
        'Say what each is',
        'e explained, f a finding, q asks a colleague, i ignores those alike, o opens it again. It stays said until one of its lines changes.',
      ],
      ['What was looked at', 'Lines, entries, debits and credits of each company, held against the trial balance.'],
      [
        'Look at the whole',
        'Pictures: when entries are made, months of accounts, who posts where, first digits, sizes at a limit, missing numbers. Each part leads to its lines.',
      ],
      [
        'What each test looks for',
        'Under Every test, with where it is from. Its limits are taken from the ledger and said with the run. There you say when all run by themselves, too.',
      ],
    ],
  },
  '/threads': {
    title: 'Threads',
    says: 'The record of work: ways down that somebody kept, what they gathered on the way, what was concluded, and who signed it.',
    points: [
      [
        'Keep one',
        'Keep this thread, in the last line of any sheet. Steps, notes, ticks, pins and files are gathered in it.',
      ],
      [
        'Say what it shows',
        'On its page: purpose, assertions, result, conclusion, reference and folder. A figure that was copied is pasted as a figure.',
      ],
      ['Share it', '“Who may do what”: who reads it, comments on it, goes on with it, changes it.'],
      [
        'Sign it',
        'The preparer first, then a reviewer who had no part in it, with no point open. A change opens it again.',
      ],
      ['Raise a point', 'R on a row, or on the page of a thread. Only whoever raised it clears it.'],
      [
        'Say what a figure should be',
        'E on a figure of any sheet, with a reason: the year before and so much more, an average, a share, a quantity at a price. What differs is explained part by part, under Expectations.',
      ],
      [
        'Draw a sample',
        'S on a figure of any sheet: of its lines, entries or documents. It stands under Samples, and in the thread.',
      ],
      ['Hold two pins against each other', 'Below what it gathered: C-3 agrees with D-1, or by how much it does not.'],
      ['Next period', 'Roll forward: the same steps for another window, with the last conclusion at hand.'],
      ['Walk it again', 'For other periods, another company, another unit, an earlier load; or once for every member.'],
    ],
  },
  '/reports': {
    title: 'Reports',
    says: 'What leaves: sheets that are kept with how they leave, packs of them, what is made by itself, files that were made for you, and copies that stay as they were.',
    points: [
      ['Keep a report', 'O on any sheet, then Keep as a report. Shared, whoever runs it sees what they may see.'],
      ['Make a pack', 'Reports in an order with a front page; one window, company or unit drives all of them.'],
      [
        'Have it made by itself',
        'At a time, with each load, or when a figure comes to it; each receiver gets what they may see.',
      ],
      ['Freeze a sheet', 'O, then Freeze it: it says for ever what it said, and what has moved since.'],
      ['Hand over an audit file', 'Audit files tells first what its structure asks for and lines lack.'],
      [
        'Check what was sealed',
        './just-thread verify FILE tells of a bundle or a sealed workbook whether it is as it left, and what was changed.',
      ],
    ],
  },
  '/frozen': {
    title: 'Frozen copy',
    says: 'A sheet as it was when it was frozen. What the same sheet says now stands above it.',
    points: [
      ['Read it live', 'The link above the copy leads to the sheet as it is now.'],
      ['Hand it on', 'Its address never changes; it opens for whoever may ask the same question whole.'],
    ],
  },
  '/proposals': {
    title: 'Proposed entries',
    says: 'What should be booked. Nothing booked is ever changed: what is proposed is seen in every figure that is asked with it.',
    points: [
      [
        'Propose where the error was seen',
        'C on a line, on chosen lines or on a figure: to another account, on another day, taken back, spread, split, or written freely. Then back to the same place.',
      ],
      [
        'See it in figures',
        'Choose “with proposed entries” where the sentence says which lines count; or the columns booked, proposed and adjusted.',
      ],
      ['Have it approved', 'By somebody else than who proposed or changed it. It waits on the desk of reviewers.'],
      [
        'Hand it over',
        'Approved entries as a file with numbers of their own. A later load that brings one is told here: as proposed, otherwise, or not.',
      ],
      [
        'Weigh what stays',
        'Leave one uncorrected, with a reason. Under Misstatements all are summed against what is material.',
      ],
      ['Try something out', 'Under Sets: entries that count only where a sentence names their set.'],
    ],
  },
  '/loads': {
    title: 'Loads',
    says: 'Everything that came in, in the order in which it counts. A load is all or nothing.',
    points: [
      ['Bring a file in', 'Choose or drop it. You see what it would become before anything is loaded.'],
      ['Why a load was refused', 'Click on it: row, column, value and remedy of every problem.'],
      ['What a delivery changed', 'Compare two.'],
    ],
  },
  '/loads/begin': {
    title: 'Begin a ledger',
    says: 'One file of journal lines is enough. Company, fiscal year, accounts with types and dimensions are proposed from it.',
    points: [
      [
        'Correct what is wrong',
        'Every proposal says what it was taken from. Look at those taken from the side of lines first.',
      ],
      ['Later', 'What was guessed is listed in Accounts until somebody says that it is right.'],
    ],
  },
  '/settings': {
    title: 'Settings',
    says: 'Who may come in and see what, what stands out, where entries are found, and the record of who did what.',
    points: [
      [
        'Limit a person',
        'To companies, to members of dimensions with all beneath them, to accounts. Every figure keeps to it.',
      ],
      ['What stands out', 'Rules and conditions of your own; a row or line that meets one is marked with the reason.'],
      ['Ask the record', '“account 6320”, a number, a name; by person, act and day. Save what was found as CSV.'],
    ],
  },
};

/** The page for an address. */
export function helpFor(path: string): HelpPage {
  const [found] = Object.keys(PAGES)
    .filter((start) => path === start || path.startsWith(`${start}/`))
    .sort((a, b) => b.length - a.length);
  return PAGES[found ?? '/trial-balance'] as HelpPage;
}
