/** The sheet: stones on top, sections on the left, what is written in the middle, the margin on the right. */

import ExpandLess from '@mui/icons-material/ExpandLess';
import ExpandMore from '@mui/icons-material/ExpandMore';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Snackbar from '@mui/material/Snackbar';
import Typography from '@mui/material/Typography';
import { may, type SheetView } from '@north-pebble/contract';
import { contextOf, type Rehearsal } from '@north-pebble/core/proof';
import { type CivilDate, civilDateAt, isCivilDate, momentWords, yearOf } from '@north-pebble/core/time';
import {
  type Definition,
  evaluateFigures,
  type Finding,
  insertionNames,
  insertions,
  stopsPublishing,
  type Use,
} from '@north-pebble/core/workflow';
import { useQuery } from '@tanstack/react-query';
import { dequal } from 'dequal';
import {
  lazy,
  memo,
  type ReactNode,
  Suspense,
  useCallback,
  useDeferredValue,
  useEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { useParams, useSearchParams } from 'react-router';
import { call } from '../../../api/client.ts';
import { fetched } from '../../../api/fetched.ts';
import {
  directoryQuery,
  draftMarkQuery,
  queryClient,
  sheetQuery,
  surroundingsQuery,
  tookQuery,
} from '../../../api/queries.ts';
import { DayField } from '../../../parts/form/DayField.tsx';
import { useHere } from '../../../parts/frame/session.ts';
import { FailureNote, Note } from '../../../parts/Notes.tsx';
import { barHeight, Loaded, Page } from '../../../parts/Page.tsx';
import { Sure } from '../../../parts/Sure.tsx';
import { Stones } from '../../../parts/stones/Stones.tsx';
import { useRehearsal } from '../rehearse/useRehearsal.ts';
import { AroundContext } from '../steps/editors/shared.tsx';
import { Procedure } from '../steps/Procedure.tsx';
import { PublishDialog } from '../versions/PublishDialog.tsx';
import { OpenFile, SaveFile } from '../versions/WorkflowFile.tsx';
import { About } from './About.tsx';
import { marginNotes } from './findingNotes.tsx';
import { HappenedAt } from './HappenedAt.tsx';
import { Margin } from './Margin.tsx';
import { type SaveState, useDraft } from './useDraft.ts';
import { useFindings } from './useFindings.ts';

const FormEditor = lazy(() => fetched(() => import('../form/FormEditor.tsx')).then(m => ({ default: m.FormEditor })));
const FiguresEditor = lazy(() =>
  fetched(() => import('../figures/FiguresEditor.tsx')).then(m => ({ default: m.FiguresEditor })),
);
const MessagesEditor = lazy(() =>
  fetched(() => import('../messages/MessagesEditor.tsx')).then(m => ({ default: m.MessagesEditor })),
);
const Rehearse = lazy(() => fetched(() => import('../rehearse/Rehearse.tsx')).then(m => ({ default: m.Rehearse })));
const Versions = lazy(() => fetched(() => import('../versions/Versions.tsx')).then(m => ({ default: m.Versions })));

const sections = ['About', 'Form', 'Figures', 'Steps', 'Messages', 'Rehearse', 'Versions'] as const;
type Section = (typeof sections)[number];

function saveWords(state: SaveState, zone: string): string {
  switch (state.kind) {
    case 'clean':
      return 'As published; a change begins a draft';
    case 'saving':
      return 'Draft, saving …';
    case 'saved':
      return `Draft, saved ${momentWords(state.at, zone, yearOf(state.at))}`;
    case 'away':
      return 'Draft, not saved yet: trying again';
    case 'refused':
      return 'Draft, not saved';
  }
}

const Contents = memo(function Contents({
  section,
  onSection,
  counts,
}: {
  section: Section;
  onSection: (section: Section) => void;
  counts: Partial<Record<Section, number>>;
}) {
  return (
    <Box
      component="nav"
      aria-label="Sections"
      sx={{
        display: { xs: 'flex', md: 'block' },
        gap: 1,
        pt: { md: 1.5 },
        overflowX: 'auto',
        position: { md: 'sticky' },
        top: { md: barHeight + 76 },
        alignSelf: 'start',
      }}
    >
      {sections.map(name => (
        <Box
          key={name}
          component="button"
          type="button"
          aria-current={name === section ? 'true' : undefined}
          onClick={() => onSection(name)}
          sx={{
            display: 'block',
            width: { md: '100%' },
            font: 'inherit',
            fontSize: 13.5,
            textAlign: 'left',
            whiteSpace: 'nowrap',
            background: 'none',
            border: 0,
            borderLeft: '2px solid',
            borderColor: name === section ? 'primary.main' : 'divider',
            color: name === section ? 'text.primary' : 'text.secondary',
            fontWeight: name === section ? 650 : 400,
            py: 0.6,
            pl: 1.5,
            cursor: 'pointer',
          }}
        >
          {name} {counts[name]}
        </Box>
      ))}
    </Box>
  );
}, dequal);

/** Values by name from the last rehearsal: the test case that formulas and messages are tried with. */
function testCase(
  definition: Definition,
  rehearsal: Rehearsal | null,
): { sample: Record<string, unknown>; words: Record<string, string>; who: string | null } {
  const blank = Object.fromEntries(insertionNames(definition).map(name => [name, `{${name}}`]));
  if (!rehearsal) return { sample: {}, words: blank, who: null };
  const context = contextOf(rehearsal, null);
  const facts = { book: context.book, asker: rehearsal.asker, subject: rehearsal.subject, lists: context.lists ?? [] };
  const { scope, figures } = evaluateFigures(definition, rehearsal.state.answers, facts);
  const words = insertions(definition, { ...rehearsal.state, figures }, context);
  return {
    sample: { ...scope.values },
    words: { ...blank, ...words },
    who: context.index.person(rehearsal.asker)?.name ?? null,
  };
}

/** How many findings there are, beside Publish, wherever the page is; a click shows the first of them. */
function FindingsMark({ found }: { found: readonly Finding[] | null }) {
  if (!found || found.length === 0) return null;
  const stops = found.filter(f => f.level === 'stops').length;
  return (
    <Button
      size="small"
      color={stops > 0 ? 'error' : 'primary'}
      onClick={() =>
        document.querySelector('aside[aria-label="Margin"] [data-note]')?.scrollIntoView({ block: 'center' })
      }
    >
      {stops > 0
        ? `${stops} ${stops === 1 ? 'finding stops' : 'findings stop'} it`
        : `${found.length} ${found.length === 1 ? 'finding' : 'findings'}`}
    </Button>
  );
}

/** The drawing, folded to one line that opens. */
function Fold({
  open,
  onOpen,
  words,
  children,
}: {
  open: boolean;
  onOpen: (open: boolean) => void;
  words: string;
  children: ReactNode;
}) {
  return (
    <Box>
      <Button
        size="small"
        variant="text"
        aria-expanded={open}
        onClick={() => onOpen(!open)}
        startIcon={open ? <ExpandLess /> : <ExpandMore />}
        sx={{ mb: open ? 0.5 : 0, color: 'text.secondary' }}
      >
        {open ? 'Fold the path' : `The path: ${words}`}
      </Button>
      {open && children}
    </Box>
  );
}

/** Whether this reader likes the drawing open, kept in the browser; at first it is where the steps are. */
function useDrawn(section: Section): [boolean, (open: boolean) => void] {
  const [chosen, setChosen] = useState(() => localStorage.getItem('path drawn'));
  const open = chosen === null ? section === 'Steps' : chosen === 'yes';
  return [
    open,
    next => {
      localStorage.setItem('path drawn', next ? 'yes' : 'no');
      setChosen(next ? 'yes' : 'no');
    },
  ];
}

type SheetProps = {
  sheet: SheetView;
  /** The version that was just published from here, if any. */
  published: number | null;
  /** What was drafted before the draft was discarded; *Undo* brings it back. */
  discarded: Definition | null;
  /** Begins again from what the server has, after publishing or discarding. */
  onBeginAgain: (begun: { published?: number; discarded?: Definition }) => Promise<void>;
};

/** Somebody else, or another window, has saved the draft meanwhile: said at once, with both ways on. */
function OvertakenNote({ draft, zone }: { draft: ReturnType<typeof useDraft>; zone: string }) {
  const { overtaken } = draft;
  if (!overtaken) return null;
  const { savedBy, savedAt } = overtaken;
  return (
    <Note
      tone="stop"
      title={
        savedBy && savedAt
          ? `${savedBy} saved this draft ${momentWords(savedAt, zone, yearOf(savedAt))} in another window`
          : 'The draft was published or discarded in another window'
      }
      role="alert"
    >
      Nothing of yours is lost, and nothing was overwritten. Whichever you take, Undo brings the other back.
      <Box sx={{ display: 'flex', gap: 1, mt: 0.75 }}>
        <Button size="small" onClick={draft.takeTheirs}>
          Go on from theirs
        </Button>
        <Button size="small" onClick={draft.keepMine}>
          Save mine over it
        </Button>
      </Box>
    </Note>
  );
}

function Sheet({ sheet, published, discarded, onBeginAgain }: SheetProps) {
  const { self, now } = useHere();
  const [search, setSearch] = useSearchParams();
  const designs = may(self, 'design workflows');
  const readOnly = !sheet.may.edit;
  const directory = useQuery({ ...directoryQuery, enabled: designs });
  const surroundings = useQuery(surroundingsQuery);
  const draft = useDraft(sheet, discarded);
  const mark = useQuery({ ...draftMarkQuery(sheet.id), enabled: !readOnly });
  const { heard } = draft;
  useEffect(() => {
    if (mark.data) heard(mark.data.revision);
  }, [mark.data, heard]);
  const [discarding, setDiscarding] = useState(false);
  const { definition, undo, redo } = draft;
  const today = civilDateAt(now, self.zone);
  const other = search.get('day');
  const days = useMemo(
    () => [today, ...(other && isCivilDate(other) && other !== today ? [other as CivilDate] : [])],
    [today, other],
  );
  const found = useFindings(definition, directory.data?.directory, surroundings.data, days);
  const playing = useRehearsal(definition);
  const [publishing, setPublishing] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const section = sections.find(s => s === search.get('section')) ?? 'Steps';
  const [drawn, setDrawn] = useDrawn(section);
  const selected = search.get('step');
  // The router gives a new function with every address; two hundred lines must not be drawn again for that.
  const toAddress = useRef(setSearch);
  toAddress.current = setSearch;
  const set = useCallback(
    (changes: Record<string, string | null>) =>
      toAddress.current(
        before => {
          const next = new URLSearchParams(before);
          for (const [key, value] of Object.entries(changes)) {
            if (value === null) next.delete(key);
            else next.set(key, value);
          }
          return next;
        },
        { replace: true },
      ),
    [],
  );
  const select = useCallback((step: string) => set({ step }), [set]);
  const selectStone = useCallback((step: string) => set({ step, section: 'Steps' }), [set]);
  const goToSection = useCallback((next: Section) => set({ section: next }), [set]);
  const go = useCallback((place: { step?: string; section?: string; field?: string }) => set(place), [set]);
  const goToUse = (use: Use) =>
    go(
      use.step
        ? { section: 'Steps', step: use.step }
        : use.path[0] === 'messages'
          ? { section: 'Messages' }
          : use.path[0] === 'figures'
            ? { section: 'Figures' }
            : { section: 'Form', field: definition.form.fields[use.path[2] as number]?.id ?? '' },
    );

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const target = event.target instanceof HTMLElement ? event.target : null;
      if (
        !(event.ctrlKey || event.metaKey) ||
        (target && (/^(INPUT|TEXTAREA)$/.test(target.tagName) || target.isContentEditable))
      )
        return;
      const key = event.key.toLowerCase();
      if (key !== 'z' && key !== 'y') return;
      event.preventDefault();
      if (key === 'y' || event.shiftKey) redo();
      else undo();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [undo, redo]);

  const stops = found !== null && (stopsPublishing(found.findings) || found.checks.some(c => !c.ok));
  // What is worked out beside the lines follows a moment after what is typed.
  const settled = useDeferredValue(definition);
  const tried = useMemo(() => testCase(settled, playing.now), [settled, playing.now]);
  const took = useQuery({ ...tookQuery(sheet.id), enabled: definition.countsBack !== undefined });
  const around = useMemo(
    () => ({
      lists: surroundings.data?.lists ?? [],
      workflows: surroundings.data?.workflows ?? [],
      leaveTypes: surroundings.data?.leaveTypes ?? [],
      sample: tried.sample,
      ...(surroundings.data ? { offers: surroundings.data.offers } : {}),
      ...(took.data ? { took: took.data } : {}),
    }),
    [surroundings.data, tried.sample, took.data],
  );
  const latest = useRef(definition);
  latest.current = definition;
  const { change } = draft;
  const edit = useCallback((next: (now: Definition) => Definition) => change(next(latest.current)), [change]);
  const notes = useMemo(
    () =>
      marginNotes({
        found,
        definition: settled,
        index: directory.data,
        zone: self.zone,
        readOnly,
        onGo: go,
        onEdit: edit,
      }),
    [found, settled, directory.data, self.zone, readOnly, go, edit],
  );
  const counts: Partial<Record<Section, number>> = {
    Form: definition.form.fields.length,
    Figures: definition.figures.length,
    Steps: definition.steps.length,
    Messages: definition.messages.length,
    Versions: sheet.versions.length,
  };
  const discard = async () => {
    await draft.saveNow();
    await call('DELETE /workflows/:id/draft', { params: { id: sheet.id } });
    await onBeginAgain({ discarded: draft.definition });
  };
  const rehearsal = playing.now && !playing.outdated ? playing.now : null;
  const shared = { definition, index: directory.data, readOnly, onChange: draft.change };
  const steps = (
    <Procedure
      {...shared}
      findings={found?.findings ?? []}
      selected={selected}
      onSelect={select}
      by={self.id}
      now={now}
      onSay={setSaid}
      {...(rehearsal
        ? { happened: (step: string): ReactNode => <HappenedAt step={step} rehearsal={rehearsal} zone={self.zone} /> }
        : {})}
    />
  );

  return (
    <AroundContext value={around}>
      <Page
        title={definition.name}
        wide
        stays
        sub={
          <span role="status">
            {saveWords(draft.state, self.zone)}
            {sheet.live &&
              ` · version ${sheet.live.version} is live with ${sheet.live.open} open ${sheet.live.open === 1 ? 'request' : 'requests'}`}
            {sheet.archivedAt && ' · archived'}
          </span>
        }
        actions={
          !readOnly && (
            <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
              <FindingsMark found={found?.findings ?? null} />
              <Button onClick={undo} disabled={!draft.mayUndo}>
                Undo
              </Button>
              <Button onClick={redo} disabled={!draft.mayRedo}>
                Redo
              </Button>
              {draft.isDraft && sheet.live && <Button onClick={() => setDiscarding(true)}>Discard draft</Button>}
              <Button
                variant="contained"
                color="primary"
                disabled={!draft.isDraft || stops || found === null || !sheet.may.publish}
                onClick={async () => {
                  await draft.saveNow();
                  setPublishing(true);
                }}
              >
                Publish
              </Button>
            </Box>
          )
        }
      >
        {draft.state.kind === 'refused' && !draft.overtaken && <FailureNote fault={draft.state.fault} />}
        <OvertakenNote draft={draft} zone={self.zone} />
        {discarded !== null && !draft.isDraft && (
          <Note tone="waiting" title="The draft was discarded" role="status">
            <Button size="small" onClick={undo}>
              Bring it back
            </Button>
          </Note>
        )}
        {published !== null && !draft.isDraft && (
          <Note tone="good" title={`Version ${published} is live`} role="status">
            New requests begin on it; open ones finish on their own version.
          </Note>
        )}
        <Fold
          open={drawn}
          onOpen={setDrawn}
          words={`${definition.steps.length} steps, ${definition.closings.map(c => c.name).join(' or ')} at the end`}
        >
          <Stones definition={definition} index={directory.data} selected={selected} onSelect={selectStone} />
        </Fold>
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: '1fr', md: '132px minmax(0, 1fr)', lg: '150px minmax(0, 1fr) 320px' },
            gap: { xs: 2, lg: 0 },
            mt: 2,
          }}
        >
          <Contents section={section} onSection={goToSection} counts={counts} />
          <Box
            component="section"
            aria-label={section}
            sx={{
              bgcolor: 'background.paper',
              border: '1px solid',
              borderColor: 'divider',
              borderRadius: '14px',
              overflow: 'hidden',
              alignSelf: 'start',
            }}
          >
            <Suspense fallback={<Typography sx={{ p: 2 }}>Opening …</Typography>}>
              {section === 'About' && <About {...shared} workflow={sheet.id} />}
              {section === 'Steps' && steps}
              {section === 'Form' && (
                <FormEditor
                  {...shared}
                  surroundings={surroundings.data}
                  selected={search.get('field')}
                  onSelect={field => set({ field })}
                  onGo={goToUse}
                  now={now}
                  self={self.id}
                />
              )}
              {section === 'Figures' && (
                <FiguresEditor definition={definition} readOnly={readOnly} onChange={draft.change} />
              )}
              {section === 'Messages' && (
                <MessagesEditor
                  definition={definition}
                  readOnly={readOnly}
                  onChange={draft.change}
                  words={tried.words}
                  who={tried.who}
                />
              )}
              {section === 'Rehearse' && (
                <>
                  {designs ? (
                    <Rehearse
                      {...shared}
                      surroundings={surroundings.data}
                      playing={playing}
                      now={now}
                      zone={self.zone}
                      self={self.id}
                    />
                  ) : (
                    <Typography sx={{ p: 2 }}>Designers rehearse workflows here.</Typography>
                  )}
                  {rehearsal && <Box sx={{ borderTop: '1px solid', borderColor: 'divider' }}>{steps}</Box>}
                </>
              )}
              {section === 'Versions' && (
                <Versions
                  sheet={sheet}
                  definition={definition}
                  index={directory.data}
                  zone={self.zone}
                  isDraft={draft.isDraft}
                  onTakeBack={draft.change}
                  onBeginAgain={() => onBeginAgain({})}
                />
              )}
            </Suspense>
          </Box>
          <Box
            component="aside"
            aria-label="Margin"
            sx={{ pl: { lg: 3 }, pt: 1.5, gridColumn: { md: '2', lg: 'auto' } }}
          >
            <Box sx={{ display: 'flex', alignItems: 'baseline', justifyContent: 'space-between', mb: 1 }}>
              <Typography variant="overline" component="h2">
                Findings {found === null ? '' : found.findings.length}
              </Typography>
              {designs && (
                <Box sx={{ width: 180 }}>
                  <DayField label="Try people also on" date={other ?? ''} onDate={day => set({ day: day || null })} />
                </Box>
              )}
            </Box>
            <Margin notes={notes} levelled={section === 'Steps'} />
            <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 3 }}>
              <SaveFile definition={definition} />
              {!readOnly && <OpenFile onRead={draft.change} />}
            </Box>
          </Box>
        </Box>
        {discarding && (
          <Sure
            title="Discard the draft?"
            verb="Discard it"
            onNo={() => setDiscarding(false)}
            onYes={() => {
              setDiscarding(false);
              void discard();
            }}
          >
            The sheet goes back to version {sheet.live?.version}, which stays as it is. Undo brings the draft back as
            long as you stay on this page.
          </Sure>
        )}
        {publishing && draft.revision !== null && (
          <PublishDialog
            sheet={sheet}
            revision={draft.revision}
            onClose={() => setPublishing(false)}
            onPublished={async version => {
              setPublishing(false);
              await onBeginAgain({ published: version });
            }}
          />
        )}
        <Snackbar open={said !== null} autoHideDuration={5000} onClose={() => setSaid(null)} message={said} />
      </Page>
    </AroundContext>
  );
}

export function SheetPlace() {
  const { id = '' } = useParams();
  // Not fetched anew under the designer's hands; a save by somebody else is told when saving.
  const sheet = useQuery({ ...sheetQuery(id), staleTime: Number.POSITIVE_INFINITY, refetchOnWindowFocus: false });
  const [begun, setBegun] = useState<{ times: number; published: number | null; discarded: Definition | null }>({
    times: 0,
    published: null,
    discarded: null,
  });
  const beginAgain: SheetProps['onBeginAgain'] = async ({ published = null, discarded = null }) => {
    await queryClient.invalidateQueries();
    setBegun(before => ({ times: before.times + 1, published, discarded }));
  };
  if (sheet.data) {
    return (
      <Sheet
        key={`${id}-${begun.times}`}
        sheet={sheet.data}
        published={begun.published}
        discarded={begun.discarded}
        onBeginAgain={beginAgain}
      />
    );
  }
  return (
    <Page title="Workflow">
      <Loaded query={sheet}>{() => null}</Loaded>
    </Page>
  );
}
