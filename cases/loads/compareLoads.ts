import { notFound, wrong } from '@/contracts/problem';
import { isWritten, readSubject } from '@/contracts/subject';
import { type ContentField, changedFields } from '@/core/digest';
import { exponentOf, formatAmount } from '@/core/money';
import { countDifferences, differencesByAccount, differingLines } from '@/store/compare';
import { bearsOnAny, linesOfEntries, type StoredLine } from '@/store/lines';
import { type Context, known } from '../asking/context';
import { addressOfPinned, figureAt } from '../asking/subjects';
import { maySee, requireWhole, type Viewer } from '../asking/viewer';
import { listNotes } from '../evidence/notes';
import { listPins } from '../evidence/pins';
import { threadsTouched } from '../evidence/threads/seenThreads';

/** Differing lines beyond this are counted and summed, and evidence is looked for among these. */
const TOUCH_MAX = 20_000;
/** Pins and notes that are held against the differing lines. */
const EVIDENCE_MAX = 5_000;

/**
 * What changed in the ledger between two loads: lines added, changed (which fields, from, to) and removed, sums by
 * account, and the pins, notes and threads that they touch. Lines are matched by entity, entry and line number.
 */
export async function compareLoads(
  ctx: Context,
  viewer: Viewer,
  params: { from: number; to: number; entity?: string[] | undefined; limit: number; at: number },
) {
  const names = await known(ctx.read);
  const { catalogue, newest } = names;
  requireWhole(viewer, 'Loads are');
  if (params.to > newest) throw wrong('to', `there is no load ${params.to}; the newest is ${newest}`);
  if (params.from >= params.to) throw wrong('from', 'the earlier load comes first; its number is smaller');
  const codes = params.entity ?? [...catalogue.entities.keys()].filter((code) => maySee(viewer, code));
  const entities = codes.map((code) => {
    const entity = catalogue.entities.get(code);
    if (!entity || !maySee(viewer, code)) throw notFound(`Entity ${code}`);
    return entity;
  });
  const between = { entities: entities.map((e) => e.id), from: params.from, to: params.to };
  const [counts, sums, pairs] = await Promise.all([
    countDifferences(ctx.work, between),
    differencesByAccount(ctx.work, between),
    differingLines(ctx.work, between, params.at, params.limit),
  ]);
  const byId = new Map(entities.map((e) => [e.id, e]));
  const everything = { by: 'period' as const, from: 1, to: 19_999 };
  const figure = {
    entities: codes,
    accounts: null,
    window: everything,
    adjustments: 'with' as const,
    status: 'all' as const,
    where: [],
    load: null,
  };
  const question = { figure, catalogue, asOf: newest, entities: [] };
  const ids = pairs.flatMap((p) => [p.gone_entry, p.fresh_entry]).filter((id) => id !== null);
  const lines = new Map<string, StoredLine>();
  for (const line of ids.length > 0 ? await linesOfEntries(ctx.work, question, [...new Set(ids)], null) : [])
    lines.set(`${line.entryId}|${line.line}`, line);
  return {
    from: params.from,
    to: params.to,
    counts,
    accounts: sums.map((s) => {
      const entity = byId.get(s.entity);
      const digits = exponentOf(entity?.currency ?? 'XXX');
      const account = entity?.accountOf.get(s.account);
      return {
        entity: entity?.code ?? '',
        account: account?.code ?? '',
        name: account?.name ?? '',
        currency: entity?.currency ?? '',
        added: s.added,
        changed: s.changed,
        removed: s.removed,
        before: formatAmount(s.before, digits),
        after: formatAmount(s.after, digits),
        change: formatAmount(s.after - s.before, digits),
      };
    }),
    lines: pairs.map((p) => {
      const before = lines.get(`${p.gone_entry}|${p.line_no}`) ?? null;
      const after = lines.get(`${p.fresh_entry}|${p.line_no}`) ?? null;
      const entity = byId.get(p.entity);
      const digits = exponentOf(entity?.currency ?? 'XXX');
      return {
        change: p.change,
        entity: entity?.code ?? '',
        entry: p.entry_number,
        line: p.line_no,
        date: (after ?? before)?.postingDate ?? '',
        account: (after ?? before)?.account ?? '',
        description: (after ?? before)?.description ?? '',
        amount: formatAmount((after ?? before)?.amount ?? 0, digits),
        fields:
          before && after
            ? changedFields(before, after).map((field) => ({
                field,
                from: shown(before, field, digits),
                to: shown(after, field, digits),
              }))
            : [],
      };
    }),
    at: params.at,
    touched: await touchedBy(ctx, viewer, codes, between),
  };
}

function shown(line: StoredLine, field: ContentField, digits: number): string {
  const value = line[field];
  if (value === null || value === undefined) return '';
  return field === 'amount' && typeof value === 'number' ? formatAmount(value, digits) : String(value);
}

/** Pins and notes on figures, lines and entries that hold any of the differing lines. */
async function touchedBy(
  ctx: Context,
  viewer: Viewer,
  codes: string[],
  between: { entities: number[]; from: number; to: number },
) {
  const differing = await differingLines(ctx.work, between, 0, TOUCH_MAX);
  if (differing.length === 0) return { pins: [], notes: [], threads: [] };
  const keys = differing.flatMap((d) =>
    [d.gone_entry, d.fresh_entry].filter((e) => e !== null).map((entry) => ({ entry, line: d.line_no })),
  );
  const numbers = new Set(differing.map((d) => d.entry_number));
  const touches = async (subject: string): Promise<boolean> => {
    const about = readSubject(subject);
    if (about.is === 'line' || about.is === 'entry') {
      if (!numbers.has(about.entry)) return false;
      if (about.is === 'entry') return true;
      return differing.some((d) => d.entry_number === about.entry && d.line_no === about.line);
    }
    if (isWritten(about)) return false;
    const asked = await figureAt(ctx, viewer, addressOfPinned(about), null);
    return bearsOnAny(ctx.work, asked.narrowed({ load: null }).unweighed, keys);
  };
  const [pins, notes] = await Promise.all([
    listPins(ctx, viewer, { entity: codes, limit: EVIDENCE_MAX }),
    listNotes(ctx, viewer, { entity: codes, limit: EVIDENCE_MAX }),
  ]);
  const kept = async <Row extends { subject: string }>(rows: Row[]): Promise<Row[]> => {
    const found: Row[] = [];
    for (const row of rows) if (await touches(row.subject).catch(() => false)) found.push(row);
    return found;
  };
  return {
    pins: (await kept(pins.rows)).map((p) => ({
      id: p.id,
      label: p.label,
      by: p.by,
      value: p.value,
      now: p.now,
      currency: p.currency,
      state: p.state,
    })),
    notes: (await kept(notes.rows)).map((n) => ({ id: n.id, label: n.label, by: n.by, body: n.body })),
    threads: await threadsTouched(ctx, viewer, codes, touches),
  };
}
