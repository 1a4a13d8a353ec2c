import {
  evidenceUnlikeRecord,
  faultySummaries,
  fileDigests,
  loadsUnlikeRecord,
  notesUnlikeRecord,
  pinsAndRecord,
  sealsOnRecord,
  stepsOnRecord,
  unbalancedEntries,
} from '@/store/checks';
import { faultsOfCopy } from '@/store/columns/faults';
import { currentParts } from '@/store/columns/manifest';
import { loadSubject, unsealedLoads } from '@/store/loads';
import { ANCHORS_FILE } from '@/store/record';
import { CODED_KINDS, codesNow, nowOf, readSeals, SEALED_KINDS, type Seal, type Sealed } from '@/store/seals';
import { everyStep } from '@/store/threads';
import type { Context } from '../asking/context';
import { brokenPins } from '../evidence/pins';
import { stepDigest } from '../evidence/threads/words';
import { ownerOf } from '../people/signIn';
import { walkAnchored } from './readRecord';

export interface CheckResult {
  what: string;
  ok: boolean;
  /** What was looked at, how much of it, and what was found. */
  detail: string;
  ms: number;
}

type Found = Omit<CheckResult, 'ms' | 'what'>;

/**
 * Checks every stored invariant, streaming: sums against lines, entries, what every load laid down against the digest
 * kept of it, kept files against their names, pins, steps and notes against the record of who did what, and that record
 * against its own chain and against what was anchored outside of the database.
 * @param wanted by the names of checks; all that tell of sums are called “sums”
 */
export async function* check(
  ctx: Context,
  wanted: (what: string) => boolean = () => true,
): AsyncGenerator<CheckResult> {
  async function* timed(what: string, look: () => Promise<Found>): AsyncGenerator<CheckResult> {
    if (!wanted(what)) return;
    const from = performance.now();
    yield { what, ...(await look()), ms: Math.round(performance.now() - from) };
  }
  let from = performance.now();
  for await (const { table, faults, rows } of wanted('sums') ? faultySummaries(ctx.work) : []) {
    const detail = faults === 0 ? `${many(rows)} sums agree` : `${many(faults)} sums disagree`;
    yield { what: `${table} against its lines`, ok: faults === 0, detail, ms: Math.round(performance.now() - from) };
    from = performance.now();
  }
  yield* timed('copies by columns', () => checkCopies(ctx));
  yield* timed('entries', async () => {
    const unbalanced = await unbalancedEntries(ctx.work);
    return { ok: unbalanced === 0, detail: unbalanced === 0 ? 'all balance' : `${many(unbalanced)} do not balance` };
  });
  const sealed = await sealedOnRecord(ctx);
  const seals = await readSeals(ctx.work);
  const unsealed = new Set((await unsealedLoads(ctx.work)).map(({ id }) => id));
  yield* timed('digests of loads', async () => checkSeals(seals, sealed, unsealed));
  for (const what of SEALED_KINDS) {
    yield* timed(`${plain(what)} as loaded`, () =>
      checkKind(
        ctx,
        what,
        seals.filter((s) => s.what === what),
        unsealed,
      ),
    );
  }
  for (const what of CODED_KINDS) {
    yield* timed(plain(what), async () => {
      const mine = seals.filter((s) => s.what === what);
      const now = await codesNow(
        ctx.work,
        what,
        mine.map((s) => s.rows),
      );
      const wrong = mine.filter((s) => now.get(s.rows) !== s.digest);
      return {
        ok: wrong.length === 0,
        detail:
          wrong.length === 0 ? `as after each of ${many(mine.length)} loads` : `changed since load ${wrong[0]?.load}`,
      };
    });
  }
  yield* timed('loads on record', () => checkLoads(ctx));
  yield* timed('loaded files', () => checkFiles(ctx, 'loads'));
  yield* timed('attachments', () => checkFiles(ctx, 'documents'));
  yield* timed('files of evidence', () => checkFiles(ctx, 'evidence'));
  yield* timed('pins', () => checkPins(ctx));
  yield* timed('steps of threads', () => checkSteps(ctx));
  yield* timed('notes', () => checkNotes(ctx));
  yield* timed('ticks, files and signatures', () => checkEvidence(ctx));
  yield* timed('record of who did what', () => checkRecord(ctx));
}

