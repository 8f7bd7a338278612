/** Files: taken in by their content, theirs alone until sent, then read like the field that they answer. */
import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import type { Looked, RequestView } from '@north-pebble/contract';
import type { GivenFile } from '@north-pebble/core/form';
import type { Definition } from '@north-pebble/core/workflow';
import { eq } from 'drizzle-orm';
import { annualLeave } from '../../core/testing/house.ts';
import { tables as t } from '../database/index.ts';
import { type Browser, eventually, houseNow, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { contentType } from './contentType.ts';
import { databaseKeep, inPieces, pieceSize } from './keep.ts';
import { clearLoose } from './service.ts';

const sick: Definition = {
  ...annualLeave,
  name: 'Sick leave',
  form: {
    fields: [
      ...annualLeave.form.fields,
      { kind: 'long text', id: 'reason', label: 'Reason', required: false, readers: ['HR partner'] },
      {
        kind: 'document',
        id: 'note',
        label: 'Doctor’s note',
        required: false,
        expires: false,
        takes: ['PDF', 'picture'],
      },
      { kind: 'files', id: 'more', label: 'More', required: false, most: 2, largest: 1 },
    ],
  },
};

let small: Small;
const as = {} as Record<'ina' | 'tom' | 'dora' | 'kay' | 'per' | 'sub', Browser>;
const pdf = Buffer.from('%PDF-1.7\n1 0 obj <<>> endobj\ntrailer <<>>\n%%EOF\n');
const png = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNkYPhfDwAChwGA60e6kgAAAABJRU5ErkJggg==',
  'base64',
);

beforeAll(async () => {
  small = await startSmall();
  await small.db.insert(t.workflows).values({ id: 'sick', position: 1, liveVersion: 1, draft: null, draftRevision: 0 });
  await small.db.insert(t.workflowVersions).values({
    workflow: 'sick',
    version: 1,
    definition: sick,
    publishedAt: houseNow,
    publishedBy: 'kay',
    comment: 'First.',
  });
  for (const name of ['ina', 'tom', 'dora', 'kay', 'per', 'sub'] as const) as[name] = await signedIn(small.base, name);
});
afterAll(() => small.stop());

async function give(browser: Browser, name: string, content: Buffer | string) {
  const response = await fetch(`${small.base}/api/files?name=${encodeURIComponent(name)}`, {
    method: 'POST',
    headers: { 'X-North-Pebble': '1', 'Content-Type': 'application/octet-stream', Cookie: browser.cookie },
    body: content,
  });
  const body = (await response.json()) as GivenFile & { detail?: string };
  return { status: response.status, body };
}
const fetchFile = (browser: Browser, id: string) =>
  fetch(`${small.base}/api/files/${id}`, { headers: { Cookie: browser.cookie } });

function send(browser: Browser, answers: Record<string, unknown>, [from, to] = ['2026-03-09', '2026-03-13']) {
  const dates = { from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } };
  const body = { id: randomUUID(), workflow: 'sick', answers: { kind: 'sick', dates, ...answers } };
  return browser.call<{ request: string }>('POST', '/requests', body);
}
const view = async (browser: Browser, request: string) => (await browser.get<RequestView>(`/requests/${request}`)).body;
const looks = (seen: RequestView) => seen.trail.filter(line => line.text.startsWith('looked at')).map(line => line.who);

