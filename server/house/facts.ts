/** Facts of people and posts as they are stored: a change, its edits, and the rows that they are of, in one transaction. */
import { touched } from '@north-pebble/core/consequences';
import type { Fact, FactEdit, PeopleChange, PersonId } from '@north-pebble/core/people';
import type { CivilDate, Instant } from '@north-pebble/core/time';
import { and, eq } from 'drizzle-orm';
import { type Transaction, tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from './house.ts';

/** A fact is not as the edit says: somebody was faster. The transaction is done again from how it stands then. */
class FactChanged extends Error {
  readonly code = 'ER_CHECKREAD';
}

type Row = Readonly<Record<string, unknown>> | undefined;
type Stored = {
  add: (tx: Transaction) => unknown;
  remove: (tx: Transaction) => unknown;
  /** As it stands, kept from others until the transaction ends. */
  row: (tx: Transaction) => Promise<Row>;
  /** What its row holds. */
  values: Readonly<Record<string, unknown>>;
};

/** How a fact is stored, taken away, and looked at. */
function rowOf(fact: Fact): Stored {
  switch (fact.kind) {
    case 'person': {
      const { kind: _, id, left, ...rest } = fact;
      const values = { ...rest, leftOn: left };
      const own = eq(t.people.id, id);
      return {
        values,
        add: tx =>
          tx
            .insert(t.people)
            .values({ id, ...values })
            .onDuplicateKeyUpdate({ set: values }),
        remove: tx => tx.delete(t.people).where(own),
        row: async tx => (await tx.select().from(t.people).where(own).for('update'))[0],
      };
    }
    case 'record': {
      const { kind: _, person, from, ...values } = fact;
      const own = and(eq(t.personRecords.person, person), eq(t.personRecords.from, from));
      return {
        values,
        add: tx =>
          tx
            .insert(t.personRecords)
            .values({ person, from, ...values })
            .onDuplicateKeyUpdate({ set: values }),
        remove: tx => tx.delete(t.personRecords).where(own),
        row: async tx => (await tx.select().from(t.personRecords).where(own).for('update'))[0],
      };
    }
    case 'post': {
      const { kind: _, id, ...values } = fact;
      const own = eq(t.posts.id, id);
      return {
        values,
        add: tx =>
          tx
            .insert(t.posts)
            .values({ id, ...values })
            .onDuplicateKeyUpdate({ set: values }),
        remove: tx => tx.delete(t.posts).where(own),
        row: async tx => (await tx.select().from(t.posts).where(own).for('update'))[0],
      };
    }
    case 'line': {
      const { kind: _, post, from, ...values } = fact;
      const own = and(eq(t.postLines.post, post), eq(t.postLines.from, from));
      return {
        values,
        add: tx =>
          tx
            .insert(t.postLines)
            .values({ post, from, ...values })
            .onDuplicateKeyUpdate({ set: values }),
        remove: tx => tx.delete(t.postLines).where(own),
        row: async tx => (await tx.select().from(t.postLines).where(own).for('update'))[0],
      };
    }
    case 'holding': {
      const { kind: _, post, person, from, ...values } = fact;
      const own = and(eq(t.holdings.post, post), eq(t.holdings.person, person), eq(t.holdings.from, from));
      return {
        values,
        add: tx =>
          tx
            .insert(t.holdings)
            .values({ post, person, from, ...values })
            .onDuplicateKeyUpdate({ set: values }),
        remove: tx => tx.delete(t.holdings).where(own),
        row: async tx => (await tx.select().from(t.holdings).where(own).for('update'))[0],
      };
    }
    case 'role': {
      const { role, person, place, department } = fact;
      const values = { role, person, place: place ?? '', department: department ?? '' };
      const own = and(
        eq(t.roles.role, role),
        eq(t.roles.person, person),
        eq(t.roles.place, values.place),
        eq(t.roles.department, values.department),
      );
      return {
        values,
        add: tx => tx.insert(t.roles).ignore().values(values),
        remove: tx => tx.delete(t.roles).where(own),
        row: async tx => (await tx.select().from(t.roles).where(own).for('update'))[0],
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
    const there = await rowOf((before ?? after) as Fact).row(tx);
    const wanted = before && rowOf(before).values;
    const stands =
      wanted === null ? !there : there && Object.entries(wanted).every(([name, value]) => there[name] === value);
    if (!stands) throw new FactChanged('somebody changed it meanwhile');
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
