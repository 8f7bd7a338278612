/** One request: where it stands, its answers and figures, its trail; the asker changes it here when it was sent back. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Chip from '@mui/material/Chip';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import type { RequestView } from '@north-pebble/contract';
import { momentWords } from '@north-pebble/core/time';
import type { TrailLine } from '@north-pebble/core/workflow';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useRef } from 'react';
import { Link as RouterLink, useLocation, useParams, useSearchParams } from 'react-router';
import { call, commandId, problemOf } from '../../api/client.ts';
import { queryClient, requestQuery } from '../../api/queries.ts';
import { useFilesComing } from '../../parts/form/FilesInput.tsx';
import { answersOf, FormFields, type Typed } from '../../parts/form/FormFields.tsx';
import { useHere, useYear } from '../../parts/frame/session.ts';
import { GuestPanel } from '../../parts/guest/GuestPanel.tsx';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Empty, Loaded, Page } from '../../parts/Page.tsx';
import { PlanNote } from '../../parts/plan/PlanNote.tsx';
import { AheadNote } from '../../parts/request/AheadNote.tsx';
import { FileLinks } from '../../parts/request/Answer.tsx';
import { Delegation } from '../../parts/request/Delegation.tsx';
import { GiveUp } from '../../parts/request/GiveUp.tsx';
import { AgainstRules, Restated } from '../../parts/request/leave/Restated.tsx';
import { Outside } from '../../parts/request/Outside.tsx';
import { ChangeOwner } from '../../parts/request/Owner.tsx';
import { Progress } from '../../parts/request/Progress.tsx';
import { Remedies } from '../../parts/request/Remedies.tsx';
import { RequestFacts } from '../../parts/request/requestFacts.tsx';
import { Usually } from '../../parts/request/Usually.tsx';
import { useUnsent } from '../../parts/request/unsent.ts';
import { Work } from '../../parts/request/Work.tsx';
import { Why } from '../../parts/Why.tsx';
import { useAfterwards } from './Afterwards.tsx';
import { Comment } from './Comment.tsx';
import { Holds } from './Holds.tsx';
import { PreviewMargin, usePreview } from './RequestForm.tsx';

const toneColour: Record<TrailLine['tone'], string> = {
  plain: 'text.secondary',
  good: 'success.main',
  rework: 'secondary.main',
  bad: 'error.main',
  late: 'warning.main',
};

const shown = {
  everything: () => true,
  'what people did': (line: TrailLine) => line.by !== null,
  'what changed': (line: TrailLine) => line.changes.length > 0,
  'what was said': (line: TrailLine) => line.note !== null,
} satisfies Record<string, (line: TrailLine) => boolean>;
type Shown = keyof typeof shown;

/** The trail, or the part of it that is looked for; the part stands in the address. */
function FilteredTrail({ lines }: { lines: TrailLine[] }) {
  const [search, setSearch] = useSearchParams();
  const chosen = (Object.keys(shown) as Shown[]).find(key => key === search.get('trail')) ?? 'everything';
  return (
    <>
      {lines.length > 4 && (
        <Box role="group" aria-label="Part of the trail" sx={{ display: 'flex', gap: 0.5, flexWrap: 'wrap', my: 0.75 }}>
          {(Object.keys(shown) as Shown[]).map(key => (
            <Chip
              key={key}
              size="small"
              label={key}
              color={key === chosen ? 'primary' : 'default'}
              variant={key === chosen ? 'filled' : 'outlined'}
              aria-pressed={key === chosen}
              onClick={() => setSearch(key === 'everything' ? {} : { trail: key }, { replace: true })}
            />
          ))}
        </Box>
      )}
      <Trail lines={lines.filter(shown[chosen])} />
    </>
  );
}

