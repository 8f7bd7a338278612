/** A round of review under way: the steward is asked who may still be at two consoles, and has answered some of it. */

import { addDays } from '@north-pebble/core/time';
import type { Database } from '@north-pebble/server/database';
import { tables as t } from '@north-pebble/server/database';
import { insertMany } from '@north-pebble/server/house';
import { lastUsed } from './directory.ts';
import { demoNow, type History } from './history/index.ts';
import { demoDay } from './organisation.ts';

const groups = ['Tide console', 'Ferry console'];

export async function loadReview(db: Pick<Database, 'insert' | 'select'>, history: History): Promise<void> {
  const due = addDays(demoDay, 7);
  const [made] = await db
    .insert(t.reviews)
    .values({
      connection: 'Directory',
      groups,
      by: 'owner',
      unanswered: 'up',
      due,
      startedBy: 'marit',
      startedAt: `${addDays(demoDay, -4)}T09:00:00Z`,
    })
    .$returningId();
  const seen = new Set<string>();
  const items = history.provided.flatMap(({ request, effect }) => {
    const { person, group } = effect.values;
    const isOver = effect.undoAt !== null && effect.undoAt < demoNow;
    const found = history.directory.people.find(one => one.id === person);
    const key = `${String(person)}/${String(group)}`;
    if (effect.action !== 'add to group' || isOver || !found || !groups.includes(String(group)) || seen.has(key))
      return [];
    if (found.id === 'kofi') return [];
    seen.add(key);
    return [{ request, group: String(group), found }];
  });
  await insertMany(
    db as never,
    t.reviewItems,
    items.map(({ request, group, found }, n) => ({
      review: made.id,
      group,
      account: found.mail.split('@')[0],
      person: found.id,
      name: found.name,
      request,
      lastUsed: lastUsed(found.id),
      reviewer: 'kofi',
      due,
      ...(n % 3 === 0
        ? {
            answer: 'keep' as const,
            answeredBy: 'kofi',
            answeredAt: `${addDays(demoDay, -3)}T10:${String(10 + n)}:00Z`,
          }
        : {}),
    })),
  );
}
