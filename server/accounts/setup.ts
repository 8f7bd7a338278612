/** How a house begins: a one-time address, on which the first administrator says who they are and how the house works. */
import { hash } from '@node-rs/argon2';
import { may, type SetUp } from '@north-pebble/contract';
import { idFrom } from '@north-pebble/core/form';
import { hrPartner } from '@north-pebble/core/people';
import { readyCalendars, readyLeaveTypes, readyPatterns, readyPlan } from '@north-pebble/core/starters';
import { civilDateAt } from '@north-pebble/core/time';
import { eq } from 'drizzle-orm';
import { beginLedger, type Database, type Executor, inLedger, inTransaction, tables as t } from '../database/index.ts';
import { type House, insertMany, machineNow } from '../house/index.ts';
import { ProblemError, refusedField } from '../http/index.ts';
import { makeLink, useLink } from './links.ts';

/** Whether nobody looks after the house yet. */
export async function isNewHouse(db: Executor): Promise<boolean> {
  const accounts = await db.select({ rights: t.accounts.rights, closed: t.accounts.closed }).from(t.accounts);
  return !accounts.some(account => !account.closed && may(account, 'keep accounts'));
}

/** The address on which a new house is set up, an hour long; nothing when somebody looks after it already. */
export async function setupAddress(db: Database, address: string): Promise<string | null> {
  if (!(await isNewHouse(db))) return null;
  return `${address}/setup#${await makeLink(db, 'setup', null)}`;
}

/** From when on rules hold that were there from the beginning. */
const beginning = '1900-01-01';

const overWords = 'This address was used already, or its hour is over. Ask for a new one on the machine of the server.';

/** Sets the house up; the person becomes its first administrator. */
export async function setUp(house: House, input: SetUp): Promise<string> {
  const pattern = readyPatterns.find(one => one.id === input.pattern);
  const calendar = readyCalendars.find(one => one.id === input.calendar);
  if (!pattern) throw refusedField('pattern', 'Choose one of the patterns.');
  if (!calendar) throw refusedField('calendar', 'Choose one of the calendars.');
  const passwordHash = await hash(input.password);
  return inTransaction(house.db, async tx => {
    const link = await useLink(tx, input.token);
    if (link?.purpose !== 'setup' || !(await isNewHouse(tx))) throw new ProblemError('refused', overWords);
    const today = civilDateAt(machineNow(), input.zone);
    const person = idFrom(input.name, []);
    const place = idFrom(input.place, []);
    const department = 'people';
    const post = 'hr-operations';
    const [known] = await tx.select({ id: t.house.id }).from(t.house).where(eq(t.house.id, 1));
    if (known) await tx.update(t.house).set({ name: input.house, beginsOn: today }).where(eq(t.house.id, 1));
    else await tx.insert(t.house).values({ id: 1, now: null, directoryVersion: 1, name: input.house, beginsOn: today });
    await tx
      .insert(t.calendars)
      .values({ id: calendar.id, name: calendar.name, buildsOn: null, rules: [...(calendar.rules ?? [])] });
    await tx.insert(t.patterns).values(pattern);
    await tx
      .insert(t.places)
      .values({ id: place, name: input.place, zone: input.zone, calendar: calendar.id, head: post });
    await tx.insert(t.departments).values({ id: department, name: 'People', head: post });
    await tx
      .insert(t.posts)
      .values({ id: post, title: 'HR operations', department, place, grade: null, spending: null });
    await tx.insert(t.postLines).values({ post, from: today, reportsTo: null });
    await tx.insert(t.people).values({
      id: person,
      name: input.name,
      mail: input.mail.toLowerCase(),
      joined: today,
      leftOn: null,
      dottedTo: null,
    });
    await tx
      .insert(t.personRecords)
      .values({ person, from: today, place, department, pattern: pattern.id, fte: 1, plan: 'standard' });
    await tx.insert(t.holdings).values({ post, person, from: today, to: null, main: true });
    await tx.insert(t.roles).values({ role: hrPartner, person, place: '', department: '' });
    await insertMany(
      tx,
      t.leaveTypes,
      readyLeaveTypes.map((rules, position) => ({ id: rules.id, position, rules })),
    );
    await tx.insert(t.leavePlans).values(readyPlan(input.days));
    await tx.insert(t.accounts).values({ person, passwordHash, rights: ['administrator', 'designer'] });
    // A new house begins its ledger with these; one that lost its last administrator has one.
    await inLedger(
      tx,
      { what: 'house', keys: [{ id: 1 }] },
      { what: 'calendar', keys: [{ id: calendar.id }] },
      { what: 'pattern', keys: [{ id: pattern.id }] },
      { what: 'place', keys: [{ id: place }] },
      { what: 'department', keys: [{ id: department }] },
      { what: 'post', keys: [{ id: post }] },
      { what: 'line', keys: [{ post, from: today }] },
      { what: 'person', keys: [{ id: person }] },
      { what: 'record', keys: [{ person, from: today }] },
      { what: 'holding', keys: [{ post, person, from: today }] },
      { what: 'role', keys: [{ role: hrPartner, person, place: '', department: '' }] },
      { what: 'leave type', keys: readyLeaveTypes.map(({ id }) => ({ id, from: beginning })) },
      { what: 'leave plan', keys: [{ id: readyPlan(input.days).id, from: beginning }] },
      { what: 'account', keys: [{ person }] },
    );
    await beginLedger(tx);
    return person;
  });
}
