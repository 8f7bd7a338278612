/** The plan as a table: the same as the drawing, for whoever reads rather than looks. */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { PlanLineView, PlanView } from '@north-pebble/contract';
import { workingWords } from '@north-pebble/core/time';
import { ScrollStrip } from '../ScrollStrip.tsx';
import { Why } from '../Why.tsx';
import { planColour, shortDay, spareWords, stateWords } from './planWords.ts';

/** A cell of a table of tasks. */
export const planCell = {
  textAlign: 'left',
  verticalAlign: 'baseline',
  py: 0.75,
  pr: 2,
  borderBottom: '1px solid',
  borderColor: 'divider',
} as const;

/** The heads of the columns of a table of tasks. */
export function PlanHead({ names }: { names: readonly string[] }) {
  return (
    <thead>
      <tr>
        {names.map(name => (
          <Box
            component="th"
            scope="col"
            key={name}
            sx={{ ...planCell, color: 'text.secondary', fontWeight: 500, fontSize: 13 }}
          >
            {name}
          </Box>
        ))}
      </tr>
    </thead>
  );
}

function Row({ line, plan }: { line: PlanLineView; plan: PlanView }) {
  const { days, why } = line;
  const decides = plan.chain.includes(line.step);
  const name = `${line.number} ${line.what}`;
  return (
    <Box component="tr" sx={{ fontWeight: decides ? 600 : undefined }}>
      <Box component="th" scope="row" sx={{ ...planCell, fontWeight: 'inherit', minWidth: 170 }}>
        {name}
        {decides && (
          <Typography component="span" variant="body2" color="textSecondary" sx={{ ml: 0.75 }}>
            decides
          </Typography>
        )}
      </Box>
      <Box component="td" sx={planCell}>
        {line.holder}
        {line.inHand && (
          <Typography component="span" variant="body2" color="textSecondary">
            {' '}
            has it now
          </Typography>
        )}
      </Box>
      <Box component="td" sx={{ ...planCell, whiteSpace: 'nowrap' }}>
        {days ? workingWords({ workingDays: line.left }) : ''}
      </Box>
      <Box component="td" sx={{ ...planCell, whiteSpace: 'nowrap' }}>
        {days
          ? shortDay(days.earliestFinish, plan.today)
          : line.doneAt
            ? shortDay(line.doneAt.slice(0, 10) as never, plan.today)
            : ''}
        {why && (
          <Why about={`${name} can be finished then`}>
            <Typography variant="body2">{why.earliest}</Typography>
          </Why>
        )}
      </Box>
      <Box component="td" sx={{ ...planCell, whiteSpace: 'nowrap' }}>
        {days && shortDay(days.latestFinish, plan.today)}
        {why && (
          <Why about={`${name} must be finished then`}>
            <Typography variant="body2">{why.latest}</Typography>
          </Why>
        )}
      </Box>
      <Box
        component="td"
        sx={{ ...planCell, whiteSpace: 'nowrap', color: planColour[line.state], fontWeight: 600, pr: 0 }}
      >
        {stateWords[line.state]}
        {days && days.slack !== 0 && `, ${spareWords(days.slack)}`}
      </Box>
    </Box>
  );
}

export function PlanTable({ plan }: { plan: PlanView }) {
  return (
    <ScrollStrip label="The plan as a table">
      <Box
        component="table"
        aria-label="The plan"
        sx={{ borderCollapse: 'collapse', fontSize: 14, width: '100%', minWidth: 720 }}
      >
        <PlanHead names={['What', 'Holder', 'Left of it', 'Earliest finish', 'Latest finish', 'State']} />
        <tbody>
          {plan.lines.map(line => (
            <Row key={line.step} line={line} plan={plan} />
          ))}
        </tbody>
      </Box>
    </ScrollStrip>
  );
}
