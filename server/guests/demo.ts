/** Guests of the demo, whose page anybody may try: there their mailbox stands open too. */
import { fullDate } from '@north-pebble/core/time';
import { countedFrom, dateIn, guestHere } from '@north-pebble/core/workflow';
import { and, desc, eq, isNotNull } from 'drizzle-orm';
import { mustBeDemo } from '../access/index.ts';
import { tables as t } from '../database/index.ts';
import { type House, loadDefinition } from '../house/index.ts';
import { notFound } from '../http/index.ts';
import { loadRequest } from '../requests/index.ts';
import { devicesAt, letKnow, linkAddress } from './links.ts';

const mostLooked = 40;
const mostShown = 3;

/** Those who are on file already and come soon stand first. */
export async function demoGuests(house: House) {
  mustBeDemo(house.demo);
  const { db } = house;
  const rows = await db
    .select()
    .from(t.requests)
    .where(and(eq(t.requests.status, 'open'), isNotNull(t.requests.plannedFor)))
    .orderBy(desc(t.requests.number))
    .limit(mostLooked);
  const found: { request: string; step: string; name: string; words: string; isOnFile: boolean }[] = [];
  for (const { id, workflow, workflowVersion, state, subject, asker } of rows) {
    if (!id || !state) continue;
    const definition = await loadDefinition(db, workflow, workflowVersion);
    for (const step of Object.keys(state.guests ?? {})) {
      const here = guestHere(definition, state, step);
      if (!here || here.standing.link.ended) continue;
      const from = countedFrom(definition);
      const date = from && dateIn(state.answers, from.field.id);
      found.push({
        request: id,
        step,
        name: String(state.answers[here.step.guest.name] ?? ''),
        words: date ? `begins on ${fullDate(date)}; no account, a personal link` : 'no account, a personal link',
        isOnFile: subject !== null && subject !== asker,
      });
    }
  }
  found.sort((a, b) => Number(b.isOnFile) - Number(a.isOnFile));
  return found.slice(0, mostShown).map(({ isOnFile: _, ...guest }) => guest);
}

/** Opened from there, it opens on any device. */
export async function demoAddress(
  house: House,
  request: string,
  step: string,
  device: string,
): Promise<{ address: string }> {
  mustBeDemo(house.demo);
  const stored = await loadRequest(house.db, request);
  const standing = stored?.state.guests?.[step];
  if (!stored || !standing || standing.link.ended) throw notFound();
  const definition = await loadDefinition(house.db, stored.workflow, stored.workflowVersion);
  await letKnow(house.db, { request, devices: devicesAt(definition, stored.state, step) }, device);
  return { address: await linkAddress(house, house.db, request, { step, ...standing.link }) };
}
