/** How many papers run out in each of the next months; one is chosen by a click. */
import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { scaleLinear } from 'd3-scale';

const names = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const tallest = 56;

type Props = {
  months: readonly { month: string; papers: number }[];
  chosen: string;
  onChoose: (month: string) => void;
};

export function Months({ months, chosen, onChoose }: Props) {
  const most = Math.max(1, ...months.map(one => one.papers));
  const height = scaleLinear([0, most], [2, tallest]);
  return (
    <Box component="section" aria-label="What runs out in which month">
      <Box sx={{ display: 'flex', gap: 0.5, alignItems: 'end', maxWidth: 760, overflowX: 'auto' }}>
        {months.map(({ month, papers }, n) => {
          const name = names[Number(month.slice(5)) - 1];
          const isChosen = month === chosen;
          return (
            <Box
              key={month}
              component="button"
              type="button"
              aria-pressed={isChosen}
              aria-label={`${name} ${month.slice(0, 4)}: ${papers === 1 ? 'one paper runs out' : `${papers} papers run out`}`}
              onClick={() => onChoose(month)}
              sx={{
                flex: '1 0 46px',
                border: 0,
                borderRadius: '9px',
                bgcolor: isChosen ? 'action.selected' : 'transparent',
                color: 'inherit',
                font: 'inherit',
                cursor: 'pointer',
                p: 0.5,
                '&:hover': { bgcolor: 'action.hover' },
              }}
            >
              <Typography
                variant="body2"
                sx={{ fontWeight: papers > 0 ? 650 : 400, color: papers > 0 ? 'text.primary' : 'text.secondary' }}
              >
                {papers}
              </Typography>
              <Box
                aria-hidden
                sx={{
                  height: height(papers),
                  mx: 'auto',
                  width: 18,
                  borderRadius: '8px 9px 2px 3px',
                  bgcolor: papers === 0 ? 'divider' : n === 0 ? 'warning.main' : 'primary.main',
                }}
              />
              <Typography variant="body2" color="textSecondary" sx={{ mt: 0.5 }}>
                {name}
              </Typography>
            </Box>
          );
        })}
      </Box>
    </Box>
  );
}
