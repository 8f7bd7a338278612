import { z } from 'zod';
import { isEmployed, type PersonId } from '../../../people/index.ts';
import { common } from '../../parts.ts';
import { fieldKind, noSettings, nothing } from '../kind.ts';

export const person = fieldKind({
  schema: z.object({ ...common, kind: z.literal('person') }),
  words: 'a person',
  detail: nothing,
  blank: noSettings,
  type: 'person',
  answer: () => z.string(),
  answerIn: (_, house) =>
    z.string().refine(id => {
      const found = house.index.person(id as PersonId);
      return found !== undefined && (isEmployed(found, house.today) || found.joined > house.today);
    }, 'Choose somebody from the directory.'),
  say: (_, answer, naming) => naming.person(String(answer)),
});
