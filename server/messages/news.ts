/** What mail servers and calendars send by themselves: letters that came back (RFC 3464), and invitations answered (RFC 5546). */
import type { MailCommand } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';

/** So much of a part is looked at. */
const mostRead = 50_000;

export type Part = { readonly type: string; readonly content: string };

/** One header of a part, folded lines put together. */
const header = (content: string, name: string): string | null =>
  new RegExp(`^${name}:[ \\t]*((?:.*(?:\\r?\\n[ \\t]+)?)+?)$`, 'im').exec(content.slice(0, mostRead))?.[1].trim() ??
  null;

export type News = { readonly request: string; readonly what: MailCommand['what'] };

/** The effect whose letter came back, by the Message-ID that it went out under, and only for the address that it went to. */
async function cameBack(house: House, parts: readonly Part[]): Promise<News | null> {
  const report = parts.find(part => part.type === 'message/delivery-status');
  const original = parts.find(part => part.type === 'text/rfc822-headers' || part.type === 'message/rfc822');
  if (!report || !original) return null;
  // Delays and deliveries are reported the same way.
  if (header(report.content, 'Action')?.toLowerCase() !== 'failed') return null;
  const recipient = header(report.content, 'Final-Recipient') ?? header(report.content, 'Original-Recipient');
  const address = recipient?.split(';').at(-1)?.trim().toLowerCase() ?? '';
  const id = /^<([^@>]+)@[^>]+>$/.exec(header(original.content, 'Message-ID') ?? '')?.[1];
  if (!id || address === '') return null;
  const [row] = await house.db
    .select()
    .from(t.effects)
    .where(eq(t.effects.key, keyFrom(id)));
  if (!row?.request) return null;
  const { index } = await house.moment(house.db);
  const sent = row.payload.address ?? index.person(row.payload.to as never)?.mail ?? '';
  if (sent.toLowerCase() !== address) return null;
  const why = (header(report.content, 'Diagnostic-Code') ?? header(report.content, 'Status') ?? 'no reason was given')
    .replace(/\s+/g, ' ')
    .slice(0, 300);
  return { request: row.request, what: { kind: 'came back', address: sent, why } };
}

function keyFrom(id: string): string {
  try {
    return decodeURIComponent(id);
  } catch {
    return id;
  }
}

const answers = { ACCEPTED: 'accepted', DECLINED: 'declined', TENTATIVE: 'perhaps' } as const;

/** A calendar’s answer, by the line of the attendee that it is from. */
function calendarAnswer(parts: readonly Part[], from: string): News | null {
  const calendar = parts.find(part => part.type === 'text/calendar')?.content.slice(0, mostRead);
  if (!calendar) return null;
  // Long lines are folded (RFC 5545, 3.1).
  const lines = calendar.replace(/\r?\n[ \t]/g, '').split(/\r?\n/);
  const value = (name: string) => lines.find(line => line.toUpperCase().startsWith(`${name}:`))?.slice(name.length + 1);
  if (value('METHOD')?.toUpperCase() !== 'REPLY') return null;
  const uid = value('UID')?.split('@')[0] ?? '';
  const request = /^(R-\d{1,9})-/.exec(uid)?.[1];
  const attendee = lines.find(
    line => /^ATTENDEE[;:]/i.test(line) && line.toLowerCase().endsWith(`:mailto:${from.toLowerCase()}`),
  );
  const said = /PARTSTAT=("?)([A-Z-]+)\1/i.exec(attendee ?? '')?.[2].toUpperCase();
  const answer = answers[said as keyof typeof answers];
  return request && answer ? { request, what: { kind: 'calendar', uid, address: from, answer } } : null;
}

/** What a mail tells of what was sent before; nothing where it tells nothing of it. */
export const newsIn = async (house: House, mail: { parts: readonly Part[]; from: string }): Promise<News | null> =>
  calendarAnswer(mail.parts, mail.from) ?? (await cameBack(house, mail.parts));
