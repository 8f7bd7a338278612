/** The way in for mail: SMTP. A mail is taken only when it has been read to its end; else its sender tries again. */
import { createHash } from 'node:crypto';
import type { AddressInfo } from 'node:net';
import { Readable } from 'node:stream';
import { type AddressObject, type ParsedMail, type SimpleParserOptions, simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import type { House } from '../house/index.ts';
import { isSender } from './checked.ts';
import { counted, OddMail } from './counting.ts';
import { type Incoming, receive } from './incoming.ts';

const mostBytes = 5_000_000;
/** Of its text and of its page: a reply is short. */
const mostLetters = 500_000;

/** What machines say to one another; of everything else that is attached nothing is read. */
const machineParts = ['text/calendar', 'message/delivery-status', 'message/rfc822', 'text/rfc822-headers'];
const mostParts = 10;
const mostPart = 50_000;

const addresses = (field: AddressObject | AddressObject[] | undefined): string[] =>
  (Array.isArray(field) ? field : field ? [field] : []).flatMap(one =>
    one.value.flatMap(v => (v.address ? [v.address] : [])),
  );

const headersOf = (mail: ParsedMail): Record<string, string> =>
  Object.fromEntries(
    mail.headerLines.map(({ key, line }) => [key.toLowerCase(), line.slice(line.indexOf(':') + 1).trim()]),
  );

/** Reports of mail servers are kept apart from the text, which people read. */
const reading: SimpleParserOptions & { keepDeliveryStatus: boolean } = {
  skipHtmlToText: true,
  skipImageLinks: true,
  skipTextToHtml: true,
  keepDeliveryStatus: true,
};

/**
 * @param envelope to whom the mail was handed over, which its own headers need not say
 * @param checkedBy the mail server whose word about the sender is needed; nobody's where nothing is said
 */
export async function asIncoming(
  source: Parameters<typeof simpleParser>[0],
  envelope: { from: string; to: readonly string[] },
  checkedBy: string | undefined = undefined,
): Promise<Incoming> {
  const mail = await simpleParser(source, reading);
  const headers = headersOf(mail);
  const from = addresses(mail.from);
  const text = mail.text?.slice(0, mostLetters) ?? null;
  const html = typeof mail.html === 'string' ? mail.html.slice(0, mostLetters) : null;
  // A mail without an id of its own is told apart by all that it says.
  const said = createHash('sha256')
    .update(JSON.stringify([headers.date, envelope, mail.subject, text, html]))
    .digest('hex');
  return {
    id: mail.messageId ?? said,
    from: from[0] ?? envelope.from,
    isChecked: checkedBy === undefined || isSender(mail.headerLines, from[0] ?? '', checkedBy),
    senders: Math.max(from.length, mail.headerLines.filter(({ key }) => key.toLowerCase() === 'from').length),
    to: envelope.to,
    subject: (mail.subject ?? '').slice(0, 1000),
    text,
    html,
    parts: mail.attachments
      .filter(({ contentType }) => machineParts.includes(contentType))
      .slice(0, mostParts)
      .map(({ contentType, content }) => ({ type: contentType, content: content.toString('utf8', 0, mostPart) })),
    headers: envelope.from === '' ? { ...headers, 'return-path': '<>' } : headers,
  };
}

export type Door = { port: number; close: () => Promise<void> };

/**
 * @param port 0 for any that is free
 * @param checkedBy the mail server whose check of senders is asked for
 */
export function openMailServer(house: House, port: number, checkedBy?: string): Promise<Door> {
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    size: mostBytes,
    maxClients: 50,
    socketTimeout: 60_000,
    onData(stream, session, done) {
      const from = session.envelope.mailFrom;
      const envelope = {
        from: from ? from.address : '',
        to: session.envelope.rcptTo.map(to => to.address),
      };
      const content = stream.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>;
      asIncoming(Readable.from(counted(content)), envelope, checkedBy)
        .then(async mail => {
          const verdict = await receive(house, mail);
          house.log.info({ verdict }, 'mail received');
          done();
        })
        .catch(fault => {
          // What is left of it is taken off the line and thrown away.
          stream.resume();
          if (fault instanceof OddMail)
            return done(Object.assign(new Error('This mail is too large.'), { responseCode: 552 }));
          house.log.error({ err: fault }, 'mail in');
          done(Object.assign(new Error('Try again later.'), { responseCode: 451 }));
        });
    },
  });
  smtp.on('error', fault => house.log.warn({ reason: String(fault) }, 'mail in'));
  return new Promise((opened, fail) => {
    smtp.server.once('error', fail);
    smtp.listen(port, '127.0.0.1', () => {
      opened({
        port: (smtp.server.address() as AddressInfo).port,
        close: () => new Promise(closed => smtp.close(closed)),
      });
    });
  });
}
