/**
 * The stand-in for another system that takes signed calls, here for accounts, groups and spaces, as `docs/formats/signed-calls.md`
 * says. A key that it has served already gets the same answer and does nothing twice.
 * Settings: NP_CALLS_PORT, NP_CALLS_SECRET, NP_CALLS_FILE, NP_CALLS_SLOW (milliseconds before an answer),
 * NP_CALLS_FAILS (the share of calls that get no answer, 0 to 1; the third call under one key always gets one).
 */
import { createHmac, timingSafeEqual } from 'node:crypto';
import { appendFileSync, existsSync, mkdirSync, readFileSync } from 'node:fs';
import { dirname } from 'node:path';
import express from 'express';
import { z } from 'zod';

const secret = process.env.NP_CALLS_SECRET ?? '';
const slow = Number(process.env.NP_CALLS_SLOW ?? 0);
const fails = Number(process.env.NP_CALLS_FAILS ?? 0);
/** So many answers under one key may be lost. */
const mostLost = 2;
const file = process.env.NP_CALLS_FILE ?? '.data/directory.jsonl';
mkdirSync(dirname(file), { recursive: true });

const Call = z.object({
  key: z.string().max(200),
  action: z.string().max(60),
  values: z.record(z.string(), z.unknown()),
  undo: z.boolean().optional(),
  result: z.record(z.string(), z.unknown()).optional(),
});
type Served = {
  key: string;
  action: string;
  undo: boolean;
  status: number;
  answer: Record<string, unknown>;
  times: number;
};

const served = new Map<string, Served>();
const names = new Set<string>();
if (existsSync(file))
  for (const line of readFileSync(file, 'utf8').split('\n').filter(Boolean)) {
    const one = JSON.parse(line) as Served;
    served.set(one.key, one);
    if (typeof one.answer.name === 'string') names.add(one.answer.name);
  }

/** More than this old or ahead, a call may be one that somebody has listened to. */
const oldest = 300;

function isSigned(time: string, signature: string, body: string): boolean {
  if (Math.abs(Date.now() / 1000 - Number(time)) > oldest) return false;
  const wanted = Buffer.from(`v1=${createHmac('sha256', secret).update(`${time}.${body}`).digest('hex')}`);
  const given = Buffer.from(signature);
  return given.length === wanted.length && timingSafeEqual(given, wanted);
}

const plain = (text: unknown): string =>
  String(text ?? '')
    .normalize('NFD')
    .replace(/[^\x20-\x7e]/g, '')
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, '.')
    .replace(/^\.|\.$/g, '');

/** What is done, or why not. */
function carryOut({ action, values }: z.infer<typeof Call>): { status: number; answer: Record<string, unknown> } {
  switch (action) {
    case 'create account': {
      const account = plain(values.account || values.name);
      if (account === '') return { status: 422, answer: { reason: 'the account has no name' } };
      if (names.has(account)) return { status: 409, answer: { reason: `there is an account “${account}” already` } };
      names.add(account);
      return { status: 201, answer: { name: account, account, address: `${account}@selkie.example` } };
    }
    case 'create space': {
      const space = plain(values.name);
      if (names.has(`space ${space}`))
        return { status: 409, answer: { reason: `there is a space “${values.name}” already` } };
      names.add(`space ${space}`);
      return { status: 201, answer: { name: `space ${space}`, space: `spaces/${space}` } };
    }
    default:
      return { status: 200, answer: {} };
  }
}

const app = express();
app.post('/calls', express.text({ type: () => true, limit: '100kb' }), async (request, response) => {
  const body = String(request.body ?? '');
  if (!isSigned(String(request.headers['pebble-time']), String(request.headers['pebble-signature']), body)) {
    response.status(403).json({ reason: 'the signature is not right' });
    return;
  }
  const sent = JSON.parse(body) as { check?: boolean };
  if (sent.check === true) {
    response.json({});
    return;
  }
  const read = Call.safeParse(sent);
  if (!read.success) {
    response.status(422).json({ reason: 'the call is not understood' });
    return;
  }
  if (slow > 0) await new Promise(done => setTimeout(done, slow));
  const key = read.data.undo ? `${read.data.key}:undo` : read.data.key;
  let one = served.get(key);
  if (one) one.times += 1;
  else {
    const { status, answer } = read.data.undo ? { status: 200, answer: {} } : carryOut(read.data);
    one = { key, action: read.data.action, undo: read.data.undo === true, status, answer, times: 1 };
    served.set(key, one);
    appendFileSync(file, `${JSON.stringify(one)}\n`);
  }
  // Done, and the answer lost on the way: what a sender must be ready for. Not for ever, as its pauses double each time.
  if (one.times <= mostLost && Math.random() < fails) {
    request.socket.destroy();
    return;
  }
  response.status(one.status).json(one.answer);
});
/** The newest, or as many as are asked for. */
app.get('/served', (request, response) => {
  response.json([...served.values()].reverse().slice(0, Number(request.query.most) || 500));
});
app.listen(Number(process.env.NP_CALLS_PORT ?? 8428), '127.0.0.1', () => {
  process.stdout.write(`${JSON.stringify({ listening: true })}\n`);
});
for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
