/** Doors that stood open once: covers for one workflow, workflows that are not open, comments with files, bodies without end. */
import { randomUUID } from 'node:crypto';
import { createConnection } from 'node:net';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { RequestView } from '@north-pebble/contract';
import type { GivenFile } from '@north-pebble/core/form';
import type { Definition } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { annualLeave } from '../../core/testing/house.ts';
import { tables as t } from '../database/index.ts';
import { insertMany, raiseDirectoryVersion } from '../house/index.ts';
import { type Browser, houseNow, type Small, signedIn, startSmall } from '../testing/serving.ts';

const sick: Definition = {
  ...annualLeave,
  name: 'Sick leave',
  form: {
    fields: [
      ...annualLeave.form.fields,
      { kind: 'document', id: 'note', label: 'Doctor’s note', required: false, expires: false, takes: ['PDF'] },
    ],
  },
};
const closed: Definition = {
  ...annualLeave,
  name: 'For the director',
  opening: { who: { first: { kind: 'post', post: 'director' }, otherwise: [] }, forWhom: ['self'] },
};

let small: Small;
const as = {} as Record<'ina' | 'tom' | 'dora' | 'kay' | 'con' | 'sub' | 'per', Browser>;
beforeAll(async () => {
  small = await startSmall();
  const versions: [string, Definition][] = [
    ['sick', sick],
    ['closed', closed],
  ];
  for (const [id, definition] of versions) {
    await small.db.insert(t.workflows).values({ id, position: 1, liveVersion: 1, draft: null, draftRevision: 0 });
    await small.db
      .insert(t.workflowVersions)
      .values({ workflow: id, version: 1, definition, publishedAt: houseNow, publishedBy: 'kay', comment: 'First.' });
  }
  for (const name of ['ina', 'tom', 'dora', 'kay', 'con', 'sub', 'per'] as const)
    as[name] = await signedIn(small.base, name);
});
afterAll(() => small.stop());

async function ask(workflow: string, answers: Record<string, unknown>, who = as.ina) {
  const { body } = await who.call<{ request: string }>('POST', '/requests', { id: randomUUID(), workflow, answers });
  return body.request;
}
const dates = (from: string, to: string) => ({ from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } });
const give = async (browser: Browser, name: string): Promise<GivenFile> => {
  const response = await fetch(`${small.base}/api/files?name=${name}`, {
    method: 'POST',
    headers: { 'X-North-Pebble': '1', Cookie: browser.cookie, 'Content-Type': 'application/octet-stream' },
    body: '%PDF-1.7\n1 0 obj <<>> endobj\ntrailer <<>>\n%%EOF\n',
  });
  return (await response.json()) as GivenFile;
};