export function Trail({ lines }: { lines: TrailLine[] }) {
  const { self } = useHere();
  const year = useYear();
  return (
    <Box component="ol" aria-label="Trail" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {lines.map((line, i) => (
        <Box
          component="li"
          // biome-ignore lint/suspicious/noArrayIndexKey: lines are only ever added at the end
          key={i}
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: '1fr', sm: '124px 1fr' },
            gap: { sm: 1.5 },
            py: 0.8,
            borderBottom: '1px solid',
            borderColor: 'divider',
            fontSize: 14,
          }}
        >
          <Box sx={{ color: 'text.secondary', fontSize: 13 }}>{momentWords(line.at, self.zone, year)}</Box>
          <Box>
            <b>{line.who}</b>{' '}
            <Box component="span" sx={{ color: line.tone === 'plain' ? undefined : toneColour[line.tone] }}>
              {line.text}
            </Box>
            {line.why.length > 0 && (
              <Why about={line.text}>
                {line.why.map(reason => (
                  <Typography key={reason} variant="body2" sx={{ mb: 0.5 }}>
                    {reason}.
                  </Typography>
                ))}
              </Why>
            )}
            {line.why.length > 0 && <Box className="print-only">{line.why.join('. ')}.</Box>}
            {line.note && <Box sx={{ mt: 0.25 }}>“{line.note}”</Box>}
            {line.files.length > 0 && <FileLinks files={line.files} />}
            {line.changes.map(change => (
              <Box key={change.label} sx={{ color: 'secondary.main', fontSize: 13.5 }}>
                {change.label}: <s>{change.before}</s> → {change.after}
              </Box>
            ))}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

function ReworkForm({ request }: { request: RequestView }) {
  const [typed, setTyped, typedSent] = useUnsent<Typed>(request, `rework of ${request.returned?.at}`, {
    ...request.answers,
  });
  const answers = answersOf(request.definition, typed);
  const preview = usePreview(request.workflow, request.id, { answers });
  const id = useRef(commandId());
  const filesComing = useFilesComing();
  const send = useMutation({
    mutationFn: () =>
      call('POST /requests/:id/commands', {
        params: { id: request.id },
        body: { id: id.current, command: { kind: 'resubmit', seen: request.version, answers } },
      }),
    onSuccess: () => {
      typedSent();
      return queryClient.invalidateQueries();
    },
  });
  const problem = problemOf(send.error);
  return (
    <Box
      component="section"
      aria-label="Change and send again"
      sx={{ display: 'grid', gap: 4, gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 560px) 320px' }, mb: 4 }}
    >
      <Box
        sx={{ bgcolor: 'background.paper', border: '1px solid', borderColor: 'divider', borderRadius: '14px', p: 3 }}
      >
        {request.returned && (
          <Note tone="rework" title={`${request.returned.byName} sent this back`}>
            “{request.returned.note}”
          </Note>
        )}
        <FormFields
          definition={request.definition}
          house={request}
          typed={typed}
          open={request.returned?.fields ?? []}
          faults={problem?.faults ?? preview.data?.faults ?? []}
          refusal={send.error}
          onChange={next => {
            setTyped(next);
            send.reset();
            id.current = commandId();
          }}
        />
        {problem && !problem.faults?.some(f => f.field) && <FailureNote fault={send.error} />}
        <Button
          variant="contained"
          color="secondary"
          disabled={send.isPending || filesComing}
          onClick={() => send.mutate()}
        >
          Send again
        </Button>
      </Box>
      <Box component="aside" aria-live="polite">
        <PreviewMargin preview={preview.data} definition={request.definition} />
      </Box>
    </Box>
  );
}

function Request({ request }: { request: RequestView }) {
  const { self } = useHere();
  const year = useYear();
  const { state } = useLocation();
  const sent = (state as { sent?: boolean } | null)?.sent === true;
  const [task] = request.tasks;
  const afterwards = useAfterwards(request);
  return (
    <Page
      title={request.title}
      sub={`${request.id} · ${request.askerName}${request.subject === request.asker ? '' : ` for ${request.subjectName}`}${request.owner === request.asker ? '' : ` · owner: ${request.ownerName}`} · ${request.definition.name}, version ${request.workflowVersion} · ${request.standing}`}
      actions={
        <>
          {request.may.answer && (
            <Button component={RouterLink} to={`/desk?item=${request.id}`} variant="contained" color="primary">
              Decide on your desk
            </Button>
          )}
          {request.may.withdraw && (
            <GiveUp
              request={request.id}
              title={`Withdraw ${request.id}?`}
              words="The days that it asks for are free again, and whoever has the request is told. It stays in the list as withdrawn."
              button="Withdraw"
              needsNote={request.asker !== self.id && request.owner !== self.id}
              command={note => ({ kind: 'withdraw', seen: request.version, note })}
            />
          )}
          <ChangeOwner request={request} />
          {afterwards.actions}
          {request.asker === self.id && (request.status === 'closed' || request.status === 'withdrawn') && (
            <Button component={RouterLink} to={`/ask/${request.workflow}?again=${request.id}`}>
              Ask again
            </Button>
          )}
          <Button onClick={() => window.print()}>Print</Button>
        </>
      }
    >
      {sent && (
        <Note tone="good" title={request.status === 'closed' ? `Done: ${request.standing}` : 'Sent'} role="status">
          {task
            ? `${task.holderName} has it${task.due ? ` and it is due ${momentWords(task.due, self.zone, year)}` : ''}. You are told by mail how it ends.`
            : 'The trail below says what happened.'}{' '}
          {request.usually && <Usually time={request.usually} />}
        </Note>
      )}
      {request.stuck && (
        <Note tone="stop" title="It cannot go on by itself">
          {request.stuck} HR operations can see it and will help it on.
        </Note>
      )}
      <AgainstRules request={request} />
      <Restated request={request} />
      <Progress request={request} />
      <PlanNote request={request} />
      {request.ahead && request.ahead.steps.length > 0 && (
        <Box sx={{ maxWidth: 560, mb: 2 }}>
          <AheadNote ahead={request.ahead} title="The path ahead" />
        </Box>
      )}
      {request.may.rework && <ReworkForm request={request} />}
      {afterwards.form}
      <Box
        sx={{
          display: 'grid',
          gap: { xs: 3, md: 6 },
          gridTemplateColumns: { xs: '1fr', md: 'minmax(0, 1fr) minmax(0, 1.25fr)' },
          alignItems: 'start',
        }}
      >
        <section aria-label="Answers">
          {!request.may.rework && <RequestFacts request={request} />}
          <Work request={request} />
          <GuestPanel request={request} />
          <Holds request={request} />
          <Delegation request={request} />
          <Outside request={request} />
          <Remedies request={request} />
        </section>
        <section>
          <Typography variant="overline" component="h2" color="textSecondary">
            Trail
          </Typography>
          <FilteredTrail lines={request.trail} />
          {request.may.comment && <Comment request={request} />}
        </section>
      </Box>
    </Page>
  );
}

export function RequestPlace() {
  const { id = '' } = useParams();
  // What is no number of a request is not asked for: the address may be that of something else.
  const isNumber = /^R-\d{1,12}$/.test(id);
  const request = useQuery({ ...requestQuery(id), refetchInterval: 10_000, enabled: isNumber });
  if (!isNumber)
    return (
      <Page title="No such request">
        <Empty title={`There is no request ${id.slice(0, 60)}`}>
          The number of a request looks like R-128.{' '}
          <Link component={RouterLink} to="/requests">
            Find it among your requests
          </Link>
          .
        </Empty>
      </Page>
    );
  if (request.data) return <Request key={id} request={request.data} />;
  return (
    <Page title={`Request ${id}`}>
      <Loaded query={request}>{() => null}</Loaded>
    </Page>
  );
}
