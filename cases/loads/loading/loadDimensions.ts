import { isDate } from '@/core/dates';
import { DIMENSIONS_MAX } from '@/core/ledger';
import type { Problems } from '@/exchange/problem';
import { readRecords } from '@/exchange/readRecords';
import { type ChartMember, type MemberRecord, readMembers, upsertDimension, upsertMembers } from '@/store/charts';
import type { Db } from '@/store/db';
import { openSlot } from '@/store/layers';
import { emptyCells } from './emptyCells';
import { inCircle, keptBy, prefixed } from './loadAccounts';
import type { LoadJob } from './loadJob';
import { listed } from './values';

/**
 * Reads dimensions with their members, shared by all entities. A row without a code names the dimension itself.
 * New members are added, known ones get the attributes that the file has columns of, and keep the others.
 */
export async function loadDimensions(db: Db, job: LoadJob, problems: Problems): Promise<number> {
  const names = new Map<string, string>();
  const members = new Map<string, { row: number; member: MemberRecord }[]>();
  const seen = new Map<string, number>();
  const before = new Map<string, ChartMember>();
  const idOf = new Map([...job.catalogue.dimensions.values()].map((d) => [d.code, d.id]));
  for (const member of await readMembers(db)) before.set(`${member.dimension}|${member.code}`, member);
  let rows = 0;
  for await (const record of readRecords(job.file, problems, job.reading)) {
    const { row, values } = record;
    rows += 1;
    job.onRow();
    const text = (column: string): string | null => (values[column] ?? '').trim() || null;
    const dimension = text('dimension');
    const code = text('code');
    const name = text('name');
    if (!dimension || !/^[A-Za-z][A-Za-z0-9_-]*$/.test(dimension)) {
      problems.add(
        row,
        'dimension',
        dimension,
        'the dimension code is missing or holds more than letters, digits, - and _',
      );
      continue;
    }
    if (!name) problems.add(row, 'name', null, 'the name is missing');
    if (!code) {
      names.set(dimension, name ?? dimension);
      continue;
    }
    const known = before.get(`${idOf.get(dimension)}|${code}`);
    if (known) emptyCells(record, (column) => heldOf(known, column), job, problems);
    if (code.startsWith('~')) problems.add(row, 'code', code, 'a member code does not begin with ~');
    for (const column of ['valid_from', 'valid_to']) {
      const date = text(column);
      if (date && !isDate(date)) problems.add(row, column, date, `“${date}” is no date; write it as 2026-04-30`);
    }
    const first = seen.get(`${dimension}|${code}`);
    if (first !== undefined) problems.add(row, 'code', code, `member ${code} stands twice, first in row ${first}`);
    seen.set(`${dimension}|${code}`, row);
    const list = members.get(dimension) ?? [];
    members.set(dimension, list);
    const of = (column: 'parent' | 'valid_from' | 'valid_to'): string | null =>
      column in values ? text(column) : (known?.[column] ?? null);
    list.push({
      row,
      member: {
        code,
        name: name ?? code,
        names: keptBy(known?.names ?? {}, prefixed(values, 'name:'), values, 'name:'),
        parent: of('parent'),
        valid_from: of('valid_from'),
        valid_to: of('valid_to'),
        groups: 'group' in values ? listed(text('group')) : (known?.groups ?? []),
      },
    });
  }
  if (rows === 0 && problems.count === 0) problems.add(null, null, null, 'the file holds a header but no members');

  for (const [dimension, list] of members) {
    const known = job.catalogue.dimensions.get(dimension)?.tree ?? new Map();
    const parents = new Map<string, string | null>([...known.values()].map((m) => [m.code, m.parent]));
    for (const { member } of list) parents.set(member.code, member.parent);
    for (const { row, member } of list) {
      if (member.parent !== null && !parents.has(member.parent)) {
        problems.add(
          row,
          'parent',
          member.parent,
          `there is no member “${member.parent}” to be the parent of ${member.code}`,
        );
      } else if (inCircle(member.code, parents)) {
        problems.add(row, 'parent', member.parent, `member ${member.code} is beneath itself; mend its parent`);
      }
    }
  }
  const fresh = [...new Set([...names.keys(), ...members.keys()])].filter((d) => !job.catalogue.dimensions.has(d));
  if (job.catalogue.dimensions.size + fresh.length > DIMENSIONS_MAX) {
    problems.add(
      null,
      'dimension',
      fresh.join(', '),
      `there is room for ${DIMENSIONS_MAX} dimensions; ${job.catalogue.dimensions.size} are in use`,
    );
  }
  if (problems.count > 0) return 0;
  for (const dimension of new Set([...names.keys(), ...members.keys()])) {
    const { id, slot, isNew } = await upsertDimension(db, dimension, names.get(dimension) ?? null);
    if (isNew) await openSlot(db, slot);
    await upsertMembers(
      db,
      id,
      (members.get(dimension) ?? []).map((m) => m.member),
    );
  }
  return rows;
}

/** What is known of a member under a column of a file, as text. */
function heldOf(member: ChartMember, column: string): string {
  if (column.startsWith('name:')) return member.names[column.slice('name:'.length)] ?? '';
  if (column === 'group') return member.groups.join('; ');
  return column === 'parent' || column === 'valid_from' || column === 'valid_to' ? (member[column] ?? '') : '';
}
