/** Files that come in, belong to a request once it is sent, and are read again by those who may. */
import { createHash, randomUUID } from 'node:crypto';
import {
  type Answers,
  type Field,
  fileFault,
  filesOf,
  type GivenFile,
  holdsFiles,
  largestFile,
} from '@north-pebble/core/form';
import type { Definition, RequestState } from '@north-pebble/core/workflow';
import { and, count, eq, inArray, isNull, lt, or, sum } from 'drizzle-orm';
import { type Transaction, tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';
import { type ProblemError, refusedField } from '../http/index.ts';
import { contentType, headSize } from './contentType.ts';
import { databaseKeep, type FileKeep } from './keep.ts';

export const keepOf = (house: House): FileKeep => databaseKeep(house.db);

export type StoredFile = typeof t.files.$inferSelect;

const mostBytes = largestFile * 1_000_000;
/** What one person may have given that no request has yet, and how many files a request may have. */
const mostLoose = { files: 100, bytes: 500_000_000 };
const mostOfRequest = 200;

async function mustHaveRoom(house: House, owner: string): Promise<void> {
  const [{ files, bytes }] = await house.db
    .select({ files: count(), bytes: sum(t.files.size) })
    .from(t.files)
    .where(and(eq(t.files.owner, owner), isNull(t.files.request)));
  if (files >= mostLoose.files || Number(bytes ?? 0) >= mostLoose.bytes)
    throw refusedField(
      'file',
      'You have given more files than are kept without a request. Send the requests that they are for, or come back in a month.',
    );
}

/** Takes a file in. Until a request names it, it is its owner’s alone; broken off halfway, nothing is left of it. */
export async function takeIn(
  house: House,
  owner: string,
  name: string,
  content: AsyncIterable<Buffer>,
): Promise<GivenFile> {
  await mustHaveRoom(house, owner);
  const id = randomUUID();
  const keep = keepOf(house);
  const hash = createHash('sha256');
  const head: Buffer[] = [];
  let size = 0;
  let headLength = 0;
  async function* counted() {
    for await (const chunk of content) {
      size += chunk.length;
      if (size > mostBytes) throw tooLarge(name);
      hash.update(chunk);
      if (headLength < headSize) {
        head.push(chunk);
        headLength += chunk.length;
      }
      yield chunk;
    }
  }
  const row = { id, owner, name, type: '', size: 0, digest: '', whole: false, at: Date.now() };
  await house.db.insert(t.files).values(row);
  try {
    await keep.write(id, counted());
    const type = await contentType(Buffer.concat(head).subarray(0, headSize), name);
    // The widest rules there are; those of its field are checked when the request is sent.
    const fault = fileFault({ largest: largestFile }, { name, size, type });
    if (fault) throw refusedField('file', fault);
    await house.db
      .update(t.files)
      .set({ type, size, digest: hash.digest('hex'), whole: true })
      .where(eq(t.files.id, id));
    return { id, name, size, type };
  } catch (fault) {
    await keep.remove([id]);
    await house.db.delete(t.files).where(eq(t.files.id, id));
    throw fault;
  }
}

/** Keeps a file that the house made itself. */
export async function storeMade(house: House, owner: string, name: string, bytes: Uint8Array): Promise<GivenFile> {
  const id = randomUUID();
  const type = 'application/pdf';
  const digest = createHash('sha256').update(bytes).digest('hex');
  await keepOf(house).write(
    id,
    (async function* () {
      yield Buffer.from(bytes);
    })(),
  );
  const row = { id, owner, name, type, size: bytes.length, digest, whole: true, at: Date.now() };
  await house.db.insert(t.files).values(row);
  return { id, name, size: bytes.length, type };
}

/** All of a file at once: for what is small enough to be read or sent whole. */
export async function bytesOf(house: House, file: string): Promise<Buffer> {
  const pieces: Buffer[] = [];
  for await (const piece of keepOf(house).read(file)) pieces.push(piece);
  return Buffer.concat(pieces);
}

export const tooLarge = (name: string): ProblemError =>
  refusedField('file', `“${name}” is larger than ${largestFile} MB.`);

/** Where a file belongs that came with a comment; no field of a form is called so. */
export const ofComments = '#comment';

const givenIn = (fields: readonly Field[], answers: Answers) =>
  fields.flatMap(field => {
    return holdsFiles(field) ? filesOf(answers[field.id]).map(file => ({ field: field.id, file })) : [];
  });

/**
 * The files that a command gave become the request’s, in its transaction.
 * @param commented those that came with a comment
 * A file that is not here, is somebody else’s, or is not what it is said to be, is refused at its field.
 */
export async function attachFiles(
  tx: Transaction,
  owner: string,
  definition: Definition,
  before: Answers,
  after: RequestState,
  commented: readonly GivenFile[] = [],
): Promise<void> {
  const { fields } = definition.form;
  const had = new Set(givenIn(fields, before).map(g => g.file.id));
  const answered = givenIn(fields, after.answers).filter(g => !had.has(g.file.id));
  const fresh = [...answered, ...commented.map(file => ({ field: ofComments, file }))];
  if (fresh.length === 0) return;
  const ids = fresh.map(g => g.file.id);
  const [{ n }] = await tx.select({ n: count() }).from(t.files).where(eq(t.files.request, after.request));
  if (n + ids.length > mostOfRequest)
    throw refusedField(
      fresh[0].field === ofComments ? 'files' : fresh[0].field,
      `A request has at most ${mostOfRequest} files.`,
    );
  const rows = await tx.select().from(t.files).where(inArray(t.files.id, ids)).for('update');
  for (const { field, file } of fresh) {
    const row = rows.find(r => r.id === file.id);
    // A file that the request has already stays where it is: given again with a comment, or at another field, it would
    // lose what guards it.
    const isOurs =
      row?.whole && (row.request === null ? row.owner === owner : row.request === after.request && row.field === field);
    const isSame = row?.name === file.name && row.size === file.size && row.type === file.type;
    if (!isOurs || !isSame)
      throw refusedField(field === ofComments ? 'files' : field, `“${file.name}” is not here any more. Give it again.`);
    await tx.update(t.files).set({ request: after.request, field }).where(eq(t.files.id, file.id));
  }
}

const halfIn = 60 * 60_000;
const looseFor = 30 * 24 * 60 * 60_000;

/** Throws away what never came in whole, and what no request has named for a month. */
/** Files that nobody may have any more, with their content. */
export async function throwAway(house: House, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  await keepOf(house).remove([...ids]);
  await house.db.delete(t.files).where(inArray(t.files.id, [...ids]));
}

export async function clearLoose(house: House, now = Date.now()): Promise<number> {
  const rows = await house.db
    .select({ id: t.files.id })
    .from(t.files)
    .where(
      and(
        isNull(t.files.request),
        or(lt(t.files.at, now - looseFor), and(eq(t.files.whole, false), lt(t.files.at, now - halfIn))),
      ),
    )
    .limit(500);
  const ids = rows.map(row => row.id);
  await throwAway(house, ids);
  return ids.length;
}
