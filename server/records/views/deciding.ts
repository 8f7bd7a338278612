/** Who would have each step of a workflow, for one person on one day, and why. */
import type { DecidesView } from '@north-pebble/contract';
import { type PersonId, peopleReasonWords, personName, resolve, todayFor } from '@north-pebble/core/people';
import type { CivilDate } from '@north-pebble/core/time';
import { mayBeAsker, inSentence as stepWords, structure } from '@north-pebble/core/workflow';
import { asc, eq, isNotNull } from 'drizzle-orm';
import { tables as t } from '../../database/index.ts';
import { type House, loadBookAndAway, loadDefinition } from '../../house/index.ts';
import { notFound } from '../../http/index.ts';

export async function decidesView(
  house: House,
  { person, workflow, day: wanted }: { person: PersonId; workflow: string; day?: CivilDate | undefined },
): Promise<DecidesView> {
  const { index, lists, now } = await house.moment(house.db);
  const [row] = await house.db.select().from(t.workflows).where(eq(t.workflows.id, workflow));
  if (!index.person(person) || !row?.liveVersion) throw notFound();
  const today = todayFor(index, person, now);
  const day = wanted ?? today;
  const definition = await loadDefinition(house.db, workflow, row.liveVersion);
  const { away } = await loadBookAndAway(house.db, index, person, day);
  return {
    day,
    person: { id: person, name: personName(index, person) },
    workflow: definition.name,
    steps: structure(definition).all.flatMap(({ step, number }) => {
      if (step.verb !== 'Decide' && step.verb !== 'Do') return [];
      const { whenAway } = step;
      const found = resolve(step.who, {
        index,
        day,
        asker: person,
        away,
        workflow,
        mayBeAsker: mayBeAsker(step),
        whenAway,
      });
      return [
        {
          number,
          name: step.verb === 'Do' ? step.task : 'Decision',
          says: stepWords(definition, step, index, lists),
          people: found.ok
            ? found.holders.map(({ person: id, coverFor }) => ({
                name: personName(index, id),
                coverFor: coverFor && personName(index, coverFor),
              }))
            : [],
          why: found.reasons.map(reason => peopleReasonWords(reason, index)),
          gap: found.ok ? null : peopleReasonWords(found.gap, index),
          depends: !found.ok && found.depends === true,
        },
      ];
    }),
  };
}

export async function decidesChoices(house: House) {
  const rows = await house.db
    .select()
    .from(t.workflows)
    .where(isNotNull(t.workflows.liveVersion))
    .orderBy(asc(t.workflows.position));
  const workflows = await Promise.all(
    rows.map(async ({ id, liveVersion }) => ({
      id,
      name: (await loadDefinition(house.db, id, liveVersion ?? 1)).name,
    })),
  );
  return { workflows };
}
