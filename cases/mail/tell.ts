import type { Db } from '@/store/db';
import { openJobOf } from '@/store/jobs';
import { type Letter, layBy } from '@/store/mail';
import { listPeople } from '@/store/people';
import { readHead } from '@/store/record';
import { publicAddress } from '../asking/publicAddress';
import type { Viewer } from '../asking/viewer';
import { addJob } from '../jobs/jobs';

const SUBJECT = 'letters';

export interface News {
  /** In a line, after who did it: “asked you about 6320 Dry-docking”. */
  what: string;
  /** The place that shows it, which begins with /. */
  place: string;
}

/**
 * Tells people by mail of something that waits for them: that it does, who did it, and where it is; never what it says,
 * since letters lie open on their way. Laid by in the transaction of what is told, and sent by a job.
 */
export async function tell(trx: Db, by: Viewer, people: readonly number[], { what, place }: News): Promise<void> {
  const receivers = (await listPeople(trx)).filter(
    (p) => people.includes(p.id) && p.id !== by.id && p.suspended_at === null,
  );
  if (receivers.length === 0) return;
  // Whoever keeps the letter can tell later whether the record was cut or made anew.
  const head = await readHead(trx);
  await post(
    trx,
    receivers.map((p) => ({
      receiver: p.email,
      subject: `${by.name} ${what}`,
      body: `${by.name} ${what}.\n\n${publicAddress(place)}\n\nThis letter tells only that it is there; you are asked to sign in.\nThe record of who did what went to entry ${head.number} when it was written: ${head.hash}\n`,
    })),
  );
}

/** Lays letters by, each subject in one line, and has them sent. */
export async function post(trx: Db, letters: readonly Letter[]): Promise<void> {
  await layBy(
    trx,
    letters.map((letter) => ({ ...letter, subject: letter.subject.replace(/[\r\n]+/g, ' ').slice(0, 200) })),
  );
  await askForMail(trx);
}

/** Has letters that are laid by sent. */
async function askForMail(trx: Db): Promise<void> {
  const job = await openJobOf(trx, 'mail', SUBJECT);
  if (job && job.begun_at === null) return;
  await addJob(trx, {
    ...{ kind: 'mail', subject: SUBJECT, label: 'Letters to be sent' },
    ...{ person: null, person_name: 'the installation', entities: null },
  });
}
