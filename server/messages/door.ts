/** The way in for mail: SMTP. A mail is taken only when it has been read to its end; else its sender tries again. */
import type { AddressInfo } from 'node:net';
import { type AddressObject, type ParsedMail, simpleParser } from 'mailparser';
import { SMTPServer } from 'smtp-server';
import type { House } from '../house.ts';
import { type Incoming, receive } from './incoming.ts';

const mostBytes = 5_000_000;

const addresses = (field: AddressObject | AddressObject[] | undefined): string[] =>
  (Array.isArray(field) ? field : field ? [field] : []).flatMap(one =>
    one.value.flatMap(v => (v.address ? [v.address] : [])),
  );

const headersOf = (mail: ParsedMail): Record<string, string> =>
  Object.fromEntries(
    mail.headerLines.map(({ key, line }) => [key.toLowerCase(), line.slice(line.indexOf(':') + 1).trim()]),
  );

/** @param envelope to whom the mail was handed over, which its own headers need not say */
export async function asIncoming(
  source: Parameters<typeof simpleParser>[0],
  envelope: { from: string; to: readonly string[] },
): Promise<Incoming> {
  const mail = await simpleParser(source, { skipHtmlToText: true, skipImageLinks: true, skipTextToHtml: true });
  const headers = headersOf(mail);
  return {
    id: mail.messageId ?? `${headers.date ?? ''} ${envelope.from} ${mail.subject ?? ''}`,
    from: addresses(mail.from)[0] ?? envelope.from,
    to: envelope.to,
    subject: mail.subject ?? '',
    text: mail.text ?? null,
    html: typeof mail.html === 'string' ? mail.html : null,
    headers: envelope.from === '' ? { ...headers, 'return-path': '<>' } : headers,
  };
}

export type Door = { port: number; close: () => Promise<void> };

/** @param port 0 for any that is free */
export function openDoor(house: House, port: number): Promise<Door> {
  const smtp = new SMTPServer({
    authOptional: true,
    disabledCommands: ['STARTTLS', 'AUTH'],
    size: mostBytes,
    onData(stream, session, done) {
      const from = session.envelope.mailFrom;
      const envelope = {
        from: from ? from.address : '',
        to: session.envelope.rcptTo.map(to => to.address),
      };
      asIncoming(stream, envelope)
        .then(async mail => {
          const verdict = await receive(house, mail);
          house.log.info({ verdict }, 'mail received');
          done();
        })
        .catch(fault => {
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
