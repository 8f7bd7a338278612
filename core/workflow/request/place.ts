/** Where the person works whom a request is about, on the date that it is about: by its working days is counted back. */
import { type Answers, listById, postColumn, rowById } from '../../form/index.ts';
import { recordOn } from '../../people/index.ts';
import type { CivilDate } from '../../time/index.ts';
import type { Definition } from '../definition/definition.ts';
import type { Context } from './context.ts';
import type { RequestState } from './state.ts';

/** The id of the place that a post, a place or a person stands at. */
function placeBy({ index, lists = [] }: Pick<Context, 'index' | 'lists'>, answer: unknown, date: CivilDate) {
  if (typeof answer !== 'string') return undefined;
  const place = index.post(answer)?.place ?? index.place(answer)?.id;
  if (place !== undefined) return place;
  const person = index.person(answer as never);
  if (person) return recordOn(person, date)?.place;
  // A row of a list of the house that names a place: an open post, a programme.
  const row = lists.flatMap(list => list.rows).find(one => one.id === answer);
  return index.directory.places.find(one => one.name === row?.cells.place || one.id === row?.cells.place)?.id;
}

/** @returns the id of a place on file, or nothing where none is known */
export function placeOfWork(
  definition: Pick<Definition, 'countsBack'>,
  state: Pick<RequestState, 'answers' | 'subject' | 'asker'>,
  context: Pick<Context, 'index' | 'lists'>,
  date: CivilDate,
): string | undefined {
  const named = definition.countsBack?.place;
  const said = named === undefined ? undefined : placeBy(context, state.answers[named], date);
  if (said !== undefined) return said;
  const person = context.index.person((state.subject ?? state.asker)!);
  const own = person && recordOn(person, date)?.place;
  return own !== undefined && context.index.place(own) ? own : undefined;
}

/**
 * The place and department in which somebody will work who is not on file yet: those of the first post that a request
 * names, else the place that its days are counted at.
 */
export function workplaceOf(
  definition: Pick<Definition, 'form' | 'countsBack'>,
  answers: Answers,
  around: Pick<Context, 'index' | 'lists'>,
  date: CivilDate,
): { readonly place: string; readonly department?: string } | undefined {
  for (const field of definition.form.fields) {
    const answer = answers[field.id];
    if (field.kind !== 'pick' || typeof answer !== 'string') continue;
    const cell = rowById(listById(around.lists ?? [], field.list), answer)?.cells[postColumn];
    const post = around.index.post(field.list === 'posts' ? answer : typeof cell === 'string' ? cell : '');
    if (post) return { place: post.place, department: post.department };
  }
  const named = definition.countsBack?.place;
  const place = named === undefined ? undefined : placeBy(around, answers[named], date);
  return place === undefined ? undefined : { place };
}
