/** Forms that are begun and not sent: one for each person and workflow. */
import type { Answers } from '@north-pebble/core/form';
import type { Instant } from '@north-pebble/core/time';
import { and, eq } from 'drizzle-orm';
import { tables as t } from '../../database/index.ts';
import type { House } from '../../house/index.ts';
import type { Caller } from '../../http/index.ts';
import { liveDefinition } from '../commands/commands.ts';

export async function keepBegun(
  house: House,
  caller: Caller,
  workflow: string,
  answers: Answers,
): Promise<{ savedAt: Instant }> {
  await liveDefinition(house.db, workflow);
  const draft = { answers, savedAt: await house.now(house.db) };
  await house.db
    .insert(t.requestDrafts)
    .values({ person: caller.id, workflow, ...draft })
    .onDuplicateKeyUpdate({ set: draft });
  return { savedAt: draft.savedAt };
}

export async function dropBegun(house: House, caller: Caller, workflow: string): Promise<void> {
  await house.db
    .delete(t.requestDrafts)
    .where(and(eq(t.requestDrafts.person, caller.id), eq(t.requestDrafts.workflow, workflow)));
}
