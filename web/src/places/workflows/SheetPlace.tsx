/** The sheet: stones on top, sections on the left, the written procedure in the middle, the margin on the right. */

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { SheetView } from '@north-pebble/contract';
import { civilDateAt, momentWords } from '@north-pebble/core/time';
import { stopsPublishing } from '@north-pebble/core/workflow';
import { useQuery } from '@tanstack/react-query';
import { useCallback, useEffect, useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { call } from '../../api/client.ts';
import { directoryQuery, queryClient, sheetQuery } from '../../api/queries.ts';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { Loaded, Page } from '../../parts/Page.tsx';
import { useHere } from '../../parts/session.ts';
import { Stones } from '../../parts/stones/Stones.tsx';
import { Findings } from './Findings.tsx';
import { Procedure } from './Procedure.tsx';
import { PublishDialog } from './PublishDialog.tsx';
import { FiguresSection, FormSection, MessagesSection, VersionsSection } from './SheetSections.tsx';
import { type SaveState, useDraft } from './useDraft.ts';
import { useFindings } from './useFindings.ts';
import { OpenFile, SaveFile } from './WorkflowFile.tsx';

const sections = ['Form', 'Figures', 'Steps', 'Messages', 'History'] as const;
type Section = (typeof sections)[number];

function saveWords(state: SaveState, zone: string): string {
  switch (state.kind) {
    case 'clean':
      return 'As published; a change begins a draft';
    case 'saving':
      return 'Draft, saving …';
    case 'saved':
      return `Draft, saved ${momentWords(state.at, zone)}`;
    case 'waiting':
      return 'Draft, not saved yet: trying again';
    case 'refused':
      return 'Draft, not saved';
  }
}

function Contents({
  section,
  onSection,
  counts,
}: {
  section: Section;
  onSection: (section: Section) => void;
  counts: Record<Section, number>;
}) {
  return (
    <Box component="nav" aria-label="Sections" sx={{ display: { xs: 'flex', md: 'block' }, gap: 1, pt: { md: 1.5 } }}>
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
}

type SheetProps = {
  sheet: SheetView;
  /** The version that was just published from here, if any. */
  published: number | null;
  /** Begins again from what the server has, after publishing or discarding. */
  onBeginAgain: (published: number | null) => Promise<void>;
};

function Sheet({ sheet, published, onBeginAgain }: SheetProps) {
  const { self, now } = useHere();
  const [search, setSearch] = useSearchParams();
  const readOnly = !self.rights.includes('designer');
  const directory = useQuery({ ...directoryQuery, enabled: !readOnly });
  const draft = useDraft(sheet);
  const { definition, undo, redo } = draft;
  const found = useFindings(definition, directory.data?.directory, civilDateAt(now, self.zone));
  const [publishing, setPublishing] = useState(false);
  const section = sections.find(s => s === search.get('section')) ?? 'Steps';
  const selected = search.get('step');
  const set = useCallback(
    (changes: Record<string, string>) =>
      setSearch(before => ({ ...Object.fromEntries(before), ...changes }), { replace: true }),
    [setSearch],
  );
  const select = useCallback((step: string) => set({ step }), [set]);

  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (
        !(event.ctrlKey || event.metaKey) ||
        (event.target instanceof HTMLElement && /^(INPUT|TEXTAREA)$/.test(event.target.tagName))
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

  const stops = found !== null && stopsPublishing(found);
  const counts = {
    Form: definition.form.fields.length,
    Figures: definition.figures.length,
    Steps: definition.steps.length,
    Messages: definition.messages.length,
    History: sheet.versions.length,
  };
  const discard = async () => {
    await draft.saveNow();
    await call(`/workflows/${sheet.id}/draft`, { method: 'DELETE' });
    await onBeginAgain(null);
  };

  return (
    <Page
      title={definition.name}
      wide
      sub={
        <span role="status">
          {saveWords(draft.state, self.zone)}
          {sheet.live &&
            ` · version ${sheet.live.version} is live with ${sheet.live.open} open ${sheet.live.open === 1 ? 'request' : 'requests'}`}
        </span>
      }
      actions={
        !readOnly && (
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
            <Button onClick={undo} disabled={!draft.mayUndo}>
              Undo
            </Button>
            <Button onClick={redo} disabled={!draft.mayRedo}>
              Redo
            </Button>
            {draft.isDraft && sheet.live && <Button onClick={discard}>Discard draft</Button>}
            <Button
              variant="contained"
              color="primary"
              disabled={!draft.isDraft || stops || found === null}
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
      {draft.state.kind === 'refused' && <FailureNote fault={draft.state.fault} />}
      {published !== null && !draft.isDraft && (
        <Note tone="good" title={`Version ${published} is live`} role="status">
          New requests begin on it; open ones finish on their own version.
        </Note>
      )}
      <Stones
        definition={definition}
        index={directory.data}
        selected={selected}
        onSelect={step => set({ step, section: 'Steps' })}
      />
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: '132px minmax(0, 1fr)', lg: '150px minmax(0, 1fr) 320px' },
          gap: { xs: 2, lg: 0 },
          mt: 2,
        }}
      >
        <Contents section={section} onSection={next => set({ section: next })} counts={counts} />
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
          {section === 'Steps' && (
            <Procedure
              definition={definition}
              index={directory.data}
              findings={found ?? []}
              readOnly={readOnly}
              selected={selected}
              onSelect={select}
              onChange={draft.change}
            />
          )}
          {section === 'Form' && <FormSection definition={definition} />}
          {section === 'Figures' && <FiguresSection definition={definition} />}
          {section === 'Messages' && <MessagesSection definition={definition} />}
          {section === 'History' && <VersionsSection sheet={sheet} />}
        </Box>
        <Box component="aside" aria-label="Margin" sx={{ pl: { lg: 3 }, pt: 1.5, gridColumn: { md: '2', lg: 'auto' } }}>
          <Typography variant="overline" component="h2" sx={{ display: 'block', mb: 1 }}>
            Findings {found === null ? '' : found.length}
          </Typography>
          <Findings
            findings={found}
            definition={definition}
            readOnly={readOnly}
            onSelect={step => set({ step, section: 'Steps' })}
            onChange={draft.change}
          />
          <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 3 }}>
            <SaveFile definition={definition} />
            {!readOnly && <OpenFile onRead={draft.change} />}
          </Box>
        </Box>
      </Box>
      {publishing && draft.revision !== null && (
        <PublishDialog
          sheet={sheet}
          revision={draft.revision}
          onClose={() => setPublishing(false)}
          onPublished={async version => {
            setPublishing(false);
            await onBeginAgain(version);
          }}
        />
      )}
    </Page>
  );
}

export function SheetPlace() {
  const { id = '' } = useParams();
  // Not fetched anew under the designer's hands; a save by somebody else is told when saving.
  const sheet = useQuery({ ...sheetQuery(id), staleTime: Number.POSITIVE_INFINITY, refetchOnWindowFocus: false });
  const [begun, setBegun] = useState<{ times: number; published: number | null }>({ times: 0, published: null });
  const beginAgain = async (published: number | null) => {
    await queryClient.invalidateQueries();
    setBegun(before => ({ times: before.times + 1, published }));
  };
  if (sheet.data) {
    return (
      <Sheet key={`${id}-${begun.times}`} sheet={sheet.data} published={begun.published} onBeginAgain={beginAgain} />
    );
  }
  return (
    <Page title="Workflow">
      <Loaded query={sheet}>{() => null}</Loaded>
    </Page>
  );
}
