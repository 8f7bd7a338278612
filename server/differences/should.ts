/** What a directory should hold, by the records of people and by what requests were given and have not lost again. */
import type { ShouldBe } from '@north-pebble/core/access';
import { isEmployed, recordOn } from '@north-pebble/core/people';
import { civilDateAt } from '@north-pebble/core/time';
import { and, eq, inArray, isNull } from 'drizzle-orm';
import { tables as t } from '../database/index.ts';
import type { House } from '../house/index.ts';

type Values = { values?: Record<string, unknown> };

export async function shouldBe(house: House, connection: string): Promise<ShouldBe> {
  const { db } = house;
  const { index, now } = await house.moment(db);
  const today = civilDateAt(now, 'UTC');
  const asked = await db
    .select({ action: t.effects.action, state: t.effects.state, payload: t.effects.payload, result: t.effects.result })
    .from(t.effects)
    .where(
      and(
        eq(t.effects.connection, connection),
        isNull(t.effects.undoes),
        inArray(t.effects.action, ['add to group', 'create account']),
        inArray(t.effects.state, ['delivered', 'undone']),
      ),
    );
  const text = (values: Record<string, unknown>, name: string): string => String(values[name] ?? '');
  const groups = new Set<string>();
  const grants: ShouldBe['grants'][number][] = [];
  const made: string[] = [];
  for (const { action, state, payload, result } of asked) {
    const values = (payload as unknown as Values).values ?? {};
    if (action === 'create account') {
      if (state === 'delivered' && typeof result?.id === 'string') made.push(result.id);
      continue;
    }
    groups.add(text(values, 'group'));
    if (state === 'delivered') grants.push({ person: text(values, 'person'), group: text(values, 'group') });
  }
  return {
    people: index.directory.people.map(person => {
      const { place, department } = recordOn(person, today);
      return {
        id: person.id,
        name: person.name,
        mail: person.mail,
        works: isEmployed(person, today),
        comes: person.joined > today,
        department: index.department(department)?.name ?? department,
        place: index.place(place)?.name ?? place,
      };
    }),
    grants,
    groups: [...groups],
    made,
  };
}
