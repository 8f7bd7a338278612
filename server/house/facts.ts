/** Facts of people and posts as they are stored: a change, its edits, and the rows that they are of, in one transaction. */
import { touched } from '@north-pebble/core/consequences';
import type { Fact, FactEdit, PeopleChange, PersonId } from '@north-pebble/core/people';
import type { CivilDate, Instant } from '@north-pebble/core/time';
import { and, eq } from 'drizzle-orm';
import { type Transaction, tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from './house.ts';

type Stored = { add: (tx: Transaction) => unknown; remove: (tx: Transaction) => unknown };

/** How a fact is stored and taken away. */
function rowOf(fact: Fact): Stored {
  switch (fact.kind) {
    case 'person': {
      const { kind: _, id, left, ...own } = fact;
      const row = { ...own, leftOn: left };
      return {
        add: tx =>
          tx
            .insert(t.people)
            .values({ id, ...row })
            .onDuplicateKeyUpdate({ set: row }),
        remove: tx => tx.delete(t.people).where(eq(t.people.id, id)),
      };
    }
    case 'record': {
      const { kind: _, person, from, ...row } = fact;
      return {
        add: tx =>
          tx
            .insert(t.personRecords)
            .values({ person, from, ...row })
            .onDuplicateKeyUpdate({ set: row }),
        remove: tx =>
          tx.delete(t.personRecords).where(and(eq(t.personRecords.person, person), eq(t.personRecords.from, from))),
      };
    }
    case 'post': {
      const { kind: _, id, ...row } = fact;
      return {
        add: tx =>
          tx
            .insert(t.posts)
            .values({ id, ...row })
            .onDuplicateKeyUpdate({ set: row }),
        remove: tx => tx.delete(t.posts).where(eq(t.posts.id, id)),
      };
    }
    case 'line': {
      const { kind: _, post, from, ...row } = fact;
      return {
        add: tx =>
          tx
            .insert(t.postLines)
            .values({ post, from, ...row })
            .onDuplicateKeyUpdate({ set: row }),
        remove: tx => tx.delete(t.postLines).where(and(eq(t.postLines.post, post), eq(t.postLines.from, from))),
      };
    }
    case 'holding': {
      const { kind: _, post, person, from, ...row } = fact;
      const own = and(eq(t.holdings.post, post), eq(t.holdings.person, person), eq(t.holdings.from, from));
      return {
        add: tx =>
          tx
            .insert(t.holdings)
            .values({ post, person, from, ...row })
            .onDuplicateKeyUpdate({ set: row }),
        remove: tx => tx.delete(t.holdings).where(own),
      };
    }
    case 'role': {
      const { kind: _, role, person, place, department } = fact;
      const row = { role, person, place: place ?? '', department: department ?? '' };
      return {
        add: tx => tx.insert(t.roles).ignore().values(row),
        remove: tx =>
          tx
            .delete(t.roles)
            .where(
              and(
                eq(t.roles.role, role),
                eq(t.roles.person, person),
                eq(t.roles.place, row.place),
                eq(t.roles.department, row.department),
              ),
            ),
      };
    }
  }
}

export type ToKeep = {
  readonly at: Instant;
  readonly by: PersonId | null;
  readonly request: string | null;
  readonly reason: string;
  readonly from: CivilDate | null;
  readonly change: PeopleChange | null;
  readonly edits: readonly FactEdit[];
  readonly takesBack: number | null;
};

/**
 * Stores edits that were worked out from the directory as it stands in this transaction, with who made them and why.
 * @returns the number of the change
 */
export async function keepFacts(tx: Transaction, { edits, ...change }: ToKeep): Promise<number> {
  for (const { before, after } of edits) {
    if (after) await rowOf(after).add(tx);
    else if (before) await rowOf(before).remove(tx);
  }
  const [{ insertId }] = await tx.insert(t.factChanges).values({ ...change, edits: [...edits] });
  const people = touched(edits);
  if (people.length > 0)
    await tx.insert(t.factChangePeople).values(people.map(person => ({ person, change: insertId })));
  await raiseDirectoryVersion(tx);
  return insertId;
}
