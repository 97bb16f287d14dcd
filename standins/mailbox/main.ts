import { mkdir, readdir, readFile, writeFile } from 'node:fs/promises';
import { createServer, type ServerResponse } from 'node:http';
import { join, resolve } from 'node:path';
import { type ParsedMail, simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';

/**
 * A make-believe mail server: it takes letters by SMTP (RFC 5321) on loopback, keeps each as an .eml file (RFC 5322) and
 * shows them. Nothing is ever sent on. `GET /letters.json` lists them for programs, newest first.
 */
const webPort = Number(process.env.MAILBOX_PORT ?? 4605);
const smtpPort = Number(process.env.MAILBOX_SMTP_PORT ?? 4606);
const folder = resolve(process.env.MAILBOX_DATA ?? 'data/mailbox');
await mkdir(folder, { recursive: true });

const safe = (text: string): string => text.replace(/[&<>"]/g, (c) => `&#${c.charCodeAt(0)};`);
const isName = (name: string): boolean => /^[\w-]+\.eml$/.test(name);
let count = 0;

const smtp = new SMTPServer({
  authOptional: true,
  disabledCommands: ['STARTTLS'],
  size: 30 * 1024 * 1024,
  onData(stream, _session, done) {
    const chunks: Buffer[] = [];
    stream.on('data', (chunk: Buffer) => chunks.push(chunk));
    stream.on('end', () => {
      // A name that sorts by time, so that the folder is the list.
      const name = `${new Date().toISOString().replace(/\D/g, '')}-${String(++count).padStart(5, '0')}.eml`;
      writeFile(join(folder, name), Buffer.concat(chunks)).then(() => done(), done);
    });
  },
});

interface Kept {
  readonly name: string;
  readonly mail: ParsedMail;
}

const read = async (name: string): Promise<Kept> => ({
  name,
  mail: await simpleParser(await readFile(join(folder, name))),
});
const names = async (): Promise<string[]> =>
  (await readdir(folder)).filter(isName).sort().reverse().slice(0, 200);
const toOf = ({ mail }: Kept): string =>
  [mail.to]
    .flat()
    .flatMap((a) => (a ? [a.text] : []))
    .join(', ');

const shell = (
  title: string,
  body: string,
): string => `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width"><title>${safe(title)}</title>
<style>body{font:1rem/1.5 ui-sans-serif,sans-serif;max-width:46rem;margin:2.5rem auto;padding:0 1rem;background:#f6f3ec;color:#22302a}a{color:#22593c}h1{font-size:1.4rem}ol{list-style:none;padding:0}li{border-top:1px solid #cfc7b6;padding:.7rem 0}small{color:#5a6159}pre{white-space:pre-wrap;background:#fff;border:1px solid #cfc7b6;padding:1rem;font:.95rem/1.5 ui-monospace,monospace}iframe{width:100%;height:32rem;border:1px solid #cfc7b6;background:#fff}</style></head><body>${body}</body></html>`;

async function list(): Promise<string> {
  const all = await Promise.all((await names()).map(read));
  const rows = all.map(
    (k) =>
      `<li><a href="/${k.name}">${safe(k.mail.subject ?? 'no subject')}</a><br><small>to ${safe(toOf(k))} from ${safe(k.mail.from?.text ?? '')}, ${safe(k.mail.date?.toLocaleString('en-GB') ?? '')}</small></li>`,
  );
  return shell(
    'Mailbox',
    `<h1>Mailbox</h1><p>Letters that the shop sent. This server is make-believe: nothing leaves this machine.</p>${rows.length ? `<ol>${rows.join('')}</ol>` : '<p>None yet.</p>'}`,
  );
}

/** Links in the text can be followed; HTML is shown without scripts, in a frame of no origin. */
async function one(name: string): Promise<string> {
  const k = await read(name);
  const text = safe(k.mail.text ?? '').replace(
    /https?:\/\/[^\s&]+(?:&#38;[^\s&]+)*/g,
    (url) => `<a href="${url}">${url}</a>`,
  );
  const files = k.mail.attachments.map(
    (a) =>
      `<li>${safe(a.filename ?? 'without a name')} <small>${a.size} bytes, ${safe(a.contentType)}</small></li>`,
  );
  return shell(
    k.mail.subject ?? '',
    `<p><a href="/">All letters</a> · <a href="/${name}?raw">${safe(name)}</a></p><h1>${safe(k.mail.subject ?? '')}</h1><p><small>to ${safe(toOf(k))} from ${safe(k.mail.from?.text ?? '')}</small></p>
${k.mail.html ? `<iframe sandbox="allow-popups allow-top-navigation-by-user-activation" title="The letter" srcdoc="${safe(k.mail.html)}"></iframe>` : ''}<pre>${text}</pre>${files.length ? `<ol>${files.join('')}</ol>` : ''}`,
  );
}

const html = (res: ServerResponse, body: string): void =>
  void res
    .writeHead(200, {
      'content-type': 'text/html; charset=utf-8',
      'content-security-policy':
        "default-src 'none'; style-src 'unsafe-inline'; img-src data: http: https:; frame-src 'self'",
    })
    .end(body);

async function answer(res: ServerResponse, url: URL): Promise<void> {
  const name = url.pathname.slice(1);
  if (name === '') return html(res, await list());
  if (name === 'letters.json') {
    const all = await Promise.all((await names()).map(read));
    return void res.writeHead(200, { 'content-type': 'application/json' }).end(
      JSON.stringify(
        all.map((k) => ({
          name: k.name,
          to: toOf(k),
          from: k.mail.from?.text ?? '',
          subject: k.mail.subject ?? '',
          text: k.mail.text ?? '',
        })),
      ),
    );
  }
  if (!isName(name)) return void res.writeHead(404).end('no such letter');
  if (url.searchParams.has('raw'))
    return void res
      .writeHead(200, {
        'content-type': 'message/rfc822',
        'content-disposition': `attachment; filename="${name}"`,
      })
      .end(await readFile(join(folder, name)));
  html(res, await one(name));
}

const failed = (port: number) => (e: NodeJS.ErrnoException) => {
  process.stderr.write(
    `The stand-in mailbox cannot listen on port ${port} (${e.code}). Choose other ports with --port N.\n`,
  );
  process.exit(1);
};
// A client that hangs up is no failure of the server's.
smtp.on('error', (e: NodeJS.ErrnoException) => void (e.syscall === 'listen' && failed(smtpPort)(e)));
smtp.listen(smtpPort, '127.0.0.1', () => {
  createServer((req, res) => {
    answer(res, new URL(req.url ?? '/', 'http://mailbox')).catch(
      () => res.headersSent || res.writeHead(404).end('no such letter'),
    );
  })
    .listen(webPort, '127.0.0.1', () => process.send?.({ ready: true }))
    .on('error', failed(webPort));
});
