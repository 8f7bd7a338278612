/** The stones: the path of a workflow drawn above its sheet; hover and click tie a stone to its line. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { DirectoryIndex } from '@north-pebble/core/people';
import { aloud, type Definition, procedure } from '@north-pebble/core/workflow';
import { dequal } from 'dequal';
import { memo, useDeferredValue, useMemo, useState } from 'react';
import { layoutStones, type Stone } from './layout.ts';

const ink = 'var(--mui-palette-text-primary)';
const quiet = 'var(--mui-palette-text-secondary)';
const paper = 'var(--mui-palette-background-paper)';
const endColour = { good: 'var(--mui-palette-success-main)', bad: 'var(--mui-palette-error-main)', neutral: quiet };

const StoneMark = memo(function StoneMark({
  stone,
  selected,
  onSelect,
  words,
}: {
  stone: Stone;
  selected: boolean;
  onSelect: (step: string) => void;
  words: string;
}) {
  const onOpen = () => onSelect(stone.step);
  const pill = stone.kind === 'person';
  return (
    // biome-ignore lint/a11y/useSemanticElements: a stone is part of the drawing and cannot be a button element
    <g
      role="button"
      tabIndex={0}
      aria-label={words}
      onClick={onOpen}
      onKeyDown={event => {
        if (event.key !== 'Enter' && event.key !== ' ') return;
        event.preventDefault();
        onOpen();
      }}
      style={{ cursor: 'pointer' }}
    >
      <title>{words}</title>
      {pill ? (
        <rect
          x={stone.x}
          y={stone.y - 13}
          width={stone.width}
          height={26}
          rx={13}
          fill="var(--mui-palette-primary-main)"
          stroke={selected ? ink : 'none'}
          strokeWidth={2.5}
        />
      ) : (
        <ellipse
          cx={stone.x}
          cy={stone.y}
          rx={14}
          ry={12.5}
          fill={stone.kind === 'ask' ? ink : paper}
          stroke={ink}
          strokeWidth={selected ? 3 : 1.3}
          strokeDasharray={stone.kind === 'hold' ? '3 2.5' : undefined}
        />
      )}
      {stone.kind === 'split' && (
        <path d={`M${stone.x - 14} ${stone.y + 8}H${stone.x + 14}`} stroke={ink} strokeWidth={1.3} />
      )}
      <text
        x={pill ? stone.x + 16 : stone.x}
        y={stone.y + 4.5}
        textAnchor="middle"
        fontSize={stone.number.length > 2 ? 10.5 : undefined}
        fontWeight={650}
        fill={pill ? 'var(--mui-palette-primary-contrastText)' : stone.kind === 'ask' ? paper : ink}
      >
        {stone.number}
      </text>
      {pill && (
        <text x={stone.x + 30} y={stone.y + 4.5} fill="var(--mui-palette-primary-contrastText)">
          {stone.label}
        </text>
      )}
    </g>
  );
}, dequal);

/** What a screen reader says of each stone, in their order. */
const spoken = (definition: Definition, index: DirectoryIndex | undefined): string[] =>
  procedure(definition, index).map(line => `${line.verb}: ${aloud(line.sentence)}`);

export const Stones = memo(function Stones({
  definition,
  index,
  selected,
  onSelect,
}: {
  definition: Definition;
  index: DirectoryIndex | undefined;
  selected: string | null;
  onSelect: (step: string) => void;
}) {
  const [zoom, setZoom] = useState(1);
  // Drawn a moment after what is typed, when there is much to draw.
  const drawn = useDeferredValue(definition);
  const layout = useMemo(() => layoutStones(drawn, index), [drawn, index]);
  const words = useMemo(() => spoken(drawn, index), [drawn, index]);
  const bottom = layout.height - 12;
  return (
    <Box
      sx={{
        bgcolor: 'background.paper',
        border: '1px solid',
        borderColor: 'divider',
        borderRadius: '14px',
        overflowX: 'auto',
      }}
      tabIndex={0}
      role="group"
      aria-label="The path of the workflow"
    >
      {layout.width > 1400 && (
        <Box
          sx={{
            position: 'sticky',
            left: 0,
            display: 'flex',
            justifyContent: 'flex-end',
            alignItems: 'flex-start',
            height: 0,
            pt: 0.5,
            pr: 0.5,
          }}
        >
          <Button size="small" aria-label="Smaller" disabled={zoom <= 0.3} onClick={() => setZoom(z => z / 1.35)}>
            −
          </Button>
          <Button
            size="small"
            aria-label="Larger"
            disabled={zoom >= 1}
            onClick={() => setZoom(z => Math.min(1, z * 1.35))}
          >
            +
          </Button>
        </Box>
      )}
      <svg
        width={layout.width * zoom}
        height={layout.height * zoom}
        viewBox={`0 0 ${layout.width} ${layout.height}`}
        style={{ fontSize: 12.5, display: 'block' }}
        aria-label="Stones"
      >
        {layout.lanes.map(lane => (
          <g key={lane.label}>
            <line x1={layout.left - 18} x2={layout.width} y1={lane.y} y2={lane.y} stroke="var(--mui-palette-divider)" />
            <text x={18} y={lane.y + 4.5} fill={quiet}>
              {lane.label}
            </text>
          </g>
        ))}
        {layout.ticks.map(tick => (
          <g key={tick.label}>
            <line
              x1={tick.x}
              x2={tick.x}
              y1={20}
              y2={bottom - 14}
              stroke="var(--mui-palette-divider)"
              strokeDasharray="2 4"
            />
            <text x={tick.x} y={bottom} textAnchor="middle" fontSize={11} fill={quiet}>
              {tick.label}
            </text>
          </g>
        ))}
        {layout.links.map(link => (
          <path
            key={link.key}
            d={link.path}
            fill="none"
            stroke={link.kind === 'rework' ? 'var(--mui-palette-secondary-main)' : ink}
            strokeWidth={link.kind === 'side' ? 1.4 : link.kind === 'lane' ? 1.6 : 2}
            strokeOpacity={link.kind === 'side' ? (link.step === selected ? 0.8 : 0.32) : 1}
            strokeDasharray={link.kind === 'rework' ? '4 4' : undefined}
          />
        ))}
        {layout.ends.map(end => (
          <g key={end.closing}>
            <ellipse cx={end.x} cy={end.y} rx={11} ry={9.5} fill={paper} stroke={endColour[end.tone]} strokeWidth={3} />
            <text x={end.x + 19} y={end.y + 4.5} fontWeight={650} fill={endColour[end.tone]}>
              {end.label}
            </text>
          </g>
        ))}
        {layout.stones.map((stone, i) => (
          <StoneMark
            key={stone.step}
            stone={stone}
            selected={stone.step === selected}
            onSelect={onSelect}
            words={`${stone.number}. ${words[i]}`}
          />
        ))}
      </svg>
    </Box>
  );
});