describe('doors', () => {
  test('a cover for one workflow opens no request of another, and no ledger', async () => {
    // Sub stands in for Tom, for sick leave alone.
    await insertMany(small.db, t.covers, [
      { person: 'tom', by: 'sub', from: '2026-01-01', to: '2026-12-31', workflows: ['sick'], setBy: null },
    ]);
    await raiseDirectoryVersion(small.db);
    const annual = await ask('annual', { kind: 'annual', dates: dates('2026-03-09', '2026-03-13') });
    const ill = await ask('sick', { kind: 'annual', dates: dates('2026-03-16', '2026-03-20') });
    expect((await as.sub.get(`/requests/${annual}`)).status).toBe(404);
    const seen = (await as.sub.get<RequestView>(`/requests/${ill}`)).body;
    expect(seen.may.answer).not.toBeNull();
    expect(seen.leave?.balance?.lines ?? []).toEqual([]);
    expect((await as.sub.get('/balances/ina')).status).toBe(404);
    expect((await as.sub.get<{ items: { request: string }[] }>('/desk')).body.items.map(i => i.request)).toEqual([ill]);
    const whole = (await as.tom.get<RequestView>(`/requests/${ill}`)).body;
    expect(whole.leave?.balance?.lines.length).toBeGreaterThan(3);
    await small.db.delete(t.covers);
    await raiseDirectoryVersion(small.db);
  });

  test('a workflow that is not open to somebody shows neither its definition nor its figures', async () => {
    const answers = { kind: 'annual', dates: dates('2026-03-23', '2026-03-27') };
    const view = await as.ina.get('/askable/closed');
    expect(view).toMatchObject({ status: 403, problem: { detail: 'This is not open to you.' } });
    expect(JSON.stringify(view.body)).not.toContain('For the director');
    expect((await as.ina.call('POST', '/preview', { workflow: 'closed', answers })).status).toBe(403);
    expect((await as.dora.get('/askable/closed')).status).toBe(200);
  });

  test('a comment does not take the guard off a file that the request has', async () => {
    const note = await give(as.ina, 'note.pdf');
    const request = await ask('sick', {
      kind: 'annual',
      dates: dates('2026-04-13', '2026-04-17'),
      note: { file: note, expires: null },
    });
    const comment = (who: Browser) =>
      who.command(request, { kind: 'comment', text: 'See there', mentions: [], files: [note] });
    expect(await comment(as.ina)).toMatchObject({ status: 400, problem: { faults: [{ field: 'files' }] } });
    expect((await comment(as.tom)).status).toBe(400);
    // The auditor may read everything but what is guarded, and still may not.
    expect((await as.per.get(`/files/${note.id}`)).status).toBe(403);
    const [row] = await small.db.select().from(t.files).where(eq(t.files.id, note.id));
    expect(row.field).toBe('note');
  });

  test('a command id that comes again with something else is refused in words, and is not done', async () => {
    const id = randomUUID();
    const first = await as.ina.ask('2026-05-04', '2026-05-08', id);
    expect(first.status).toBe(201);
    expect((await as.ina.ask('2026-05-04', '2026-05-08', id)).body).toEqual(first.body);
    const other = await as.ina.ask('2026-05-11', '2026-05-15', id);
    expect(other.status).toBe(422);
    expect(other.problem.detail).toContain('was not done');
    const { version } = (await as.ina.get<RequestView>(`/requests/${first.body.request}`)).body;
    const again = await as.ina.command(first.body.request, { kind: 'withdraw', seen: version }, id);
    expect(again.status).toBe(422);
    expect((await as.ina.get<RequestView>(`/requests/${first.body.request}`)).body.status).toBe('open');
  });

  test('twenty who ask for others at once are all answered', async () => {
    const forOthers: Definition = { ...annualLeave, opening: { forWhom: ['self', 'report'] } };
    await small.db
      .insert(t.workflows)
      .values({ id: 'others', position: 3, liveVersion: 1, draft: null, draftRevision: 0 });
    await small.db.insert(t.workflowVersions).values({
      workflow: 'others',
      version: 1,
      definition: forOthers,
      publishedAt: houseNow,
      publishedBy: 'kay',
      comment: 'First.',
    });
    const all = Array.from({ length: 40 }, (_, i) =>
      as.tom.call('POST', '/requests', {
        id: randomUUID(),
        workflow: 'others',
        subject: i % 2 ? 'ina' : 'per',
        answers: { kind: 'sick', dates: dates(`2026-${8 + (i % 4)}-${10 + i / 2}`.slice(0, 10), '2026-12-01') },
      }),
    );
    const statuses = (await Promise.all(all)).map(answer => answer.status);
    expect(statuses.every(status => status === 201 || status === 400)).toBe(true);
    expect((await as.tom.get('/desk')).status).toBe(200);
  });
});

/** The slowest answer to a call that costs nothing, while something else is being worked on. */
async function slowestHealth(work: () => Promise<unknown>): Promise<number> {
  let isDone = false;
  const working = work().finally(() => {
    isDone = true;
  });
  let slowest = 0;
  do {
    const begun = performance.now();
    await fetch(`${small.base}/api/health`);
    slowest = Math.max(slowest, performance.now() - begun);
  } while (!isDone);
  await working;
  return slowest;
}

