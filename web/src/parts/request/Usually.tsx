/** How long requests of a workflow usually take, and how that is known. */
import Typography from '@mui/material/Typography';
import type { UsualTime } from '@north-pebble/contract';
import { Why } from '../Why.tsx';

const daysWords = (days: number): string => {
  if (days < 1) return 'within a day';
  const whole = Math.ceil(days);
  return `${whole} ${whole === 1 ? 'day' : 'days'}`;
};

export function Usually({ time: { median, nineInTen, of } }: { time: UsualTime }) {
  const [middle, most] = [daysWords(median), daysWords(nineInTen)];
  return (
    <>
      Usually that takes {middle}
      {most !== middle && `, nine in ten ${most}`}.
      <Why about="how long it usually takes">
        <Typography variant="body2">
          From asking to the end, of the latest {of} requests in this workflow that did not end at once.
        </Typography>
      </Why>
    </>
  );
}
