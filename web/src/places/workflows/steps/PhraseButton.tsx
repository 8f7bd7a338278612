/** A dotted phrase of a sentence: Enter or a click opens what it can be instead. */
import Popover, { type PopoverActions } from '@mui/material/Popover';
import type { Edit, Phrase } from '@north-pebble/core/workflow';
import { useCallback, useRef, useState } from 'react';
import { PhraseEditor } from './editors/PhraseEditor.tsx';
import { useSheet } from './editors/shared.tsx';

const what: Record<NonNullable<Phrase['edit']>['kind'], string> = {
  value: 'the value',
  comparator: 'the comparison',
  formula: 'the condition',
  people: 'who it is',
  limit: 'the limit',
  plan: 'its place in the plan',
  guest: 'who fills in what by a personal link',
  fields: 'the fields',
  go: 'where it leads',
  count: 'how answers are counted',
  outcome: 'the outcome',
  until: 'what is waited for',
  effect: 'what is recorded',
  values: 'the values',
  checklist: 'the checklist',
  choice: 'the choice',
  text: 'the words',
};

type Props = { phrase: Phrase; readOnly: boolean; stopped: boolean };

function OpenPhrase({ edit, onClose }: { edit: Edit; onClose: () => void }) {
  const { definition, index, onChange } = useSheet();
  return (
    <PhraseEditor
      edit={edit}
      definition={definition}
      index={index}
      onDone={next => {
        onClose();
        if (next) onChange(next);
      }}
    />
  );
}

function PhrasePopover({ anchor, edit, onClose }: { anchor: HTMLElement; edit: Edit; onClose: () => void }) {
  const place = useRef<PopoverActions>(null);
  // What grows while it is open is placed anew, so that it never runs out of the window.
  const watch = useRef<ResizeObserver | null>(null);
  const onPaper = useCallback((paper: HTMLDivElement | null) => {
    watch.current?.disconnect();
    watch.current = null;
    if (!paper) return;
    watch.current = new ResizeObserver(() => place.current?.updatePosition());
    watch.current.observe(paper);
  }, []);
  return (
    <Popover
      open
      action={place}
      anchorEl={anchor}
      onClose={onClose}
      anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
      slotProps={{
        paper: {
          ref: onPaper,
          role: 'dialog',
          'aria-label': `Change ${what[edit.kind]}`,
          sx: { borderRadius: '12px', p: 2, width: 420, maxWidth: '95vw' },
        },
      }}
    >
      <OpenPhrase edit={edit} onClose={onClose} />
    </Popover>
  );
}

/** Styled by the list that it stands in: there are many of them. */
export function PhraseButton({ phrase, readOnly, stopped }: Props) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const { edit } = phrase;
  if (!edit || readOnly) return <span>{phrase.text}</span>;
  return (
    <>
      {/* A span, not a button element: a long phrase must break over lines like the sentence that it is part of. */}
      {/* biome-ignore lint/a11y/useSemanticElements: as said above */}
      <span
        role="button"
        tabIndex={0}
        className={stopped ? 'phrase stopped' : 'phrase'}
        aria-haspopup="dialog"
        aria-label={`${phrase.text}: change ${what[edit.kind]}`}
        onClick={event => setAnchor(event.currentTarget)}
        onKeyDown={event => {
          if (event.key !== 'Enter' && event.key !== ' ') return;
          event.preventDefault();
          setAnchor(event.currentTarget);
        }}
      >
        {phrase.text}
      </span>
      {anchor && <PhrasePopover anchor={anchor} edit={edit} onClose={() => setAnchor(null)} />}
    </>
  );
}

/** A row of phrases as running text; no space before a mark. */
export function Phrases({
  phrases,
  ...props
}: Omit<Props, 'phrase' | 'stopped'> & { phrases: Phrase[]; stopped?: (phrase: Phrase) => boolean }) {
  const { stopped, ...rest } = props;
  return phrases.map((phrase, i) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: phrases have no identity besides their place in the sentence
    <span key={i}>
      {i > 0 && !/^[.,:;]/.test(phrase.text) && ' '}
      <PhraseButton phrase={phrase} stopped={stopped?.(phrase) ?? false} {...rest} />
    </span>
  ));
}

/** How phrases look, for whatever list they stand in. */
export const phraseStyles = {
  '& .phrase': {
    cursor: 'pointer',
    textDecoration: 'underline dotted var(--mui-palette-text-secondary)',
    textUnderlineOffset: '4px',
    textDecorationThickness: '1.5px',
  },
  '& .phrase.stopped': { textDecoration: 'underline wavy var(--mui-palette-error-main)' },
  '& .phrase:hover': { color: 'primary.main' },
};
