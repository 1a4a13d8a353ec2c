import { fileContents, READABLE, wordsOfContents } from '@/exchange/fileContents';
import { cleaned, fileText } from '@/exchange/fileText';
import type { Db } from '@/store/db';
import { openJobOf } from '@/store/jobs';
import { filesUnread, keepFileText, type UnreadFile } from '@/store/search';
import type { Context } from '../asking/context';
import { addJob } from '../jobs/jobs';
import type { Work } from '../jobs/work';

const SUBJECT = 'attached files';
/** So many are asked for at once. */
const BATCH = 50;

/** Has the files that came with documents read, so that they are found by what they say; where there are any unread. */
export async function askUnreadFiles(ctx: Context): Promise<void> {
  if ((await filesUnread(ctx.work, READABLE, 1)).length === 0 || (await openJobOf(ctx.work, 'files', SUBJECT))) return;
  await ctx.work.transaction((trx) => readSoon(trx));
}

/** Has what was just attached read, in the transaction that attaches it: one job that waits reads all there is. */
export async function readSoon(trx: Db): Promise<void> {
  const job = await openJobOf(trx, 'files', SUBJECT);
  if (job && job.begun_at === null) return;
  await addJob(trx, {
    ...{ kind: 'files', subject: SUBJECT, label: 'Text of attached files' },
    ...{ person: null, person_name: 'the installation', entities: null },
  });
}

/** A file that is not there any more says nothing; that it is missing is for the check to say. */
async function whatItSays(ctx: Context, { digest, media_type }: UnreadFile) {
  const path = await ctx.files.pathOf(digest);
  if (media_type === null || !READABLE.includes(media_type))
    return { body: path === null ? '' : await fileText(path).catch(() => ''), contents: null };
  const contents =
    path === null ? { is: 'nothing' as const, why: 'It is not there any more.' } : await fileContents(path, media_type);
  return { body: cleaned(wordsOfContents(contents)), contents };
}

/** Reads what attached files say, each once, whatever number of documents it is attached to. */
export async function readFiles({ ctx, tell }: Work): Promise<{ message: string }> {
  let read = 0;
  for (
    let unread = await filesUnread(ctx.work, READABLE, BATCH);
    unread.length > 0;
    unread = await filesUnread(ctx.work, READABLE, BATCH)
  ) {
    for (const file of unread) {
      const { body, contents } = await whatItSays(ctx, file);
      await keepFileText(ctx.work, file.digest, body, contents);
      read++;
    }
    await tell(0.5);
  }
  return { message: `${read} ${read === 1 ? 'file was' : 'files were'} read` };
}
