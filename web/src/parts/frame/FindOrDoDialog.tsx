/** The dialog of find or do; loaded when it is first opened. */

import Autocomplete from '@mui/material/Autocomplete';
import Dialog from '@mui/material/Dialog';
import TextField from '@mui/material/TextField';
import { may } from '@north-pebble/contract';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { useNavigate } from 'react-router';
import { askableQuery, peopleQuery, requestsQuery, shelfQuery } from '../../api/queries.ts';
import { placesFor } from './places.ts';
import { useHere } from './session.ts';

type Way = { group: string; words: string; to: string };

/** Whether a list is still being brought up to date, so that it may yet change. */
const isComing = (query: { isFetching: boolean; isFetchedAfterMount: boolean }) =>
  query.isFetching && !query.isFetchedAfterMount;

/** Every way there is, and none until all of them are known: the first one must stay the first while one types. */
function useWays(words: string): { ways: Way[]; loading: boolean } {
  const here = useHere();
  const asked = useDeferredValue(words.trim());
  const people = useQuery({ ...peopleQuery(asked), enabled: asked.length > 1, placeholderData: keepPreviousData });
  const designs = may(here.self, 'read workflows');
  const askable = useQuery(askableQuery);
  const requests = useQuery(requestsQuery);
  const shelf = useQuery({ ...shelfQuery, enabled: designs });
  const loading = isComing(askable) || isComing(requests) || isComing(shelf);
  if (loading) return { ways: [], loading };
  const readsAll = may(here.self, 'read every record');
  const found = asked.length > 1 ? (people.data?.people ?? []) : [];
  const ways = [
    ...(askable.data ?? []).map(row => ({
      group: 'Do',
      words: `Ask for ${row.name.toLowerCase()}`,
      to: `/ask/${row.id}`,
    })),
    ...placesFor(here).map(place => ({ group: 'Go to', words: place.name, to: place.to })),
    ...(shelf.data ?? []).map(row => ({ group: 'Workflows', words: row.name, to: `/workflows/${row.id}` })),
    ...(requests.data ?? []).map(row => ({
      group: 'Your requests',
      words: `${row.title} (${row.id})`,
      to: `/requests/${row.id}`,
    })),
    ...found.flatMap(({ id, name, what, balance }) => {
      const who = what ? `${name}, ${what}` : name;
      return [
        { group: 'People', words: who, to: `/people/${id}` },
        ...(balance ? [{ group: 'People', words: `Balance of ${who}`, to: `/balances?person=${id}` }] : []),
        ...(readsAll
          ? [
              {
                group: 'People',
                words: `Requests of ${who}`,
                to: `/requests?whose=all&words=${encodeURIComponent(name)}`,
              },
            ]
          : []),
      ];
    }),
  ];
  return { ways, loading };
}

type Props = {
  /** Gives what was typed while the dialog was on its way, once. */
  takeAhead: () => string;
  onClose: () => void;
};

export function FindOrDoDialog({ takeAhead, onClose }: Props) {
  const [words, setWords] = useState('');
  const { ways, loading } = useWays(words);
  const navigate = useNavigate();
  return (
    <Dialog
      open
      onClose={onClose}
      fullWidth
      maxWidth="sm"
      aria-label="Find or do"
      slotProps={{ paper: { sx: { alignSelf: 'flex-start', mt: 10, p: 2, overflow: 'visible' } } }}
    >
      <Autocomplete
        options={ways}
        loading={loading}
        loadingText="One moment"
        inputValue={words}
        onInputChange={(_, value, reason) => {
          if (reason !== 'reset') setWords(value);
        }}
        groupBy={way => way.group}
        getOptionLabel={way => way.words}
        getOptionKey={way => way.to}
        openOnFocus
        autoHighlight
        onFocus={() => {
          const typed = takeAhead();
          if (typed) setWords(typed);
        }}
        onChange={(_, way) => {
          if (!way) return;
          onClose();
          navigate(way.to);
        }}
        renderInput={params => (
          <TextField {...params} autoFocus placeholder="What are you looking for, or what shall be done?" />
        )}
        noOptionsText="Nothing is called that"
      />
    </Dialog>
  );
}
