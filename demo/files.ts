import { createWriteStream } from 'node:fs';
import { writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { demoChart } from './chart';
import { demoDimensions } from './dimensions';
import { COLUMNS, rowsOf } from './entry';
import { demoWorld } from './world';

const quoted = (text: string): string => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);
const csv = (rows: string[][]): string =>
  rows
    .map((r) => r.map(quoted).join(','))
    .join('\n')
    .concat('\n');

/** The chart of accounts as a file. */
export function chartFile(): string {
  const header = ['code', 'name', 'name:nb', 'type', 'parent', 'posting', 'status', 'flow', 'group', 'dim:costcentre', 'dim:vessel', 'code:statutory'];
  return csv([
    header,
    ...demoChart().map((a) => [
      a.code,
      a.name,
      a.norwegian,
      a.type,
      a.parent,
      a.posting ? 'yes' : 'no',
      a.status,
      a.flow,
      a.group,
      a.costCentre,
      a.vessel,
      a.posting ? a.code.slice(0, 2) : '',
    ]),
  ]);
}

/** Dimensions and members as a file. */
export const dimensionsFile = (): string =>
  csv([['dimension', 'code', 'name', 'parent'], ...demoDimensions().map((d) => [d.dimension, d.code, d.name, d.parent])]);

/** Writes the files of the demo world into a folder, as a source ledger would deliver them. @returns their paths */
export async function writeDemoFiles(folder: string, scale = 1): Promise<{ chart: string; dimensions: string; lines: string }> {
  const paths = { chart: join(folder, 'accounts.csv'), dimensions: join(folder, 'dimensions.csv'), lines: join(folder, 'journal-lines.csv') };
  await writeFile(paths.chart, chartFile());
  await writeFile(paths.dimensions, dimensionsFile());
  await pipeline(Readable.from(linesText(scale)), createWriteStream(paths.lines));
  return paths;
}

const CHUNK = 65_536;

function* linesText(scale: number): Generator<string> {
  let text = `${COLUMNS.join(',')}\n`;
  for (const entry of demoWorld(scale)) {
    text += rowsOf(entry);
    if (text.length < CHUNK) continue;
    yield text;
    text = '';
  }
  yield text;
}