describe('taking files in', () => {
  test('reads their kind from the content, whatever their name says', async () => {
    expect((await give(as.ina, 'note.txt', pdf)).body).toMatchObject({
      name: 'note.txt',
      type: 'application/pdf',
      size: 48,
    });
    expect((await give(as.ina, 'scan.pdf', png)).body.type).toBe('image/png');
    expect((await give(as.ina, 'Läuse & Öl.csv', 'a,b\n1,2\n')).body).toMatchObject({
      name: 'Läuse & Öl.csv',
      type: 'text/csv',
    });
  });

  test.each([
    ['a program', 'note.pdf', Buffer.from([0x7f, 0x45, 0x4c, 0x46, 2, 1, 1, 0, 0, 0, 0, 0])],
    ['a page with a script', 'note.txt', '<!doctype html><script>alert(1)</script>'],
    ['a drawing with a script', 'note.png', '<svg xmlns="http://www.w3.org/2000/svg"><script>1</script></svg>'],
    ['nothing at all', 'note.txt', ''],
    ['bytes of no kind', 'note.txt', Buffer.from([1, 2, 3, 200, 201, 202])],
    ['an archive', 'note.zip', Buffer.from('504b0506000000000000000000000000000000000000', 'hex')],
  ])('refuses %s and keeps nothing of it', async (_what, name, content) => {
    const before = await small.db.$count(t.files);
    const { status, body } = await give(as.ina, name, content);
    expect(status).toBe(400);
    expect(body.detail).toContain(name);
    expect(await small.db.$count(t.files)).toBe(before);
  });

  test('takes up to 25 MB, and nothing of what is larger', async () => {
    const large = Buffer.alloc(3_000_000, 'words ');
    const { status, body } = await give(as.ina, 'large.txt', large);
    expect(status).toBe(201);
    const pieces = await small.db.$count(t.filePieces, eq(t.filePieces.file, body.id));
    expect(pieces).toBe(Math.ceil(3_000_000 / pieceSize));
    expect(Buffer.from(await (await fetchFile(as.ina, body.id)).arrayBuffer()).equals(large)).toBe(true);
    const too = await give(as.ina, 'huge.txt', Buffer.alloc(25_000_001, 'w')).catch(() => null);
    if (too) expect(too).toMatchObject({ status: 400, body: { detail: '“huge.txt” is larger than 25 MB.' } });
    expect(await small.db.$count(t.files, eq(t.files.name, 'huge.txt'))).toBe(0);
  });

  test('one that is broken off halfway leaves nothing, and one that nobody sends is cleared in time', async () => {
    const stop = new AbortController();
    async function* slowly() {
      yield pdf;
      await eventually(async () => (await small.db.$count(t.files, eq(t.files.name, 'broken.pdf'))) === 1);
      stop.abort();
    }
    const body = slowly() as unknown as string;
    const options = { method: 'POST', body, duplex: 'half', signal: stop.signal } as RequestInit;
    const headers = { 'X-North-Pebble': '1', 'Content-Type': 'application/octet-stream', Cookie: as.ina.cookie };
    await fetch(`${small.base}/api/files?name=broken.pdf`, { ...options, headers }).catch(() => undefined);
    await eventually(async () => (await small.db.$count(t.files, eq(t.files.name, 'broken.pdf'))) === 0);

    const { body: loose } = await give(as.ina, 'loose.pdf', pdf);
    const day = 86_400_000;
    await clearLoose(small.serving.house, Date.now() + 29 * day);
    expect((await fetchFile(as.ina, loose.id)).status).toBe(200);
    await clearLoose(small.serving.house, Date.now() + 31 * day);
    expect((await fetchFile(as.ina, loose.id)).status).toBe(404);
    expect(await small.db.$count(t.filePieces, eq(t.filePieces.file, loose.id))).toBe(0);
  });
});

