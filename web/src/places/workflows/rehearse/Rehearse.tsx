/** Rehearsing a draft with a real person and dates: nothing is sent and nothing is booked. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { SurroundingsView } from '@north-pebble/contract';
import { type Answers, type FieldFault, mayChange } from '@north-pebble/core/form';
import { type DirectoryIndex, type PersonId, personName } from '@north-pebble/core/people';
import { contextOf, handedIn, keep, nextMoment, type Rehearsal } from '@north-pebble/core/proof';
import { fullMoment, type Instant, toInstant } from '@north-pebble/core/time';
import {
  type Command,
  type Definition,
  factsOf,
  fieldsAt,
  type GuestSection,
  type GuestStep,
  guestForm,
  guestHere,
  guestSteps,
  isHandedIn,
  levelAt,
  outsideFields,
  ownFields,
  reasonWords,
  stepById,
  stepNumber,
  stuckWords,
  type Task,
  withStarts,
} from '@north-pebble/core/workflow';
import { useState } from 'react';
import { DayField } from '../../../parts/form/DayField.tsx';
import { byNameOnly, FilingContext } from '../../../parts/form/FilesInput.tsx';
import { answersOf, FormFields, initialTyped, type Typed } from '../../../parts/form/FormFields.tsx';
import { Note } from '../../../parts/Notes.tsx';
import { Why } from '../../../parts/Why.tsx';
import { PersonPicker } from '../steps/PersonPicker.tsx';
import { factsFor, usePerson } from '../steps/usePerson.ts';
import { GoesOut } from './GoesOut.tsx';
import { RehearsedPlan } from './RehearsedPlan.tsx';
import { tellingOf } from './rehearsalWords.ts';
import type { Filled, Playing } from './useRehearsal.ts';

type House = Parameters<typeof FormFields>[0]['house'];

function TaskCard({
  rehearsal,
  task,
  playing,
  house,
  zone,
}: {
  rehearsal: Rehearsal;
  task: Task;
  playing: Playing;
  house: House;
  zone: string;
}) {
  const { definition, state } = rehearsal;
  const step = stepById(definition, task.step);
  const own = ownFields(definition, task.step);
  const [typed, setTyped] = useState<Typed>({});
  const [note, setNote] = useState('');
  const name = rehearsal.facts.index.person(task.holder)?.name ?? task.holder;
  const all = answersOf(definition, typed);
  const answers = Object.fromEntries(own.flatMap(f => (f.id in typed ? [[f.id, all[f.id] ?? null]] : [])));
  const send = (command: Command) => playing.act(command, task.holder);
  const seen = state.version;
  return (
    <Box
      component="section"
      aria-label={`${name} at step ${stepNumber(definition, task.step)}`}
      sx={{ border: '1px solid', borderColor: 'divider', borderRadius: '12px', p: 1.5, mb: 1.5 }}
    >
      <Typography variant="h3" component="h2">
        You are {name}, step {stepNumber(definition, task.step)}
      </Typography>
      <Typography variant="body2" color="textSecondary">
        {step?.verb === 'Do' ? step.task : 'decides'}
        {task.due && ` · due ${fullMoment(task.due, zone)}`}
        <Why about={`${name}`}>
          {[...task.reasons, ...(task.dueReason ? [task.dueReason] : [])].map(reason => (
            <Typography key={JSON.stringify(reason)} variant="body2">
              {reasonWords(reason, tellingOf(rehearsal))}.
            </Typography>
          ))}
        </Why>
      </Typography>
      {own.length > 0 && (
        <Box sx={{ mt: 1 }}>
          <FormFields
            definition={definition}
            house={house}
            typed={{ ...state.answers, ...typed }}
            faults={playing.fault?.faults ?? []}
            shown={own.map(f => ({ id: f.id, level: levelAt(definition, task.step, f) }))}
            onChange={(next, id) => setTyped({ ...typed, [id]: next[id] })}
          />
        </Box>
      )}
      <TextField
        size="small"
        fullWidth
        label="Note"
        value={note}
        onChange={event => setNote(event.target.value)}
        sx={{ my: 1 }}
      />
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        {step?.verb === 'Decide' &&
          step.outcomes.map(outcome => (
            <Button
              key={outcome.id}
              size="small"
              variant="outlined"
              color={outcome.tone === 'good' ? 'success' : outcome.tone === 'bad' ? 'error' : 'secondary'}
              onClick={() =>
                send({
                  kind: 'answer',
                  seen,
                  task: task.id,
                  outcome: outcome.id,
                  note: note || (outcome.note === 'must' ? 'Rehearsed.' : null),
                  answers,
                })
              }
            >
              {outcome.label}
            </Button>
          ))}
        {step?.verb === 'Do' && (
          <>
            <Button
              size="small"
              variant="outlined"
              color="success"
              onClick={() =>
                send({
                  kind: 'complete',
                  seen,
                  task: task.id,
                  ticked: (step.checklist ?? []).map(c => c.id),
                  answers,
                  note: note || null,
                })
              }
            >
              Done
            </Button>
            {step.couldNot && (
              <Button
                size="small"
                variant="outlined"
                color="error"
                onClick={() => send({ kind: 'could not', seen, task: task.id, note: note || 'Rehearsed.' })}
              >
                Could not
              </Button>
            )}
          </>
        )}
      </Box>
    </Box>
  );
}

/** What the asker, or whoever it was sent back to, gives. */
function GiveCard({
  rehearsal,
  title,
  fields,
  faults = [],
  house,
  onGive,
}: {
  rehearsal: Rehearsal;
  title: string;
  fields: readonly string[];
  faults?: readonly FieldFault[];
  house: House;
  onGive: (answers: Record<string, unknown>) => void;
}) {
  const [typed, setTyped] = useState<Typed>({});
  const { definition, state } = rehearsal;
  const all = answersOf(definition, { ...state.answers, ...typed });
  return (
    <Box
      component="section"
      aria-label={title}
      sx={{ border: '1px solid', borderColor: 'secondary.main', borderRadius: '12px', p: 1.5, mb: 1.5 }}
    >
      <Typography variant="h3" component="h2" sx={{ mb: 1 }}>
        {title}
      </Typography>
      <FormFields
        definition={definition}
        house={house}
        typed={{ ...state.answers, ...typed }}
        faults={[...faults]}
        open={fields}
        shown={fields.map(id => ({ id, level: 'editable' as const }))}
        onChange={(next, id) => setTyped({ ...typed, [id]: next[id] })}
      />
      <Button
        size="small"
        variant="outlined"
        color="secondary"
        onClick={() => onGive(Object.fromEntries(fields.map(id => [id, all[id] ?? null])))}
      >
        Send it on
      </Button>
    </Box>
  );
}

