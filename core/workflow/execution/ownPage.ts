/** The way of whoever asked from outside to their own page. */
import { toMilliseconds } from '../../time/index.ts';
import type { Definition } from '../definition/definition.ts';
import { outsideGuest } from '../definition/guests.ts';
import type { Context } from '../request/context.ts';
import type { LinkInLetter } from '../request/events.ts';
import { isOpen, type RequestState } from '../request/state.ts';

type Around = { readonly definition: Definition; readonly state: RequestState; readonly context: Context };

/** The way to their own page, for a letter to an address that is theirs; nothing where they have none, or it is over. */
export function linkOutside({ definition, state, context }: Around, address: string): { link?: LinkInLetter } {
  const step = outsideGuest(definition);
  const link = step && state.guests?.[step.id]?.link;
  const isGood = isOpen(state) && link && !link.ended && toMilliseconds(link.until) > toMilliseconds(context.now);
  return isGood && state.outside?.mail === address ? { link: { step: step.id, n: link.n, until: link.until } } : {};
}
