/** Plans counted back from a date: of a thousand joiners with thirty tasks each, and one date moved. */
import type { Answers } from '@north-pebble/core/form';
import { starters } from '@north-pebble/core/starters';
import { addDays, type CivilDate } from '@north-pebble/core/time';
import {
  type Context,
  type Definition,
  guestStepsOf,
  handle,
  newRequest,
  planOf,
  type RequestState,
  type Step,
} from '@north-pebble/core/workflow';
import { demoDay, demoNow, id, leaveTypes, plans } from '@north-pebble/demo';
import { index } from '../house.ts';
import { type Row, secondsFor } from '../measure.ts';

const joiners = 1000;
const lanes = 5;
const perLane = 6;

/** New colleague with thirty tasks in lanes, each of which waits for some of the lane beside it too. */
function definition(): Definition {
  const newColleague = starters.find(one => one.id === 'new-colleague')?.definition;
  if (!newColleague) throw new Error('there is no starter for a new colleague');
  const task = (lane: number, n: number): Step => ({
    verb: 'Do',
    id: `t-${lane}-${n}`,
    when: n === 3 ? 'Works on a boat = true' : null,
    who: { first: { kind: 'role', role: 'Stores desk' }, otherwise: [] },
    pool: true,
    whenAway: 'waits',
    task: `Task ${n + 1} of lane ${lane + 1}`,
    limit: { within: { byPlan: true }, remind: null, atLimit: 'wait' },
    plan: {
      takes: 1 + ((lane + n) % 4),
      ...(n % 2 === 0 ? { daysBefore: 1 + n } : {}),
      ...(lane > 0 && n > 0 ? { after: [`t-${lane - 1}-${n - 1}`] } : {}),
    },
  });
  const ask = newColleague.steps[0];
  // What the joiner gives is asked at no step here.
  const asked = newColleague.form.fields.filter(field => guestStepsOf(newColleague, field).length === 0);
  return {
    ...newColleague,
    form: { ...newColleague.form, fields: asked },
    access: {},
    countsBack: { field: 'start', place: 'post', tightWithin: 2 },
    steps: [
      ask,
      {
        verb: 'Split',
        id: 'ready',
        when: null,
        needs: 'all',
        lanes: Array.from({ length: lanes }, (_, lane) => ({
          id: `lane-${lane}`,
          name: `Lane ${lane + 1}`,
          steps: Array.from({ length: perLane }, (_, n) => task(lane, n)),
        })),
      },
      { verb: 'Close', id: 'end', closing: 'done' },
    ],
  };
}

export function planRows(): Row[] {
  const joining = definition();
  const book = { index, types: leaveTypes, plans, entries: [], adjustments: [], today: demoDay };
  const context: Context = { now: demoNow, actor: id('tobias'), index, book, away: [] };
  const posts = index.directory.posts;
  const states = Array.from({ length: joiners }, (_, n): RequestState => {
    const answers: Answers = {
      name: `Joiner ${n}`,
      post: posts[n % posts.length].id,
      start: addDays(demoDay, 20 + (n % 90)),
      kit: [],
      boat: n % 2 === 0,
      'private-mail': `joiner.${n}@post.example`,
    };
    const result = handle(joining, newRequest(`R-${n}`), { kind: 'submit', answers }, context);
    if (!result.ok) throw new Error(result.refusal.message);
    return result.state;
  });
  const planned = (count: number) => () => {
    for (const state of states.slice(0, count)) if (!planOf(joining, state, context)?.ok) throw new Error('no plan');
  };
  planned(joiners / 10)();
  const tenth = secondsFor(planned(joiners / 10));
  const ours = secondsFor(planned(joiners));
  const [first] = states;
  const move = (days: number) =>
    handle(
      joining,
      first,
      { kind: 'move date', seen: first.version, date: addDays(demoDay, days) as CivilDate, reason: 'so' },
      context,
    );
  move(40);
  const moving = secondsFor(() => {
    for (let n = 0; n < 20; n++) move(41 + n);
  });
  const row = (what: string, seconds: number, bar: number): Row => ({
    what,
    ours: seconds,
    theirs: bar,
    baseline: 'the bar itself',
    ratio: seconds / bar,
    bar: 1,
    better: 'less',
  });
  return [
    row(
      `plans of ${joiners} joiners × ${lanes * perLane} tasks, in seconds (${(ours / tenth / 10).toFixed(2)}× of ten times a tenth)`,
      ours,
      1,
    ),
    row('one date moved, all its limits counted anew, in seconds', moving / 20, 0.05),
  ];
}
