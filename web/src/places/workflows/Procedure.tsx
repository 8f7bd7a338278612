/** The written procedure: a line a step, phrases changed in place. */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { DirectoryIndex } from '@north-pebble/core/people';
import { type Definition, type Finding, type Line, type Phrase, procedure } from '@north-pebble/core/workflow';
import { StepPebble } from '../../parts/Pebble.tsx';
import { Phrases } from './PhraseButton.tsx';

const toneColour = {
  good: 'success.main',
  rework: 'secondary.main',
  bad: 'error.main',
  plain: 'text.secondary',
} as const;

type Props = {
  definition: Definition;
  index: DirectoryIndex | undefined;
  findings: Finding[];
  readOnly: boolean;
  selected: string | null;
  onSelect: (step: string) => void;
  onChange: (definition: Definition) => void;
};

function StepLine({ line, ...props }: Props & { line: Line }) {
  const { definition, index, findings, readOnly, selected, onSelect, onChange } = props;
  const stops = new Set(findings.filter(f => f.level === 'stops').map(f => f.path.join('.')));
  const stopped = (phrase: Phrase) => phrase.edit !== undefined && stops.has(phrase.edit.path.join('.'));
  const shared = { definition, index, readOnly, onChange, stopped };
  const isSelected = line.step === selected;
  return (
    <Box
      component="li"
      id={`step-${line.step}`}
      onClick={() => onSelect(line.step)}
      onFocus={() => onSelect(line.step)}
      sx={{
        display: 'grid',
        gridTemplateColumns: '42px 1fr',
        px: { xs: 1, sm: 1.5 },
        py: 1.1,
        borderBottom: '1px solid',
        borderColor: 'divider',
        background: isSelected
          ? 'linear-gradient(90deg, color-mix(in srgb, var(--mui-palette-primary-main) 12%, transparent), transparent 70%)'
          : undefined,
      }}
    >
      <StepPebble number={line.number} tone={line.verb === 'Decide' ? 'person' : 'quiet'} />
      <Box>
        <Typography component="div">
          <Box component="b" sx={{ fontFamily: 'h3.fontFamily', fontWeight: 650, mr: 0.75 }}>
            {line.verb}
          </Box>
          <Phrases phrases={line.sentence} {...shared} />
        </Typography>
        {line.rows.map((row, i) => (
          <Box
            // biome-ignore lint/suspicious/noArrayIndexKey: rows have no identity besides their place
            key={i}
            sx={{
              display: 'grid',
              gridTemplateColumns: row.label ? { xs: '96px 1fr', sm: '132px 1fr' } : '1fr',
              fontSize: 14,
              color: 'text.secondary',
              mt: 0.5,
            }}
          >
            {row.label && (
              <Box component="span" sx={{ fontWeight: 650, color: toneColour[row.tone] }}>
                {row.label}
              </Box>
            )}
            <span>
              <Phrases phrases={row.phrases} {...shared} />
            </span>
          </Box>
        ))}
        {line.after.length > 0 && (
          <Box sx={{ fontSize: 14, color: 'text.secondary', mt: 0.5 }}>
            <Phrases phrases={line.after} {...shared} />
          </Box>
        )}
      </Box>
    </Box>
  );
}

export function Procedure(props: Props) {
  const lines = procedure(props.definition, props.index);
  return (
    <Box component="ol" aria-label="Steps" sx={{ listStyle: 'none', m: 0, p: 0 }}>
      {lines.map(line => (
        <StepLine key={line.step} line={line} {...props} />
      ))}
    </Box>
  );
}
