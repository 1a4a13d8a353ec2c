import { isWritten, readSubject, type Subject, type WrittenSubject } from '@/contracts/subject';
import { folded } from '@/core/folded';
import { accountsIn, parseSelection } from '@/core/selection';
import type { CatalogueEntity } from '@/store/catalogue';
import { entriesOnAccount } from '@/store/entries';
import { readEvidence } from '@/store/evidence';
import type { RecordRow } from '@/store/record';
import { stepsOf } from '@/store/threads';
import { type Context, known } from '../asking/context';

/** Which of some entries of the record are about something. */
export type IsAbout = (rows: readonly RecordRow[]) => Promise<boolean[]>;

const ACCOUNT = /^account\s+(\S+)$/i;

/**
 * What is asked of the record in words: “account 6320” finds every act on that account, on a figure that takes it in
 * however that is written, on an entry that is posted to it and on its lines, and every look at any of them; anything else
 * what names it, in any case.
 */
export async function aboutInRecord(ctx: Context, asked: string): Promise<IsAbout> {
  const [, account] = ACCOUNT.exec(asked.trim()) ?? [];
  if (account !== undefined) return aboutAccount(ctx, account);
  const wanted = folded(asked.trim());
  return async (rows) => rows.map((row) => folded([row.subject, ...wordsOf(row.detail)].join('\n')).includes(wanted));
}

/** Everything that an act says of itself, names too. */
function wordsOf(detail: unknown): string[] {
  if (typeof detail === 'string' || typeof detail === 'number') return [String(detail)];
  if (Array.isArray(detail)) return detail.flatMap(wordsOf);
  if (detail === null || typeof detail !== 'object') return [];
  return Object.entries(detail).flatMap(([name, value]) => [name, ...wordsOf(value)]);
}

/** Subjects that an act is on; several that are ticked at once are in its detail. */
function subjectsOf({ subject, detail }: RecordRow): string[] {
  const put = Array.isArray(detail.put) ? (detail.put as { subject?: unknown }[]) : [];
  const more = [
    ...put.map((p) => p.subject),
    ...(Array.isArray(detail.subjects) ? detail.subjects : []),
    detail.amount_subject,
  ];
  return [subject, ...more.filter((text): text is string => typeof text === 'string')];
}

interface Named {
  text: string;
  subject: Subject | null;
}

const isWrittenSubject = (subject: Subject | null): subject is WrittenSubject => subject !== null && isWritten(subject);

/** What threads, notes and findings that were acted on are themselves about, one step far. */
async function writtenAbout(
  ctx: Context,
  named: readonly Named[],
  read: (text: string) => Subject | null,
): Promise<Map<string, Named[]>> {
  const found = new Map<string, Named[]>();
  for (const { subject } of named) {
    if (!isWrittenSubject(subject) || found.has(`${subject.is}:${subject.id}`)) continue;
    const about = (await subjectsOfWritten(ctx, subject)).map((text) => ({ text, subject: read(text) }));
    found.set(
      `${subject.is}:${subject.id}`,
      about.filter((n) => !isWrittenSubject(n.subject)),
    );
  }
  return found;
}

async function subjectsOfWritten(ctx: Context, { is, id }: WrittenSubject): Promise<string[]> {
  if (is === 'thread') return (await stepsOf(ctx.read, [id])).map((k) => k.subject);
  const row = await readEvidence(ctx.read, is, id);
  if (!row) return [];
  return 'subjects' in row ? row.subjects : [row.subject];
}

const LOOK = /^(\S+?)((?: \S+)*?) accounts (.+)$/;
const ENTRY_LOOK = /^entries\/e(\d+)\b/;

async function aboutAccount(ctx: Context, account: string): Promise<IsAbout> {
  const { catalogue } = await known(ctx.read);
  const takenIn = new Map<string, boolean>();
  /** Whether a selection takes the account in, in any of the companies that it is asked of. */
  const takes = (selection: string, entities: readonly string[]): boolean => {
    const key = JSON.stringify([selection, entities]);
    const held = takenIn.get(key) ?? entities.some((code) => takesIn(selection, catalogue.entities.get(code), account));
    takenIn.set(key, held);
    return held;
  };
  const read = (text: string): Subject | null => {
    try {
      // Acts on a thread call it as it is spoken of.
      return readSubject(text.replace(/^thread (\d+)$/, 'thread:$1'));
    } catch {
      return null;
    }
  };
  return async (rows) => {
    const subjects = rows.map((row) => subjectsOf(row).map((text) => ({ text, subject: read(text) })));
    const things = rows.map((row) => Object.keys((row.detail.things as Record<string, number> | undefined) ?? {}));
    const written = await writtenAbout(ctx, subjects.flat(), read);
    const all = [...subjects.flat(), ...[...written.values()].flat()];
    const entered = all.flatMap(({ subject }) => (subject?.is === 'line' || subject?.is === 'entry' ? [subject] : []));
    const posted = await entriesOnAccount(ctx.read, account, {
      ids: [
        ...new Set(
          things
            .flat()
            .flatMap((thing) => ENTRY_LOOK.exec(thing)?.[1] ?? [])
            .map(Number),
        ),
      ],
      numbers: [...new Map(entered.map((s) => [`${s.entity}/${s.entry}`, [s.entity, s.entry] as const])).values()],
    });
    const ids = new Set(posted.map((p) => p.id));
    const entries = new Set(posted.map((p) => `${p.entity}/${p.number}`));
    const lines = new Set(posted.map((p) => `${p.entity}/${p.number}/${p.line}`));
    const isOn = ({ text, subject }: Named): boolean => {
      switch (subject?.is) {
        case 'figure': {
          const asked = new URLSearchParams(subject.address);
          const accounts = asked.get('accounts');
          return accounts !== null && takes(accounts, asked.getAll('entity'));
        }
        case 'line':
          return lines.has(`${subject.entity}/${subject.entry}/${subject.line}`);
        case 'entry':
          return entries.has(`${subject.entity}/${subject.entry}`);
        case 'thread':
        case 'note':
        case 'finding':
          return written.get(`${subject.is}:${subject.id}`)?.some((of) => isOn(of)) ?? false;
        default:
          return /^account [^/]+\/(.+)$/.exec(text)?.[1] === account;
      }
    };
    const looksAt = (thing: string): boolean => {
      const entry = ENTRY_LOOK.exec(thing)?.[1];
      if (entry !== undefined) return ids.has(Number(entry));
      const [, , companies, selection] = LOOK.exec(thing) ?? [];
      return selection !== undefined && takes(selection, (companies ?? '').trim().split(' '));
    };
    return rows.map(
      (row, i) =>
        (subjects[i] ?? []).some(isOn) ||
        (things[i] ?? []).some(looksAt) ||
        String(row.detail.account ?? '') === account,
    );
  };
}

function takesIn(selection: string, entity: CatalogueEntity | undefined, account: string): boolean {
  if (!entity) return false;
  try {
    return accountsIn(parseSelection(selection), entity.chart).has(account);
  } catch {
    // A selection that was cut short, or of accounts that are gone, is taken at its words.
    return selection.split(/[\s,;]+/).includes(account);
  }
}
