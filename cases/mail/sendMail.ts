import { createReadStream } from 'node:fs';
import { mailTo } from '@/exchange/smtp';
import { letterFailed, letterSent, unsentLetters } from '@/store/mail';
import type { Context } from '../asking/context';
import type { Work } from '../jobs/work';

const BATCH = 50;

/** Sends what was laid by. A letter that cannot be sent stays, and is tried again with the next. */
export async function sendMail({ ctx }: Work): Promise<{ message: string }> {
  const url = process.env.SMTP_URL;
  if (!url) return { message: 'no letter is sent: SMTP_URL names no server for them' };
  const post = mailTo(url, process.env.MAIL_FROM);
  let sent = 0;
  const failed = new Set<number>();
  try {
    for (;;) {
      const letters = (await unsentLetters(ctx.work, BATCH + failed.size)).filter(({ id }) => !failed.has(id));
      if (letters.length === 0) break;
      for (const { id, receiver, subject, body, files = [] } of letters) {
        try {
          await post.send({ to: receiver, subject, text: body, files: await opened(ctx, files) });
          await letterSent(ctx.work, id);
          sent += 1;
        } catch (error) {
          failed.add(id);
          await letterFailed(ctx.work, id, (error as Error).message.slice(0, 500));
        }
      }
    }
  } finally {
    post.close();
  }
  const told = `${sent} ${sent === 1 ? 'letter was' : 'letters were'} sent`;
  return { message: failed.size === 0 ? told : `${told}, ${failed.size} could not be and are tried again` };
}

/** Files of a letter; one that is there no more is left out, since the letter leads to where it was. */
async function opened(ctx: Context, files: readonly { name: string; digest: string }[]) {
  const found = await Promise.all(
    files.map(async ({ name, digest }) => {
      const path = await ctx.files.pathOf(digest);
      return path === null ? [] : [{ name, content: createReadStream(path) }];
    }),
  );
  return found.flat();
}
