/** Papers of guests: made once and kept, so that what was read is what is signed. */
import { createHash } from 'node:crypto';
import type { GuestPaper, SignPaper } from '@north-pebble/contract';
import { type FieldOf, filesOf, type SignedPaper } from '@north-pebble/core/form';
import { fieldById, fill, guestFields, insertions } from '@north-pebble/core/workflow';
import { and, eq } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import { bytesOf, storeMade } from '../files/index.ts';
import { contextOf, type House, subjectOf } from '../house/index.ts';
import { notFound, ProblemError } from '../http/index.ts';
import { BrokenPaper, digestOf } from '../papers/index.ts';
import type { Found } from './links.ts';

/** Whose the files of a guest are until they belong to the request. */
export const ownerOf = (request: string): string => `guest:${request}`;

function paperField({ definition, here }: Found, id: string): FieldOf<'paper'> {
  const field = fieldById(definition, id);
  const isTheirs = here?.step.guest.sections.some(s => guestFields(definition, here.step, s).some(f => f.id === id));
  if (!here || field?.kind !== 'paper' || !isTheirs) throw notFound();
  return field;
}

const cannotOpen = () =>
  new ProblemError(
    'refused',
    'This paper cannot be opened, so it cannot be read or signed here. Ask whoever sent you here for another one.',
  );

/** The words of the paper, or the file that it is; and what tells whether it has changed. */
async function sourceOf(house: House, found: Found, field: FieldOf<'paper'>) {
  const { stored, definition } = found;
  if (field.from !== undefined) {
    const [given] = filesOf(stored.state.answers[field.from]);
    const row = given && (await house.db.select().from(t.files).where(eq(t.files.id, given.id)))[0];
    if (row?.type !== 'application/pdf') throw cannotOpen();
    return { file: row.id, made: row.digest, text: null };
  }
  const subject = subjectOf(stored);
  const context = await contextOf(house, house.db, { subject, actor: null, workflow: stored.workflow });
  const text = fill(field.text, insertions(definition, stored.state, context));
  return { file: null, made: createHash('sha256').update(`${field.label}\n${text}`).digest('hex'), text };
}

/** The paper as it is to be read now; made anew only when its words are others. */
async function paperNow(house: House, found: Found, field: FieldOf<'paper'>) {
  const { db } = house;
  const { request, step } = found;
  const source = await sourceOf(house, found, field);
  const of = and(eq(t.guestPapers.request, request), eq(t.guestPapers.step, step), eq(t.guestPapers.field, field.id));
  const [kept] = await db.select().from(t.guestPapers).where(of);
  if (kept?.made === source.made) return { row: kept, text: source.text };
  let { file } = source;
  let digest = source.made;
  if (file === null) {
    const bytes = await house.papers.paper(field.label, source.text ?? '');
    digest = digestOf(bytes);
    file = (await storeMade(house, ownerOf(request), `${field.label}.pdf`, bytes)).id;
  } else {
    try {
      await house.papers.mustOpen(await bytesOf(house, file));
    } catch (fault) {
      throw fault instanceof BrokenPaper ? cannotOpen() : fault;
    }
  }
  const row = { request, step, field: field.id, made: source.made, file, digest, signed: null, at: Date.now() };
  await db.insert(t.guestPapers).values(row).onDuplicateKeyUpdate({ set: row });
  return { row, text: source.text };
}

export async function paper(house: House, found: Found, id: string): Promise<GuestPaper> {
  const { row, text } = await paperNow(house, found, paperField(found, id));
  return { digest: row.digest, file: row.file, text };
}

/** Whether a file was made for the guest, or is the one that they are to sign. */
export async function isPaperOf(house: House, { request, step }: Found, file: string): Promise<boolean> {
  const rows = await house.db
    .select({ file: t.guestPapers.file })
    .from(t.guestPapers)
    .where(and(eq(t.guestPapers.request, request), eq(t.guestPapers.step, step)));
  return rows.some(row => row.file === file);
}

/** Says that a paper was read, or signs it. It counts once the section is handed in. */
export async function sign(house: House, found: Found, id: string, input: SignPaper): Promise<void> {
  const field = paperField(found, id);
  if (field.signed === 'by hand')
    throw new ProblemError('refused', 'This paper is signed by hand: print it, sign it and give it back.');
  const { row } = await paperNow(house, found, field);
  if (row.digest !== input.digest)
    throw new ProblemError('stale', 'The paper has changed since you read it. Read it again.');
  const at = await house.now(house.db);
  let signed: SignedPaper;
  if (field.signed === 'read') signed = { how: 'read', name: null, at, digest: row.digest, file: null };
  else {
    const { name } = input;
    if (name === null)
      throw new ProblemError('bad input', 'Write your name.', [{ field: 'name', message: 'Write your name.' }]);
    const strokes = input.strokes ?? [];
    const how = strokes.some(stroke => stroke.length > 1) ? 'drawn' : 'typed';
    let bytes: Uint8Array;
    try {
      bytes = await house.papers.sign(await bytesOf(house, row.file), { title: field.label, name, how, strokes, at });
    } catch (fault) {
      throw fault instanceof BrokenPaper ? cannotOpen() : fault;
    }
    const file = await storeMade(house, ownerOf(found.request), `${field.label}, signed.pdf`, bytes);
    signed = { how, name, at, digest: row.digest, file };
  }
  await house.db
    .update(t.guestPapers)
    .set({ signed })
    .where(
      and(eq(t.guestPapers.request, row.request), eq(t.guestPapers.step, row.step), eq(t.guestPapers.field, row.field)),
    );
}

/** What the guest did with each paper that is still the same; the house says it, not they. */
export async function signedPapers(house: House, { request, step }: Found): Promise<Record<string, SignedPaper>> {
  const rows = await house.db
    .select()
    .from(t.guestPapers)
    .where(and(eq(t.guestPapers.request, request), eq(t.guestPapers.step, step)));
  return Object.fromEntries(rows.flatMap(row => (row.signed ? [[row.field, row.signed]] : [])));
}
