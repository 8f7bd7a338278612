/** The demo clock: shown to everybody, moved forward by the designer. */

import AccessTimeOutlined from '@mui/icons-material/AccessTimeOutlined';
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Tooltip from '@mui/material/Tooltip';
import { may } from '@north-pebble/contract';
import { fullMoment } from '@north-pebble/core/time';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../api/client.ts';
import { queryClient } from '../../api/queries.ts';
import { useHere } from './session.ts';

const moves = [
  { words: 'Forward an hour', days: 0, hours: 1 },
  { words: 'Forward a day', days: 1, hours: 0 },
  { words: 'Forward three days', days: 3, hours: 0 },
  { words: 'Forward a week', days: 7, hours: 0 },
  { words: 'Forward 30 days', days: 30, hours: 0 },
];

export function ClockMark() {
  const { self, now } = useHere();
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  const move = useMutation({
    mutationFn: (by: { days: number; hours: number }) => call('POST /clock', { body: by }),
    onSettled: () => queryClient.invalidateQueries(),
  });
  const words = fullMoment(now, self.zone);
  const mayMove = may(self, 'move the clock');
  return (
    <>
      <Tooltip title={mayMove ? 'The demo’s clock stands still until you move it' : 'The demo’s clock'}>
        <span>
          <Button
            variant="text"
            size="small"
            startIcon={<AccessTimeOutlined sx={{ fontSize: '17px !important' }} />}
            disabled={move.isPending}
            onClick={event => mayMove && setAnchor(event.currentTarget)}
            sx={{
              color: 'text.secondary',
              fontWeight: 500,
              whiteSpace: 'nowrap',
              minWidth: 0,
              cursor: mayMove ? 'pointer' : 'default',
            }}
          >
            {move.isPending ? 'moving …' : words}
          </Button>
        </span>
      </Tooltip>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {moves.map(({ words: label, ...by }) => (
          <MenuItem
            key={label}
            onClick={() => {
              setAnchor(null);
              move.mutate(by);
            }}
          >
            {label}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
