import { ProblemError } from '@/contracts/problem';
import type { Sought } from '@/core/searchWords';
import { dateText } from '@/core/sentence';
import type { CatalogueEntity } from '@/store/catalogue';
import { listPeople } from '@/store/people';
import type { Context } from '../asking/context';
import { seesWhole, type Viewer } from '../asking/viewer';
import { listFindings } from '../evidence/findings';
import { listNotes } from '../evidence/notes';
import { listPoints } from '../evidence/points';
import { listQuestions } from '../evidence/questions';
import { allSeen } from '../evidence/threads/seenThreads';
import { showLoads } from '../loads/loads';
import { showKeptScopes } from '../people/keptScopes';
import { listProposed } from '../proposals/propose';
import { outlinesOf } from '../statements/outlines';
import { refineOf } from '../statements/statementRows';
import { BARE, detailOf, type Found, fitting, inverse, OncePerCompany, ranked } from './hits';

/** Threads by their name, their steps and what was written on those; of which the viewer may see every figure. */
export async function threadsFound(ctx: Context, viewer: Viewer, sought: readonly Sought[]) {
  const all = fitting(await allSeen(ctx, viewer), sought, ({ thread, steps }) => [
    thread.name,
    thread.person_name,
    ...steps.flatMap((k) => [k.label, k.note]),
  ]);
  const found = all.map(({ thread, steps }): Found => {
    const step = fitting(steps, sought, (k) => [k.label, k.note])[0];
    return {
      ...BARE,
      label: thread.name,
      detail: detailOf(thread.state, thread.person_name, step && (step.note || step.label)),
      address: `/threads/${thread.id}`,
      own: [thread.name],
      order: inverse(thread.changed_at.toISOString()),
    };
  });
  return ranked('thread', found, sought);
}

/** Notes are read back to here. */
const NOTES_MAX = 5_000;

/** Notes, review points and questions on what the viewer may see, by what they say, who wrote them and what they are about. */
export async function notesFound(
  ctx: Context,
  viewer: Viewer,
  entities: readonly CatalogueEntity[],
  sought: readonly Sought[],
) {
  const { rows } = await listNotes(ctx, viewer, { entity: entities.map((e) => e.code), limit: NOTES_MAX });
  const found = fitting(rows, sought, (n) => [n.body, n.label, n.by]).map(
    (n): Found => ({
      ...BARE,
      label: n.body,
      detail: detailOf(`on ${n.label}`, n.by, dateText(n.at.slice(0, 10))),
      subject: n.subject,
      address: n.address,
      own: [n.body],
      order: inverse(n.at),
    }),
  );
  return ranked('note', [...found, ...(await askedFound(ctx, viewer, entities, sought))], sought);
}

/** Review points and questions on what the viewer may see, with what was answered to them. */
async function askedFound(
  ctx: Context,
  viewer: Viewer,
  entities: readonly CatalogueEntity[],
  sought: readonly Sought[],
) {
  const of = { entity: entities.map((e) => e.code), limit: NOTES_MAX };
  const [points, questions] = await Promise.all([listPoints(ctx, viewer, of), listQuestions(ctx, viewer, of)]);
  const all = [
    ...points.rows.map((p) => ({ ...p, what: 'review point' })),
    ...questions.rows.map((q) => ({ ...q, what: 'question' })),
  ];
  return fitting(all, sought, (a) => [a.body, a.label, a.by, ...a.answers.map((n) => n.body)]).map(
    (a): Found => ({
      ...BARE,
      label: a.body,
      detail: detailOf(`${a.what}, ${a.state}, on ${a.label}`, a.by, dateText(a.at.slice(0, 10))),
      subject: a.subject,
      address: a.address,
      own: [a.body],
      order: inverse(a.at),
    }),
  );
}

/** Findings on what the viewer may see, by what was found, its cause and effect, and what is recommended. */
export async function findingsFound(
  ctx: Context,
  viewer: Viewer,
  entities: readonly CatalogueEntity[],
  sought: readonly Sought[],
) {
  const { rows } = await listFindings(ctx, viewer, { entity: entities.map((e) => e.code), limit: NOTES_MAX });
  const found = fitting(rows, sought, (f) => [
    f.title,
    f.cause,
    f.effect,
    f.recommendation,
    f.by,
    f.owner?.name ?? '',
  ]).map(
    (f): Found => ({
      ...BARE,
      label: f.title,
      detail: detailOf(f.kind, f.state, f.owner?.name ?? f.by),
      address: `/findings/${f.id}`,
      own: [f.title],
      order: inverse(f.at),
    }),
  );
  return ranked('finding', found, sought);
}

