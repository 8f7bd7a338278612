/**
 * A signed call to another system: JSON over HTTP, with a key that stays the same however often it is tried and a
 * signature over the time and the body (HMAC-SHA-256), so that the other side can tell who asks and that nothing was
 * changed on the way. `docs/formats/signed-calls.md` says how the other side checks it.
 */
import { createHmac } from 'node:crypto';
import { provisions } from '@north-pebble/core/workflow';
import { z } from 'zod';
import type { Answered, Asked, Connector } from './connector.ts';
import { after, failed, isLater, type Reply, send } from './sending.ts';

const Settings = z
  .object({
    address: z
      .url('Write an address that begins with https.')
      .max(500)
      .refine(text => /^https?:/.test(text), 'Write an address that begins with http or https.'),
    secret: z.string().min(16, 'Use at least sixteen letters and figures.').max(200),
    /** Whether it may be on this machine or in a private network. */
    inside: z.boolean().default(false),
  })
  .strict();
type Settings = z.infer<typeof Settings>;

const mostAnswer = 64_000;

/** `v1=` and the signature of `time.body` in hexadecimal. */
const signatureOf = (secret: string, time: string, body: string): string =>
  `v1=${createHmac('sha256', secret).update(`${time}.${body}`).digest('hex')}`;

function sendSigned({ address, secret, inside }: Settings, method: string, body: string, key: string): Promise<Reply> {
  const time = String(Math.floor(Date.now() / 1000));
  const headers = {
    'Content-Type': 'application/json',
    'Idempotency-Key': key,
    'Pebble-Time': time,
    'Pebble-Signature': signatureOf(secret, time, body),
  };
  return send(address, { method, headers, body, inside, most: mostAnswer });
}

const record = z.record(z.string().max(80), z.union([z.string().max(2000), z.number(), z.boolean(), z.null()]));

/** What came back, when it is an object of plain values. */
function resultOf(text: string): Readonly<Record<string, unknown>> | null {
  if (text.trim() === '') return {};
  try {
    const read = record.safeParse(JSON.parse(text));
    return read.success ? read.data : null;
  } catch {
    return null;
  }
}

function reasonOf({ status, text }: Reply): string {
  const said = resultOf(text);
  const reason = said?.reason ?? said?.detail ?? said?.title;
  return typeof reason === 'string' && reason.trim() !== '' ? reason.slice(0, 300) : `it answered ${status}`;
}

async function call(settings: Settings, method: string, body: object, key: string): Promise<Answered> {
  let reply: Reply;
  try {
    reply = await sendSigned(settings, method, JSON.stringify(body), key);
  } catch (fault) {
    return failed(fault);
  }
  const { status } = reply;
  if (status >= 200 && status < 300) {
    const result = resultOf(reply.text);
    // It is done; what came with it cannot be read, so nothing is filled from it.
    return { state: 'delivered', result: result ?? {} };
  }
  if (isLater(status)) return { state: 'later', reason: reasonOf(reply), ...after(reply.retryAfter) };
  return { state: 'refused', reason: reasonOf(reply) };
}

const bodyOf = ({ key, action, request, step, values, at }: Asked) => ({ key, action, request, step, at, values });

export const httpConnector: Connector<Settings> = {
  name: 'Signed calls to another system',
  settings: Settings,
  fields: [
    { name: 'address', kind: 'address', label: 'Address', help: 'Calls are sent there as JSON.' },
    {
      name: 'secret',
      kind: 'secret',
      label: 'Secret that calls are signed with',
      help: 'Give the same to whoever looks after the system.',
    },
    { name: 'inside', kind: 'yes', label: 'It may be in a private network, or on this machine', help: null },
  ],
  // Whoever looks after the other system knows what it takes.
  offers: Object.fromEntries(provisions.map(action => [action, null])),
  deliver: (settings, asked) => call(settings, 'POST', bodyOf(asked), asked.key),
  undo: (settings, asked, result) =>
    call(settings, 'POST', { ...bodyOf(asked), undo: true, result }, `${asked.key}:undo`),
  async check(settings) {
    const answered = await call(settings, 'POST', { check: true }, 'check');
    return answered.state === 'delivered' ? null : answered.reason;
  },
};
