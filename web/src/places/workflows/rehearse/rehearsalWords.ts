/** What a rehearsal would bring about, in words. */
import type { Outgoing, Rehearsal } from '@north-pebble/core/proof';
import type { CivilDate } from '@north-pebble/core/time';
import { changeWords, type Telling } from '@north-pebble/core/workflow';

/** With what reasons of a rehearsal are told. */
export const tellingOf = ({ definition, facts, now }: Rehearsal): Telling => ({
  definition,
  index: facts.index,
  book: { ...facts.book, today: now.slice(0, 10) as CivilDate },
  lists: facts.lists,
});

/** What an effect of the house or of a connection would do; nothing for letters, which are shown as they are. */
export const effectWords = (effect: Outgoing, rehearsal: Rehearsal): string | null => {
  switch (effect.kind) {
    case 'planner':
      return `On the planner: ${effect.label}, ${effect.from} to ${effect.to}`;
    case 'keep paper':
      return `Among the papers of ${effect.holder}: ${effect.as}${effect.expires ? `, valid until ${effect.expires}` : ''}`;
    case 'change person':
      return `On file: ${effect.property} becomes ${changeWords(effect.change, tellingOf(rehearsal))}`;
    case 'add person':
      return `On file: ${effect.change.person.name} from ${effect.change.person.joined}`;
    case 'add post':
      return `On file: the post ${effect.change.post.title} from ${effect.from}`;
    case 'never came':
      return 'Taken off file again: whoever never came';
    case 'add row':
      return `A new row in ${effect.list}: ${Object.values(effect.values).join(', ')}`;
    case 'change row':
      return `A changed row in ${effect.list}: ${Object.values(effect.values).join(', ')}`;
    case 'open request':
      return `A request in ${effect.workflow}`;
    case 'provision':
      return `${effect.connection} would ${effect.action}: ${Object.values(effect.values).join(', ')}${effect.undoOn ? `, undone at the end of ${effect.undoOn}` : ''}`;
    default:
      return null;
  }
};