/** The next part that a guest has not handed in: one after another, as on their own page. */
function guestsParts(rehearsal: Rehearsal, step: GuestStep): GuestSection[] {
  const { definition, state } = rehearsal;
  const here = guestHere(definition, state, step.id);
  if (!here) return [];
  const facts = factsOf(contextOf(rehearsal, null), rehearsal.asker, rehearsal.subject, state.request);
  return guestForm(definition, step, state.answers, here.standing, facts)
    .filter(part => part.state !== 'in')
    .slice(0, 1);
}

const hour = 60;
const day = 24 * hour;

type Props = {
  definition: Definition;
  index: DirectoryIndex | undefined;
  surroundings: SurroundingsView | undefined;
  playing: Playing;
  now: Instant;
  zone: string;
  self: string;
  onChange: (definition: Definition) => void;
  readOnly: boolean;
};

function Beginning({
  definition,
  index,
  surroundings,
  playing,
  now,
  self,
}: Omit<Props, 'onChange' | 'readOnly' | 'zone'>) {
  const { person, date, typed, touched, outside } = playing.filled ?? {
    outside: false,
    person: self,
    date: now.slice(0, 10),
    typed: {},
    touched: [],
  };
  const fill = (change: Partial<Filled>) => playing.fill({ person, date, typed, touched, outside, ...change });
  const given: Typed = { ...initialTyped(definition), ...(typed as Typed) };
  const about = usePerson(person, index, surroundings);
  const at = toInstant(Date.parse(`${date}T09:00:00Z`));
  const facts = about && factsFor(about, person, Number.isNaN(Date.parse(date)) ? now : at);
  const answers = facts ? withStarts(definition, given as Answers, facts, new Set(touched)) : (given as Answers);
  const shown = facts ? fieldsAt(definition, definition.steps[0].id, answers, facts) : [];
  const house: House = {
    leaveTypes: surroundings?.leaveTypes ?? [],
    lists: facts?.lists ?? [],
    people: index?.directory.people ?? [],
  };
  const opening = definition.opening?.outside;
  const isOutside = outside && opening !== undefined;
  const theirs = new Set(isOutside ? outsideFields(definition, opening).map(field => field.id) : []);
  const seen = isOutside ? shown.filter(f => theirs.has(f.field.id)) : shown;
  const open = new Set(seen.filter(f => mayChange(f.level)).map(f => f.field.id));
  return (
    <Box sx={{ p: 2 }}>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mb: 2 }}>
        {opening && (
          <FormControlLabel
            control={<Checkbox checked={outside} onChange={(_, on) => fill({ outside: on })} />}
            label="Somebody outside, at the public address"
          />
        )}
        {!isOutside && (
          <PersonPicker label="Who asks" value={person} onChange={next => fill({ person: next })} index={index} />
        )}
        <Box sx={{ width: 190 }}>
          <DayField label="On" date={date} onDate={next => fill({ date: next })} />
        </Box>
      </Box>
      <FormFields
        definition={definition}
        house={house}
        typed={answers as Typed}
        onChange={(next, id) => {
          fill({ typed: { ...typed, [id]: next[id] }, touched: [...new Set([...touched, id])] });
        }}
        faults={playing.fault?.faults ?? []}
        shown={seen.map(({ field, level }) => ({ id: field.id, level }))}
      />
      {playing.fault && (
        <Note tone="stop" title="It would not be sent" role="alert">
          {playing.fault.message}
        </Note>
      )}
      <Button
        variant="contained"
        color="primary"
        disabled={!about || Number.isNaN(Date.parse(date))}
        onClick={() => {
          const toSend = Object.fromEntries(
            Object.entries(answersOf(definition, answers as Typed)).filter(([id]) => open.has(id)),
          );
          if (about) playing.begin(about, person as PersonId, at, toSend, isOutside);
        }}
      >
        Begin the rehearsal
      </Button>
    </Box>
  );
}

