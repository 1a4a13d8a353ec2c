import { createWriteStream, mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import PDFDocument from 'pdfkit';
import { expect, test } from 'vitest';
import { fileText } from './fileText';

const folder = mkdtempSync(join(tmpdir(), 'just-thread-text-'));
const written = (name: string, bytes: string | Buffer): string => {
  const path = join(folder, name);
  writeFileSync(path, bytes);
  return path;
};

test('a PDF is read page by page', async () => {
  const path = join(folder, 'two.pdf');
  const pdf = new PDFDocument();
  const done = pipeline(pdf, createWriteStream(path));
  pdf.text('Invoice NS-20631, Sørvik').addPage().text('To pay 5 496 680.00');
  pdf.end();
  await done;
  expect(await fileText(path)).toBe('Invoice NS-20631, Sørvik\nTo pay 5 496 680.00');
});

test('a file of text is its text; a picture, a broken or a made-up PDF says nothing', async () => {
  expect(await fileText(written('a.txt', 'Signed \t on board\n'))).toBe('Signed on board');
  expect(await fileText(written('a.png', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 1, 2])))).toBe('');
  expect(await fileText(written('b.pdf', '%PDF-1.7 and then nothing'))).toBe('');
  expect(await fileText(written('c.bin', Buffer.from([0xff, 0xfe, 0xff])))).toBe('');
});