/** A copy that is not as the lines are is thrown away by making it again: `./just-thread copies`. */
async function checkCopies(ctx: Context): Promise<Found> {
  let lines = 0;
  const wrong: number[] = [];
  const copies = [...(await currentParts(ctx.work))].filter(([, parts]) => parts.every((p) => ctx.columns.has(p)));
  for (const [books, parts] of copies) {
    // What cannot be opened is no copy of anything.
    const found = await faultsOfCopy(ctx.work, ctx.columns, books, parts).catch(() => null);
    lines += found?.lines ?? 0;
    if (found === null || found.faults > 0) wrong.push(books);
  }
  if (wrong.length > 0)
    return { ok: false, detail: `not as the lines of books ${few(wrong)}; make them again: ./just-thread copies` };
  return { ok: true, detail: lines === 0 ? 'there are none' : `${many(lines)} lines agree` };
}

const many = (n: number): string => n.toLocaleString('en');
const plain = (what: string): string => what.replace(/\/\d+$/, '').replaceAll('_', ' ');
const few = (found: readonly (string | number)[]): string =>
  `${found.slice(0, 10).join(', ')}${found.length > 10 ? ` and ${many(found.length - 10)} more` : ''}`;

/** What the record says that loads were sealed with, by load and kind. */
async function sealedOnRecord(ctx: Context): Promise<Map<string, string>> {
  const found = new Map<string, string>();
  for (const { subject, detail } of await sealsOnRecord(ctx.work))
    for (const s of detail.seals) found.set(`${subject}|${s.what}`, `${s.rows} ${s.digest}`);
  return found;
}

function checkSeals(seals: readonly Seal[], sealed: ReadonlyMap<string, string>, unsealed: ReadonlySet<number>): Found {
  const wrong = seals
    .filter((s) => sealed.get(`${loadSubject(s.load)}|${s.what}`) !== `${s.rows} ${s.digest}`)
    .map((s) => s.load);
  const kept = new Set(seals.map((s) => `${loadSubject(s.load)}|${s.what}`));
  const gone = [...sealed.keys()].filter((key) => !kept.has(key)).map((key) => key.split('|')[0] as string);
  const loads = new Set(seals.map((s) => s.load)).size;
  if (wrong.length + gone.length > 0)
    return {
      ok: false,
      detail: `not what the record says: ${few([...new Set([...wrong.map(loadSubject), ...gone])])}`,
    };
  const waiting = unsealed.size === 0 ? '' : `; not sealed yet: load ${few([...unsealed])}`;
  return { ok: true, detail: `${many(seals.length)} digests of ${many(loads)} loads are as on record${waiting}` };
}

async function checkKind(
  ctx: Context,
  what: Sealed,
  seals: readonly Seal[],
  unsealed: ReadonlySet<number>,
): Promise<Found> {
  let rows = 0;
  const now = await nowOf(ctx.work, what, (more) => {
    rows += more;
  });
  const wrong = seals.filter((s) => now.get(s.load)?.digest !== s.digest).map((s) => s.load);
  // A load has rows of a kind, and a seal that says nothing of them.
  const loads = new Set(seals.map((s) => s.load));
  const others = [...now.keys()].filter((load) => !loads.has(load));
  const added = others.filter((load) => !unsealed.has(load));
  if (wrong.length + added.length > 0)
    return { ok: false, detail: `changed since they were loaded: load ${few([...wrong, ...added])}` };
  return { ok: true, detail: `${many(rows)} rows of ${many(seals.length)} loads are as they came` };
}

/** Every load that counts is in the record with its file, and every one in the record is there. */
async function checkLoads(ctx: Context): Promise<Found> {
  const { all, unlike } = await loadsUnlikeRecord(ctx.work);
  return unlike.length === 0
    ? { ok: true, detail: `${many(all)} are on record with their files` }
    : { ok: false, detail: `not as on record: ${few(unlike)}` };
}

async function checkFiles(ctx: Context, of: 'loads' | 'documents' | 'evidence'): Promise<Found> {
  const files = await fileDigests(ctx.work, of);
  const wrong: string[] = [];
  let bytes = 0;
  for (const digest of files) {
    const now = await ctx.files.digestNow(digest, (more) => {
      bytes += more;
    });
    if (now !== digest) wrong.push(`${digest.slice(0, 12)}…`);
  }
  const size = bytes >= 1024 ** 2 ? `${many(Math.round(bytes / 1024 ** 2))} MB` : `${many(Math.ceil(bytes / 1024))} kB`;
  return wrong.length === 0
    ? { ok: true, detail: `${many(files.length)} are as they came (${size})` }
    : { ok: false, detail: `${many(wrong.length)} of ${many(files.length)} are missing or changed: ${few(wrong)}` };
}

