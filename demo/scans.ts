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
  /** What is written on further pages. */
  annexes?: { title: string; paragraphs: string[] }[];
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
  'CON-LINK-BRE.pdf': {
    from: ['Kestrel Sound Ferries Ltd', 'Ferry Quay 1, Harrowick'],
    title: 'Contract CON-LINK-BRE',
    facts: [
      ['With', 'Brenna Steelworks'],
      ['For', 'a new linkspan at Brenna, delivered and fitted'],
      ['Signed', '3 November 2025'],
      ['Project', 'LINK-BRE'],
    ],
    rows: [
      ['Stage 1, span rolled and welded', 'GBP 400 000.00'],
      ['Stage 2, bearings and lifting gear', 'GBP 400 000.00'],
      ['Stage 3, fitted and tried', 'GBP 440 000.00'],
    ],
    total: ['Agreed, without tax', 'GBP 1 240 000.00'],
    stamp: 'Signed for both',
    annexes: [
      {
        title: 'Terms',
        paragraphs: [
          '1. The price is fixed. What is wanted beyond it is agreed in writing, as a change order with its own price.',
          '2. A change order is billed once: by itself when its work is done, or with the next stage, as it says.',
          '3. Each stage is billed when both have seen it done. Thirty days to pay.',
        ],
      },
      {
        title: 'Change orders agreed',
        paragraphs: [
          'No. 1, 9 February 2026: longer span bearings, GBP 86 000.00, with stage 2.',
          'No. 2, 8 June 2026: fender piles, GBP 31 500.00, by itself.',
        ],
      },
    ],
  },
  'BSW-3391.pdf': {
    from: ['Brenna Steelworks', 'Foundry Lane 8, Brenna'],
    title: 'Invoice BSW-3391',
    facts: [
      ['To', 'Kestrel Sound Ferries Ltd'],
      ['Date', '26 June 2026'],
      ['Contract', 'CON-LINK-BRE'],
      ['Terms', '30 days'],
    ],
    rows: [
      ['Change order 2, fender piles', 'GBP 31 500.00'],
      ['VAT', 'GBP 6 300.00'],
    ],
    total: ['To pay', 'GBP 37 800.00'],
    stamp: 'Received 29 June 2026',
  },
  'BSW-3420.pdf': {
    from: ['Brenna Steelworks', 'Foundry Lane 8, Brenna'],
    title: 'Invoice BSW-3420',
    facts: [
      ['To', 'Kestrel Sound Ferries Ltd'],
      ['Date', '8 September 2026'],
      ['Contract', 'CON-LINK-BRE'],
      ['Terms', '30 days'],
    ],
    rows: [
      ['Stage 3, final', 'GBP 440 000.00'],
      ['Change order 2, fender piles', 'GBP 31 500.00'],
      ['VAT', 'GBP 94 300.00'],
    ],
    total: ['To pay', 'GBP 565 800.00'],
    stamp: 'Received 10 September 2026',
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
  for (const { title, paragraphs } of paper.annexes ?? []) {
    page.addPage().fillColor('#000').font('Courier-Bold').fontSize(11).text(title).moveDown(1).fontSize(8.5);
    for (const paragraph of paragraphs) page.font('Courier').text(paragraph).moveDown(0.8);
  }
  page.end();
  return page;
}
