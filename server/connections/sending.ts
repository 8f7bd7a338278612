/** One call to another system: to an address that is allowed, with an end to how long it may take and how much may come. */
import { type IncomingMessage, request as plainRequest } from 'node:http';
import { request as secureRequest } from 'node:https';
import { allowedAddress, NotAllowed } from './addresses.ts';
import type { Answered } from './connector.ts';

const patience = 30_000;

export type Reply = { status: number; text: string; retryAfter: string | undefined };

async function textOf(response: IncomingMessage, most: number): Promise<string> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of response as AsyncIterable<Buffer>) {
    size += part.length;
    if (size > most) {
      response.destroy();
      throw new Error(`the answer is longer than ${most / 1000} kB`);
    }
    parts.push(part);
  }
  return Buffer.concat(parts).toString('utf8');
}

export type Sending = {
  method: string;
  headers: Record<string, string>;
  body?: string;
  /** Whether the address may be on this machine or in a private network. */
  inside: boolean;
  /** Bytes that an answer may have. */
  most: number;
};

/** @throws when nothing comes back, or when the address is not allowed */
export async function send(address: string, { method, headers, body, inside, most }: Sending): Promise<Reply> {
  const url = new URL(address);
  const target = await allowedAddress(url.hostname, inside);
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
        headers: { ...headers, ...(body === undefined ? {} : { 'Content-Length': Buffer.byteLength(body) }) },
      },
      response => {
        textOf(response, most).then(
          text => done({ status: response.statusCode ?? 0, text, retryAfter: response.headers['retry-after'] }),
          fail,
        );
      },
    );
    sent.on('error', fail);
    sent.end(body);
  });
}

const unreachable = new Set(['ECONNREFUSED', 'ENOTFOUND', 'EAI_AGAIN', 'EHOSTUNREACH', 'ENETUNREACH', 'ETIMEDOUT']);
/** Statuses after which the same call may do better: the token may be set right, the other side may have time again. */
const again = new Set([401, 407, 408, 412, 421, 423, 424, 425, 429]);

export const isLater = (status: number): boolean => status >= 500 || again.has(status);
export const after = (header: string | undefined): { after?: number } =>
  header && /^\d{1,5}$/.test(header) ? { after: Number(header) * 1000 } : {};

/** What a call that failed on the way comes to: refused where it may not go there, else to be tried again. */
export function failed(fault: unknown): Answered {
  if (fault instanceof NotAllowed) return { state: 'refused', reason: fault.message };
  // A call that broke off halfway says nothing of the next; one that found nobody does.
  const isAway = unreachable.has((fault as { code?: string }).code ?? '');
  const reason = fault instanceof Error ? fault.message : String(fault);
  return { state: 'later', reason, ...(isAway ? { away: true as const } : {}) };
}
