/** What North Pebble has to say about a plan, in the margin beside it. */
import type { PlanView } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import { useHere, useYear } from '../frame/session.ts';
import { Note, type NoteTone } from '../Notes.tsx';

const tones: Record<PlanView['says'][number]['tone'], NoteTone> = { late: 'stop', tight: 'waiting', fine: 'now' };

export function PlanNotes({ plan }: { plan: PlanView }) {
  const { self } = useHere();
  const year = useYear();
  return (
    <>
      {plan.says.map(({ tone, title, text }) => (
        <Note key={title} tone={plan.state === 'ready' ? 'good' : tones[tone]} title={title}>
          {text}
        </Note>
      ))}
      {plan.told && (
        <Note tone="now" title="Told so far">
          {plan.told.names.join(', ') || 'Nobody, since nobody was found'}, {momentWords(plan.told.at, self.zone, year)}
          . It goes off their desks by itself once everything is done.
        </Note>
      )}
    </>
  );
}
