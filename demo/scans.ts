import { createWriteStream } from 'node:fs';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import PDFDocument from 'pdfkit';

/** What is written on a paper: who sends it, what it is, its facts, its rows and its sum. */
interface Paper {
  from: [name: string, place: string];
  title: string;
  facts: [name: string, value: string][];
  rows: [text: string, amount: string][];
  total: [name: string, amount: string];
  stamp: string;
}

/** The papers behind the planted stories, by file name. Each says what the ledger got wrong. */
const PAPERS: Record<string, Paper> = {
  'NS-20631.pdf': {
    from: ['Nordholm Slip AS', 'Slipveien 4, Nordholm'],
    title: 'Invoice NS-20631',
    facts: [
      ['To', 'Kestrel Sound Ferries Ltd'],
      ['Date', '3 July 2026'],
      ['Your order', 'ORDER-DD-MAR-26'],
      ['Vessel', 'Maren'],
      ['Terms', '30 days'],
    ],
    rows: [
      ['Stage 3 of dry-docking, labour and slip', 'NOK 3 412 480.00'],
      ['Steel, 41 tonnes, fitted', 'NOK 2 084 200.00'],
    ],
    total: ['To pay', 'NOK 5 496 680.00'],
    stamp: 'Received 3 July 2026',
  },
  'SB-77120.pdf': {
    from: ['Sound Bunkering', 'Oil Quay 2, Harrowick'],
    title: 'Delivery note and invoice SB-77120',
    facts: [
      ['To', 'Kestrel Sound Ferries Ltd'],
      ['Date', '8 July 2026'],
      ['Delivered to', 'M/F Tern, Harrowick, berth 2'],
      ['Signed on board', 'second engineer, Tern'],
    ],
    rows: [
      ['Marine diesel, 38 000 litres at 0.67', 'GBP 25 460.00'],
      ['VAT', 'GBP 5 092.00'],
    ],
    total: ['To pay', 'GBP 30 552.00'],
    stamp: 'Received 9 July 2026',
  },
  'HMW-5518.pdf': {
    from: ['Harrowick Marine Works', 'Dock Road 11, Harrowick'],
    title: 'Invoice HMW-5518',
    facts: [
      ['To', 'Kestrel Sound Ferries Ltd'],
      ['Date', '11 June 2026'],
      ['Vessel', 'Tern'],
    ],
    rows: [
      ['Propeller shaft bearing, supplied and fitted', 'GBP 6 840.00'],
      ['VAT', 'GBP 1 368.00'],
    ],
    total: ['To pay', 'GBP 8 208.00'],
    stamp: 'Received 12 June 2026',
  },
  'ORDER-DD-MAR-26.pdf': {
    from: ['Kestrel Sound Ferries Ltd', 'Ferry Quay 1, Harrowick'],
    title: 'Order ORDER-DD-MAR-26',
    facts: [
      ['To', 'Nordholm Slip AS'],
      ['Vessel', 'Maren'],
      ['In dock', '4 May to 19 July 2026'],
      ['Project', 'DD-MAR-26, dry-docking Maren 2026'],
    ],
    rows: [
      ['Stage 1, entry and survey', 'GBP 136 600.00'],
      ['Stage 2, hull and machinery', 'GBP 136 600.00'],
      ['Stage 3 and steel', 'GBP 410 200.00'],
    ],
    total: ['Agreed', 'GBP 683 400.00'],
    stamp: 'Signed for both',
  },
  'ITB-2026-4-G-LIN.pdf': {
    from: ['Island Transport Board', 'County House, Brenna'],
    title: 'Grant letter ITB-2026-4-G-LIN',
    facts: [
      ['To', 'Kestrel Sound Ferries Ltd'],
      ['Quarter', 'April to June 2026'],
      ['For', 'the lifeline service to Lindra, and for nothing else'],
    ],
    rows: [['Quarterly grant, fund G-LIN', 'paid on 5 April 2026']],
    total: ['To be accounted for in', 'fund G-LIN'],
    stamp: 'Received 7 April 2026',
  },
};

/** Fixed, so that the same paper is the same file every time. */
const MADE_AT = new Date('2026-10-05T00:00:00Z');

/** Writes the papers into a folder as PDF. @returns their names */
export async function writeScans(folder: string): Promise<string[]> {
  await Promise.all(
    Object.entries(PAPERS).map(([name, paper]) => pipeline(printed(paper), createWriteStream(join(folder, name)))),
  );
  return Object.keys(PAPERS);
}

/** In a typewriter's face, which every reader of PDF has in the same widths. */
function printed(paper: Paper): PDFKit.PDFDocument {
  const page = new PDFDocument({
    size: 'A5',
    margin: 36,
    info: { Title: paper.title, CreationDate: MADE_AT, ModDate: MADE_AT },
  });
  const [name, place] = paper.from;
  const [left, width] = [36, page.page.width - 72];
  page.font('Courier-Bold').fontSize(15).text(name).font('Courier').fontSize(8).text(place);
  page.moveDown(3).font('Courier-Bold').fontSize(11).text(paper.title).moveDown(0.8).fontSize(8.5);
  for (const [fact, value] of paper.facts) {
    const { y } = page;
    page.font('Courier').fillColor('#555').text(fact, left, y);
    page
      .fillColor('#000')
      .text(value, left + 92, y, { width: width - 92 })
      .moveDown(0.25);
  }
  page.moveDown(2);
  const row = ([text, amount]: [string, string], font: string): void => {
    const { y } = page;
    page.font(font).text(text, left, y, { width: width - 122 });
    const below = page.y;
    page.text(amount, left, y, { width, align: 'right' });
    page.y = Math.max(below, page.y) + 4;
  };
  for (const each of paper.rows) row(each, 'Courier');
  page
    .moveTo(left, page.y + 1)
    .lineTo(left + width, page.y + 1)
    .lineWidth(0.6)
    .stroke();
  page.y += 8;
  row(paper.total, 'Courier-Bold');
  const y = page.y + 60;
  page
    .save()
    .rotate(-6, { origin: [300, y] })
    .rect(220, y, 160, 28)
    .lineWidth(1.2)
    .strokeColor('#8a2f2f')
    .stroke();
  page
    .fillColor('#8a2f2f')
    .font('Courier-Bold')
    .fontSize(8.5)
    .text(paper.stamp, 220, y + 10, { width: 160, align: 'center' })
    .restore();
  page.end();
  return page;
}
