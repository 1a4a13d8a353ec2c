import { spawnSync } from 'node:child_process';
import { recalculated } from './recalculated';

/** Sheets of every kind that has formulas: trees, subtotals, rows nested in others, columns side by side, lines behind. */
const WORKBOOKS = [
  '/trial-balance?entity=KSF&from=2027.06&to=2027.06&tree=yes&details=1',
  '/statements/income?entity=KSF&from=2027.06&to=2027.06&column=year-before&column=ytd',
  '/statements/balance?entity=STL&from=2027.06&to=2027.06&open=all',
  '/sheets?entity=KSF&from=2027.01&to=2027.06&accounts=6*&by=dim:vessel&by=account&details=1',
  '/sheets?entity=NHS&from=2027.01&to=2027.06&accounts=6*&by=account&across=period',
  '/lines?entity=KSF&from=2027.06&to=2027.06&accounts=1310',
];
const ON_PAPER = '/trial-balance?entity=KSF&from=2027.06&to=2027.06&tree=yes';

interface Asked {
  /** Answers a path under /api/v1, as bytes. */
  ask(path: string): Promise<Buffer>;
  row(ok: boolean, what: string, found: string): void;
}

/** What leaves, opened by programs that had no part in writing it: a spreadsheet program and a reader of PDF. */
export async function leavesOpened({ ask, row }: Asked): Promise<void> {
  let formulas = 0;
  const off: string[] = [];
  for (const path of WORKBOOKS) {
    const found = await recalculated(await ask(`${path}&format=xlsx`));
    formulas += found.formulas;
    off.push(...found.differing.map((text) => `${path}: ${text}`));
  }
  row(
    formulas > 100 && off.length === 0,
    'formulas of workbooks, worked out by LibreOffice',
    `${formulas} in ${WORKBOOKS.length} workbooks, ${off.length} come to something else${off[0] ? `, such as ${off[0]}` : ''}`,
  );
  const sheet = JSON.parse((await ask(ON_PAPER)).toString('utf8')) as {
    rows: { name: string }[];
    totals: { debit: string };
  };
  const { stdout } = spawnSync('pdftotext', ['-layout', '-', '-'], {
    input: await ask(`${ON_PAPER}&format=pdf`),
    encoding: 'utf8',
    maxBuffer: 64 * 1024 ** 2,
  });
  const said = stdout.replace(/\s+/g, ' ');
  const total = new Intl.NumberFormat('en', { minimumFractionDigits: 2 }).format(Number(sheet.totals.debit));
  const missing = sheet.rows.filter(({ name }) => !said.includes(name));
  row(
    said.includes(total) && missing.length === 0,
    'a trial balance on paper, read by pdftotext',
    `${sheet.rows.length - missing.length} of ${sheet.rows.length} rows and ${said.includes(total) ? 'its total' : 'no total'}`,
  );
}
