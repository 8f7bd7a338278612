/**
 * A signed call to another system: JSON over HTTP, with a key that stays the same however often it is tried and a
 * signature over the time and the body (HMAC-SHA-256), so that the other side can tell who asks and that nothing was
 * changed on the way. `docs/formats/signed-calls.md` says how the other side checks it.
 */
import { createHmac } from 'node:crypto';
import { type IncomingMessage, request as plainRequest } from 'node:http';
import { request as secureRequest } from 'node:https';
import { z } from 'zod';
import { allowedAddress, NotAllowed } from './addresses.ts';
import type { Answered, Asked, Connector } from './connector.ts';

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

const patience = 30_000;
const mostAnswer = 64_000;

/** `v1=` and the signature of `time.body` in hexadecimal. */
export const signatureOf = (secret: string, time: string, body: string): string =>
  `v1=${createHmac('sha256', secret).update(`${time}.${body}`).digest('hex')}`;

async function textOf(response: IncomingMessage): Promise<string> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of response as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > mostAnswer) {
      response.destroy();
      throw new Error(`the answer is longer than ${mostAnswer / 1000} kB`);
    }
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
}

type Reply = { status: number; text: string; retryAfter: string | undefined };

async function send({ address, secret, inside }: Settings, method: string, body: string, key: string): Promise<Reply> {
  const url = new URL(address);
  const target = await allowedAddress(url.hostname, inside);
  const time = String(Math.floor(Date.now() / 1000));
  const ask = url.protocol === 'https:' ? secureRequest : plainRequest;
  return new Promise((done, fail) => {
    const sent = ask(
      url,
      {
        method,
        // Goes to the address that was allowed, whatever the name points to a moment later.
        lookup: (_host, options, found) =>
          options.all ? found(null, [target]) : found(null, target.address, target.family),
        signal: AbortSignal.timeout(patience),
        headers: {
          'Content-Type': 'application/json',
          'Content-Length': Buffer.byteLength(body),
          'Idempotency-Key': key,
          'Pebble-Time': time,
          'Pebble-Signature': signatureOf(secret, time, body),
        },
      },
      response => {
        textOf(response).then(
          text => done({ status: response.statusCode ?? 0, text, retryAfter: response.headers['retry-after'] }),
          fail,
        );
      },
    );
    sent.on('error', fail);
    sent.end(body);
  });
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

const unreachable = new Set(['ECONNREFUSED', 'ENOTFOUND', 'EAI_AGAIN', 'EHOSTUNREACH', 'ENETUNREACH', 'ETIMEDOUT']);
const again = new Set([401, 407, 408, 421, 423, 424, 425, 429]);
const after = (header: string | undefined): { after?: number } =>
  header && /^\d{1,5}$/.test(header) ? { after: Number(header) * 1000 } : {};

async function call(settings: Settings, method: string, body: object, key: string): Promise<Answered> {
  let reply: Reply;
  try {
    reply = await send(settings, method, JSON.stringify(body), key);
  } catch (fault) {
    if (fault instanceof NotAllowed) return { state: 'refused', reason: fault.message };
    // A call that broke off halfway says nothing of the next; one that found nobody does.
    const isAway = unreachable.has((fault as { code?: string }).code ?? '');
    const reason = fault instanceof Error ? fault.message : String(fault);
    return { state: 'later', reason, ...(isAway ? { away: true as const } : {}) };
  }
  const { status } = reply;
  if (status >= 200 && status < 300) {
    const result = resultOf(reply.text);
    // It is done; what came with it cannot be read, so nothing is filled from it.
    return { state: 'delivered', result: result ?? {} };
  }
  if (status >= 500 || again.has(status))
    return { state: 'later', reason: reasonOf(reply), ...after(reply.retryAfter) };
  return { state: 'refused', reason: reasonOf(reply) };
}

const bodyOf = ({ key, action, request, step, values, at }: Asked) => ({ key, action, request, step, at, values });

export const httpConnector: Connector<Settings> = {
  settings: Settings,
  secret: ['secret'],
  actions: [
    'call',
    'create account',
    'change account',
    'disable account',
    'add to group',
    'take out of group',
    'create space',
    'close space',
  ],
  deliver: (settings, asked) => call(settings, 'POST', bodyOf(asked), asked.key),
  undo: (settings, asked, result) =>
    call(settings, 'POST', { ...bodyOf(asked), undo: true, result }, `${asked.key}:undo`),
  async check(settings) {
    const answered = await call(settings, 'POST', { check: true }, 'check');
    return answered.state === 'delivered' ? null : answered.reason;
  },
};
