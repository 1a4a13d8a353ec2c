import { placeOfSubject } from '@/contracts/places';
import { readSubject, subjectText } from '@/contracts/subject';
import type { Context } from '../asking/context';
import { seesWhole, type Viewer } from '../asking/viewer';
import { allSeenEvidence, seenEvidence, seenPiece } from '../evidence/seenEvidence';
import { hitsOn } from '../tests/hits';

const MOST = 100;

/**
 * What was kept, and found by tests, about what a proposed entry goes back to: pins, files, findings, hits. Nobody has to
 * gather it: whatever is kept about those figures, lines and entries, before or later, is told.
 */
export async function restsOn(ctx: Context, viewer: Viewer, id: number) {
  const row = await seenPiece(ctx, viewer, 'proposed', id);
  // Of what an entry goes back to, whoever sees a part of the books sees what it was made of.
  const links = [row.subject, ...(seesWhole(viewer) ? row.links : [])].map(readSubject);
  const entered = links.flatMap((s) => (s.is === 'line' || s.is === 'entry' ? [s] : []));
  const entries = [...new Set(entered.filter((s) => s.entity === row.entity).map((s) => s.entry))];
  const subjects = [
    ...new Set([
      ...links.map(subjectText),
      ...entered.map(({ entity, entry }) => subjectText({ is: 'entry', entity, entry })),
      subjectText({ is: 'proposed', id }),
    ]),
  ];
  const asked = { subject: subjects, limit: MOST };
  const [pins, files, findings, hits] = await Promise.all([
    seenEvidence(ctx, viewer, 'pin', asked),
    seenEvidence(ctx, viewer, 'file', asked),
    allSeenEvidence(ctx, viewer, 'finding', [row.entity]),
    hitsOn(ctx, viewer, { entity: row.entity, entries, limit: MOST }),
  ]);
  const own = new Set(subjects);
  return {
    rows: [
      ...pins.rows.map((p) => ({ is: 'pin' as const, label: p.label, by: p.name, address: placeOfSubject(p.subject) })),
      ...files.rows.map((f) => ({
        ...{ is: 'file' as const, label: f.file_name, by: f.name },
        address: `/api/v1/attachments/${f.digest}`,
      })),
      ...findings
        .filter((f) => f.subjects.some((subject) => own.has(subject)))
        .map((f) => ({ is: 'finding' as const, label: f.title, by: f.name, address: `/findings/${f.id}` })),
      ...hits.map((h) => ({ is: 'hit' as const, label: h.reason, by: null, address: h.address })),
    ],
  };
}