describe('files of a request', () => {
  test('belong to nobody else before it is sent', async () => {
    const { body: file } = await give(as.ina, 'mine.pdf', pdf);
    for (const other of [as.tom, as.dora, as.kay]) expect((await fetchFile(other, file.id)).status).toBe(404);
    const { status, problem } = await send(as.per, { note: { file, expires: null } });
    expect(status).toBe(400);
    expect(problem.faults).toEqual([{ field: 'note', message: '“mine.pdf” is not here any more. Give it again.' }]);
  });

  test('are what they are said to be', async () => {
    const { body: file } = await give(as.ina, 'a.pdf', pdf);
    const { body: text } = await give(as.ina, 'a.txt', 'words');
    const { body: large } = await give(as.ina, 'b.txt', Buffer.alloc(1_000_001, 'w'));
    const faults = async (answers: Record<string, unknown>) => (await send(as.ina, answers)).problem.faults;
    expect(await faults({ note: { file: { ...file, size: 9 }, expires: null } })).toMatchObject([{ field: 'note' }]);
    expect(await faults({ note: { file: { ...text, type: 'application/pdf' }, expires: null } })).toMatchObject([
      { field: 'note' },
    ]);
    expect(await faults({ note: { file: text, expires: null } })).toEqual([
      { field: 'note', message: '“a.txt” is not of a kind that is taken here: PDFs and pictures, up to 10 MB each.' },
    ]);
    expect(await faults({ more: [large] })).toEqual([
      { field: 'more', message: '“b.txt” has 1.0 MB; up to 1 MB are taken.' },
    ]);
    expect(await faults({ more: [file, text, large] })).toMatchObject([{ field: 'more' }]);
  });

  test('are opened by those who decide, each look recorded once; HR operations and the line see that they are there', async () => {
    const { body: file } = await give(as.ina, 'note.pdf', pdf);
    const { body: sent } = await send(as.ina, { note: { file, expires: null }, reason: 'A bad back' });
    const { request } = sent;
    const own = await view(as.ina, request);
    expect(own).toMatchObject({ closed: [], answers: { reason: 'A bad back', note: { file: { name: 'note.pdf' } } } });
    expect((await fetchFile(as.ina, file.id)).status).toBe(200);
    expect(looks(await view(as.ina, request))).toEqual([]);

    const toms = await view(as.tom, request);
    expect(toms.closed).toEqual([
      { field: 'reason', sight: 'withheld' },
      { field: 'note', sight: 'guarded' },
    ]);
    expect(JSON.stringify(toms)).not.toMatch(/bad back|note\.pdf/);
    const look = (browser: Browser, field: string) =>
      browser.call<Looked>('POST', `/requests/${request}/looks`, { id: randomUUID(), field });
    expect((await look(as.tom, 'reason')).status).toBe(403);
    expect((await look(as.tom, 'note')).body.answer).toMatchObject({ file: { name: 'note.pdf' } });
    const opened = await fetchFile(as.tom, file.id);
    expect(Buffer.from(await opened.arrayBuffer()).equals(pdf)).toBe(true);
    expect(opened.headers.get('Content-Disposition')).toBe('attachment; filename=note.pdf');
    expect(opened.headers.get('Content-Security-Policy')).toBe("default-src 'none'; sandbox");
    expect(looks(await view(as.ina, request))).toEqual(['Tom Lund']);

    // Seen as Tom, nothing is opened in his name, not even what he has just looked at himself.
    const marit = await signedIn(small.base, 'dora');
    await marit.call('POST', '/session/as', { person: 'tom', reason: 'He cannot open it.' });
    expect((await fetchFile(marit, file.id)).status).toBe(403);
    expect((await look(marit, 'note')).status).toBe(403);
    expect(looks(await view(as.ina, request))).toEqual(['Tom Lund']);

    // Dora holds the role that is named for the reason; the document is for those who decide on it.
    expect((await look(as.dora, 'reason')).body.answer).toBe('A bad back');
    expect((await fetchFile(as.dora, file.id)).status).toBe(403);
    for (const browser of [as.kay, as.per]) {
      const seen = await view(browser, request);
      expect(seen.closed.map(c => c.sight)).toEqual(['withheld', 'withheld']);
      expect((await look(browser, 'note')).status).toBe(403);
      expect((await fetchFile(browser, file.id)).status).toBe(403);
    }
    expect((await fetchFile(as.sub, file.id)).status).toBe(404);
    expect((await look(as.sub, 'note')).status).toBe(404);
    expect(looks(await view(as.ina, request))).toEqual(['Tom Lund', 'Dora Quill']);
    // A look makes nobody come too late.
    const [task] = toms.tasks;
    const answer = { kind: 'answer' as const, seen: toms.version, task: task.id, outcome: 'approve' };
    expect((await as.tom.command(request, answer)).status).toBe(200);
  });
});