/** Proposed entries on what the viewer may see, by their number, what they are called and why they are proposed. */
export async function proposedFound(
  ctx: Context,
  viewer: Viewer,
  entities: readonly CatalogueEntity[],
  sought: readonly Sought[],
) {
  const { rows } = await listProposed(ctx, viewer, { entity: entities.map((e) => e.code), limit: NOTES_MAX });
  const found = fitting(rows, sought, (p) => [p.number, p.title, p.reason, p.by, p.set]).map(
    (p): Found => ({
      ...BARE,
      label: `${p.number} ${p.title || p.reason}`,
      detail: detailOf(p.kind, p.state, p.by),
      address: `/proposals/${p.id}`,
      own: [p.number, p.title],
      order: inverse(p.at),
    }),
  );
  return ranked('proposed', found, sought);
}

/** Sentences kept by name: one's own, and those that are shared. */
export async function scopesFound(ctx: Context, viewer: Viewer, sought: readonly Sought[]) {
  const { rows } = await showKeptScopes(ctx, viewer);
  const found = fitting(rows, sought, (row) => [row.name, row.folder]).map(
    (row): Found => ({
      ...BARE,
      label: row.name,
      detail: detailOf('kept sentence', row.folder, row.mine ? '' : row.by),
      address: `/${row.place}${row.query ? `?${row.query}` : ''}`,
      own: [row.name],
      order: row.name,
    }),
  );
  return ranked('scope', found, sought);
}

/**
 * Statements and their rows; rows may be of members that a limited viewer is not to know of. What several companies have
 * alike is found once, in the first of them.
 */
export async function statementsFound(
  ctx: Context,
  viewer: Viewer,
  entities: readonly CatalogueEntity[],
  sought: readonly Sought[],
) {
  const found = new OncePerCompany();
  for (const entity of entities) {
    for (const [code, { outline }] of await outlinesOf(ctx, entity)) {
      const of = { ...BARE, entity: entity.code };
      const address = `/statements?${new URLSearchParams({ entity: entity.code, statement: code })}`;
      if (fitting([outline.name], sought, (name) => [name]).length > 0)
        found.add(
          { ...of, label: outline.name, detail: 'statement', address, own: [outline.name], order: `0 ${code}` },
          entity.name,
        );
      if (!seesWhole(viewer)) continue;
      for (const row of fitting(outline.rows, sought, (r) => [r.label])) {
        const accounts = refineOf(row, outline)?.accounts;
        const selection = typeof accounts === 'string' ? accounts : null;
        const params = { entity: entity.code, window: 'year-to-date', accounts: selection ?? '' };
        found.add(
          {
            ...of,
            label: row.label,
            detail: `row of ${outline.name}`,
            address: selection === null ? address : `/trial-balance?${new URLSearchParams(params)}`,
            put: selection === null ? null : { accounts: [selection] },
            own: [row.label],
            order: `1 ${code} ${row.label}`,
          },
          entity.name,
        );
      }
    }
  }
  return ranked('statement', found.all, sought);
}

/** Loads are looked through back to here. */
const LOADS_MAX = 200;

/** Loads by their number, their file and who brought them. */
export async function loadsFound(ctx: Context, viewer: Viewer, sought: readonly Sought[]) {
  const { rows } = await showLoads(ctx, viewer, { limit: LOADS_MAX });
  const found = fitting(rows, sought, (l) => [`load ${l.id}`, l.file, l.person, l.kind]).map(
    (l): Found => ({
      ...BARE,
      label: `Load ${l.id} ${l.file}`,
      detail: detailOf(l.kind, l.entity ?? '', l.person, dateText(l.createdAt.slice(0, 10))),
      entity: l.entity,
      address: `/loads?load=${l.id}`,
      own: [String(l.id), `load ${l.id}`, l.file],
      order: inverse(l.createdAt),
    }),
  );
  return ranked('load', found, sought);
}

/** People, for whoever sees to them. */
export async function peopleFound(ctx: Context, viewer: Viewer, sought: readonly Sought[]) {
  const all = viewer.role === 'owner' ? await listPeople(ctx.write) : [];
  const found = fitting(all, sought, (p) => [p.name, p.email]).map(
    (p): Found => ({
      ...BARE,
      label: p.name,
      detail: `${p.role} · ${p.email}`,
      address: '/settings',
      own: [p.name, p.email],
      order: p.name,
    }),
  );
  return ranked('person', found, sought);
}

/** Nothing, where a question about it is refused to the viewer: what may not be asked is not found. */
export async function unlessRefused<Answer>(ask: () => Promise<Answer>, none: Answer): Promise<Answer> {
  try {
    return await ask();
  } catch (error) {
    if (error instanceof ProblemError && [403, 404].includes(error.status)) return none;
    throw error;
  }
}
