/** Published versions of workflows, read in today’s format and kept. */
import { type Definition, readDefinition } from '@north-pebble/core/workflow';
import { and, eq } from 'drizzle-orm';
import { type Executor, tables as t } from '../database/index.ts';

// A published version never changes, so what was read once may be kept.
const definitions = new Map<string, Definition>();

export async function loadDefinition(db: Executor, workflow: string, version: number): Promise<Definition> {
  const known = definitions.get(`${workflow}/${version}`);
  if (known) return known;
  const [row] = await db
    .select({ definition: t.workflowVersions.definition })
    .from(t.workflowVersions)
    .where(and(eq(t.workflowVersions.workflow, workflow), eq(t.workflowVersions.version, version)));
  if (!row) throw new Error(`workflow ${workflow} has no version ${version}`);
  // A version of an older format is read in today's.
  const read = readDefinition(row.definition);
  const definition = read.ok ? read.definition : row.definition;
  definitions.set(`${workflow}/${version}`, definition);
  return definition;
}

/** Versions belong to one database; a process that opens another one begins anew. */
export const forgetDefinitions = (): void => definitions.clear();
