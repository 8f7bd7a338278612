/** Asking: the form, its draft saved by itself, and the answers' consequences in the margin. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { AskView, Sent } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { call, commandId, problemOf } from '../../api/client.ts';
import { askQuery, queryClient } from '../../api/queries.ts';
import { FailureNote } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';
import { useHere } from '../../parts/session.ts';
import {
  answersOf,
  initialTyped,
  PreviewMargin,
  RequestForm,
  type Typed,
  usePreview,
  useSettled,
  WhatHappensNext,
} from './RequestForm.tsx';

/** Saves what is typed after a short rest; says when it was saved. */
function useDraft(workflow: string, typed: Typed, changed: boolean) {
  const settled = useSettled(typed, 700);
  const [savedAt, setSavedAt] = useState<string | null>(null);
  const save = useMutation({
    mutationFn: (answers: Typed) =>
      call<{ savedAt: string }>(`/askable/${workflow}/draft`, { method: 'PUT', body: { answers } }),
    onSuccess: saved => setSavedAt(saved.savedAt),
    retry: 20,
    retryDelay: 1500,
  });
  const { mutate } = save;
  useEffect(() => {
    if (changed) mutate(settled);
  }, [settled, changed, mutate]);
  return { savedAt, failing: save.failureCount > 0 && save.isPending };
}

function AskForm({ ask }: { ask: AskView }) {
  const { self } = useHere();
  const navigate = useNavigate();
  const [typed, setTyped] = useState<Typed>(() => initialTyped(ask.definition, ask.draft?.answers));
  const [changed, setChanged] = useState(false);
  const [tried, setTried] = useState(false);
  const answers = answersOf(ask.definition, typed);
  const preview = usePreview(ask.workflow, null, answers);
  const draft = useDraft(ask.workflow, typed, changed);
  // One id for this asking: pressing twice, or again after a lost answer, sends it once.
  const id = useRef(commandId());
  const send = useMutation({
    mutationFn: () =>
      call<Sent>('/requests', { method: 'POST', body: { id: id.current, workflow: ask.workflow, answers } }),
    onSuccess: async sent => {
      queryClient.removeQueries({ queryKey: ['ask', ask.workflow] });
      await queryClient.invalidateQueries();
      navigate(`/requests/${sent.request}`, { state: { sent: true } });
    },
  });
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
                ? `Draft saved ${momentWords(draft.savedAt, self.zone)}.`
                : ask.draft
                  ? 'This is your draft from before.'
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
          <RequestForm
            definition={ask.definition}
            leaveTypes={ask.leaveTypes}
            typed={typed}
            faults={faults}
            onChange={next => {
              setTyped(next);
              setChanged(true);
              send.reset();
              id.current = commandId();
            }}
          />
          {problem && !problem.faults?.some(f => f.field) && <FailureNote fault={send.error} />}
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', mt: 1 }}>
            <Button type="submit" variant="contained" color="primary" disabled={send.isPending}>
              {send.isPending ? 'Sending …' : 'Send'}
            </Button>
            <WhatHappensNext definition={ask.definition} />
          </Box>
        </Box>
        <Box component="aside" aria-label="What it comes to" aria-live="polite" sx={{ pt: 1 }}>
          <PreviewMargin preview={preview.data} definition={ask.definition} />
          <Typography variant="body2" color="textSecondary">
            Version {ask.version} of the workflow.
          </Typography>
        </Box>
      </Box>
    </Page>
  );
}

export function AskPlace() {
  const { workflow = '' } = useParams();
  const ask = useQuery(askQuery(workflow));
  if (ask.data) return <AskForm key={workflow} ask={ask.data} />;
  return (
    <Page title="Ask">
      <Loaded query={ask}>{() => null}</Loaded>
    </Page>
  );
}
