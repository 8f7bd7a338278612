/** All benchmarks: prints a table and the same as JSON. NP_DATABASE is the address of a database server. */
import { decisionRows } from './decision.ts';
import { formulaRow } from './formula.ts';
import { handleRow, statementsRow } from './handle.ts';
import { leaveDaysRow } from './leaveDays.ts';
import { liveRow } from './live.ts';
import { deskRows } from './load.ts';
import { type Row, table } from './measure.ts';
import { pageRows } from './page.ts';
import { served } from './served.ts';
import { sheetRows } from './sheet.ts';

const rows: Row[] = [leaveDaysRow(), formulaRow(), handleRow(), statementsRow(), ...sheetRows()];
rows.push(
  ...(await served(process.env.NP_DATABASE ?? '', async house => [
    await liveRow(house),
    ...(await decisionRows(house)),
    ...(await pageRows(house)),
    ...(await deskRows(house)),
  ])),
);
process.stdout.write(`${table(rows)}\n\n${JSON.stringify(rows)}\n`);
process.exit(0);
