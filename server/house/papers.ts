/** The register of papers, as commands write it; and their numbers, kept apart from requests. */
import { masked } from '@north-pebble/core/form';
import type { Definition, Effect } from '@north-pebble/core/workflow';
import { and, eq, inArray, isNull, ne } from 'drizzle-orm';
import { type Transaction, tables as t } from '../database/index.ts';

/** A paper goes into the register; it takes the place of those of its kind that its holder gave before. */
export async function keepPaper(
  tx: Transaction,
  request: string,
  { key, field, as: kind, person, holder, file, issued, expires, on }: Extract<Effect, { kind: 'keep paper' }>,
): Promise<void> {
  const row = { key, person, holder, kind, issued, expires, request, field, file, keptOn: on };
  await tx.insert(t.papers).values(row).onDuplicateKeyUpdate({ set: { key } });
  const theirs =
    person === null ? and(isNull(t.papers.person), eq(t.papers.holder, holder)) : eq(t.papers.person, person);
  await tx
    .update(t.papers)
    .set({ replacedOn: on })
    .where(and(theirs, eq(t.papers.kind, kind), ne(t.papers.key, key), isNull(t.papers.replacedOn)));
}

const asked = (definition: Definition) =>
  definition.form.fields.filter(field => field.kind === 'document' && field.numbered === true);

/**
 * Takes the numbers of papers out of answers and keeps them apart; what goes on holds their last letters. What is sent
 * back as it was shown is the number that was there.
 */
export async function takeNumbers<A>(tx: Transaction, definition: Definition, answers: A): Promise<A> {
  const fields = asked(definition);
  if (fields.length === 0 || typeof answers !== 'object' || answers === null) return answers;
  const next: Record<string, unknown> = { ...(answers as Record<string, unknown>) };
  for (const { id } of fields) {
    const given = next[id] as { file?: { id?: unknown }; number?: unknown } | null | undefined;
    const file = given?.file?.id;
    const number = given?.number;
    if (typeof file !== 'string' || file.length > 36 || typeof number !== 'string') continue;
    const trimmed = number.trim();
    if (trimmed === '' || trimmed.length > 60) continue;
    const [kept] = await tx.select().from(t.paperNumbers).where(eq(t.paperNumbers.file, file));
    const isShown = kept !== undefined && masked(kept.number) === trimmed;
    if (!isShown)
      await tx
        .insert(t.paperNumbers)
        .values({ file, number: trimmed })
        .onDuplicateKeyUpdate({ set: { number: trimmed } });
    next[id] = { ...given, number: isShown ? trimmed : masked(trimmed) };
  }
  return next as A;
}

/** Throws everything of a paper away but that it was there: its number, its file, every piece of it. */
export async function forgetPaper(tx: Transaction, id: number, on: string): Promise<void> {
  const [paper] = await tx.select().from(t.papers).where(eq(t.papers.id, id)).for('update');
  if (!paper || paper.forgottenOn !== null) return;
  await tx.delete(t.paperNumbers).where(eq(t.paperNumbers.file, paper.file));
  await tx.delete(t.filePieces).where(eq(t.filePieces.file, paper.file));
  await tx.delete(t.files).where(eq(t.files.id, paper.file));
  await tx
    .update(t.papers)
    .set({ forgottenOn: on as never, issued: null })
    .where(eq(t.papers.id, id));
}

/** Numbers of files that are not there any more. */
export async function dropLooseNumbers(tx: Transaction): Promise<number> {
  const rows = await tx
    .select({ file: t.paperNumbers.file })
    .from(t.paperNumbers)
    .leftJoin(t.files, eq(t.files.id, t.paperNumbers.file))
    .where(isNull(t.files.id))
    .limit(500);
  if (rows.length > 0)
    await tx.delete(t.paperNumbers).where(
      inArray(
        t.paperNumbers.file,
        rows.map(row => row.file),
      ),
    );
  return rows.length;
}
