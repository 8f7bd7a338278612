/** The path ahead of a request, if everybody agrees: who handles it in turn, and how it ends. */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { AheadView } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import { useHere, useYear } from '../frame/session.ts';
import { Note } from '../Notes.tsx';
import { Why } from '../Why.tsx';

type Step = AheadView['steps'][number];

const mostNames = 3;

function namesOf({ people }: Step): string {
  const names = people.map(p => p.name);
  if (names.length > mostNames) return `one of ${names.length} people`;
  return names.length > 1 ? `${names.slice(0, -1).join(', ')} and ${names[names.length - 1]}` : names[0];
}

function wordsOf(step: Step): string {
  if (step.verb === 'Hold') return `It waits ${step.waits ?? ''}`.trim();
  const several = step.people.length > 1 && step.people.length <= mostNames;
  const verb =
    step.verb === 'Decide' ? (several ? 'decide' : 'decides') : several ? 'do their part' : 'does their part';
  return `${namesOf(step)} ${verb}`;
}

export function AheadNote({ ahead, title }: { ahead: AheadView; title: string }) {
  const { self } = useHere();
  const year = useYear();
  const { steps, ends } = ahead;
  if (steps.length === 0) {
    return ends ? (
      <Note tone="good" title="No approval needed">
        Once you send it, it is “{ends}”.
      </Note>
    ) : null;
  }
  return (
    <Note tone="now" title={title}>
      <Box component="ol" aria-label={title} sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {steps.map(step => (
          <Box component="li" key={step.number} sx={{ display: 'flex', gap: 1, py: 0.25 }}>
            <Box component="span" sx={{ minWidth: 20, color: 'text.secondary' }}>
              {step.number}
            </Box>
            <span>
              {wordsOf(step)}
              {step.due && `, due ${momentWords(step.due, self.zone, year)}`}
              {step.people.some(p => p.reasons.length > 0) && (
                <Why about={namesOf(step)}>
                  {step.people.map(person => (
                    <Typography key={person.name} variant="body2" sx={{ mb: 0.5 }}>
                      {person.name}: {person.reasons.join('; ') || 'as the workflow says'}.
                    </Typography>
                  ))}
                </Why>
              )}
            </span>
          </Box>
        ))}
      </Box>
      {ends ? `It ends as “${ends}”, if everybody agrees.` : 'How it goes on from there depends on what is filled in.'}
    </Note>
  );
}
