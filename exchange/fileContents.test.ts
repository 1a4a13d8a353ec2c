import { createWriteStream, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ZipArchive } from 'archiver';
import ExcelJS from 'exceljs';
import { afterAll, expect, test } from 'vitest';
import { fileContents, READABLE, wordsOfContents } from './fileContents';
import { HOSTILE, makeHostile } from './testing/hostile';

const folder = mkdtempSync(join(tmpdir(), 'just-thread-contents-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const [SHEET, LETTER, OPEN_LETTER, MAIL] = READABLE as [string, string, string, string];

async function zipped(name: string, parts: Record<string, string>): Promise<string> {
  const path = join(folder, name);
  const out = createWriteStream(path);
  const zip = new ZipArchive();
  zip.pipe(out);
  for (const [part, text] of Object.entries(parts)) zip.append(text, { name: part });
  await Promise.all([new Promise<void>((done) => out.on('close', () => done())), zip.finalize()]);
  return path;
}

test('a workbook shows its first rows as they stand, formulas by what they came to, and says that there is more', async () => {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('Dock');
  sheet.addRow(['Day', 'Amount', 'Note']);
  sheet.addRow([new Date('2026-07-06T00:00:00Z'), 18400.5, { formula: 'B2*2', result: 36801 }]);
  sheet.getRow(5).getCell(2).value = 'after two empty rows';
  const long = book.addWorksheet('Long');
  for (let i = 1; i <= 400; i++) long.addRow([i]);
  const path = join(folder, 'book.xlsx');
  await book.xlsx.writeFile(path);
  const shown = await fileContents(path, SHEET);
  expect(shown).toMatchObject({
    is: 'sheets',
    sheets: [
      {
        name: 'Dock',
        more: false,
        rows: [['Day', 'Amount', 'Note'], ['2026-07-06', '18400.5', '36801'], [], [], ['', 'after two empty rows']],
      },
      { name: 'Long', more: true },
    ],
  });
  expect(shown.is === 'sheets' && shown.sheets[1]?.rows.length).toBe(300);
  expect(wordsOfContents(shown)).toContain('after two empty rows');
});

test('letters show their words paragraph by paragraph, and a mail what it says and what came with it', async () => {
  const letter = await zipped('letter.docx', {
    'word/document.xml':
      '<w:document xmlns:w="x"><w:body><w:p><w:r><w:t>Two days</w:t><w:tab/><w:t>of dock &amp; crane</w:t></w:r></w:p><w:p><w:r><w:instrText>HYPERLINK "http://elsewhere.example"</w:instrText><w:t>Second</w:t></w:r></w:p></w:body></w:document>',
  });
  expect(await fileContents(letter, LETTER)).toEqual({
    is: 'letter',
    text: 'Two days of dock & crane\nSecond',
    more: false,
  });
  const open = await zipped('letter.odt', {
    'content.xml':
      '<office:document-content xmlns:office="o" xmlns:text="t"><text:h>Quote</text:h><text:p>18,400<text:s/>pounds</text:p></office:document-content>',
  });
  expect(await fileContents(open, OPEN_LETTER)).toMatchObject({ text: 'Quote\n18,400 pounds' });
  const mail = join(folder, 'a.eml');
  writeFileSync(
    mail,
    [
      'From: Yard <yard@harrow.example>',
      'To: tomas@kestrel.example',
      'Subject: =?utf-8?q?D=C3=B8ck?=',
      'Date: Mon, 6 Jul 2026 10:00:00 +0000',
      'MIME-Version: 1.0',
      'Content-Type: multipart/mixed; boundary=b',
      '',
      '--b',
      'Content-Type: text/html; charset=utf-8',
      '',
      '<p>Paid <b>twice</b>?</p><img src="http://elsewhere.example/seen.gif"><script>alert(1)</script>',
      '--b',
      'Content-Type: application/pdf; name=quote.pdf',
      'Content-Disposition: attachment; filename=quote.pdf',
      'Content-Transfer-Encoding: base64',
      '',
      'JVBERi0=',
      '--b--',
      '',
    ].join('\r\n'),
  );
  const shown = await fileContents(mail, MAIL);
  expect(shown).toMatchObject({
    is: 'mail',
    subject: 'Døck',
    at: '2026-07-06T10:00:00.000Z',
    attached: [{ name: 'quote.pdf', bytes: 5 }],
  });
  expect(shown.is === 'mail' && shown.text).toMatch(/^Paid twice\?/);
  expect(wordsOfContents(shown)).not.toContain('alert');
});

test('what is damaged, locked or means harm is shown as nothing, with why', async () => {
  const broken = join(folder, 'broken.docx');
  writeFileSync(broken, 'PK\u0003\u0004 no more');
  const none = await zipped('none.docx', { 'a.xml': '<a/>' });
  const bad = await zipped('bad.docx', { 'word/document.xml': '<w:p><w:t>not closed' });
  for (const [path, type] of [
    [broken, LETTER],
    [none, LETTER],
    [bad, LETTER],
    [broken, SHEET],
    [broken, 'application/x-cfb'],
  ] as const)
    expect(await fileContents(path, type), path).toMatchObject({
      is: 'nothing',
      why: expect.stringMatching(/^.{20,}\.$/),
    });
  const bomb = await zipped('bomb.docx', { 'word/document.xml': `<w:p><w:t>${'a'.repeat(40_000_000)}</w:t></w:p>` });
  expect(await fileContents(bomb, LETTER)).toMatchObject({ is: 'nothing' });
});

// Others of their kind are refused where tables are read, by the same counting.
test.each(HOSTILE.filter((h) => h.name.endsWith('.xlsx')).slice(0, 2))(
  'a workbook that means harm is not shown: $harm',
  async (hostile) => {
    const path = await makeHostile(folder, hostile, 0.02);
    const shown = await fileContents(path, SHEET);
    // What is far more than a table shows its first rows, or nothing; it never takes more than they do.
    expect(JSON.stringify(shown).length).toBeLessThan(300 * 40 * 310 * 12);
    rmSync(path);
  },
);
