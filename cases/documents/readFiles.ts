import { fileContents, READABLE, wordsOfContents } from '@/exchange/fileContents';
import { cleaned, fileText } from '@/exchange/fileText';
import { openJobOf } from '@/store/jobs';
import { filesUnread, keepFileText, type UnreadFile } from '@/store/search';
import type { Context } from '../asking/context';
import type { Work } from '../jobs/work';
import { FILES_JOB, readSoon } from './readSoon';

/** So many are asked for at once. */
const BATCH = 50;

/** Has the files that came with documents read, so that they are found by what they say; where there are any unread. */
export async function askUnreadFiles(ctx: Context): Promise<void> {
  if ((await filesUnread(ctx.work, READABLE, 1)).length === 0 || (await openJobOf(ctx.work, 'files', FILES_JOB)))
    return;
  await ctx.work.transaction((trx) => readSoon(trx));
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
