/** What a definition names of systems outside, asked for there: a group that nobody has heard of is found before it is published. */
import { nearest } from '@north-pebble/core/formula';
import { type Absent, allSteps, type Definition, nameInQuotes } from '@north-pebble/core/workflow';
import type { Executor } from '../database/index.ts';
import { loadConnections, opened } from './store.ts';

const mostAsked = 40;

/** @returns what the systems say is not there; of one that does not answer nothing is said */
export async function absentFrom(db: Executor, definition: Definition): Promise<Absent[]> {
  const steps = allSteps(definition).flatMap(step => (step.verb === 'Provision' ? [step] : []));
  if (steps.length === 0) return [];
  const connections = new Map((await loadConnections(db)).map(row => [row.name, row.paused ? null : opened(row)]));
  const wanted = new Map<string, Omit<Absent, 'near'>>();
  for (const { connection, action, values } of steps) {
    const offered = connections.get(connection)?.offers[action] ?? [];
    for (const { name: value, formula } of values) {
      const from = offered.find(one => one.name === value)?.from;
      const name = nameInQuotes(formula);
      if (from && name) wanted.set(JSON.stringify([connection, from, name]), { connection, from, name });
    }
  }
  const asked = [...wanted.values()].slice(0, mostAsked).map(async (one): Promise<Absent[]> => {
    const named = connections.get(one.connection)?.named;
    const found = await named?.(one.from, one.name);
    if (!named || !found?.ok) return [];
    if (found.names.some(name => name.toLowerCase() === one.name.toLowerCase()) || found.more > 0) return [];
    const all = await named(one.from, '');
    return [{ ...one, near: (all.ok && nearest(one.name, all.names)) || null }];
  });
  return (await Promise.all(asked)).flat();
}
