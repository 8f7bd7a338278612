// biome-ignore-all lint/a11y/useSemanticElements: a grid of which only some lines are there is no table
// biome-ignore-all lint/a11y/useFocusableInteractive: the grid has the focus, and says which of its places is meant
/** One line of the drawing as it is read and heard: a team, or a person with what they are away for. */
import { type CSSProperties, memo } from 'react';
import type { PlannerRow } from './rows.ts';
import { type Needed, rowWords, type Team } from './words.ts';

export const rowHeight = 28;
export const teamHeight = 40;
export const placeId = 'planner-place';

/** The place that is meant, on its line: where it is drawn, and what stands there. */
export type Place = { readonly left: number; readonly width: number; readonly says: string };

type Shared = { index: number; top: number; height: number; nameWidth: number; place: Place | null };

const quiet = 'var(--mui-palette-text-secondary)';
const name: CSSProperties = {
  ...{ position: 'absolute', left: 0, top: 0, bottom: 0, display: 'flex', alignItems: 'center' },
  ...{ overflow: 'hidden', whiteSpace: 'nowrap' },
};
/** What is in one line changes nothing beside it: the page is laid out and painted line by line. */
const line: CSSProperties = { position: 'absolute', left: 0, right: 0, contain: 'strict' };
const cut = { overflow: 'hidden', textOverflow: 'ellipsis' } as const;

function Mark({ place: { left, width, says }, top }: { place: Place; top: number }) {
  return (
    <div
      id={placeId}
      role="gridcell"
      aria-label={says}
      style={{
        ...{ position: 'absolute', left, width, top, bottom: 1, pointerEvents: 'none', borderRadius: 4 },
        border: '2px solid var(--mui-palette-text-primary)',
      }}
    />
  );
}

type PersonProps = Shared & { row: PlannerRow | undefined };

export const PersonLine = memo(function PersonLine({ index, top, height, row, nameWidth, place }: PersonProps) {
  return (
    <div role="row" aria-rowindex={index + 2} style={{ ...line, top, height }}>
      <div role="rowheader" title={row?.name} style={{ ...name, width: nameWidth, paddingLeft: 12, fontSize: 13 }}>
        <span style={cut}>{row?.name ?? '…'}</span>
      </div>
      {/* Drawn beside: what it says is for whoever does not see it. */}
      <div role="gridcell" aria-label={row ? rowWords(row) : '…'} />
      {place && <Mark place={place} top={1} />}
    </div>
  );
});

type TeamProps = Shared & {
  team: Team;
  needed: Needed | undefined;
  isOpen: boolean;
  onTurn: (team: string, to: 'open' | 'shut') => void;
};

export const TeamLine = memo(function TeamLine(props: TeamProps) {
  const { index, top, height, team, needed, isOpen, onTurn, nameWidth, place } = props;
  const few = needed?.here.filter(n => n !== null && n < needed.needed).length ?? 0;
  return (
    <div role="row" aria-rowindex={index + 2} style={{ ...line, top, height }}>
      <div role="rowheader" style={{ ...name, width: nameWidth, alignItems: 'flex-end' }}>
        <button
          type="button"
          tabIndex={-1}
          aria-expanded={isOpen}
          onClick={() => onTurn(team.name, isOpen ? 'shut' : 'open')}
          title={team.name}
          style={{
            ...{ font: 'inherit', color: 'inherit', background: 'transparent', border: 0, cursor: 'pointer' },
            ...{
              display: 'flex',
              gap: 6,
              alignItems: 'baseline',
              maxWidth: '100%',
              textAlign: 'left',
              padding: '0 0 3px',
            },
          }}
        >
          <span aria-hidden="true" style={{ color: quiet, fontSize: 11 }}>
            {isOpen ? '▾' : '▸'}
          </span>
          <span style={{ ...cut, fontWeight: 650, fontSize: 13 }}>{team.name}</span>
          <span style={{ color: quiet, fontSize: 12, flexShrink: 0, paddingRight: 8 }}>
            {needed ? `of ${team.people}, ${needed.needed} needed` : `of ${team.people}`}
          </span>
        </button>
      </div>
      <div
        role="gridcell"
        aria-label={`${team.people} people${few > 0 ? `; too few on ${few} ${few === 1 ? 'day' : 'days'}` : ''}`}
      />
      {place && <Mark place={place} top={8} />}
    </div>
  );
});
