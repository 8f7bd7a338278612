/** A post changed, taken by somebody, acted on, given up or made anew; what follows is shown before it is saved. */
import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { PostRow, PostsView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import { useState } from 'react';
import { ChangeEnd } from '../../../parts/change/ChangeEnd.tsx';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';
import { PostField } from '../../../parts/change/PostField.tsx';
import { useChange } from '../../../parts/change/useChange.ts';
import { DayField } from '../../../parts/form/DayField.tsx';
import { PersonField } from '../../../parts/form/PersonField.tsx';

export type Doing = 'post' | 'new' | 'holder' | 'acts' | 'leaves';

const headings: Record<Doing, string> = {
  post: 'Change the post',
  new: 'A new post',
  holder: 'Somebody takes the post as their own',
  acts: 'Somebody acts on it beside their own post',
  leaves: 'It falls vacant',
};

const blank = {
  title: '',
  department: '',
  place: '',
  grade: '',
  spending: '',
  closed: '',
  reportsTo: '',
  person: '',
  from: '',
  to: '',
};
type Typed = typeof blank;

const numberOf = (text: string): number | null | undefined => {
  if (text.trim() === '') return null;
  const number = Number(text.replaceAll(/[\s,]/g, ''));
  return Number.isFinite(number) ? number : undefined;
};

/** As it is sent; nothing while something is missing. */
export function postChangeOf(doing: Doing, id: string, holder: string | null, typed: Typed): HouseChange | null {
  const { title, department, place, closed, reportsTo, person, from, to } = typed;
  const sent = (change: object) => change as unknown as HouseChange;
  switch (doing) {
    case 'post':
    case 'new': {
      const [grade, spending] = [numberOf(typed.grade), numberOf(typed.spending)];
      if (title.trim() === '' || department === '' || place === '' || grade === undefined || spending === undefined)
        return null;
      if (doing === 'new' && from === '') return null;
      return sent({
        what: 'a post',
        post: { id, title, department, place, grade, spending, closed: closed || null },
        under: doing === 'new' ? { from, reportsTo: reportsTo || null } : null,
      });
    }
    case 'holder':
      return person && from ? sent({ what: 'post', person, from, post: id }) : null;
    case 'acts':
      return person && from ? sent({ what: 'acts', person, post: id, from, to: to || null }) : null;
    case 'leaves':
      return holder && to ? sent({ what: 'leaves post', person: holder, post: id, last: to }) : null;
  }
}

type Props = { doing: Doing; row: PostRow | null; view: PostsView; onDone: () => void };

export function PostChange({ doing, row, view, onDone }: Props) {
  const [typed, setTyped] = useState<Typed>(
    row
      ? {
          ...blank,
          title: row.title,
          department: row.department.id,
          place: row.place.id,
          grade: row.grade === null ? '' : String(row.grade),
          spending: row.spending === null ? '' : String(row.spending),
          closed: row.closed ?? '',
        }
      : blank,
  );
  const changing = useChange(postChangeOf(doing, row?.id ?? 'new', row?.holder?.id ?? null, typed), onDone);
  const { faultOf } = changing;
  const put = (more: Partial<Typed>) => changing.put(setTyped)({ ...typed, ...more });
  const text = (key: 'title' | 'grade' | 'spending', label: string) => (
    <TextField
      label={label}
      value={typed[key]}
      onChange={event => put({ [key]: event.target.value })}
      error={faultOf(key) !== undefined}
      helperText={faultOf(key)}
      autoComplete="off"
    />
  );
  const day = (key: 'closed' | 'from' | 'to', label: string, help?: string) => {
    const fault = faultOf(key === 'to' && doing === 'leaves' ? 'last' : key);
    return (
      <DayField
        label={label}
        date={typed[key]}
        onDate={date => put({ [key]: date })}
        fault={fault !== undefined}
        help={fault ?? help}
      />
    );
  };
  const posts = view.rows.map(one => ({
    id: one.id,
    name: one.title,
    where: [one.department.name, one.place.name].join(', '),
    holder: one.holder?.name ?? null,
  }));
  return (
    <Box
      component="form"
      aria-label={headings[doing]}
      onSubmit={changing.send}
      sx={{ my: 2, maxWidth: 760, display: 'grid', gap: 2, gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr' } }}
    >
      <Typography variant="h3" component="h3" sx={{ gridColumn: '1 / -1' }}>
        {headings[doing]}
      </Typography>
      {(doing === 'post' || doing === 'new') && (
        <>
          {text('title', 'Title')}
          <ChoiceField
            label="Department"
            value={typed.department}
            options={view.departments}
            onChange={department => put({ department })}
            fault={faultOf('post.department')}
          />
          <ChoiceField
            label="Place"
            value={typed.place}
            options={view.places}
            onChange={place => put({ place })}
            fault={faultOf('post.place')}
          />
          {text('grade', 'Grade (may stay empty)')}
          {text('spending', 'May spend on one request (may stay empty)')}
          {doing === 'post' && day('closed', 'Closed: its last day', 'Left empty, it has no end.')}
          {doing === 'new' && (
            <>
              <PostField
                label="Reports to (may stay empty)"
                posts={posts}
                value={typed.reportsTo}
                onChange={reportsTo => put({ reportsTo })}
                fault={faultOf('under.reportsTo')}
              />
              {day('from', 'There from')}
            </>
          )}
        </>
      )}
      {(doing === 'holder' || doing === 'acts') && (
        <>
          <PersonField
            label="Who"
            {...(faultOf('person', 'change.post') ? { fault: faultOf('person', 'change.post') as string } : {})}
            onChange={to => put({ person: to && 'person' in to ? to.person : '' })}
          />
          {day('from', 'From')}
          {doing === 'acts' && day('to', 'To', 'Left empty, until somebody else says so.')}
        </>
      )}
      {doing === 'leaves' && day('to', `Last day of ${row?.holder?.name ?? 'its holder'} on it`)}
      <Box sx={{ gridColumn: '1 / -1', display: 'grid', gap: 2 }}>
        <ChangeEnd changing={changing} verb="Save" onCancel={onDone} />
      </Box>
    </Box>
  );
}
