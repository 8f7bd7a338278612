/**
 * The benchmarks, all of them or those that are named: prints a table and the same as JSON.
 * NP_DATABASE is the address of a database server.
 */

import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { formulaRow } from './core/formula.ts';
import { handleRow, statementsRow } from './core/handle.ts';
import { leaveDaysRow } from './core/leaveDays.ts';
import { planRows } from './core/plans.ts';
import { sheetRows } from './core/sheet.ts';
import { wireRows } from './core/wire.ts';
import { type Last, lastOf, type Row, table } from './measure.ts';
import { decisionRows } from './running/decision.ts';
import { directoryRows } from './running/directory.ts';
import { leaveRows } from './running/leave.ts';
import { liveRow } from './running/live.ts';
import { deskRows } from './running/load.ts';
import { neighbourRows } from './running/neighbours.ts';
import { outsideRows } from './running/outside.ts';
import { pageRows } from './running/page.ts';
import { plannerRows } from './running/planner.ts';
import { recordRows } from './running/records.ts';
import { travelRows } from './running/travel.ts';
import { type Served, served } from './served.ts';

const pure: Record<string, () => Row[]> = {
  core: () => [leaveDaysRow(), formulaRow(), handleRow(), statementsRow()],
  sheet: sheetRows,
  plans: planRows,
  wire: () => wireRows(),
};
/** Over a demo that is running; the desk comes last, since it makes the house large. */
const running: Record<string, (house: Served) => Promise<Row[]>> = {
  live: async house => [await liveRow(house)],
  decision: decisionRows,
  page: pageRows,
  records: recordRows,
  leave: leaveRows,
  planner: plannerRows,
  outside: outsideRows,
  neighbours: neighbourRows,
  desk: deskRows,
};

/** Over what they start themselves. */
const alone: Record<string, () => Promise<Row[]>> = { directory: directoryRows, travel: travelRows };

const known = [...Object.keys(pure), ...Object.keys(alone), ...Object.keys(running)];
const wanted = process.argv.slice(2);
const strange = wanted.filter(name => !known.includes(name));
if (strange.length > 0) {
  process.stderr.write(`There is no benchmark ${strange.join(', ')}. There are: ${known.join(', ')}.\n`);
  process.exit(2);
}
const chosen = <T>(all: Record<string, T>): [name: string, work: T][] =>
  Object.entries(all).filter(([name]) => wanted.length === 0 || wanted.includes(name));

const rows: Row[] = [];
for (const [name, work] of chosen(pure)) {
  process.stderr.write(`${name} …\n`);
  rows.push(...work());
}
for (const [name, work] of chosen(alone)) {
  process.stderr.write(`${name} …\n`);
  rows.push(...(await work()));
}
const overHouse = chosen(running);
if (overHouse.length > 0) {
  await served(process.env.NP_DATABASE ?? '', async house => {
    for (const [name, work] of overHouse) {
      process.stderr.write(`${name} …\n`);
      rows.push(...(await work(house)));
    }
  });
}
// The figures of before stand with the project, so that what became slower is seen by whoever runs it next.
const file = process.env.NP_BENCH_LAST ?? '';
const last: Last = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : {};
process.stdout.write(`${table(rows, last)}\n\n${JSON.stringify(rows)}\n`);
if (file !== '') writeFileSync(file, `${JSON.stringify(lastOf(last, rows), null, 2)}\n`);
process.exit(0);
