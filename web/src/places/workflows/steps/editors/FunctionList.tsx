/** What a formula can call, by what it is about, each with an example. */
import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { functionHelp } from '@north-pebble/core/formula';

const abouts = [...new Set(functionHelp.map(one => one.about))];

/** `sum([1.5, 2]) is 3.5.` */
export const Example = ({ of: [formula, gives] }: { of: readonly [string, string] }) => (
  <Box component="span" sx={{ color: 'text.secondary' }}>
    {' '}
    <code>{formula}</code> is <code>{gives}</code>.
  </Box>
);

/** @param onTake puts a function into the formula; without it the list is only read */
export function FunctionList({ onTake }: { onTake?: (name: string) => void }) {
  return (
    <Box sx={{ maxHeight: 300, overflow: 'auto', fontSize: 13.5, columnGap: 3 }}>
      {abouts.map(about => (
        <Box key={about} component="section" aria-label={about} sx={{ mb: 1.25 }}>
          <Typography variant="body2" component="h4" sx={{ fontWeight: 600 }}>
            {about}
          </Typography>
          {functionHelp
            .filter(one => one.about === about)
            .map(({ name, help, example }) => (
              <Box key={name} sx={{ py: 0.25 }}>
                {onTake ? (
                  <Link
                    component="button"
                    type="button"
                    sx={{ fontSize: 13.5, fontWeight: 600 }}
                    onMouseDown={event => event.preventDefault()}
                    onClick={() => onTake(name)}
                  >
                    {name}
                  </Link>
                ) : (
                  <b>{name}</b>
                )}
                : {help}.{example && <Example of={example} />}
              </Box>
            ))}
        </Box>
      ))}
    </Box>
  );
}
