/**
 * The address to which a decision can be mailed: it names one task and one person, is signed, and expires. Nobody can
 * make one up, and one that was meant for somebody else decides nothing.
 */
import { createHmac, timingSafeEqual } from 'node:crypto';
import type { PersonId } from '@north-pebble/core/people';
import { type Instant, toMilliseconds } from '@north-pebble/core/time';

const validFor = 14 * 86_400;

export type ReplyAddress = { task: string; person: PersonId; expires: number };

const sign = (secret: string, text: string): string =>
  createHmac('sha256', secret).update(text).digest('hex').slice(0, 32);

/** Lower case throughout: mail programs do not keep capitals. */
export function replyAddress(secret: string, domain: string, task: string, person: PersonId, now: Instant): string {
  const expires = Math.floor(toMilliseconds(now) / 1000) + validFor;
  const text = `${task}.${expires.toString(36)}.${person}`.toLowerCase();
  return `decide+${text}.${sign(secret, text)}@${domain}`;
}

const form = /^decide\+(r-\d+\.\d+)\.([0-9a-z]+)\.([^@]{1,40})\.([0-9a-f]{32})@/;

/** @returns nothing for an address that North Pebble has not made */
export function readAddress(secret: string, address: string): ReplyAddress | null {
  const found = form.exec(address.trim().toLowerCase());
  if (!found) return null;
  const [, task, expires, person, signature] = found;
  const made = sign(secret, `${task}.${expires}.${person}`);
  if (!timingSafeEqual(Buffer.from(made), Buffer.from(signature))) return null;
  return { task: task.toUpperCase(), person: person as PersonId, expires: Number.parseInt(expires, 36) };
}