const nested = (depth: number): unknown => JSON.parse(`${'['.repeat(depth)}1${']'.repeat(depth)}`);
const steps = (n: number) => [
  { verb: 'Ask', id: 'ask' },
  ...Array.from({ length: n }, (_, i) => ({ verb: 'Hold', id: `h${i}`, when: null, until: { kind: 'requests' } })),
];

describe('one cheap call', () => {
  const many = Object.fromEntries(Array.from({ length: 50_000 }, (_, i) => [`f${i}`, 'x']));
  const preview = (answers: unknown) => as.ina.call('POST', '/preview', { workflow: 'annual', answers });
  const calls: [string, () => Promise<{ status: number }>, number[]][] = [
    ['a preview over millennia', () => preview({ kind: 'annual', dates: dates('0001-01-01', '9999-12-31') }), [200]],
    ['a preview of twenty years', () => preview({ kind: 'annual', dates: dates('2026-01-01', '2045-12-31') }), [200]],
    ['50,000 answers that no form has', () => preview(many), [400]],
    [
      'a draft of 10,000 steps',
      () => as.kay.call('POST', '/workflows', { definition: { ...annualLeave, steps: steps(10_000) } }),
      [400],
    ],
    ['answers nested without end', () => preview({ kind: nested(2000) }), [400]],
    [
      'a draft that cannot be read for its depth',
      () => as.kay.call('POST', '/workflows', { definition: nested(2000) }),
      [400],
    ],
    ['the last day of time', () => as.ina.get('/planner?from=9999-12-01&to=9999-12-31'), [400]],
    [
      'a cover until the end of time',
      () => as.tom.call('PUT', '/covers', { person: 'tom', by: 'per', from: '9999-12-30', to: '9999-12-31' }),
      [400],
    ],
    ['an address with a bad escape', () => as.ina.get('/requests/%E0%A4%A'), [400]],
    [
      'a body in an unknown encoding',
      () => as.ina.call('POST', '/preview', '{}', { 'Content-Encoding': 'moon' }),
      [400],
    ],
    [
      'a body in an unknown script',
      () => as.ina.call('POST', '/preview', '{}', { 'Content-Type': 'application/json; charset=moon' }),
      [400],
    ],
  ];
  test.each(calls)('%s is answered, and keeps nobody waiting', async (_, call, wanted) => {
    const idle = await slowestHealth(() => as.ina.get('/session'));
    let status = 0;
    const busy = await slowestHealth(async () => {
      ({ status } = await call());
    });
    expect(wanted).toContain(status);
    // As a ratio of one run: a call that stops the thread makes it hundreds.
    expect(busy / Math.max(idle, 5)).toBeLessThan(60);
  });

  test('a file over the size, sent in pieces, is answered at once and not when it has all come', async () => {
    const { port, hostname } = new URL(small.base);
    const socket = createConnection(Number(port), hostname);
    const heard: Buffer[] = [];
    const answered = new Promise<void>(done => {
      socket.on('data', chunk => {
        heard.push(chunk);
        done();
      });
      socket.on('error', () => done());
    });
    socket.write(
      `POST /api/files?name=big.pdf HTTP/1.1\r\nHost: x\r\nX-North-Pebble: 1\r\nCookie: ${as.ina.cookie}\r\n` +
        'Content-Type: application/octet-stream\r\nTransfer-Encoding: chunked\r\n\r\n',
    );
    const piece = Buffer.alloc(1_000_000, '%PDF-1.7 ');
    let isAnswered = false;
    void answered.then(() => {
      isAnswered = true;
    });
    let sent = 0;
    while (!isAnswered && sent < 200) {
      socket.write(`${piece.length.toString(16)}\r\n`);
      socket.write(piece);
      await new Promise<void>(done => socket.write('\r\n', () => done()));
      sent += 1;
    }
    await answered;
    expect(Buffer.concat(heard).toString()).toContain('400 Bad Request');
    expect(sent).toBeLessThan(200);
    socket.destroy();
  });
});
