/**
 * Where the content of files is kept. The database keeps it in pieces; a store of objects can take its place by
 * offering the same three verbs.
 */
import { and, asc, eq, inArray } from 'drizzle-orm';
import { type Database, tables as t } from '../database/index.ts';

export type FileKeep = {
  /** Takes content in as it comes; what was kept under the id before is gone. */
  write(id: string, content: AsyncIterable<Buffer>): Promise<void>;
  read(id: string): AsyncIterable<Buffer>;
  remove(ids: readonly string[]): Promise<void>;
};

export const pieceSize = 256 * 1024;

/** The same bytes in pieces of one size, the last one smaller. */
export async function* inPieces(content: AsyncIterable<Buffer>, size = pieceSize): AsyncIterable<Buffer> {
  let waiting: Buffer[] = [];
  let length = 0;
  for await (const chunk of content) {
    waiting.push(chunk);
    length += chunk.length;
    if (length < size) continue;
    const all = Buffer.concat(waiting, length);
    let at = 0;
    for (; at + size <= length; at += size) yield all.subarray(at, at + size);
    waiting = [all.subarray(at)];
    length -= at;
  }
  if (length > 0) yield Buffer.concat(waiting, length);
}

export function databaseKeep(db: Database): FileKeep {
  return {
    async write(id, content) {
      await this.remove([id]);
      let seq = 0;
      for await (const bytes of inPieces(content))
        await db.insert(t.filePieces).values({ file: id, seq: seq++, bytes });
    },
    async *read(id) {
      const pieces = await db
        .select({ seq: t.filePieces.seq })
        .from(t.filePieces)
        .where(eq(t.filePieces.file, id))
        .orderBy(asc(t.filePieces.seq));
      // One at a time: a large file is never whole in memory.
      for (const { seq } of pieces) yield await piece(db, id, seq);
    },
    async remove(ids) {
      if (ids.length > 0) await db.delete(t.filePieces).where(inArray(t.filePieces.file, [...ids]));
    },
  };
}

async function piece(db: Database, file: string, seq: number): Promise<Buffer> {
  const [row] = await db
    .select({ bytes: t.filePieces.bytes })
    .from(t.filePieces)
    .where(and(eq(t.filePieces.file, file), eq(t.filePieces.seq, seq)));
  if (!row) throw new Error(`piece ${seq} of file ${file} is gone`);
  return row.bytes;
}
