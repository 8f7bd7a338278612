/** That the leave of an open request was counted anew since it was asked for: from what to what, and why. */
import type { RequestView } from '@north-pebble/contract';
import { amountOfUnit, momentWords } from '@north-pebble/core/time';
import { useHere, useYear } from '../../frame/session.ts';
import { Note } from '../../Notes.tsx';

/** What the dates do not keep to of the rules of the leave type: whoever decides sees it, and who let it pass. */
export function AgainstRules({ request }: { request: RequestView }) {
  return request.against.map(({ words, passed }) => (
    <Note key={words} tone="waiting" title={words}>
      {passed ?? 'It was asked for all the same.'}
    </Note>
  ));
}

export function Restated({ request }: { request: RequestView }) {
  const { self } = useHere();
  const year = useYear();
  return request.restated.map(({ before, after, unit, at, cause }) => (
    <Note
      key={at}
      tone="waiting"
      title={`Counted anew: ${amountOfUnit(before, unit)} → ${amountOfUnit(after, unit)}`}
      role="status"
    >
      {momentWords(at, self.zone, year)}: {cause || 'a record was changed'}
    </Note>
  ));
}
