import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';

/** A letter that was caught. */
export interface Caught {
  to: string;
  from: string;
  subject: string;
  text: string;
  at: string;
  /** What went with it; each is read at its address. */
  files: { name: string; bytes: number; address: string }[];
}

export interface MailCatcher {
  /** Where letters are sent to. */
  smtp: string;
  /** A page that shows them; the same as JSON at /messages. */
  url: string;
  messages: readonly Caught[];
  close(): Promise<void>;
}

const KEPT = 500;
const FILES_KEPT = 200;

/**
 * A small stand-in for a mail server: it takes every letter, sends none on, and shows them on a page. For the demo, for
 * tests, and for whoever has named no server yet.
 * @param port of the page; letters come to a port of their own
 */
export async function startMailCatcher(port = 0): Promise<MailCatcher> {
  const messages: Caught[] = [];
  const held = new Map<string, { name: string; content: Buffer }>();
  let taken = 0;
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    size: 40 * 1024 ** 2,
    onData(stream, session, done) {
      simpleParser(stream).then((letter) => {
        taken += 1;
        const number = taken;
        const files = letter.attachments.map(({ filename, content, size }, i) => {
          const address = `/files/${number}/${i}`;
          held.set(address, { name: filename ?? 'file', content });
          return { name: filename ?? 'file', bytes: size, address };
        });
        while (held.size > FILES_KEPT) held.delete(held.keys().next().value as string);
        messages.unshift({
          files,
          to: session.envelope.rcptTo.map((r) => r.address).join(', '),
          from: letter.from?.text ?? '',
          subject: letter.subject ?? '',
          text: letter.text ?? '',
          at: new Date().toISOString(),
        });
        messages.length = Math.min(messages.length, KEPT);
        done();
      }, done);
    },
  });
  const smtpPort = await new Promise<number>((resolve, reject) => {
    smtp.once('error', reject);
    smtp.listen(0, '127.0.0.1', () => resolve((smtp.server.address() as AddressInfo).port));
  });
  const page = createServer((request, response) => {
    const file = held.get(request.url ?? '');
    if (file) {
      response.writeHead(200, {
        'content-type': 'application/octet-stream',
        'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(file.name)}`,
        'x-content-type-options': 'nosniff',
      });
      return response.end(file.content);
    }
    const json = request.url === '/messages';
    response.writeHead(200, {
      'content-type': json ? 'application/json' : 'text/html; charset=utf-8',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
      'cache-control': 'no-store',
    });
    response.end(json ? JSON.stringify(messages) : pageOf(messages));
  });
  await new Promise<void>((resolve, reject) => {
    page.once('error', reject);
    page.listen(port, '127.0.0.1', resolve);
  });
  return {
    smtp: `smtp://127.0.0.1:${smtpPort}`,
    url: `http://127.0.0.1:${(page.address() as AddressInfo).port}`,
    messages,
    close: async () => {
      page.closeAllConnections();
      await Promise.all([
        new Promise<void>((resolve) => page.close(() => resolve())),
        new Promise<void>((resolve) => smtp.close(() => resolve())),
      ]);
    },
  };
}

const escaped = (text: string): string =>
  text.replace(/[&<>"]/g, (sign) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' })[sign] as string);

const pageOf = (messages: readonly Caught[]): string => `<!doctype html><html lang="en"><title>Letters</title>
<style>body{font:15px/1.5 sans-serif;max-width:46rem;margin:2rem auto;padding:0 1rem}pre{white-space:pre-wrap;font:inherit}hr{border:0;border-top:1px solid #ccc}</style>
<h1>Letters that were sent</h1>${messages.length === 0 ? '<p>None yet.</p>' : ''}${messages
  .map(
    (m) =>
      `<hr><p><b>${escaped(m.subject)}</b><br>to ${escaped(m.to)}, ${escaped(m.at.slice(0, 16).replace('T', ' '))}</p><pre>${escaped(m.text)}</pre>${m.files.map((f) => `<p><a href="${f.address}">${escaped(f.name)}</a></p>`).join('')}`,
  )
  .join('')}</html>`;
