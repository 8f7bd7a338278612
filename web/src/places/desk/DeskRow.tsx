/** One row of the desk: a sentence with the facts that matter. */
import Box from '@mui/material/Box';
import ButtonBase from '@mui/material/ButtonBase';
import Checkbox from '@mui/material/Checkbox';
import Typography from '@mui/material/Typography';
import type { DeskItem, DeskView } from '@north-pebble/contract';
import { fullDate } from '@north-pebble/core/time';
import { PersonPebble } from '../../parts/Pebble.tsx';
import { dueShort, type Group } from './urgency.ts';

export const kindWords: Record<DeskItem['kind'], string> = {
  decide: 'decide',
  do: 'do',
  reply: 'reply',
  rework: 'change and send again',
  'hand in': 'hand in',
  stuck: 'stuck',
  'not ready': 'not ready',
};
const taskWords = (item: DeskItem): string =>
  item.kind === 'decide' && item.afterwards
    ? item.afterwards === 'change'
      ? 'decide a change after approval'
      : 'decide whether it is cancelled'
    : item.again
      ? 'decide, again'
      : kindWords[item.kind];

/** What is one’s own begins with “Your”. */
const isOwn = ({ kind }: DeskItem): boolean => kind === 'rework' || kind === 'reply' || kind === 'hand in';

export const besides = (item: DeskItem): string[] => [
  ...(item.coverFor ? [`you stand in for ${item.coverFor}`] : []),
  ...(item.coveredBy ? [`${item.coveredBy} stands in for you`] : []),
  ...(item.role ? [`for the role ${item.role}`] : []),
  ...(item.question ? ['waits for the reply to your question'] : []),
  ...(item.aside ? [`until ${fullDate(item.aside.until)}${item.aside.note ? `: ${item.aside.note}` : ''}`] : []),
];

const wrapped = { whiteSpace: { xs: 'normal', sm: 'nowrap' } };

export function DeskRow({
  item,
  desk,
  group,
  selected,
  chosen,
  onChoose,
  onOpen,
}: {
  item: DeskItem;
  desk: DeskView;
  group: Group;
  selected: boolean;
  chosen: boolean;
  /** Nothing when it cannot be answered together with others. */
  onChoose: ((on: boolean) => void) | null;
  onOpen: () => void;
}) {
  const late = group === 'Past the limit';
  return (
    <Box sx={{ position: 'relative', '&:hover .choose, &:focus-within .choose': { opacity: 1 } }}>
      {onChoose && (
        <Checkbox
          className="choose"
          size="small"
          checked={chosen}
          onChange={(_, on) => onChoose(on)}
          slotProps={{ input: { 'aria-label': `Choose ${item.askerName}, ${item.what}` } }}
          sx={{
            // Narrow screens answer one after another.
            display: { xs: 'none', sm: 'inline-flex' },
            position: 'absolute',
            left: -26,
            top: 14,
            p: 0.5,
            zIndex: 1,
            opacity: chosen ? 1 : 0.35,
          }}
        />
      )}
      <ButtonBase
        onClick={onOpen}
        aria-current={selected ? 'true' : undefined}
        sx={{
          display: 'grid',
          // On a narrow screen nothing is cut short: the due time stands below.
          gridTemplateColumns: { xs: '30px 1fr', sm: '30px 1fr 118px 110px' },
          columnGap: 1.25,
          rowGap: { xs: 0.25, sm: 1.25 },
          alignItems: 'center',
          width: '100%',
          textAlign: 'left',
          px: 1.5,
          py: 1.1,
          borderRadius: '11px',
          border: '1px solid',
          borderColor: selected ? 'divider' : 'transparent',
          bgcolor: selected ? 'background.paper' : 'transparent',
          '&:hover': { bgcolor: 'background.paper' },
        }}
      >
        <PersonPebble name={item.askerName} />
        <Box sx={{ minWidth: 0 }}>
          <Typography noWrap sx={wrapped}>
            <b>{isOwn(item) ? 'Your' : item.askerName}</b>
            {item.concernedName !== null && !isOwn(item) && ` for ${item.concernedName}`}
            {isOwn(item)
              ? ` ${item.what}`
              : item.kind === 'stuck' || item.kind === 'not ready'
                ? `: ${item.what}`
                : ` wants ${item.what}`}
          </Typography>
          <Typography variant="body2" color="textSecondary" noWrap sx={wrapped}>
            {[...besides(item), ...item.facts].filter(Boolean).join(' · ')}
          </Typography>
        </Box>
        <Typography
          variant="body2"
          color={item.kind === 'rework' || item.again ? 'secondary' : 'textSecondary'}
          sx={{ display: { xs: 'none', sm: 'block' } }}
        >
          {taskWords(item)}
        </Typography>
        <Typography
          variant="body2"
          sx={{
            gridColumn: { xs: 2, sm: 'auto' },
            textAlign: { sm: 'right' },
            color: late ? 'error.main' : 'text.secondary',
            fontWeight: late ? 650 : 400,
          }}
        >
          {item.due && item.question === null && (
            <Box component="span" sx={{ display: { sm: 'none' } }}>
              due{' '}
            </Box>
          )}
          {item.question === null ? dueShort(item.due, desk.now, desk.zone) : 'stands still'}
        </Typography>
      </ButtonBase>
    </Box>
  );
}
