/** The way out for mail: SMTP. Every mail carries the key of its outbox row as its Message-ID, so a repeat can be told. */
import { escapeHtml } from '@north-pebble/core/workflow';
import { createTransport } from 'nodemailer';

export type Mail = {
  key: string;
  to: { name: string; mail: string };
  subject: string;
  text: string;
  /** Made from the text when nothing is said. */
  html?: string;
  /** Where what it is about can be opened. */
  link?: string;
  /** Where a reply decides. */
  replyTo?: string;
  /** The id of the mail that this one answers. */
  answers?: string;
  files?: readonly { readonly name: string; readonly type: string; readonly bytes: Uint8Array }[];
  /** An invitation for calendars, as they read it. */
  calendar?: { readonly method: string; readonly text: string };
  at: string;
};
export type MailConnection = { send: (mail: Mail) => Promise<void>; close: () => void };

const paragraphs = (text: string): string =>
  text
    .split(/\n{2,}/)
    .map(part => `<p>${escapeHtml(part).replaceAll('\n', '<br>')}</p>`)
    .join('');

/** Both forms of a mail, with the link below. */
export function bodiesOf({ text, html, link }: Pick<Mail, 'text' | 'html' | 'link'>): { text: string; html: string } {
  const rich = html ?? paragraphs(text);
  if (!link) return { text, html: rich };
  return {
    text: `${text}\n\nOpen it: ${link}`,
    html: `${rich}<p><a href="${escapeHtml(link)}">Open it in North Pebble</a></p>`,
  };
}

/**
 * @param url of the mail server
 * @param from the address that letters come from; its domain is that of their ids
 */
export function mailConnection(url: string, from: { name: string; address: string }): MailConnection {
  const domain = from.address.split('@').at(-1);
  const transport = createTransport({
    url,
    pool: true,
    // As many as are under way at once (outbox/letters.ts).
    maxConnections: 4,
    connectionTimeout: 3000,
    greetingTimeout: 3000,
    // A mail server may take ten minutes over the end of a mail (RFC 5321, 4.5.3.2.6); given up earlier, it would have it twice.
    socketTimeout: 600_000,
  } as Parameters<typeof createTransport>[0]);
  return {
    async send(mail) {
      await transport.sendMail({
        from,
        to: { name: mail.to.name, address: mail.to.mail },
        subject: mail.subject,
        ...bodiesOf(mail),
        ...(mail.replyTo ? { replyTo: { name: from.name, address: mail.replyTo } } : {}),
        // Machines that answer by themselves leave such a mail alone.
        ...(mail.answers
          ? { inReplyTo: mail.answers, references: mail.answers, headers: { 'Auto-Submitted': 'auto-replied' } }
          : {}),
        ...(mail.files
          ? {
              attachments: mail.files.map(({ name, type, bytes }) => ({
                filename: name,
                contentType: type,
                content: Buffer.from(bytes),
              })),
            }
          : {}),
        ...(mail.calendar
          ? { icalEvent: { method: mail.calendar.method, content: mail.calendar.text, filename: 'invitation.ics' } }
          : {}),
        messageId: `<${encodeURIComponent(mail.key)}@${domain}>`,
        date: new Date(mail.at),
      });
    },
    close: () => transport.close(),
  };
}
