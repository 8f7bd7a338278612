/** Asking: the form, its draft saved by itself, and the answers' consequences in the margin. */

import Autocomplete from '@mui/material/Autocomplete';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { AskView } from '@north-pebble/contract';
import type { Answers } from '@north-pebble/core/form';
import { type Instant, isCivilDate, momentWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { call, commandId, problemOf } from '../../api/client.ts';
import { askQuery, queryClient, requestQuery } from '../../api/queries.ts';
import { Saver } from '../../api/saving.ts';
import { useFilesComing } from '../../parts/form/FilesInput.tsx';
import { answersOf, FormFields, initialTyped, type Typed } from '../../parts/form/FormFields.tsx';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { FailureNote } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';
import { AheadNote } from '../../parts/request/AheadNote.tsx';
import { PreviewMargin, usePreview, WhatHappensNext } from './RequestForm.tsx';

/** Whoever comes back to the form in a moment finds what they typed, not what was loaded before. */
const remember = (workflow: string, answers: Typed): void => {
  queryClient.setQueryData(askQuery(workflow).queryKey, before =>
    before ? { ...before, draft: { answers, savedAt: before.draft?.savedAt ?? ('' as Instant) } } : before,
  );
};

/**
 * Saves what is typed after a short rest, and at once when the page is left before that; says when it was saved.
 * @param done it has been sent, so no draft of it is left
 */
function useDraft(workflow: string, typed: Typed, changed: boolean, done: boolean) {
  const [savedAt, setSavedAt] = useState<string | null>(null);
  const [failing, setFailing] = useState(false);
  const [saver] = useState(
    () =>
      new Saver<Typed, { savedAt: string }>({
        save(answers, keepalive) {
          remember(workflow, answers);
          return call('PUT /askable/:workflow/draft', { params: { workflow }, body: { answers }, keepalive });
        },
        onState(saving) {
          setFailing(saving.kind === 'away');
          if (saving.kind === 'saved') setSavedAt(saving.saved.savedAt);
        },
      }),
  );
  useEffect(() => {
    if (done) saver.drop();
    else if (changed) saver.change(typed);
  }, [typed, changed, done, saver]);
  useEffect(() => () => void saver.flush(true), [saver]);
  return { savedAt, failing };
}

/** @param from the request whose answers stand in it at first */
function AskForm({ ask, from }: { ask: AskView; from: string | null }) {
  const { self } = useHere();
  const year = useYear();
  const navigate = useNavigate();
  const [typed, setTyped] = useState<Typed>(() => initialTyped(ask.definition, ask.draft?.answers));
  const [changed, setChanged] = useState(false);
  const [tried, setTried] = useState(false);
  const [touched, setTouched] = useState<string[]>(() => Object.keys(ask.draft?.answers ?? {}));
  const [subject, setSubject] = useState<string | null>(null);
  const own = answersOf(ask.definition, typed);
  const preview = usePreview(ask.workflow, null, { answers: own, touched, subject });
  // What North Pebble knows stands in the fields that nobody has typed in.
  const starts = ask.definition.form.fields.filter(f => f.start && !touched.includes(f.id));
  const shownTyped = { ...typed, ...Object.fromEntries(starts.map(f => [f.id, preview.data?.answers[f.id] ?? null])) };
  const shown = preview.data?.fields;
  const isShown = (id: string) => !shown || shown.some(f => f.id === id);
  const answers = Object.fromEntries(
    Object.entries(answersOf(ask.definition, shownTyped)).filter(([id]) => isShown(id)),
  );
  // One id for this asking: pressing twice, or again after a lost answer, sends it once.
  const id = useRef(commandId());
  const filesComing = useFilesComing();
  const send = useMutation({
    mutationFn: () => call('POST /requests', { body: { id: id.current, workflow: ask.workflow, subject, answers } }),
    onSuccess: async sent => {
      queryClient.removeQueries({ queryKey: ['ask', ask.workflow] });
      await queryClient.invalidateQueries();
      navigate(`/requests/${sent.request}`, { state: { sent: true } });
    },
  });
  const draft = useDraft(ask.workflow, typed, changed, send.isSuccess || send.isPending);
  const problem = problemOf(send.error);
  const previewFaults = preview.data?.faults ?? [];
  // Before the first try only what is typed is judged, not what is still missing.
  const faults = (problem?.faults ?? previewFaults).filter(f => tried || answers[f.field] !== undefined);

  return (
    <Page
      title={`Ask for ${ask.definition.name.toLowerCase()}`}
      sub={
        <>
          {ask.definition.purpose}{' '}
          <span role="status">
            {draft.failing
              ? 'Not saved yet: trying again.'
              : draft.savedAt
                ? `Draft saved ${momentWords(draft.savedAt, self.zone, year)}.`
                : ask.draft
                  ? from
                    ? `Filled in as in ${from}.`
                    : ask.draft.savedAt && 'This is your draft from before.'
                  : ''}
          </span>
        </>
      }
    >
      <Box
        component="form"
        noValidate
        onSubmit={event => {
          event.preventDefault();
          setTried(true);
          send.mutate();
        }}
        sx={{
          display: 'grid',
          gap: { xs: 3, md: 5 },
          gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 560px) 340px' },
          alignItems: 'start',
        }}
      >
        <Box
          sx={{ bgcolor: 'background.paper', border: '1px solid', borderColor: 'divider', borderRadius: '14px', p: 3 }}
        >
          {ask.subjects.length > 0 && (
            <Autocomplete
              options={ask.subjects}
              value={ask.subjects.find(s => s.id === subject) ?? null}
              getOptionLabel={s => s.name}
              getOptionKey={s => s.id}
              isOptionEqualToValue={(a, b) => a.id === b.id}
              onChange={(_, chosen) => setSubject(chosen?.id ?? null)}
              renderInput={params => (
                <TextField
                  {...params}
                  label="For whom"
                  placeholder="yourself"
                  helperText="Stay with yourself, or choose somebody."
                />
              )}
              sx={{ mb: 1.5, maxWidth: 560 }}
            />
          )}
          <FormFields
            definition={ask.definition}
            house={ask}
            typed={shownTyped}
            {...(shown ? { shown } : {})}
            faults={faults}
            refusal={send.error}
            onChange={(next, field) => {
              setTyped({ ...typed, [field]: next[field] });
              setTouched(before => (before.includes(field) ? before : [...before, field]));
              setChanged(true);
              send.reset();
              id.current = commandId();
            }}
          />
          {problem && !problem.faults?.some(f => f.field) && <FailureNote fault={send.error} />}
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mt: 1 }}>
            <Button type="submit" variant="contained" color="primary" disabled={send.isPending || filesComing}>
              {send.isPending ? 'Sending …' : filesComing ? 'Taking in files …' : 'Send'}
            </Button>
            <WhatHappensNext definition={ask.definition} usually={ask.usually} ahead={preview.data?.ahead ?? null} />
          </Box>
        </Box>
        <Box component="aside" aria-label="What it comes to" aria-live="polite" sx={{ pt: 1 }}>
          <PreviewMargin preview={preview.data} definition={ask.definition} />
          {preview.data?.ahead && <AheadNote ahead={preview.data.ahead} title="Once it is sent" />}
          <Typography variant="body2" color="textSecondary">
            Version {ask.version} of the workflow.
          </Typography>
        </Box>
      </Box>
    </Page>
  );
}