test('why somebody has it is kept back from whoever may not see what it was worked out from', async () => {
  const dear: Definition = {
    ...sick,
    name: 'Dear leave',
    form: {
      fields: [
        ...annualLeave.form.fields,
        { kind: 'money', id: 'pay', label: 'Pay', currency: 'EUR', required: false, readers: ['HR partner'] },
      ],
    },
    steps: sick.steps.map(step =>
      step.verb === 'Decide' && step.id === 'manager'
        ? {
            ...step,
            who: {
              first: { kind: 'manager with', what: 'grade', least: 'Pay - 90' },
              otherwise: [{ kind: 'manager', levels: 1 }],
            },
          }
        : step,
    ),
  };
  await small.db.insert(t.workflows).values({ id: 'dear', position: 2, liveVersion: 1, draft: null, draftRevision: 0 });
  const version = { workflow: 'dear', version: 1, publishedAt: houseNow, publishedBy: 'kay', comment: 'First.' };
  await small.db.insert(t.workflowVersions).values({ ...version, definition: dear });
  const dates = { from: { date: '2026-04-06', half: 'am' }, to: { date: '2026-04-10', half: 'pm' } };
  const body = { id: randomUUID(), workflow: 'dear', answers: { kind: 'sick', dates, pay: 90 } };
  const { request } = (await as.ina.call<{ request: string }>('POST', '/requests', body)).body;
  const own = await view(as.ina, request);
  expect(own.tasks[0].reasons.length).toBeGreaterThan(0);
  expect(own.ahead?.steps[0].people[0].reasons).toEqual(own.tasks[0].reasons);
  const toms = await view(as.tom, request);
  expect(toms.tasks).toMatchObject([{ holder: own.tasks[0].holder, reasons: [] }]);
});

describe('keeping', () => {
  test('in pieces of one size, however it comes', async () => {
    async function* coming() {
      for (const size of [1, 9, 10, 0, 25, 3]) yield Buffer.alloc(size, size);
    }
    const sizes: number[] = [];
    const all: Buffer[] = [];
    for await (const piece of inPieces(coming(), 10)) {
      sizes.push(piece.length);
      all.push(Buffer.from(piece));
    }
    expect(sizes).toEqual([10, 10, 10, 10, 8]);
    expect(Buffer.concat(all).filter(b => b === 25)).toHaveLength(25);
  });

  test('writing again replaces, removing removes', async () => {
    const keep = databaseKeep(small.db);
    const words = async () => {
      const read: Buffer[] = [];
      for await (const piece of keep.read('k')) read.push(piece);
      return Buffer.concat(read).toString();
    };
    async function* once(text: string) {
      yield Buffer.from(text);
    }
    await keep.write('k', once('first and longer'));
    await keep.write('k', once('second'));
    expect(await words()).toBe('second');
    await keep.remove(['k']);
    expect(await words()).toBe('');
  });

  test('a letter cut in two is still a text', async () => {
    const text = Buffer.from(`${'x'.repeat(1024 * 1024 - 1)}é`);
    expect(await contentType(text.subarray(0, 1024 * 1024), 'a.txt')).toBe('text/plain');
    expect(await contentType(Buffer.from([0xc3, 0x28, 0x41]), 'a.txt')).toBe('application/octet-stream');
  });
});

describe('a file that comes with a comment', () => {
  const comment = (browser: Browser, request: string, files: GivenFile[]) =>
    browser.command(request, { kind: 'comment', text: 'As drawn', mentions: [], files });

  test('is read by whoever sees the request, by nobody else, and stands on the trail', async () => {
    const { request } = (await send(as.ina, {}, ['2026-09-07', '2026-09-11'])).body;
    const { body: file } = await give(as.tom, 'Plan.pdf', pdf);
    expect((await comment(as.tom, request, [file])).status).toBe(200);
    const line = (await view(as.ina, request)).trail.at(-1);
    expect(line).toMatchObject({ who: 'Tom Lund', text: 'wrote a comment, with Plan.pdf', files: [file] });
    expect(Buffer.from(await (await fetchFile(as.ina, file.id)).arrayBuffer()).equals(pdf)).toBe(true);
    expect((await fetchFile(as.sub, file.id)).status).toBe(404);
    expect(looks(await view(as.ina, request))).toEqual([]);
  });

  test('is one’s own, and what it is said to be', async () => {
    const { request } = (await send(as.per, {}, ['2026-09-07', '2026-09-11'])).body;
    const { body: file } = await give(as.ina, 'Plan.pdf', pdf);
    expect(await comment(as.tom, request, [file])).toMatchObject({
      status: 400,
      problem: { faults: [{ field: 'files' }] },
    });
    const { body: own } = await give(as.tom, 'Plan.pdf', pdf);
    expect((await comment(as.tom, request, [{ ...own, name: 'Other.pdf' }])).status).toBe(400);
    expect(
      (
        await comment(
          as.tom,
          request,
          Array.from({ length: 6 }, () => own),
        )
      ).status,
    ).toBe(400);
    expect((await view(as.per, request)).trail.filter(line => line.files.length > 0)).toEqual([]);
  });
});