/** What is given in a rehearsal stays in it, files included. */
export function Rehearse(props: Props) {
  return (
    <FilingContext value={byNameOnly}>
      <Rehearsing {...props} />
    </FilingContext>
  );
}

function Rehearsing(props: Props) {
  const { definition, index, surroundings, playing, zone, onChange, readOnly } = props;
  const [name, setName] = useState('');
  const rehearsal = playing.now;
  if (!rehearsal || playing.outdated) {
    return (
      <>
        {playing.outdated && (
          <Box sx={{ p: 2, pb: 0 }}>
            <Note tone="waiting" title="The draft has changed since">
              Begin again, so that it is played as it stands now.
            </Note>
          </Box>
        )}
        <Beginning {...props} />
      </>
    );
  }
  const { state } = rehearsal;
  const house: House = {
    leaveTypes: surroundings?.leaveTypes ?? [],
    lists: surroundings?.lists ?? [],
    people: index?.directory.people ?? [],
  };
  const next = nextMoment(rehearsal);
  const ended = state.status === 'closed' || state.status === 'withdrawn';
  const person = (id: string) => (index ? personName(index, id as PersonId) : id);
  const document = state.holds.flatMap(h => {
    const step = stepById(rehearsal.definition, h.step);
    return step?.verb === 'Hold' && isHandedIn(step.until) ? [{ step: h.step, field: step.until.field }] : [];
  })[0];
  return (
    <Box sx={{ p: 2 }}>
      <Box
        sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1.5 }}
        role="toolbar"
        aria-label="Rehearsal"
      >
        <Typography sx={{ fontWeight: 650, mr: 1 }}>
          {rehearsal.state.outside?.name ?? person(rehearsal.asker)}, {fullMoment(rehearsal.now, zone)}
        </Typography>
        <Button size="small" disabled={ended || !next} onClick={playing.skipToNext}>
          {next ? `To ${fullMoment(next, zone)}` : 'Nothing is timed'}
        </Button>
        <Button size="small" disabled={ended} onClick={() => playing.skip(day)}>
          A day later
        </Button>
        <Button size="small" disabled={ended} onClick={() => playing.skip(7 * day)}>
          A week later
        </Button>
        <Button size="small" disabled={playing.steps < 2} onClick={playing.back}>
          One step back
        </Button>
        <Button size="small" onClick={playing.stop}>
          Begin again
        </Button>
      </Box>
      {playing.fault && (
        <Note tone="stop" title="That is refused" role="alert">
          {playing.fault.message}
        </Note>
      )}
      {ended && (
        <Note
          tone={
            state.closing && definition.closings.find(c => c.id === state.closing)?.tone === 'bad' ? 'waiting' : 'good'
          }
          title={`It ends: ${definition.closings.find(c => c.id === state.closing)?.name ?? 'withdrawn'}`}
          role="status"
        >
          After {Math.max(1, Math.round((Date.parse(rehearsal.now) - Date.parse(rehearsal.began)) / 3_600_000))} hours.
        </Note>
      )}
      {state.stuck && (
        <Note tone="stop" title="It would be stuck here">
          {stuckWords(state.stuck, tellingOf(rehearsal))}
        </Note>
      )}
      <RehearsedPlan rehearsal={rehearsal} playing={playing} />
      {state.holds.map(h => (
        <Note key={h.step} tone="waiting" title={`Step ${stepNumber(definition, h.step)} waits`}>
          {reasonWords(h.reason, tellingOf(rehearsal))}
        </Note>
      ))}
      {state.tasks.map(task => (
        <TaskCard key={task.id} rehearsal={rehearsal} task={task} playing={playing} house={house} zone={zone} />
      ))}
      {guestSteps(rehearsal.definition).flatMap(step =>
        guestsParts(rehearsal, step).map(part => (
          <GiveCard
            key={`${step.id}-${part.section.id}-${part.state}`}
            rehearsal={rehearsal}
            title={`You are the guest of step ${stepNumber(definition, step.id)}: ${part.section.title}`}
            fields={part.fields.filter(({ field }) => field.kind !== 'paper').map(({ field }) => field.id)}
            faults={playing.fault?.faults ?? []}
            house={house}
            onGive={answers => playing.act(handedIn(rehearsal, step.id, part.section.id, answers), null)}
          />
        )),
      )}
      {state.returned?.to && (
        <GiveCard
          key={`back-${state.version}`}
          rehearsal={rehearsal}
          title={`You are ${person(state.returned.to)}: change it`}
          fields={state.returned.fields}
          house={house}
          onGive={answers => playing.act({ kind: 'resubmit', seen: state.version, answers }, state.returned!.to!)}
        />
      )}
      {document && (
        <GiveCard
          key={`document-${state.version}`}
          rehearsal={rehearsal}
          title={`You are ${person(rehearsal.asker)}: hand it in`}
          fields={[document.field]}
          house={house}
          onGive={answers =>
            playing.act({ kind: 'hand in', seen: state.version, step: document.step, answers }, rehearsal.asker)
          }
        />
      )}
      <GoesOut rehearsal={rehearsal} index={index} zone={zone} />
      {!readOnly && (
        <Box
          component="form"
          onSubmit={event => {
            event.preventDefault();
            if (name.trim() === '') return;
            onChange({ ...definition, checks: [...(definition.checks ?? []), keep(rehearsal, name.trim())] });
            setName('');
          }}
          sx={{ display: 'flex', gap: 1 }}
        >
          <TextField
            size="small"
            label="Keep this as a check called"
            value={name}
            onChange={event => setName(event.target.value)}
            sx={{ flex: 1 }}
          />
          <Button type="submit" disabled={name.trim() === ''}>
            Keep it
          </Button>
        </Box>
      )}
    </Box>
  );
}