/** What an earlier request said, as far as it can be asked again: files belong to the request that they were given with. */
function answersAgain({ definition }: AskView, before: Answers): Answers {
  const fields = definition.form.fields.filter(f => f.kind !== 'files' && f.kind !== 'document' && f.id in before);
  return Object.fromEntries(fields.map(field => [field.id, before[field.id]]));
}

/** Days that were chosen before the form was opened, as on the planner, in the field that takes them. */
function withDays(ask: AskView, search: URLSearchParams): AskView {
  const [from, to] = [search.get('from') ?? '', search.get('to') ?? ''];
  const field = ask.definition.form.fields.find(one => one.kind === 'leave span');
  if (!field || !isCivilDate(from) || !isCivilDate(to) || to < from) return ask;
  const span = { from: { date: from, half: 'am' }, to: { date: to, half: 'pm' } };
  const before = ask.draft ?? { answers: {}, savedAt: '' as Instant };
  return { ...ask, draft: { ...before, answers: { ...before.answers, [field.id]: span } } };
}

export function AskPlace() {
  const { workflow = '' } = useParams();
  const [search] = useSearchParams();
  const again = search.get('again');
  const ask = useQuery(askQuery(workflow));
  const before = useQuery({ ...requestQuery(again ?? ''), enabled: again !== null });
  const isReady = again === null || before.data || before.isError;
  if (ask.data && isReady) {
    const filled = before.data
      ? { ...ask.data, draft: { answers: answersAgain(ask.data, before.data.answers), savedAt: before.data.askedAt } }
      : withDays(ask.data, search);
    return <AskForm key={`${workflow} ${search}`} ask={filled} from={before.data?.id ?? null} />;
  }
  return (
    <Page title="Ask">
      <Loaded query={ask}>{() => null}</Loaded>
    </Page>
  );
}
