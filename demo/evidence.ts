import { Readable } from 'node:stream';
import type { Context } from '@/cases/asking/context';
import { figureAt } from '@/cases/asking/subjects';
import type { Viewer } from '@/cases/asking/viewer';
import { attach, keepEvidenceFile } from '@/cases/evidence/files';
import { writeFinding } from '@/cases/evidence/findings';
import { writeNote } from '@/cases/evidence/notes';
import { raisePoint } from '@/cases/evidence/points';
import { askColleague } from '@/cases/evidence/questions';
import { changeThread } from '@/cases/evidence/threads/keep';
import { listThreads } from '@/cases/evidence/threads/shown';
import { tick } from '@/cases/evidence/ticks';
import { newFindingSchema } from '@/contracts/bodies/all';
import type { RichText } from '@/contracts/richText';

const QUARTER = 'entity=KSF&from=2027.04&to=2027.06';
const DOCKING = `figure:${QUARTER}&accounts=6320`;
const DOUBLED = `figure:${QUARTER}&accounts=6320&dim.project=LINK-BRE`;
/** What is on the screen where a part of the books is looked at. */
const lines = (more: string): string => `/lines?${QUARTER}&${more}`;

/** Words around the figure of the second copy. */
const quoting = (before: string, after: string): RichText => ({
  type: 'doc',
  content: [
    {
      type: 'paragraph',
      content: [
        { type: 'text', text: before },
        {
          type: 'quoted',
          attrs: {
            ...{ subject: DOUBLED, measure: 'movement', label: 'New linkspan Brenna' },
            address: lines('accounts=6320&dim.project=LINK-BRE'),
            ...{ currency: null, value: null, lines: null, load: null, now: null, moved: false },
          },
        },
        { type: 'text', text: after },
      ],
    },
  ],
});

/** What the yard answered, as a mail that was saved. */
const FROM_THE_YARD = `From: Signe Aaby <signe.aaby@nordholm-slip.example>
To: Tomas Ek <tomas@kestrel.example>
Subject: Re: your number for the third stage
Date: Tue, 22 Sep 2026 09:14:00 +0200
MIME-Version: 1.0
Content-Type: text/plain; charset=utf-8

Dear Tomas,

the third stage was invoiced once. What you have from July is the copy that our new system printed
when the address was mended; it should not have gone out. Please do not pay it.

Signe Aaby, accounts, Nordholm Slip
`;

/** The people of the demo, as they have worked until now: story 1 looked into, with a question, a point and a finding. */
export async function leaveEvidence(
  ctx: Context,
  /** Whose thread it is. */
  owner: Viewer,
  people: Record<'ines' | 'tomas' | 'priya' | 'col', Viewer>,
): Promise<void> {
  const { ines, tomas, priya, col } = people;
  const [thread] = (await listThreads(ctx, owner)).rows;
  if (!thread) return;
  await changeThread(ctx, owner, thread.id, {
    reference: 'R-1',
    folder: '2027 Q2/Repairs',
    purpose: 'Is the rise in repairs and docking real, and booked once and in the right period?',
    assertions: ['occurrence', 'accuracy', 'cut-off'],
    result: quoting(
      'Two of the three docking stages are real. The third was booked twice, the second time on the pier project: ',
      '.',
    ),
    reviewer: priya.id,
  });
  const about = { address: lines('accounts=6320'), label: '6320 Dry-docking', thread: thread.id };
  const note = await writeNote(ctx, tomas, {
    ...about,
    subject: DOCKING,
    measure: 'movement',
    body: quoting('Of this ', ' is on a project that has no vessel in dock.'),
  });
  await writeNote(ctx, ines, {
    replyTo: note.id,
    body: 'The number is nearly that of the third stage. Same yard, same amount.',
  });
  await tick(ctx, tomas, { ...about, subjects: [DOCKING], labels: [about.label], measure: 'movement', mark: 'cast' });
  await raisePoint(ctx, priya, {
    ...{ subject: `thread:${thread.id}`, address: `/threads/${thread.id}`, label: 'R-1 Repairs up by half' },
    body: 'Was the second copy of the invoice paid? If it was, say when it is asked back.',
  });
  const finding = await writeFinding(
    ctx,
    ines,
    newFindingSchema.parse({
      ...{ title: 'A docking invoice was booked twice, the second time on a pier project', kind: 'error' },
      subjects: [DOUBLED],
      amount: { subject: DOUBLED, measure: 'movement' },
      cause: 'The yard sent two copies under nearly the same number, and each went through its own approver.',
      effect: 'Repairs and docking of the second quarter are too high by its amount, and payables with them.',
      recommendation: 'Take the second copy out, and have the yard’s numbers compared before they are entered.',
      ...{
        owner: tomas.id,
        due: '2026-10-20',
        address: lines('accounts=6320&dim.project=LINK-BRE'),
        thread: thread.id,
      },
    }),
  );
  const mail = await keepEvidenceFile(ctx, 'answer-of-the-yard.eml', Readable.from([Buffer.from(FROM_THE_YARD)]));
  await attach(ctx, tomas, mail, {
    ...{ subject: `finding:${finding.id}`, address: `/findings/${finding.id}` },
    ...{ label: 'the invoice that was booked twice', thread: thread.id },
  });
  // What he is asked about is the part of it that he sees.
  const { address } = await figureAt(ctx, col, `${QUARTER}&accounts=6310`, null);
  await askColleague(ctx, tomas, {
    ...{ subject: `figure:${address}`, address: `/lines?${address}`, to: col.email },
    ...{ label: '6310 Repairs and spares, deck and engine', measure: 'movement' as const },
    body: 'This is more than in the quarter before. Was anything bought that lasts longer than a year?',
  });
}
