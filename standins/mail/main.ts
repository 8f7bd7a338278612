/**
 * The stand-in for a mail server: takes mail over real SMTP, keeps it in a file, and lists it over HTTP.
 * A mail whose Message-ID it already has is taken and not kept twice, as a careful mail server does.
 * It also writes back as whoever received a mail, and can be as slow as a mail server may be.
 * Settings: NP_SMTP_PORT, NP_MAILS_PORT, NP_MAILS_FILE, NP_SMTP_IN, NP_MAIL_SLOW (milliseconds over the end of a mail).
 */
import { createHash } from 'node:crypto';
import { appendFileSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import express from 'express';
import { type AddressObject, type Attachment, simpleParser } from 'mailparser';
import { createTransport } from 'nodemailer';
import { SMTPServer } from 'smtp-server';
import { z } from 'zod';

type Kept = {
  id: string;
  at: string;
  from: string;
  to: string;
  replyTo?: string;
  subject: string;
  text: string;
  /** What came with it; its content is kept beside the list. */
  attached?: { name: string; type: string; size: number; kept: string }[];
  /** The invitation that it brought, as calendars read it. */
  calendar?: string;
  /** How often it came: once, from a careful sender. */
  times: number;
};

const slow = Number(process.env.NP_MAIL_SLOW ?? 0);
const file = process.env.NP_MAILS_FILE ?? '.data/mails.jsonl';
const folder = join(dirname(file), 'attached');
mkdirSync(dirname(file), { recursive: true });
const kept: Kept[] = existsSync(file)
  ? readFileSync(file, 'utf8')
      .split('\n')
      .filter(line => line.trim() !== '')
      .map(line => JSON.parse(line) as Kept)
  : [];
const known = new Set(kept.map(mail => mail.id));

const words = (address: AddressObject | AddressObject[] | undefined): string =>
  (Array.isArray(address) ? address : address ? [address] : []).map(a => a.text).join(', ');

/** Files are kept under names of their own; an invitation is read as text. */
function keptOf(id: string, attachments: readonly Attachment[]): Pick<Kept, 'attached' | 'calendar'> {
  const calendar = attachments.find(one => one.contentType === 'text/calendar' || one.filename?.endsWith('.ics'));
  // The same invitation stands in the mail for calendars that read it there, without a name.
  const attached = attachments
    .filter(one => one.filename !== undefined)
    .map((one, n) => {
      const name = `${createHash('sha256').update(id).digest('hex').slice(0, 24)}-${n}`;
      mkdirSync(folder, { recursive: true });
      writeFileSync(join(folder, name), one.content);
      return { name: one.filename ?? 'file', type: one.contentType, size: one.size, kept: name };
    });
  return {
    ...(attached.length > 0 ? { attached } : {}),
    ...(calendar ? { calendar: calendar.content.toString('utf8').slice(0, 50_000) } : {}),
  };
}

const smtp = new SMTPServer({
  authOptional: true,
  disabledCommands: ['STARTTLS', 'AUTH'],
  size: 30_000_000,
  onData(stream, _session, done) {
    simpleParser(stream)
      .then(mail => {
        const id = mail.messageId ?? '';
        if (!known.has(id)) {
          const one: Kept = {
            id,
            at: (mail.date ?? new Date(0)).toISOString(),
            from: words(mail.from),
            to: words(mail.to),
            ...(mail.replyTo ? { replyTo: words(mail.replyTo) } : {}),
            subject: mail.subject ?? '',
            text: mail.text ?? '',
            ...keptOf(id, mail.attachments),
            times: 1,
          };
          appendFileSync(file, `${JSON.stringify(one)}\n`);
          kept.push(one);
          known.add(id);
        } else {
          const again = kept.find(one => one.id === id);
          if (again) again.times = (again.times ?? 1) + 1;
        }
        setTimeout(done, slow);
      })
      .catch(done);
  },
});
// A sender that is gone in the middle of a mail sends it again; that is nothing to write down.
smtp.on('error', fault => {
  if (!String(fault).includes('ECONNRESET')) process.stderr.write(`${String(fault)}\n`);
});

const pages = express();
const shown = 500;
/** The newest by when they were written; of those written at one time, the last to come. Several come side by side. */
const newest = (most: number): Kept[] =>
  kept
    .slice(-most)
    .reverse()
    .sort((a, b) => (a.at < b.at ? 1 : a.at > b.at ? -1 : 0));

/** As many as are asked for. */
pages.get('/mails', (request, response) => {
  response.json(newest(Number(request.query.most) || shown));
});

/** What came with a mail, by the name under which it is kept. */
pages.get('/attached/:kept', (request, response) => {
  const { kept: name } = request.params;
  const path = join(folder, name);
  const one = kept.flatMap(mail => mail.attached ?? []).find(file => file.kept === name);
  if (!one || !existsSync(path)) {
    response.status(404).end();
    return;
  }
  response.type(one.type).send(readFileSync(path));
});

// Writes back as the recipient of a mail: real SMTP to where North Pebble takes mail in.
const Answer = z.object({ id: z.string(), text: z.string().max(20_000), html: z.string().max(50_000).optional() });
pages.post('/answers', express.json(), async (request, response) => {
  const read = Answer.safeParse(request.body);
  const mail = read.success ? kept.find(one => one.id === read.data.id) : undefined;
  if (!read.success || !mail?.replyTo) {
    response.status(400).json({ detail: 'There is no such mail, or it cannot be answered.' });
    return;
  }
  const { text, html } = read.data;
  const quote = mail.text.split('\n').map(line => `> ${line}`);
  const body = `${text}\n\nOn ${mail.at}, ${mail.from} wrote:\n${quote.join('\n')}\n`;
  const smtp = createTransport({ host: '127.0.0.1', port: Number(process.env.NP_SMTP_IN ?? 8427), ignoreTLS: true });
  try {
    await smtp.sendMail({
      from: mail.to,
      to: mail.replyTo,
      subject: `Re: ${mail.subject}`,
      inReplyTo: mail.id,
      text: body,
      ...(html ? { html } : {}),
    });
    response.json({ sent: true });
  } catch (fault) {
    response.status(502).json({ detail: String(fault) });
  }
});

smtp.listen(Number(process.env.NP_SMTP_PORT ?? 8425), '127.0.0.1', () => {
  pages.listen(Number(process.env.NP_MAILS_PORT ?? 8426), '127.0.0.1', () => {
    process.stdout.write(`${JSON.stringify({ listening: true })}\n`);
  });
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
