/** The tables by which a house moves in, in an order in which each stands after what it names. */
import type { TableId, TableKind } from '../table.ts';
import { balances, bookings, children, openings, papers } from './leave.ts';
import { lists, rows } from './lists.ts';
import { patterns } from './patterns.ts';
import { holdings, lines, people, posts, records, roles } from './people.ts';
import { calendars, departments, holidays, places } from './places.ts';
import { presence } from './presence.ts';

export const tables: { readonly [Id in TableId]: TableKind } = {
  calendars,
  holidays,
  places,
  departments,
  patterns,
  posts,
  lines,
  people,
  records,
  holdings,
  roles,
  lists,
  rows,
  children,
  papers,
  presence,
  openings,
  balances,
  bookings,
};
