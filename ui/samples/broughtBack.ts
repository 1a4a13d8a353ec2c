import type { Sample } from '@/contracts/answers/samples';
import type { BodySent } from '@/contracts/routes';

export type TestedItem = Extract<BodySent<'PUT /samples/{id}/items'>, { subject: string }>;

/** A mark that keeps a spreadsheet program from running a cell. */
const unguarded = (text: string): string => (/^'[=+\-@]/.test(text) ? text.slice(1) : text);

const SAID: Record<string, boolean> = { yes: true, no: false };
const ATTRIBUTE = 'attribute:';

/**
 * What a table that was worked at away from the screen says anew of a sample's items.
 * @param rows cells by the names of their columns, as the table of the sample has them
 * @throws Error naming the row that is no item of the sample, or says what cannot be taken
 */
export function broughtBack(sample: Sample, rows: readonly Record<string, string>[]): TestedItem[] {
  return rows.flatMap((row, at): TestedItem[] => {
    const subject = (row.subject ?? '').trim();
    const item = sample.items.find((i) => i.subject === subject);
    if (!item) throw new Error(`Row ${at + 2}: “${subject}” is no item of this sample`);
    const found = (row.found ?? '').trim();
    const note = unguarded((row.note ?? '').trim());
    const attributes: Record<string, boolean> = {};
    for (const name of sample.attributes) {
      const said = (row[`${ATTRIBUTE}${name}`] ?? '').trim().toLowerCase();
      if (said === '') continue;
      const is = SAID[said];
      if (is === undefined) throw new Error(`Row ${at + 2}, ${name}: write yes, no, or nothing; not “${said}”`);
      if (item.attributes[name] !== is) attributes[name] = is;
    }
    const change: TestedItem = {
      subject,
      ...(found !== '' && found !== item.found ? { found } : {}),
      ...(note !== '' && note !== item.note ? { note } : {}),
      ...(Object.keys(attributes).length > 0 ? { attributes } : {}),
    };
    return Object.keys(change).length > 1 ? [change] : [];
  });
}
