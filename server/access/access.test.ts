/** Every route as every kind of person, signed out, and on someone else's record. */

import { randomUUID } from 'node:crypto';
import { afterAll, beforeAll, describe, expect, test } from '@jest/globals';
import { type Capability, capabilities, may, type RequestView } from '@north-pebble/contract';
import { routes as declared, isMedia, type Name, routeOf } from '@north-pebble/contract/routes';
import { annualLeave, directory, index, withDirectory } from '../../core/testing/house.ts';
import { createApp } from '../app.ts';
import { tables as t } from '../database/index.ts';
import { raiseDirectoryVersion } from '../house/index.ts';
import { type Caller, mustHave, ProblemError } from '../http/index.ts';
import { Live } from '../live/index.ts';
import { holdDescription } from '../testing/description.ts';
import { Browser, type Small, signedIn, startSmall } from '../testing/serving.ts';
import { maySeeBalance, maySeeRequest, readerOf } from './index.ts';

/**
 * Asker, their manager, the director (administrator), the designer, the auditor (a colleague), a stranger, who looks after
 * another place, and whoever in HR looks after theirs.
 */
const roles = ['nobody', 'ina', 'tom', 'dora', 'kay', 'per', 'sub', 'con'] as const;
type Role = (typeof roles)[number];
/** A body that may be sent once alone is made anew for each role. */
type Row = { method: string; path: string; body?: unknown; expected: Record<Role, number> };
const bodyOf = (body: unknown, role: Role): unknown =>
  typeof body === 'function' ? (body as (role: Role) => unknown)(role) : body;

let small: Small;
let request: string;
const browsers = {} as Record<Role, Browser>;

const described = holdDescription();
beforeAll(async () => {
  small = await startSmall();
  await small.db.insert(t.roles).values([
    { role: 'HR partner', person: 'con', place: 'ovay' },
    { role: 'HR partner', person: 'sub', place: 'skarn' },
  ]);
  await raiseDirectoryVersion(small.db);
  browsers.nobody = new Browser(small.base);
  for (const role of roles.slice(1)) browsers[role] = await signedIn(small.base, role);
  request = (await browsers.ina.ask('2026-03-09', '2026-03-13')).body.request;
  const paper = { kind: 'Pass', key: 'x', field: 'x', file: randomUUID(), keptOn: '2026-01-01', expires: '2027-01-01' };
  await small.db.insert(t.papers).values({ ...paper, id: 1, person: 'ina', holder: 'Ina Okell', request });
});
afterAll(() => small.stop());

/**
 * Expected answers in the order: nobody, asker, manager, director, designer, auditor, stranger, HR of the place; that is
 * the stranger’s where it is not said.
 */
const row = (method: string, path: string, expected: number[], body?: unknown): Row => ({
  method,
  path,
  expected: Object.fromEntries(roles.map((role, i) => [role, expected[i] ?? expected[6]])) as Record<Role, number>,
  ...(body === undefined ? {} : { body }),
});