/** Pins give the digest that was kept, and what was kept is what the record says was pinned. */
async function checkPins(ctx: Context): Promise<Found> {
  const { kept: pins, onRecord } = await pinsAndRecord(ctx.work);
  const changed = pins.filter((p) => {
    const said = onRecord.get(p.id);
    return said?.value !== p.value || said.lines !== p.lines || said.digest !== p.digest;
  });
  const gone = [...onRecord.keys()].filter((id) => !pins.some((p) => p.id === id));
  const broken = pins.length > 0 ? await brokenPins(ctx, await ownerOf(ctx.work)) : [];
  const wrong = [...new Set([...changed.map((p) => p.id), ...gone, ...broken])];
  return wrong.length === 0
    ? { ok: true, detail: `${many(pins.length)} are as pinned, and their lines give the digest that was kept` }
    : { ok: false, detail: `not as they were pinned: ${few(wrong)}` };
}

/** Steps have the figures and the words that the record says. */
async function checkSteps(ctx: Context): Promise<Found> {
  const steps = await everyStep(ctx.work);
  const digests = new Map<number, string>();
  const words = new Map<number, { label?: string; note: string }>();
  for (const { detail } of await stepsOnRecord(ctx.work)) {
    for (const [id, kept] of Object.entries(detail.kept ?? {})) {
      digests.set(Number(id), kept.digest);
      words.set(Number(id), { label: kept.label, note: '' });
    }
    const of = detail.step ?? detail.knot;
    if (of === undefined) continue;
    const before = words.get(of) ?? { note: '' };
    words.set(of, {
      ...before,
      ...(detail.label === undefined ? {} : { label: detail.label }),
      note: detail.note ?? before.note,
    });
  }
  const wrong: number[] = [];
  let before = 0;
  for (const k of steps) {
    const said = words.get(k.id);
    if (!digests.has(k.id)) before += 1;
    else if (digests.get(k.id) !== stepDigest(k)) wrong.push(k.id);
    if (said && (said.note !== k.note || (said.label ?? k.label) !== k.label)) wrong.push(k.id);
  }
  const gone = [...digests.keys()].filter((id) => !steps.some((k) => k.id === id));
  const all = [...new Set([...wrong, ...gone])];
  if (all.length > 0) return { ok: false, detail: `not as on record: step ${few(all)}` };
  const earlier = before === 0 ? '' : `; ${many(before)} were kept before steps were put on record`;
  return { ok: true, detail: `${many(steps.length)} have the figures and words that are on record${earlier}` };
}

async function checkNotes(ctx: Context): Promise<Found> {
  const { all, unlike } = await notesUnlikeRecord(ctx.work);
  return unlike.length === 0
    ? { ok: true, detail: `${many(all)} say what was written` }
    : { ok: false, detail: `not as they were written: ${few(unlike)}` };
}

/** What was ticked, attached and signed is what the record says; a signature is of the content that is kept with it. */
async function checkEvidence(ctx: Context): Promise<Found> {
  const { all, unlike } = await evidenceUnlikeRecord(ctx.work);
  return unlike.length === 0
    ? { ok: true, detail: `${many(all)} are as on record` }
    : { ok: false, detail: `not as on record: ${few(unlike)}` };
}

async function checkRecord(ctx: Context): Promise<Found> {
  const { number, hash, brokenAt, anchors, unanchored } = await walkAnchored(ctx, ctx.work);
  if (brokenAt !== null)
    return { ok: false, detail: `the chain does not hold at entry ${many(brokenAt)}; it held up to ${many(number)}` };
  if (unanchored)
    return {
      ok: false,
      detail: `no ${ANCHORS_FILE} lies in this state folder, so nothing outside of the database says how far the record went; its head is ${number} ${hash}`,
    };
  return {
    ok: true,
    detail: `the chain of ${many(number)} entries holds, with ${many(anchors)} anchors outside; its head is ${number} ${hash}`,
  };
}
