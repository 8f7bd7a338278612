/** What a directory should hold, by the records of people and by what requests were given and have not lost again. */
import type { ShouldBe } from '@north-pebble/core/access';
import { isEmployed, postsOf, recordOn, todayFor } from '@north-pebble/core/people';

import { grantsOf, loadConnection, opened } from '../connections/index.ts';
import type { House } from '../house/index.ts';

export async function shouldBe(house: House, connection: string): Promise<ShouldBe> {
  const { db } = house;
  const { index, now } = await house.moment(db);
  const [{ grants, groups, made, shut }, stored] = await Promise.all([
    grantsOf(db, connection),
    loadConnection(db, connection),
  ]);
  return {
    people: index.directory.people.map(person => {
      const today = todayFor(index, person.id, now);
      const { place, department } = recordOn(person, today);
      return {
        id: person.id,
        name: person.name,
        mail: person.mail,
        works: isEmployed(person, today),
        comes: person.joined > today,
        department: index.department(department)?.name ?? department,
        place: index.place(place)?.name ?? place,
        posts: postsOf(index, person.id, today).map(post => post.title),
      };
    }),
    grants,
    groups,
    rules: (stored && opened(stored)?.groupRules) ?? [],
    made,
    shut,
  };
}
