import { join } from 'node:path';
import { fileText } from '@/exchange/fileText';
import { openJobOf } from '@/store/jobs';
import { filesUnread, keepFileText } from '@/store/search';
import type { Context } from '../asking/context';
import { addJob } from '../jobs/jobs';
import type { Work } from '../jobs/work';

const SUBJECT = 'attached files';
/** So many are asked for at once. */
const BATCH = 50;

/** Has the files that came with documents read, so that they are found by what they say; where there are any unread. */
export async function askUnreadFiles(ctx: Context): Promise<void> {
  if ((await filesUnread(ctx.work, 1)).length === 0 || (await openJobOf(ctx.work, 'files', SUBJECT))) return;
  await ctx.work.transaction((trx) =>
    addJob(trx, {
      kind: 'files',
      subject: SUBJECT,
      label: 'Text of attached files',
      person: null,
      person_name: 'the installation',
      entities: null,
    }),
  );
}

/** Reads what attached files say, each once, whatever number of documents it is attached to. */
export async function readFiles({ ctx, tell }: Work): Promise<{ message: string }> {
  let read = 0;
  for (
    let unread = await filesUnread(ctx.work, BATCH);
    unread.length > 0;
    unread = await filesUnread(ctx.work, BATCH)
  ) {
    for (const { digest } of unread) {
      // A file that is not there any more says nothing; that it is missing is for the check to say.
      const text = await fileText(join(ctx.files, digest)).catch(() => '');
      await keepFileText(ctx.work, digest, text);
      read++;
    }
    await tell(0.5);
  }
  return { message: `${read} ${read === 1 ? 'file was' : 'files were'} read` };
}
