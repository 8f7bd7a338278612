/** The way out for mail: SMTP. Every mail carries the key of its outbox row as its Message-ID, so a repeat can be told. */
import { createTransport } from 'nodemailer';

export type Mail = {
  key: string;
  to: { name: string; mail: string };
  subject: string;
  text: string;
  html?: string;
  at: string;
};
export type MailConnection = { send: (mail: Mail) => Promise<void>; close: () => void };

const from = { name: 'North Pebble', address: 'north-pebble@selkie.example' };

export function mailConnection(url: string): MailConnection {
  const transport = createTransport({
    url,
    pool: true,
    maxConnections: 2,
    connectionTimeout: 3000,
    greetingTimeout: 3000,
    socketTimeout: 10_000,
  } as Parameters<typeof createTransport>[0]);
  return {
    async send(mail) {
      await transport.sendMail({
        from,
        to: { name: mail.to.name, address: mail.to.mail },
        subject: mail.subject,
        text: mail.text,
        ...(mail.html ? { html: mail.html } : {}),
        messageId: `<${encodeURIComponent(mail.key)}@selkie.example>`,
        date: new Date(mail.at),
      });
    },
    close: () => transport.close(),
  };
}