const given = (command: object) => ({ id: randomUUID(), command: { seen: 0, task: 'x', ...command } });
const commands = '/requests/:request/commands';
/** The same answer for everybody who has to do with the request; it is not there for others. */
const concerned = (status: number) => [401, status, status, status, status, status, 404, status];
const guest = `/guest/${'x'.repeat(43)}`;
const publicForm = `/public/${'x'.repeat(43)}`;
const nowhere = [404, 404, 404, 404, 404, 404, 404];
const cover = (person: string) => ({ person, by: 'per', from: '2026-04-01', to: '2026-03-01' });
const before = { from: { date: '2010-03-01', half: 'am' }, to: { date: '2010-03-02', half: 'pm' } };
/** A week of its own for each role. */
const weekOf = (role: Role, month = '2026-07') => {
  const day = (n: number) => `${month}-${String(1 + 3 * roles.indexOf(role) + n).padStart(2, '0')}`;
  return { from: { date: day(0), half: 'am' }, to: { date: day(2), half: 'pm' } };
};
const table: Row[] = [
  row('GET', '/session', [200, 200, 200, 200, 200, 200, 200]),
  row('GET', '/desk', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/requests', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/requests/:request', [401, 200, 200, 200, 200, 200, 404, 200]),
  row('GET', '/requests/R-0', [401, 404, 404, 404, 404, 404, 404]),
  row('POST', commands, concerned(409), given({ kind: 'answer', outcome: 'approve' })),
  row('POST', commands, concerned(409), given({ kind: 'ask', question: 'Why?' })),
  row('POST', commands, concerned(409), given({ kind: 'reply', reply: 'So.' })),
  row('POST', commands, concerned(409), given({ kind: 'hand over', to: { person: 'kay' }, note: 'x' })),
  row('POST', commands, concerned(409), given({ kind: 'set aside', until: '2026-02-10' })),
  row('POST', commands, concerned(409), given({ kind: 'bring back' })),
  row('POST', commands, concerned(409), given({ kind: 'withdraw' })),
  row('POST', commands, concerned(409), given({ kind: 'change after approval', answers: {} })),
  row('POST', commands, concerned(409), given({ kind: 'cancel after approval' })),
  row('POST', commands, [401, 400, 400, 400, 400, 400, 400], given({ kind: 'ask', question: ' ' })),
  row('POST', commands, [401, 400, 400, 400, 400, 400, 400], given({ kind: 'comment', text: '' })),
  row('POST', commands, [401, 403, 403, 409, 409, 403, 404, 403], given({ kind: 'try again' })),
  row('POST', commands, concerned(409), given({ kind: 'move date', date: '2026-06-01', reason: 'x' })),
  row('POST', commands, [401, 403, 403, 409, 409, 403, 404, 403], given({ kind: 'appoint', step: 'x', to: 'kay' })),
  row('POST', commands, [401, 403, 403, 409, 403, 403, 404, 403], given({ kind: 'correct', answers: {}, reason: 'x' })),
  row('POST', commands, [401, 403, 403, 409, 409, 403, 404, 409], given({ kind: 'void leave', reason: 'x' })),
  row(
    'POST',
    commands,
    [401, 403, 403, 409, 409, 403, 404, 409],
    given({ kind: 'change leave', span: before, reason: 'x' }),
  ),
  row(
    'POST',
    commands,
    [401, 403, 403, 409, 409, 403, 404, 409],
    given({ kind: 'call back', days: before, reason: 'x' }),
  ),
  row('POST', '/leave', [401, 400, 400, 400, 400, 400, 400], { person: 'ina' }),
  // HR may, though not before the person was there.
  row('POST', '/leave', [401, 403, 403, 400, 400, 403, 403, 400], {
    id: randomUUID(),
    person: 'ina',
    type: 'annual',
    span: before,
    reason: 'Forgotten',
  }),
  row('POST', '/requests/:request/looks', [401, 200, 200, 200, 200, 200, 404, 200], {
    id: randomUUID(),
    field: 'kind',
  }),
  row('POST', '/requests/:request/looks', [401, 404, 404, 404, 404, 404, 404], { id: randomUUID(), field: 'moon' }),
  row('POST', '/requests/:request/looks', [401, 400, 400, 400, 400, 400, 400], { id: 'x', field: '' }),
  row('POST', commands, [401, 400, 400, 400, 400, 400, 400], given({ kind: 'look', field: 'reason' })),
  row('PUT', '/requests/:request/unsent/note', [401, 204, 204, 204, 204, 204, 404, 204], { value: 'So far' }),
  row('PUT', '/requests/:request/unsent/note', [401, 400, 400, 400, 400, 400, 400], {}),
  row('POST', '/files', [401, 400, 400, 400, 400, 400, 400]),
  row('GET', '/files/no-such-file', [401, 404, 404, 404, 404, 404, 404]),
  row('GET', '/requests/find', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/requests/find?whose=team', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/requests/find?whose=care', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/requests/find?whose=all', [401, 403, 403, 200, 200, 200, 403]),
  ...['give back section', 'answer guest', 'renew link', 'end link'].map(kind =>
    row('POST', commands, concerned(409), given({ kind, step: 'x', section: 'x', text: 'x', note: 'x' })),
  ),
  // The asker is who it is for; the manager has the step.
  row('GET', '/requests/:request/holds', [401, 200, 200, 200, 200, 200, 404, 200]),
  row('GET', '/requests/:request/guests', [401, 200, 200, 200, 200, 200, 404, 200]),
  row('GET', '/requests/:request/guests/x', [401, 404, 404, 404, 404, 404, 404]),
  // Nobody gets further by a link that was never made, whoever they are.
  row('GET', guest, nowhere),
  row('PUT', `${guest}/sections/you`, nowhere, { value: {}, base: 0 }),
  row('POST', `${guest}/sections/you`, nowhere, { answers: {} }),
  row('POST', `${guest}/questions`, nowhere, { text: 'x' }),
  row('POST', `${guest}/consents/picture/back`, nowhere),
  row('POST', `${guest}/files?name=x.pdf`, nowhere),
  row('GET', `${guest}/files/${randomUUID()}`, nowhere),
  row('GET', `${guest}/papers/contract`, nowhere),
  row('POST', `${guest}/papers/contract`, nowhere, { digest: 'a'.repeat(64), name: 'Ina', strokes: null }),
  row('POST', `${guest}/link`, nowhere),
  row('POST', `${guest}/code`, nowhere),
  row('POST', `${guest}/device`, nowhere, { code: '123456' }),
  row('POST', `${guest}/replies`, nowhere, { task: 'x', text: 'x' }),
  row('POST', `${guest}/withdrawal`, nowhere),
  row('GET', publicForm, nowhere),
  row('POST', `${publicForm}/asked`, nowhere, { answers: {} }),
  row('POST', publicForm, nowhere, { id: randomUUID(), answers: {}, website: '' }),
  row('GET', '/workflows/annual/public-address', [401, 404, 404, 200, 200, 200, 404]),
  row('PUT', '/workflows/annual/public-address', [401, 404, 404, 403, 404, 403, 404], {
    firstDay: null,
    lastDay: null,
    most: null,
    shut: false,
    renew: false,
  }),
  row('GET', '/requests/volume?workflow=annual', [401, 403, 403, 200, 200, 200, 403]),
  row('GET', '/requests/volume?workflow=annual&by=nothing', [401, 403, 403, 400, 400, 400, 403]),
  row('GET', '/requests/shape/annual', [401, 200, 200, 200, 200, 200, 404]),
  row('GET', '/requests/shape/none', [401, 404, 404, 404, 404, 404, 404]),
  row('GET', '/forgetting', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/demo/guests', [200, 200, 200, 200, 200, 200, 200]),
  row('POST', '/demo/guests', nowhere, { request: 'R-0', step: 'x' }),
  row('GET', '/reviews', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/reviews/1', [401, 403, 403, 404, 404, 404, 403]),
  row('POST', '/reviews', [401, 403, 403, 404, 403, 403, 403], {
    connection: 'Nowhere',
    groups: ['x'],
    by: 'owner',
    due: '2026-06-01',
    unanswered: 'up',
  }),
  row('POST', '/reviews/answers', [401, 404, 404, 404, 404, 404, 404], { items: [1], answer: 'keep' }),
  row('POST', '/first-password', [422, 422, 422, 422, 422, 422, 422], { token: 'x'.repeat(43) }),
  row('GET', '/lines', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/lines?day=2026-13-01', [401, 400, 400, 400, 400, 400, 400]),
  row('GET', '/records', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/records/ina', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', `/records/preview/${randomUUID()}`, [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/records/preview/x', [401, 400, 400, 400, 400, 400, 400]),
  row('DELETE', `/records/preview/${randomUUID()}`, [401, 204, 204, 204, 204, 204, 204]),
  row('POST', '/records/preview', [401, 403, 403, 200, 200, 403, 403], {
    change: { what: 'record', person: 'sub', from: '2026-03-01', set: { fte: 0.5 } },
  }),
  row('POST', '/records/changes', [401, 400, 400, 400, 400, 400, 400], {}),
  row('GET', '/posts', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/roles', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/measures', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/lists', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/records/choices', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/records/changes', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/decides?person=ina&workflow=annual', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/decides?person=ina&workflow=none', [401, 403, 403, 404, 404, 403, 403]),
  row('GET', '/decides/choices', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/ready-holidays?country=PT', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/incoming-directory', [401, 403, 403, 200, 403, 403, 403]),
  row('POST', '/incoming-directory', [401, 403, 403, 200, 403, 403, 403]),
  row('DELETE', '/incoming-directory', [401, 403, 403, 200, 403, 403, 403]),
  row('GET', '/moves', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/records/old/hand-over', [401, 403, 403, 200, 200, 403, 403]),
  row('POST', '/records/old/hand-over', [401, 403, 403, 400, 400, 403, 403], {}),
  row('POST', '/moving/preview', [401, 403, 403, 400, 400, 403, 403], {}),
  row('POST', '/moving', [401, 403, 403, 400, 400, 403, 403], {}),
  row('POST', '/session/as', [401, 403, 403, 400, 403, 403, 403], {}),
  row('DELETE', '/session/as', [401, 204, 204, 204, 204, 204, 204]),
  row('POST', '/records/changes/1/back', [401, 403, 403, 404, 404, 403, 403], { reason: 'No.' }),
  row('GET', '/papers', [401, 200, 200, 200, 200, 200, 200]),
  row('POST', '/papers/1/number', [401, 200, 404, 200, 200, 404, 404, 200]),
  row('GET', '/papers/1/looks', [401, 200, 404, 200, 200, 404, 404, 200]),
  row('GET', '/papers/1/file', [401, 404, 404, 404, 404, 404, 404]),
  row('PUT', '/papers/1/holder', [401, 403, 404, 409, 403, 404, 404, 409], { person: 'kay' }),
  row('PUT', '/papers/rules', [401, 403, 403, 200, 200, 403, 403], {
    kind: 'Pass',
    askBefore: 9,
    workflow: null,
    remindBefore: [3],
    keepAfter: 9,
  }),
  row('GET', '/plans', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/requests/:request/date?to=2026-06-01', [401, 200, 200, 200, 200, 200, 404, 200]),
  row('GET', '/requests/:request/date?to=soon', [401, 400, 400, 400, 400, 400, 400]),
  row('GET', '/requests/coming', [401, 403, 403, 200, 200, 403, 403]),
  row('GET', '/requests/stuck', [401, 403, 403, 200, 200, 403, 403]),
  row('POST', '/effects/1', [401, 403, 403, 204, 204, 403, 403], { how: 'again' }),
  row('POST', '/timers/no-such-timer/again', [401, 403, 403, 204, 204, 403, 403]),
  row('POST', '/requests/R-0/fault/again', [401, 403, 403, 404, 404, 403, 403]),
  row('GET', '/sets', [401, 200, 200, 200, 200, 200, 200]),
  row('POST', '/sets', [401, 400, 400, 400, 400, 400, 400], { name: '' }),
  row('DELETE', '/sets/1', [401, 404, 404, 404, 404, 404, 404]),
  row('PUT', '/askable/none/draft', [401, 404, 404, 404, 404, 404, 404], { answers: {} }),
  row('DELETE', '/askable/none/draft', [401, 204, 204, 204, 204, 204, 204]),
  row('POST', '/requests', [401, 400, 400, 400, 400, 400, 400], { workflow: 'annual' }),
  row('GET', '/people?words=ina', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/mail-choice', [401, 200, 200, 200, 200, 200, 200]),
  row('PUT', '/mail-choice', [401, 400, 400, 400, 400, 400, 400], { own: 'never' }),
  row('GET', '/covers', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/covers?person=ina', [401, 200, 404, 200, 200, 404, 404, 200]),
  row('PUT', '/covers', [401, 400, 400, 400, 400, 400, 400], cover('ina')),
  row('PUT', '/covers', [401, 400, 403, 400, 400, 403, 403, 400], { ...cover('ina'), by: 'ina', to: '2026-04-02' }),
  row('DELETE', '/covers/ina/2026-04-01', [401, 204, 403, 204, 204, 403, 403, 204]),
  row('GET', '/askable', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/askable/annual', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/askable/none', [401, 404, 404, 404, 404, 404, 404]),
  row('GET', '/balances/me', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/balances/ina', [401, 200, 200, 200, 200, 200, 404, 200]),
  row('GET', '/balances/dora', [401, 404, 404, 200, 200, 200, 404, 200]),
  row('GET', '/planner?from=2026-02-02&to=2026-02-15', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/planner/rows?from=2026-02-02&to=2026-02-15', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/planner/rows?from=2026-02-02&to=2026-02-15&house=yes', [401, 404, 404, 200, 200, 200, 200]),
  row('GET', '/planner/away?from=2026-02-02&to=2026-02-15', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/planner/away?from=2026-02-02&to=2026-02-15&line=tom', [401, 404, 200, 200, 200, 200, 200]),
  row('POST', '/balances/ina/try', [401, 200, 200, 200, 200, 200, 404, 200], { type: 'annual', spans: [before] }),
  row('GET', '/leave/leaving/ina?on=2026-06-30', [401, 404, 404, 200, 200, 200, 404, 200]),
  row('GET', '/leave/leaving/dora?on=2026-06-30', [401, 404, 404, 200, 200, 200, 404, 200]),
  row('GET', '/leave/leaving/ina?on=soon', [401, 400, 400, 400, 400, 400, 400, 400]),
  row('GET', '/leave/joining?plan=standard&joined=2026-06-30&share=1', [401, 403, 403, 200, 200, 403, 403, 403]),
  row('POST', '/leave/letters', [401, 403, 403, 400, 400, 403, 403, 403], {}),
  row('GET', '/wishes', [401, 200, 200, 200, 200, 200, 200]),
  row('POST', '/wishes', [401, 403, 403, 400, 400, 403, 403, 403], {}),
  row('GET', '/wishes/9', [401, 403, 403, 404, 404, 403, 403, 403]),
  row('DELETE', '/wishes/9', [401, 403, 403, 404, 404, 403, 403, 403]),
  row('PUT', '/wishes/9/own', [401, 404, 404, 404, 404, 404, 404, 404], { spans: [] }),
  row('GET', '/leave/rules', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/leave/passes/ina', [401, 200, 200, 200, 200, 200, 404, 200]),
  row('POST', '/leave/passes', [401, 403, 403, 400, 400, 403, 403, 400], {
    ...{ person: 'ina', type: 'nothing', from: '2026-03-02', to: '2026-03-03', reason: 'x' },
  }),
  row('DELETE', '/leave/passes/9', [401, 404, 404, 404, 404, 404, 404]),
  // Whoever sees nobody’s but their own has a statement for that.
  row('GET', '/leave/balances', [401, 404, 200, 200, 200, 200, 404, 200]),
  row('GET', '/leave/year-end', [401, 403, 403, 200, 200, 403, 403, 403]),
  row('POST', '/leave/year-end', [401, 403, 403, 400, 400, 403, 403, 403], {
    type: 'annual',
    until: '2026-12-31',
    years: 1,
  }),
  row('GET', '/leave/pay', [401, 403, 403, 200, 200, 403, 403, 403]),
  row('POST', '/leave/pay', [401, 403, 403, 400, 400, 403, 403, 403], { from: '2026-01-01', to: '2028-01-01' }),
  row('GET', '/feeds', [401, 200, 200, 200, 200, 200, 200]),
  // Of a place where one looks after nobody, a calendar shows nobody.
  row('POST', '/feeds', [401, 404, 404, 201, 201, 201, 201, 201], { of: 'place', group: 'ovay' }),
  row('POST', '/feeds/9999/renew', [401, 404, 404, 404, 404, 404, 404]),
  row('DELETE', '/feeds/9999', [401, 404, 404, 404, 404, 404, 404]),
  row('GET', '/workflows', [401, 403, 403, 200, 200, 200, 403]),
  row('GET', '/workflows/annual', [401, 403, 403, 200, 200, 200, 403]),
  row('GET', '/workflows/annual/versions/1', [401, 403, 403, 200, 200, 200, 403]),
  row('GET', '/workflows/annual/took', [401, 403, 403, 200, 200, 200, 403]),
  row('GET', '/workflows/annual/draft/mark', [401, 403, 403, 200, 200, 200, 403]),
  row('GET', '/surroundings', [401, 403, 403, 200, 200, 200, 403]),
  row('GET', '/rehearsal/ina', [401, 403, 403, 403, 200, 403, 403]),
  row('GET', '/workflows/annual/moving', [401, 403, 403, 403, 200, 403, 403]),
  row('POST', '/workflows', [401, 403, 403, 403, 400, 403, 403], { definition: null }),
  row('POST', '/workflows/annual/moving', [401, 403, 403, 403, 200, 403, 403], { requests: ['R-0'], reason: 'x' }),
  row('PUT', '/workflows/annual/archive', [401, 403, 403, 403, 204, 403, 403], { archived: false }),
  row('PUT', '/workflows/annual/permissions', [401, 403, 403, 403, 400, 403, 403], { edit: 1 }),
  row('PUT', '/workflows/annual/draft', [401, 403, 403, 403, 409, 403, 403], { revision: 99, definition: annualLeave }),
  row('DELETE', '/workflows/none/draft', [401, 403, 403, 403, 404, 403, 403]),
  row('POST', '/workflows/annual/publish', [401, 403, 403, 403, 422, 403, 403], { revision: 0, comment: 'x' }),
  row('POST', '/letters/look', [401, 403, 403, 403, 400, 403, 403], { title: 1 }),
  row('GET', '/directory', [401, 403, 403, 403, 200, 403, 403]),
  row('POST', '/setup', [400, 400, 400, 400, 400, 400, 400], {}),
  row('GET', '/links/no-such-link-of-twenty', [404, 404, 404, 404, 404, 404, 404]),
  row('POST', '/password', [400, 400, 400, 400, 400, 400, 400], {}),
  row('POST', '/password/forgotten', [400, 400, 400, 400, 400, 400, 400], {}),
  row('PUT', '/password', [401, 400, 400, 400, 400, 400, 400], {}),
  row('GET', '/sessions', [401, 200, 200, 200, 200, 200, 200]),
  row('GET', '/factor', [401, 200, 200, 200, 200, 200, 200]),
  row('POST', '/factor', [401, 400, 400, 400, 400, 400, 400], { password: 'wrong' }),
  row('PUT', '/factor', [401, 400, 400, 400, 400, 400, 400], { code: '12' }),
  row('POST', '/factor/off', [401, 400, 400, 400, 400, 400, 400], { code: '000000' }),
  row('GET', '/factor/required', [401, 403, 403, 200, 403, 403, 403]),
  row('PUT', '/factor/required', [401, 403, 403, 422, 403, 403, 403], { rights: ['administrator'] }),
  row('GET', '/moving/begins', [401, 403, 403, 200, 200, 403, 403]),
  row('PUT', '/moving/begins', [401, 403, 403, 200, 200, 403, 403], { on: '2026-01-12' }),
  row('GET', '/colleagues', [401, 403, 403, 200, 403, 403, 403]),
  row('PUT', '/colleagues', [401, 403, 403, 200, 403, 403, 403], { fields: [] }),
  row('PUT', '/colleagues', [401, 403, 403, 400, 403, 403, 403], { fields: ['pay'] }),
  row('GET', '/exports', [401, 403, 403, 200, 403, 403, 403]),
  row('GET', '/accounts', [401, 403, 403, 200, 403, 403, 403]),
  row('POST', '/accounts', [401, 403, 403, 400, 403, 403, 403], {}),
  row('GET', '/accounts/missing', [401, 403, 403, 200, 403, 403, 403]),
  row('POST', '/accounts/missing', [401, 403, 403, 200, 403, 403, 403]),
  row('POST', '/accounts/nobody/invitation', [401, 403, 403, 404, 403, 403, 403]),
  row('PUT', '/accounts/nobody', [401, 403, 403, 404, 403, 403, 403], {}),
  row('GET', '/connections', [401, 403, 403, 200, 200, 200, 403]),
  row('PUT', '/connections/Directory', [401, 403, 403, 400, 403, 403, 403], {}),
  row('DELETE', '/connections/none', [401, 403, 403, 200, 403, 403, 403]),
  row('POST', '/connections/none/check', [401, 403, 403, 404, 403, 403, 403]),
  row('POST', '/connections/none/again', [401, 403, 403, 200, 403, 403, 403], {}),
  row('GET', '/connections/none/named?what=groups', [401, 403, 403, 404, 404, 404, 403]),
  row('GET', '/connections/none/named?what=passwords', [401, 403, 403, 400, 400, 400, 403]),
  row('GET', '/connections/none/differences', [401, 403, 403, 404, 404, 404, 403]),
  row('POST', '/connections/none/differences', [401, 403, 403, 404, 403, 403, 403]),
  row('DELETE', '/connections/none/differences', [401, 403, 403, 404, 403, 403, 403]),
  row('POST', '/connections/none/differences/mended', [401, 403, 403, 404, 403, 403, 403], {}),
  row('POST', '/clock', [401, 403, 403, 403, 400, 403, 403], { days: 0, hours: 0 }),
  row('GET', '/open-posts', [200, 200, 200, 200, 200, 200, 200]),
  row('GET', '/mailroom', [401, 403, 403, 200, 200, 200, 403]),
  row('GET', '/mailroom/attached/x', [401, 403, 403, 404, 404, 404, 403]),
  row('GET', '/mailroom/directory', [401, 403, 403, 200, 200, 200, 403]),
  row('PUT', '/mailroom/directory/switches', [401, 403, 403, 403, 400, 403, 403], { slow: -1 }),
  row('PUT', '/mailroom/directory/accounts/x', [401, 403, 403, 403, 400, 403, 403], {}),
  row('POST', '/mailroom/answers', [401, 403, 403, 403, 400, 403, 403], {}),
  row('POST', '/preview', [401, 400, 400, 400, 400, 400, 400], {}),
  // The same with bodies in which nothing is wrong: what is refused is refused to whom, and not for how it is said.
  row('POST', '/preview', [401, 200, 200, 200, 200, 200, 200], { workflow: 'annual', answers: { kind: 'sick' } }),
  row('POST', commands, [401, 200, 200, 200, 200, 200, 404, 200], () =>
    given({ kind: 'comment', text: 'Seen.', mentions: [] }),
  ),
  row('POST', commands, concerned(409), () => given({ kind: 'ask', question: 'Why?' })),
  row('POST', '/leave', [401, 403, 403, 201, 201, 403, 403, 201], (role: Role) => ({
    ...{ id: randomUUID(), person: 'rin', type: 'annual', reason: 'Forgotten' },
    span: weekOf(role),
  })),
  row('POST', '/requests/:request/looks', [401, 200, 200, 200, 200, 200, 404, 200], () => ({
    id: randomUUID(),
    field: 'kind',
  })),
  row('PUT', '/requests/:request/unsent/note', [401, 204, 204, 204, 204, 204, 404, 204], { value: 'More' }),
  row('GET', '/lines?day=2026-03-01', [401, 200, 200, 200, 200, 200, 200]),
  row('POST', '/records/changes', [401, 403, 403, 409, 409, 403, 403], {
    change: { what: 'record', person: 'sub', from: '2026-03-01', set: { fte: 0.5 } },
    reason: 'Less',
    digest: 'x'.repeat(64),
  }),
  row('POST', '/sets', [401, 201, 201, 201, 201, 201, 201], (role: Role) => ({
    ...{ name: `Of ${role}`, query: 'status=open', shared: false },
  })),
  row('POST', '/requests', [401, 201, 201, 201, 201, 201, 201], (role: Role) => ({
    ...{ id: randomUUID(), workflow: 'annual', answers: { kind: 'sick', dates: weekOf(role, '2026-09') } },
  })),
  row('PUT', '/mail-choice', [401, 200, 200, 200, 200, 200, 200], {
    ...{ own: 'each', role: 'daily', dailyAt: '07:30', quiet: null },
  }),
  row('PUT', '/covers', [401, 200, 403, 200, 200, 403, 403, 200], { ...cover('ina'), to: '2026-05-01' }),
  row('POST', '/setup', [422, 422, 422, 422, 422, 422, 422], {
    ...{
      token: 'x'.repeat(43),
      house: 'Mill',
      name: 'Nora',
      mail: 'nora@house.example',
      password: 'a calm sea at low',
    },
    ...{ place: 'Mill', zone: 'Europe/Oslo', pattern: 'office', calendar: 'common', days: 25 },
  }),
  row('POST', '/password', [422, 422, 422, 422, 422, 422, 422], {
    token: 'x'.repeat(43),
    password: 'a calm sea at low',
  }),
  row('POST', '/password/forgotten', [204, 204, 204, 204, 204, 204, 204], { mail: 'nobody@selkie.example' }),
  row('PUT', '/password', [401, 400, 400, 400, 400, 400, 400], { before: 'wrong', password: 'a calm sea at low' }),
  row('PUT', '/factor', [401, 422, 422, 422, 422, 422, 422], { code: '123456' }),
  row('POST', '/factor', [401, 201, 201, 201, 201, 201, 201], { password: 'low-tide' }),
  row('GET', '/nothing', [404, 404, 404, 404, 404, 404, 404]),
];

describe('every route as every role', () => {
  test.each(table.flatMap(one => roles.map(role => [role, one.method, one.path, one.expected[role], one] as const)))(
    '%s: %s %s is %d',
    async (role, method, path, expected, { body }) => {
      const { status, problem } = await browsers[role].call(
        method,
        path.replace(':request', request),
        bodyOf(body, role),
      );
      expect(status).toBe(expected);
      if (status >= 400)
        expect(problem).toMatchObject({ status, type: 'about:blank', detail: expect.stringMatching(/.{8,}/) });
    },
  );

  test('what a stranger may not see is the same as what is not there', async () => {
    const [hidden, none] = await Promise.all([request, 'R-424242'].map(id => browsers.sub.get(`/requests/${id}`)));
    expect(hidden.problem).toEqual(none.problem);
    const [other, nobody] = await Promise.all(['ina', 'no-such-person'].map(id => browsers.sub.get(`/balances/${id}`)));
    expect(other.problem).toEqual(nobody.problem);
  });

  test('a holder of the past goes on seeing what they decided', async () => {
    const seen = (await browsers.tom.get<RequestView>(`/requests/${request}`)).body;
    await browsers.tom.command(request, {
      kind: 'answer',
      seen: seen.version,
      task: seen.tasks[0].id,
      outcome: 'approve',
    });
    expect((await browsers.tom.get<RequestView>(`/requests/${request}`)).body).toMatchObject({
      status: 'closed',
      may: { answer: null },
    });
  });

  test('what may be done is said to each reader, and only to whom it is for', async () => {
    const { body } = await browsers.ina.ask('2026-06-01', '2026-06-05');
    const may = async (role: Role) => (await browsers[role].get<RequestView>(`/requests/${body.request}`)).body.may;
    const nothing = {
      answer: null,
      spent: [],
      work: null,
      handIn: [],
      rework: false,
      withdraw: false,
      changeOwner: false,
      tryAgain: false,
      pass: null,
      reply: null,
      bringBack: null,
      change: false,
      cancel: false,
      moveDate: false,
      correct: false,
      keepLeave: false,
      decidePast: false,
      appoint: null,
      helpOutside: false,
      comment: true,
    };
    const task = expect.stringContaining(body.request);
    expect(await may('ina')).toEqual({ ...nothing, withdraw: true, changeOwner: true });
    expect(await may('tom')).toEqual({ ...nothing, answer: task, pass: task });
    const helps = { withdraw: true, changeOwner: true, helpOutside: true };
    expect(await may('dora')).toEqual({ ...nothing, ...helps, correct: true });
    expect(await may('kay')).toEqual({ ...nothing, ...helps });
    // HR partner of the place: who owns what their people ask for is theirs to say.
    expect(await may('con')).toEqual({ ...nothing, changeOwner: true });
  });
});

test('files and the stream of news are for those who are signed in, everybody’s for those who read everything', async () => {
  const status = async (role: Role, path: string) => {
    const stop = new AbortController();
    const headers: Record<string, string> = browsers[role].cookie ? { Cookie: browsers[role].cookie } : {};
    const { status } = await fetch(`${small.base}/api${path}`, { headers, signal: stop.signal });
    stop.abort();
    return status;
  };
  const all = async (path: string) => Promise.all(roles.map(role => status(role, path)));
  expect(await all('/live')).toEqual([401, 200, 200, 200, 200, 200, 200, 200]);
  const exporting = [401, 403, 403, 200, 200, 200, 403, 403];
  expect(await all('/requests/export.csv')).toEqual(exporting);
  for (const file of ['template', 'file'])
    expect(await all(`/moving/people/${file}.csv`)).toEqual([401, 403, 403, 200, 200, 403, 403, 403]);
  expect(await all('/calendars/ovay/file.ics')).toEqual([401, 403, 403, 200, 200, 403, 403, 403]);
  expect(await all('/records/file.csv')).toEqual(exporting);
  const days = 'from=2026-02-02&to=2026-02-15';
  expect(await all(`/planner/file.csv?${days}`)).toEqual(exporting);
  expect(await all(`/planner/file.csv?${days}&place=ovay`)).toEqual(exporting);
  expect(await all('/requests/export.xlsx?whose=all')).toEqual([401, 403, 403, 200, 200, 200, 403, 403]);
});

type Layer = { route?: { path: string; methods: Record<string, boolean> }; handle: { stack?: Layer[] } };
/** Method and path of every route of a router, those of the routers in it among them. */
const routesOf = (stack: Layer[]): [string, string][] =>
  stack.flatMap(({ route, handle }) =>
    route
      ? Object.keys(route.methods).map((method): [string, string] => [method.toUpperCase(), String(route.path)])
      : routesOf(handle.stack ?? []),
  );

describe('the rules themselves', () => {
  const caller = (id: string, ...rights: Caller['rights']): Caller => ({
    id: directory.people.find(p => p.id === id)!.id,
    rights,
  });
  const day = directory.people[0].joined;
  const asker = caller('ina').id;

  test('the line above sees, the line below does not', () => {
    const sees = (who: Caller, holders: string[] = []) =>
      maySeeRequest(who, { workflow: 'annual', asker, subject: null, holders }, index, day);
    expect(sees(caller('ina'))).toBe(true);
    expect(sees(caller('tom'))).toBe(true);
    expect(sees(caller('dora'))).toBe(true);
    expect(sees(caller('per'))).toBe(false);
    expect(sees(caller('per'), ['per'])).toBe(true);
    expect(sees(caller('sub', 'auditor'))).toBe(true);
    expect(maySeeBalance(caller('ina'), caller('tom').id, index, day)).toBe(false);
  });

  test('what came from outside is seen by whoever keeps it, and by nobody in the line above them', () => {
    const outside = { name: 'Mika', mail: 'mika@post.example' };
    const sees = (who: Caller, more: object) =>
      maySeeRequest(who, { workflow: 'application', asker, subject: null, holders: [], ...more }, index, day);
    expect(sees(caller('tom'), {})).toBe(true);
    expect(sees(caller('tom'), { outside })).toBe(false);
    expect(sees(caller('ina'), { outside })).toBe(true);
    // Nor is it theirs because they keep it.
    expect(
      readerOf(caller('ina'), { workflow: 'application', asker, subject: null, outside, given: [] }, index, day).own,
    ).toBe(false);
  });

  test('HR of a place sees the requests and statements of its people, for whom a request is counts', () => {
    const skarn = { from: day, place: 'skarn', department: 'lights', pattern: 'office', fte: 1, plan: null };
    const house = withDirectory({
      people: directory.people.map(p => (p.id === 'kay' ? { ...p, records: [skarn] } : p)),
      roles: [{ role: 'HR partner', person: caller('con').id, place: 'skarn' }],
    });
    const about = (subject: string) =>
      maySeeRequest(caller('con'), { workflow: 'annual', asker, subject: caller(subject).id, holders: [] }, house, day);
    expect(about('kay')).toBe(true);
    expect(about('ina')).toBe(false);
    expect(maySeeBalance(caller('con'), caller('kay').id, house, day)).toBe(true);
    expect(maySeeBalance(caller('con'), caller('ina').id, house, day)).toBe(false);
    // A role that is held for one place opens nothing of another.
    const readerIs = (subject: string) =>
      readerOf(caller('con'), { workflow: 'annual', asker, subject, given: [] }, house, day);
    expect(readerIs('kay')).toMatchObject({ roles: ['HR partner'], all: true });
    expect(readerIs('ina')).toMatchObject({ roles: [], all: false });
  });

  test('what is answered is as it is described, in more than half of the routes that answer anything', () => {
    const answering = (Object.keys(declared) as Name[]).filter(name => {
      const { answer } = routeOf(name);
      return answer !== undefined && !isMedia(answer);
    });
    // The others are refused to all of these, or need more than a row to answer; their schemas are made the same way.
    expect(described.size).toBeGreaterThan(answering.length / 2);
  });

  test('every route that the server has stands in the table or beside it', () => {
    const { house } = small.serving;
    const live = new Live(house);
    const app = createApp(house, live, {
      pages: null,
      mailReceived: 'http://127.0.0.1:1',
      proxies: 0,
      signInTriesPerMinute: 9,
    });
    live.stop();
    const asked = table.map(one => `${one.method} ${one.path.split('?')[0]}`);
    // Ends other sessions of one's own, which this test needs.
    const beside = [
      'POST /session',
      'DELETE /session',
      'DELETE /sessions/others',
      'GET /live',
      'GET /api/health',
      'GET /api/ready',
      'GET /openapi.json',
      'GET /requests/export.csv',
      // Files, beneath.
      'GET /moving/people/template.csv',
      'GET /moving/people/file.csv',
      'GET /records/file.csv',
      'GET /leave/balances/file.csv',
      'GET /planner/file.csv',
      'GET /leave/pay/1/file.csv',
      'GET /balances/me/statement.pdf',
      'GET /calendars/ovay/file.ics',
    ];
    const fits = (method: string, pattern: string) => {
      const path = pattern.replaceAll('.', '\\.').replace(/:[a-zA-Z]+/g, '[^/]+');
      return [...asked, ...beside].some(one => new RegExp(`^${method} ${path}$`).test(one));
    };
    const routes = routesOf(app.router.stack as never);
    expect(routes.length).toBeGreaterThan(50);
    expect(routes.filter(([method, path]) => !fits(method, path))).toEqual([]);
    const served = routes.map(([method, path]) => `${method} ${path.replace(/^\/api/, '')}`);
    expect(served.sort()).toEqual(Object.keys(declared).sort());
  });

  test.each([
    ['designer', 'design workflows', true],
    ['designer', 'read workflows', true],
    ['designer', 'move the clock', true],
    ['designer', 'help requests on', true],
    ['designer', 'keep accounts', false],
    ['administrator', 'design workflows', false],
    ['administrator', 'read workflows', true],
    ['administrator', 'help requests on', true],
    ['administrator', 'keep connections', true],
    ['auditor', 'read every record', true],
    ['auditor', 'design workflows', false],
    ['auditor', 'help requests on', false],
    ['auditor', 'correct answers', false],
  ] as const)('%s: may %s, %p', (right, capability, allowed) => {
    const who = caller('kay', right);
    expect(may(who, capability)).toBe(allowed);
    if (allowed) mustHave(who, capability);
    else expect(() => mustHave(who, capability)).toThrow(ProblemError);
  });

  test('a right that no capability names opens nothing', () => {
    const fresh = { rights: ['archivist'] } as unknown as Caller;
    for (const capability of Object.keys(capabilities) as Capability[]) expect(may(fresh, capability)).toBe(false);
  });
});
